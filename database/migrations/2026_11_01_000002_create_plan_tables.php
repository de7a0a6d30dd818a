<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/**
 * Plan data. Moments are whole minutes since 2000-01-01 00:00 (enterprise wall clock), durations, lags and floats
 * whole working minutes, both as INT: the core calculates with them and nothing is lost on the way.
 * Computed results stand in narrow tables of their own (…_dates).
 */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->create('branches', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('parent_id')->nullable()->constrained('branches')->restrictOnDelete();
            $table->string('name', 120);
            // ids from the root, each followed by a slash: everything below branch 7 begins with its path
            $table->string('path', 400)->charset('ascii')->collation('ascii_bin')->default('')->index();
            $table->unsignedInteger('position')->default(0);
            $table->unique(['parent_id', 'name']);
        });
        $this->create('grants', function (Blueprint $table): void {
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->foreignId('branch_id')->constrained()->cascadeOnDelete();
            $table->string('role', 20);
            $table->primary(['user_id', 'branch_id']);
        });
        $this->create('calendars', function (Blueprint $table): void {
            $table->id();
            $this->uid($table);
            $table->string('key', 40)->unique();
            $table->string('name');
            $table->foreignId('base_id')->nullable()->constrained('calendars')->restrictOnDelete();
            $table->unsignedSmallInteger('minutes_per_day')->nullable();
            $table->json('week');
            $table->json('exceptions');
        });
        $this->create('projects', function (Blueprint $table): void {
            $table->id();
            $this->uid($table);
            $table->string('key', 20)->unique();
            $table->string('name');
            $table->foreignId('branch_id')->constrained()->restrictOnDelete();
            $table->foreignId('calendar_id')->constrained()->restrictOnDelete();
            $table->integer('start');
            $table->integer('status_date')->nullable();
            $table->integer('deadline')->nullable();
            $table->string('float_measure', 20);
            $table->string('critical_by', 20);
            $table->double('critical_days');
            $table->double('near_critical_days');
            $table->string('out_of_sequence', 20);
            $table->string('lag_calendar', 20);
            $table->string('lead')->nullable();
            $table->unsignedInteger('revision')->default(0);
        });
        $this->create('wbs_elements', function (Blueprint $table): void {
            $table->id();
            $this->uid($table);
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->foreignId('parent_id')->nullable()->constrained('wbs_elements')->cascadeOnDelete();
            $table->double('position');
            $table->string('code', 60);
            $table->string('name');
            $table->integer('deadline')->nullable();
        });
        $this->create('activities', function (Blueprint $table): void {
            $table->id();
            $this->uid($table);
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->foreignId('wbs_id')->nullable()->constrained('wbs_elements')->cascadeOnDelete();
            $table->double('position');
            $table->string('code', 60);
            $table->string('name');
            $table->string('kind', 20);
            $table->unsignedInteger('duration');
            $table->boolean('estimate');
            $table->foreignId('calendar_id')->nullable()->constrained()->restrictOnDelete();
            $table->string('constraint1_kind', 20)->nullable();
            $table->integer('constraint1_date')->nullable();
            $table->string('constraint2_kind', 20)->nullable();
            $table->integer('constraint2_date')->nullable();
            $table->integer('deadline')->nullable();
            $table->integer('actual_start')->nullable();
            $table->integer('actual_finish')->nullable();
            $table->unsignedInteger('remaining')->nullable();
            $table->integer('resume')->nullable();
            $table->unique(['project_id', 'code']);
        });
        $this->create('links', function (Blueprint $table): void {
            $table->id();
            $this->uid($table);
            $table->foreignId('from_id')->constrained('activities')->cascadeOnDelete();
            $table->foreignId('to_id')->constrained('activities')->cascadeOnDelete();
            $table->foreignId('from_project_id')->constrained('projects')->cascadeOnDelete();
            $table->foreignId('to_project_id')->constrained('projects')->cascadeOnDelete();
            $table->char('type', 2);
            $table->integer('lag');
            $table->string('lag_calendar', 20)->nullable();
            $table->boolean('handover')->index();
            $table->unique(['from_id', 'to_id', 'type']);
        });
        $this->create('code_sets', function (Blueprint $table): void {
            $table->id();
            $table->string('scope', 20);
            $table->string('key', 40);
            $table->string('name', 120);
            $table->unsignedInteger('position')->default(0);
            $table->unique(['scope', 'key']);
        });
        $this->create('code_values', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('code_set_id')->constrained()->cascadeOnDelete();
            $table->foreignId('parent_id')->nullable()->constrained('code_values')->restrictOnDelete();
            $table->string('key', 60);
            $table->string('name', 120);
            $table->unsignedInteger('position')->default(0);
            $table->unique(['code_set_id', 'key']);
        });
        $this->create('project_codes', function (Blueprint $table): void {
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->foreignId('code_set_id')->constrained()->cascadeOnDelete();
            $table->foreignId('code_value_id')->constrained()->restrictOnDelete();
            $table->primary(['project_id', 'code_set_id']);
        });

        $this->create('activity_dates', function (Blueprint $table): void {
            $table->foreignId('activity_id')->primary()->constrained()->cascadeOnDelete();
            $table->integer('start');
            $table->integer('finish');
            $table->integer('late_start')->nullable();
            $table->integer('late_finish')->nullable();
            $table->integer('total_float')->nullable();
            $table->integer('free_float')->nullable();
            $table->boolean('critical');
            $table->boolean('near_critical');
        });
        $this->create('link_dates', function (Blueprint $table): void {
            $table->foreignId('link_id')->primary()->constrained()->cascadeOnDelete();
            $table->integer('link_float')->nullable();
            $table->boolean('driving');
        });
        foreach (['wbs_dates' => ['wbs_id', 'wbs_elements'], 'project_dates' => ['project_id', 'projects']] as $name => [$key, $of]) {
            $this->create($name, function (Blueprint $table) use ($key, $of): void {
                $table->foreignId($key)->primary()->constrained($of)->cascadeOnDelete();
                $table->integer('start')->nullable();
                $table->integer('finish')->nullable();
                $table->unsignedInteger('duration');
                $table->integer('total_float')->nullable();
                $table->boolean('critical');
                $table->unsignedBigInteger('planned');
                $table->unsignedBigInteger('done');
                $table->boolean('finished');
            });
        }

        $this->create('change_sets', function (Blueprint $table): void {
            $table->id();
            $this->uid($table);
            $table->foreignId('author_id')->nullable()->constrained('users')->nullOnDelete();
            $table->string('source', 20);
            $table->string('reason', 500)->default('');
            $table->string('state', 20)->index();
            $table->longText('operations');
            $table->longText('ripple');
            $table->foreignId('undoes_id')->nullable()->constrained('change_sets')->nullOnDelete();
            $table->dateTime('created_at')->index();
            $table->dateTime('decided_at')->nullable();
        });
        $this->create('change_set_projects', function (Blueprint $table): void {
            $table->foreignId('change_set_id')->constrained()->cascadeOnDelete();
            $table->string('project_uid', 64)->charset('ascii')->collation('ascii_bin');
            $table->unsignedInteger('revision');
            $table->primary(['project_uid', 'revision', 'change_set_id']);
        });
    }

    public function down(): void
    {
        foreach (['change_set_projects', 'change_sets', 'project_dates', 'wbs_dates', 'link_dates', 'activity_dates', 'project_codes',
            'code_values',
            'code_sets', 'links', 'activities', 'wbs_elements', 'projects', 'calendars', 'grants', 'branches'] as $table) {
            Schema::dropIfExists($table);
        }
    }

    private function uid(Blueprint $table): void
    {
        $table->string('uid', 64)->charset('ascii')->collation('ascii_bin')->unique();
    }
};
