<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;

/** What was said of a file waits with its proposal, to be looked at again. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->alter('change_sets', static function (Blueprint $t): void {
            $t->longText('preview')->nullable();
        });
    }

    public function down(): void
    {
        $this->alter('change_sets', static function (Blueprint $t): void {
            $t->dropColumn('preview');
        });
    }
};
