<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Saved views of places, private to their author or shared. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->create('views', static function (Blueprint $table): void {
            $table->id();
            $table->string('uid', 64)->charset('ascii')->collation('ascii_bin')->unique();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->string('place', 20);
            $table->string('name', 120);
            $table->boolean('shared')->default(false);
            $table->text('definition');
            $table->index(['place', 'user_id']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('views');
    }
};
