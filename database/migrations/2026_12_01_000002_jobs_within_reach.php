<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;

/** What its user saw when a job was begun: who sees less later is not told what came of it. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->alter('background_jobs', static function (Blueprint $table): void {
            $table->mediumText('branches')->nullable();
        });
    }

    public function down(): void
    {
        $this->statement('ALTER TABLE background_jobs DROP COLUMN branches');
    }
};
