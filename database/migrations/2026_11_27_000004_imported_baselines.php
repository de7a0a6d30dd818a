<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;

/** Baselines that came with a file wait with its proposal. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->alter('change_sets', static function (Blueprint $t): void {
            $t->longText('baselines')->nullable();
        });
    }

    public function down(): void
    {
        $this->alter('change_sets', static function (Blueprint $t): void {
            $t->dropColumn('baselines');
        });
    }
};
