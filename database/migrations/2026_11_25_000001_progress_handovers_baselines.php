<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/**
 * Work and progress, handover agreements, baselines, settings. What few rows have stands in tables of its own, so that
 * the network loads quickly. `reihe:recalculate` fills the new result columns.
 */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->create('efforts', function (Blueprint $table): void {
            $table->foreignId('activity_id')->primary()->constrained()->cascadeOnDelete();
            $table->string('percent_by', 20);
            $table->double('physical_percent')->nullable();
            $table->json('checklist')->nullable();
            $table->unsignedInteger('actual_work')->nullable();
            $table->unsignedInteger('remaining_work')->nullable();
            $table->unsignedBigInteger('cost')->nullable();
            $table->integer('suspend')->nullable();
        });
        $this->create('agreements', function (Blueprint $table): void {
            $table->foreignId('link_id')->primary()->constrained()->cascadeOnDelete();
            $table->integer('agreed')->nullable();
            $table->string('giver_owner', 120)->nullable();
            $table->string('taker_owner', 120)->nullable();
            $table->string('note', 500)->nullable();
        });
        $this->create('handover_dates', function (Blueprint $table): void {
            $table->foreignId('link_id')->primary()->constrained()->cascadeOnDelete();
            $table->integer('forecast')->nullable();
            $table->integer('margin')->nullable();
            $table->string('state', 10)->index();
        });
        $this->alter('activity_dates', function (Blueprint $table): void {
            // thousandths of a percent
            $table->unsignedInteger('percent')->default(0);
        });
        foreach (['wbs_dates', 'project_dates'] as $name) {
            $this->alter($name, function (Blueprint $table): void {
                $table->integer('margin')->nullable();
                $table->unsignedBigInteger('work')->default(0);
                $table->unsignedBigInteger('cost')->default(0);
            });
        }
        $this->create('baselines', function (Blueprint $table): void {
            $table->id();
            $table->string('uid', 64)->charset('ascii')->collation('ascii_bin')->unique();
            // by uid: they outlive a deleted project, which undo brings back
            $table->string('project_uid', 64)->charset('ascii')->collation('ascii_bin');
            $table->string('name', 120);
            $table->integer('taken');
            $table->foreignId('author_id')->nullable()->constrained('users')->nullOnDelete();
            $table->boolean('current')->default(false);
            $table->index(['project_uid', 'current']);
        });
        $this->create('baseline_rows', function (Blueprint $table): void {
            $table->foreignId('baseline_id')->constrained()->cascadeOnDelete();
            $table->string('kind', 10);
            $table->string('uid', 64)->charset('ascii')->collation('ascii_bin');
            $table->string('code', 60);
            $table->string('name');
            $table->integer('start');
            $table->integer('finish');
            $table->unsignedInteger('duration');
            $table->unsignedInteger('work');
            $table->unsignedBigInteger('cost');
            $table->primary(['baseline_id', 'kind', 'uid']);
        });
        $this->create('settings', function (Blueprint $table): void {
            $table->string('key', 40)->primary();
            $table->json('value');
        });
    }

    public function down(): void
    {
        foreach (['settings', 'baseline_rows', 'baselines', 'handover_dates', 'agreements', 'efforts'] as $table) {
            Schema::dropIfExists($table);
        }
        foreach (['activity_dates' => ['percent'], 'wbs_dates' => ['margin', 'work', 'cost'],
            'project_dates' => ['margin', 'work', 'cost']] as $name => $columns) {
            Schema::table($name, function (Blueprint $table) use ($columns): void {
                $table->dropColumn($columns);
            });
        }
    }
};
