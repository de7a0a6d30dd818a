<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Fields that the enterprise adds to projects and activities, and their values. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->create('own_fields', static function (Blueprint $table): void {
            $table->id();
            $table->string('uid', 64)->charset('ascii')->collation('ascii_bin')->unique();
            $table->string('scope', 20);
            $table->string('key', 40);
            $table->string('name', 120);
            $table->string('type', 20);
            $table->text('choices');
            $table->string('description', 500);
            $table->boolean('required');
            $table->double('position');
            $table->unsignedBigInteger('parked')->default(0);
            $table->unique(['scope', 'key', 'parked'], 'own_fields_natural_key');
        });
        $this->create('own_values', static function (Blueprint $table): void {
            $table->id();
            $table->string('uid', 64)->charset('ascii')->collation('ascii_bin')->unique();
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->foreignId('activity_id')->nullable()->constrained()->cascadeOnDelete();
            $table->foreignId('field_id')->constrained('own_fields')->restrictOnDelete();
            $table->string('value', 500);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('own_values');
        Schema::dropIfExists('own_fields');
    }
};
