<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What files from elsewhere say that has no place in a plan. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->create('foreign_contents', static function (Blueprint $table): void {
            $table->id();
            $table->string('uid', 64)->charset('ascii')->collation('ascii_bin')->unique();
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->foreignId('wbs_id')->nullable()->constrained('wbs_elements')->cascadeOnDelete();
            $table->foreignId('activity_id')->nullable()->constrained()->cascadeOnDelete();
            $table->string('format', 20);
            $table->text('content');
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('foreign_contents');
    }
};
