<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What-ifs over the live plan that nobody else's dates feel. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->create('drafts', static function (Blueprint $table): void {
            $table->id();
            $table->string('uid', 64)->charset('ascii')->collation('ascii_bin')->unique();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->string('name', 120);
            $table->boolean('shared')->default(false);
            $table->unsignedInteger('revision')->default(0);
            $table->longText('steps');
            $table->longText('undone');
            $table->dateTime('changed_at');
            $table->index(['user_id', 'id']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('drafts');
    }
};
