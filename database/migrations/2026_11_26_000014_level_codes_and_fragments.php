<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Level schemes with their codes, open ends, fragments with their versions, and where they were put. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $uid = static fn (Blueprint $table) => $table->string('uid', 64)->charset('ascii')->collation('ascii_bin')->unique();
        $this->create('level_schemes', static function (Blueprint $table) use ($uid): void {
            $table->id();
            $uid($table);
            $table->string('key', 40);
            $table->string('name', 120);
            $table->text('levels');
            $table->text('activity_code');
            $table->text('activity_name');
            $table->unsignedBigInteger('parked')->default(0);
            $table->unique(['key', 'parked'], 'level_schemes_natural_key');
        });
        $this->create('level_codes', static function (Blueprint $table) use ($uid): void {
            $table->id();
            $uid($table);
            $table->foreignId('scheme_id')->constrained('level_schemes')->restrictOnDelete();
            $table->foreignId('parent_id')->nullable()->constrained('level_codes')->restrictOnDelete();
            $table->unsignedSmallInteger('level');
            $table->string('code', 20);
            $table->string('name', 120);
            $table->string('below', 60)->nullable();
            $table->double('position');
        });
        $this->create('open_ends', static function (Blueprint $table) use ($uid): void {
            $table->id();
            $uid($table);
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->foreignId('activity_id')->constrained()->cascadeOnDelete();
            $table->string('side', 20);
            $table->char('type', 2);
            $table->integer('lag');
            $table->string('lag_calendar', 20)->nullable();
            $table->string('label', 81);
            $table->string('name');
            $table->string('note', 500)->nullable();
        });
        $this->create('insertions', static function (Blueprint $table) use ($uid): void {
            $table->id();
            $uid($table);
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->string('fragment', 64)->charset('ascii')->collation('ascii_bin')->index();
            $table->string('name');
            $table->unsignedInteger('version');
            $table->string('prefix', 60);
            $table->mediumText('pairs');
        });
        $this->create('fragment_versions', static function (Blueprint $table): void {
            $table->id();
            $table->string('fragment', 64)->charset('ascii')->collation('ascii_bin');
            $table->unsignedInteger('number');
            $table->string('note', 500)->default('');
            $table->longText('objects');
            $table->foreignId('author_id')->nullable()->constrained('users')->nullOnDelete();
            $table->dateTime('created_at');
            $table->unique(['fragment', 'number']);
        });
        foreach (['home', 'made_from'] as $column) {
            $this->alter('projects', static function (Blueprint $table) use ($column): void {
                $table->string($column, 64)->charset('ascii')->collation('ascii_bin')->nullable();
            });
        }
        $this->alter('projects', static function (Blueprint $table): void {
            $table->unsignedBigInteger('level_scheme_id')->nullable();
        });
        $this->statement('ALTER TABLE projects ADD CONSTRAINT projects_level_scheme FOREIGN KEY (level_scheme_id) REFERENCES level_schemes '
            .'(id) ON DELETE RESTRICT');
    }

    public function down(): void
    {
        $this->statement('ALTER TABLE projects DROP FOREIGN KEY projects_level_scheme');
        foreach (['home', 'made_from', 'level_scheme_id'] as $column) {
            $this->statement("ALTER TABLE projects DROP COLUMN {$column}");
        }
        foreach (['fragment_versions', 'insertions', 'open_ends', 'level_codes', 'level_schemes'] as $table) {
            Schema::dropIfExists($table);
        }
    }
};
