<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Items of a proposal are decided one by one: a letter for each (o, a, r); what was accepted is a change set of its own. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->statement('ALTER TABLE change_sets ADD COLUMN items LONGTEXT CHARACTER SET ascii NULL');
        $this->alter('change_sets', static function (Blueprint $table): void {
            $table->foreignId('part_of_id')->nullable()->constrained('change_sets')->nullOnDelete();
        });
    }

    public function down(): void
    {
        Schema::table('change_sets', static function (Blueprint $table): void {
            $table->dropForeign(['part_of_id']);
            $table->dropColumn(['items', 'part_of_id']);
        });
    }
};
