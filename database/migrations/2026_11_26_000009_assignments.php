<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use App\Planning\EarlierOperations;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/**
 * Work and cost are told by assignments, and only there; how progress is measured stays with the activity. What earlier
 * change sets said about work, branches and codes is told in the new words.
 */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->create('assignments', static function (Blueprint $table): void {
            $table->id();
            $table->string('uid', 64)->charset('ascii')->collation('ascii_bin')->unique();
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->foreignId('activity_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('actual_work')->nullable();
            $table->unsignedInteger('remaining_work')->nullable();
            $table->unsignedBigInteger('cost')->nullable();
            $table->unsignedBigInteger('parked')->default(0);
            $table->unique(['activity_id', 'parked'], 'assignments_natural_key');
        });
        if (Schema::hasTable('efforts')) {
            DB::statement('INSERT IGNORE INTO assignments (uid, project_id, activity_id, actual_work, remaining_work, cost)
                SELECT '.EarlierOperations::WORK_UID.', a.project_id, a.id, e.actual_work, e.remaining_work, e.cost
                FROM efforts e JOIN activities a ON a.id = e.activity_id
                WHERE e.actual_work IS NOT NULL OR e.remaining_work IS NOT NULL OR e.cost IS NOT NULL');
            EarlierOperations::tellInNewWords();
            $this->statement('RENAME TABLE efforts TO measures');
        }
        foreach (['actual_work', 'remaining_work', 'cost'] as $column) {
            $this->statement("ALTER TABLE measures DROP COLUMN {$column}");
        }
    }

    public function down(): void
    {
        $this->statement('RENAME TABLE measures TO efforts');
        $this->alter('efforts', static function (Blueprint $t): void {
            $t->unsignedInteger('actual_work')->nullable();
            $t->unsignedInteger('remaining_work')->nullable();
            $t->unsignedBigInteger('cost')->nullable();
        });
        DB::statement("INSERT INTO efforts (activity_id, percent_by, actual_work, remaining_work, cost)
            SELECT activity_id, 'duration', actual_work, remaining_work, cost FROM assignments s
            ON DUPLICATE KEY UPDATE actual_work = s.actual_work, remaining_work = s.remaining_work, cost = s.cost");
        Schema::dropIfExists('assignments');
    }
};
