<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use App\Planning\ProjectColours;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use Reihe\Core\Plan\Uid;

/**
 * Keys are compared exactly, as the core does, and may change hands (`parked`); the enterprise has a row of its own to
 * lock and a revision; what changed is recorded object by object, results carry the revision at which they changed.
 */
return new class extends RepeatableMigration
{
    /** table => column => length; no blanks are added for the comparison either */
    private const EXACT = [
        'branches' => ['name' => 120], 'calendars' => ['key' => 40], 'projects' => ['key' => 20], 'activities' => ['code' => 60],
        'wbs_elements' => ['code' => 60],
        'code_sets' => ['key' => 40], 'code_values' => ['key' => 60],
    ];

    /** table => columns of the natural key, name of the unique index so far */
    private const KEYS = [
        'calendars' => [['key'], 'calendars_key_unique'],
        'projects' => [['key'], 'projects_key_unique'],
        'activities' => [['project_id', 'code'], 'activities_project_id_code_unique'],
        'links' => [['from_id', 'to_id', 'type'], 'links_from_id_to_id_type_unique'],
    ];

    private const RESULTS = ['activity_dates', 'link_dates', 'handover_dates', 'wbs_dates', 'project_dates'];

    public function up(): void
    {
        foreach (self::EXACT as $table => $columns) {
            foreach ($columns as $column => $length) {
                $this->statement("ALTER TABLE `{$table}` MODIFY `{$column}` VARCHAR({$length})
                    CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL");
            }
        }
        foreach (self::KEYS as $table => [$columns, $index]) {
            $this->alter($table, static function (Blueprint $t): void {
                $t->unsignedBigInteger('parked')->default(0);
            });
            $this->alter($table, static function (Blueprint $t) use ($columns, $table): void {
                $t->unique([...$columns, 'parked'], "{$table}_natural_key");
            });
            $this->statement("ALTER TABLE `{$table}` DROP INDEX `{$index}`");
        }
        $this->create('enterprise', static function (Blueprint $table): void {
            $table->unsignedTinyInteger('id')->primary();
            $table->unsignedInteger('revision')->default(0);
        });
        DB::statement('INSERT IGNORE INTO enterprise (id) VALUES (1)');
        $this->alter('projects', static function (Blueprint $t): void {
            $t->unsignedInteger('input_revision')->default(0);
        });
        $this->alter('projects', static function (Blueprint $t): void {
            $t->unsignedTinyInteger('colour')->nullable();
        });
        foreach (self::RESULTS as $table) {
            $this->alter($table, static function (Blueprint $t): void {
                $t->unsignedInteger('revision')->default(0);
            });
        }
        $this->alter('link_dates', static function (Blueprint $t): void {
            $t->unsignedInteger('giver_revision')->default(0);
        });
        $this->alter('change_sets', static function (Blueprint $t): void {
            $t->unsignedInteger('operation_count')->default(0);
        });
        $this->alter('change_sets', static function (Blueprint $t): void {
            $t->foreignId('decided_by')->nullable()->constrained('users')->nullOnDelete();
        });
        $this->create('plan_changes', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('change_set_id')->constrained()->cascadeOnDelete();
            // empty for the enterprise
            $table->string('project_uid', 64)->charset('ascii')->collation('ascii_bin');
            $table->unsignedInteger('revision');
            $table->string('kind', 20);
            $table->string('uid', 64)->charset('ascii')->collation('ascii_bin');
            $table->string('verb', 10);
            $table->string('field', 80);
            $table->index(['project_uid', 'revision']);
        });
        $this->countOperations();
        $this->colours();
        $this->soundUids();
    }

    public function down(): void
    {
        Schema::dropIfExists('plan_changes');
        Schema::dropIfExists('enterprise');
        foreach (self::KEYS as $table => [$columns, $index]) {
            $this->alter($table, static function (Blueprint $t) use ($columns, $index): void {
                $t->unique($columns, $index);
            });
            $this->statement("ALTER TABLE `{$table}` DROP INDEX `{$table}_natural_key`");
            $this->alter($table, static function (Blueprint $t): void {
                $t->dropColumn('parked');
            });
        }
    }

    private function countOperations(): void
    {
        foreach (DB::table('change_sets')->where('operation_count', 0)->pluck('id') as $id) {
            $operations = json_decode((string) DB::table('change_sets')->where('id', $id)->value('operations'), true);
            DB::table('change_sets')->where('id', $id)->update(['operation_count' => is_array($operations) ? count($operations) : 0]);
        }
    }

    private function colours(): void
    {
        $used = DB::table('projects')->whereNotNull('colour')->get(['branch_id', 'colour'])
            ->map(static fn (object $p): array => [(string) $p->branch_id, (int) $p->colour])->all();
        foreach (DB::table('projects')->whereNull('colour')->orderBy('key')->get(['id', 'branch_id']) as $project) {
            $colour = ProjectColours::rarest($used, (string) $project->branch_id);
            $used[] = [(string) $project->branch_id, $colour];
            DB::table('projects')->where('id', $project->id)->update(['colour' => $colour]);
        }
    }

    /** Uids that are whole numbers could be stored but not worked with; they get others, also where change sets name them. */
    private function soundUids(): void
    {
        $renamed = [];
        foreach (['calendars', 'projects', 'wbs_elements', 'activities', 'links'] as $table) {
            foreach (DB::table($table)->whereRaw("uid REGEXP '^-?[0-9]+$'")->pluck('uid') as $uid) {
                $renamed[(string) $uid] = Uid::of((string) $uid);
            }
        }
        if ($renamed === []) {
            return;
        }
        // change sets and what outlives objects first, so that a run that was cut off finds the rest again
        foreach (DB::table('change_sets')->pluck('id') as $id) {
            $operations = json_decode((string) DB::table('change_sets')->where('id', $id)->value('operations'), true);
            $sound = self::sound($operations, $renamed);
            if ($sound !== $operations) {
                DB::table('change_sets')->where('id', $id)
                    ->update(['operations' => json_encode($sound,
                        JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION | JSON_UNESCAPED_UNICODE)]);
            }
        }
        foreach ([['change_set_projects', 'project_uid'], ['baselines', 'project_uid'], ['baseline_rows', 'uid'], ['calendars', 'uid'],
            ['projects', 'uid'], ['wbs_elements', 'uid'], ['activities', 'uid'], ['links', 'uid']] as [$table, $column]) {
            foreach (DB::table($table)->whereRaw("{$column} REGEXP '^-?[0-9]+$'")->distinct()->pluck($column) as $uid) {
                DB::table($table)->where($column, (string) $uid)->update([$column => Uid::of((string) $uid)]);
            }
        }
    }

    /** @param  array<string, string>  $renamed */
    private static function sound(mixed $operations, array $renamed): mixed
    {
        $uid = static fn (mixed $value): mixed => is_string($value) ? $renamed[$value] ?? $value : $value;
        foreach (is_array($operations) ? $operations : [] as $i => $operation) {
            $operation['uid'] = $uid($operation['uid'] ?? null);
            foreach (['before', 'after'] as $side) {
                foreach (['project', 'wbs', 'parent', 'calendar', 'base', 'from', 'to'] as $field) {
                    if (isset($operation[$side][$field])) {
                        $operation[$side][$field] = $uid($operation[$side][$field]);
                    }
                }
            }
            $operations[$i] = $operation;
        }

        return $operations;
    }
};
