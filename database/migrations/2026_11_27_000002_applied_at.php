<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;

/** When a change set was carried out, which for a proposal is later than when it was made; never changed again, also not by undo. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->alter('change_sets', static function (Blueprint $t): void {
            $t->dateTime('applied_at', 6)->nullable()->index();
        });
        $this->statement("UPDATE change_sets SET applied_at = COALESCE(IF(state = 'applied', decided_at, NULL), created_at)
            WHERE applied_at IS NULL AND state IN ('applied', 'undone')");
    }

    public function down(): void
    {
        $this->alter('change_sets', static function (Blueprint $t): void {
            $t->dropColumn('applied_at');
        });
    }
};
