<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What the health checks found, for the marks in the portfolio; worked out again where what it follows from differs. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->create('project_health', static function (Blueprint $table): void {
            $table->foreignId('project_id')->primary()->constrained()->cascadeOnDelete();
            $table->string('state', 100)->charset('ascii')->collation('ascii_bin');
            $table->unsignedSmallInteger('broken');
            $table->unsignedSmallInteger('attention');
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('project_health');
    }
};
