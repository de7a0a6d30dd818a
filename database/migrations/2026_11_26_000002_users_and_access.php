<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Users can be deactivated; what was done to users and their roles is kept. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->alter('users', static function (Blueprint $table): void {
            $table->boolean('active')->default(true);
        });
        $this->create('access_history', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('author_id')->nullable()->constrained('users')->nullOnDelete();
            $table->foreignId('user_id')->constrained('users')->cascadeOnDelete();
            // added, renamed, activated, deactivated, password, role
            $table->string('what', 20);
            $table->foreignId('branch_id')->nullable()->constrained('branches')->nullOnDelete();
            // name of the branch at that moment, and the role given; null when it was taken away
            $table->string('detail', 160)->nullable();
            $table->dateTime('created_at')->index();
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('access_history');
        Schema::table('users', static function (Blueprint $table): void {
            $table->dropColumn('active');
        });
    }
};
