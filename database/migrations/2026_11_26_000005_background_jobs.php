<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Long work in the background: who wants what, how far it is, what came of it. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->create('background_jobs', static function (Blueprint $table): void {
            $table->id();
            $table->char('uid', 26)->charset('ascii')->collation('ascii_bin')->unique();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            // preview, apply
            $table->string('what', 20);
            $table->string('title');
            // waiting, running, done, failed, cancelled
            $table->string('state', 10)->default('waiting')->index();
            $table->string('step', 20)->default('');
            $table->unsignedInteger('done')->default(0);
            $table->unsignedInteger('total')->default(0);
            $table->boolean('cancel')->default(false);
            $table->json('input');
            $table->json('result')->nullable();
            $table->json('problem')->nullable();
            $table->dateTime('created_at');
            $table->dateTime('seen_at')->nullable();
            $table->dateTime('ended_at')->nullable();
        });
        $this->statement('ALTER TABLE background_jobs ADD COLUMN file LONGBLOB NULL');
    }

    public function down(): void
    {
        Schema::dropIfExists('background_jobs');
    }
};
