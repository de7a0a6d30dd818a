<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Remarks that are to be done or belong to a change set, notices for those who are mentioned, and views that people begin with. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->alter('remarks', static function (Blueprint $t): void {
            $t->boolean('todo')->default(false);
        });
        $this->alter('remarks', static function (Blueprint $t): void {
            $t->boolean('done')->default(false);
        });
        $this->alter('remarks', static function (Blueprint $t): void {
            $t->string('about', 64)->default('');
        });
        $this->create('notices', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->string('author', 120);
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->string('activity', 64)->charset('ascii')->collation('ascii_bin');
            $table->string('remark', 64)->charset('ascii')->collation('ascii_bin');
            $table->string('text', 300);
            $table->dateTime('created_at');
            $table->dateTime('read_at')->nullable();
            $table->unique(['user_id', 'remark']);
        });
        $this->create('waivers', static function (Blueprint $table): void {
            $table->id();
            $table->string('check', 40);
            $table->string('activity', 64)->charset('ascii')->collation('ascii_bin');
            $table->string('reason', 300);
            $table->string('author', 120);
            $table->dateTime('created_at');
            $table->unique(['activity', 'check']); // wherever it lies
        });
        $this->create('first_views', static function (Blueprint $table): void {
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->string('place', 20);
            $table->foreignId('view_id')->constrained()->cascadeOnDelete();
            $table->primary(['user_id', 'place']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('waivers');
        Schema::dropIfExists('first_views');
        Schema::dropIfExists('notices');
        $this->alter('remarks', static function (Blueprint $t): void {
            $t->dropColumn(['todo', 'done', 'about']);
        });
    }
};
