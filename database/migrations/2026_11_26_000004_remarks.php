<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->create('remarks', static function (Blueprint $table): void {
            $table->id();
            $table->string('uid', 64)->charset('ascii')->collation('ascii_bin')->unique();
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->foreignId('activity_id')->constrained()->cascadeOnDelete();
            $table->text('text');
            $table->string('author', 120);
            $table->integer('written')->nullable();
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('remarks');
    }
};
