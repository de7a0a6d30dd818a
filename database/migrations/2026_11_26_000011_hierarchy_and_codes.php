<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;

/** What branches, code sets and entries have besides their names. */
return new class extends RepeatableMigration
{
    /** table => columns */
    private const COLUMNS = [
        'branches' => ['lead', 'archived'],
        'projects' => ['archived'],
        'code_sets' => ['description', 'key_length', 'multiple', 'weight', 'steward', 'assigned_by', 'added_by', 'edited_by',
            'demanded_on_id'],
        'code_entries' => ['description', 'colour', 'steward', 'weight', 'retired'],
    ];

    public function up(): void
    {
        foreach (self::COLUMNS as $table => $columns) {
            foreach ($columns as $column) {
                $this->alter($table, static function (Blueprint $t) use ($column): void {
                    match ($column) {
                        'archived', 'multiple', 'retired' => $t->boolean($column)->default(false),
                        'lead', 'steward' => $t->string($column)->nullable(),
                        'description' => $t->string($column, 500)->default(''),
                        'key_length', 'colour' => $t->unsignedSmallInteger($column)->nullable(),
                        'weight' => $t->double($column)->default(0),
                        'demanded_on_id' => $t->unsignedBigInteger($column)->nullable(),
                        default => $t->string($column, 20)->default($column === 'edited_by' ? 'administrator' : 'planner'),
                    };
                });
            }
        }
        $this->statement('ALTER TABLE code_sets ADD CONSTRAINT code_sets_demanded_on FOREIGN KEY (demanded_on_id) REFERENCES branches (id) '
            .'ON DELETE RESTRICT');
    }

    public function down(): void
    {
        $this->statement('ALTER TABLE code_sets DROP FOREIGN KEY code_sets_demanded_on');
        foreach (self::COLUMNS as $table => $columns) {
            foreach ($columns as $column) {
                $this->statement("ALTER TABLE {$table} DROP COLUMN {$column}");
            }
        }
    }
};
