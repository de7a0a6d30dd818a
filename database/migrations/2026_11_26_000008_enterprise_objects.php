<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use App\Planning\EarlierOperations;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/**
 * Branches, code sets, entries and what is coded with them are objects like any other: with uids, in change sets, with
 * history and undo.
 */
return new class extends RepeatableMigration
{
    /** table => columns of the natural key, unique index so far */
    private const KEYS = [
        'branches' => [['parent_id', 'name'], 'branches_parent_id_name_unique'],
        'code_sets' => [['scope', 'key'], 'code_sets_scope_key_unique'],
        'code_entries' => [['code_set_id', 'key'], 'code_values_code_set_id_key_unique'],
    ];

    /** table => uid of a row from before, in SQL */
    private const UIDS = ['branches' => "CONCAT('branch-', id)", 'code_sets' => "CONCAT('codeset-', id)",
        'code_entries' => "CONCAT('entry-', id)"];

    public function up(): void
    {
        foreach (self::KEYS as $table => [$columns, $index]) {
            $this->alter($table, static function (Blueprint $t): void {
                $t->string('uid', 64)->charset('ascii')->collation('ascii_bin')->nullable();
            });
            DB::statement("UPDATE {$table} SET uid = ".self::UIDS[$table].' WHERE uid IS NULL');
            $this->statement("ALTER TABLE {$table} MODIFY uid VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL");
            $this->alter($table, static function (Blueprint $t): void {
                $t->unique('uid');
            });
            $this->alter($table, static function (Blueprint $t): void {
                $t->unsignedBigInteger('parked')->default(0);
            });
            $this->alter($table, static function (Blueprint $t) use ($columns, $table): void {
                $t->unique([...$columns, 'parked'], "{$table}_natural_key");
            });
            $this->statement("ALTER TABLE {$table} DROP INDEX {$index}");
            $this->statement("ALTER TABLE {$table} MODIFY position DOUBLE NOT NULL DEFAULT 0");
        }
        // roles on a branch keep it
        $this->statement('ALTER TABLE grants DROP FOREIGN KEY grants_branch_id_foreign');
        $this->statement('ALTER TABLE grants ADD CONSTRAINT grants_branch_kept FOREIGN KEY (branch_id) REFERENCES branches (id) ON '
            .'DELETE RESTRICT');
        $this->alter('enterprise', static function (Blueprint $t): void {
            $t->unsignedInteger('input_revision')->default(0);
        });
        $this->create('codings', static function (Blueprint $table): void {
            $table->id();
            $table->string('uid', 64)->charset('ascii')->collation('ascii_bin')->unique();
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->foreignId('activity_id')->nullable()->constrained()->cascadeOnDelete();
            $table->foreignId('entry_id')->constrained('code_entries')->restrictOnDelete();
        });
        if (Schema::hasTable('project_codes')) {
            foreach (DB::table('project_codes')->join('projects', 'projects.id', '=', 'project_codes.project_id')
                ->join('code_sets', 'code_sets.id', '=', 'project_codes.code_set_id')
                ->orderBy('project_id')->get(['projects.uid', 'code_sets.key', 'project_id', 'code_entry_id']) as $row) {
                /** @var object{uid: string, key: string, project_id: int, code_entry_id: int} $row */
                DB::table('codings')->insertOrIgnore(['uid' => EarlierOperations::codingUid($row->uid, $row->key),
                    'project_id' => $row->project_id, 'entry_id' => $row->code_entry_id]);
            }
            Schema::drop('project_codes');
        }
    }

    public function down(): void
    {
        $this->create('project_codes', static function (Blueprint $table): void {
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->foreignId('code_set_id')->constrained()->cascadeOnDelete();
            $table->foreignId('code_entry_id')->constrained()->restrictOnDelete();
            $table->primary(['project_id', 'code_set_id']);
        });
        DB::statement('INSERT IGNORE INTO project_codes SELECT c.project_id, e.code_set_id, c.entry_id FROM codings c
            JOIN code_entries e ON e.id = c.entry_id WHERE c.activity_id IS NULL');
        Schema::dropIfExists('codings');
        $this->statement('ALTER TABLE enterprise DROP COLUMN input_revision');
        $this->statement('ALTER TABLE grants DROP FOREIGN KEY grants_branch_kept');
        $this->statement('ALTER TABLE grants ADD CONSTRAINT grants_branch_id_foreign FOREIGN KEY (branch_id) REFERENCES branches (id) '
            .'ON DELETE CASCADE');
        foreach (self::KEYS as $table => [$columns, $index]) {
            $this->alter($table, static function (Blueprint $t) use ($columns, $index): void {
                $t->unique($columns, $index);
            });
            $this->statement("ALTER TABLE {$table} DROP INDEX {$table}_natural_key");
            foreach (['parked', 'uid'] as $column) {
                $this->statement("ALTER TABLE {$table} DROP COLUMN {$column}");
            }
            $this->statement("ALTER TABLE {$table} MODIFY position INT UNSIGNED NOT NULL DEFAULT 0");
        }
    }
};
