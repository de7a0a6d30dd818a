<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Which dates each change set moved, which change sets are one step back, and when users last looked at projects. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->create('date_moves', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('change_set_id')->constrained()->cascadeOnDelete();
            $table->string('project_uid', 64)->charset('ascii')->collation('ascii_bin');
            $table->binary('moves');
            $table->index(['project_uid', 'change_set_id']);
        });
        $this->statement('ALTER TABLE date_moves MODIFY moves LONGBLOB NOT NULL');
        $this->create('visits', static function (Blueprint $table): void {
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->dateTime('seen_at');
            $table->dateTime('before_at');
            $table->primary(['user_id', 'project_id']);
        });
        $this->alter('change_sets', static function (Blueprint $t): void {
            $t->string('step', 64)->charset('ascii')->collation('ascii_bin')->nullable();
        });
        $this->alter('plan_changes', static function (Blueprint $t): void {
            $t->index(['uid', 'change_set_id']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('visits');
        Schema::dropIfExists('date_moves');
        $this->alter('change_sets', static function (Blueprint $t): void {
            $t->dropColumn('step');
        });
    }
};
