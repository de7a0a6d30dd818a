<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;

/** Own fields that are calculated. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->alter('own_fields', static function (Blueprint $t): void {
            $t->string('formula', 1000)->default('');
        });
    }

    public function down(): void
    {
        $this->alter('own_fields', static function (Blueprint $t): void {
            $t->dropColumn('formula');
        });
    }
};
