<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;

/**
 * Addresses are told apart letter by letter, in lower case; a password that somebody else knows is changed first; attempts to sign in
 * are counted; things of the enterprise belong to a branch.
 */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->statement('UPDATE users SET email = LOWER(email)');
        $this->statement('ALTER TABLE users MODIFY email VARCHAR(255) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL');
        $this->alter('users', static function (Blueprint $table): void {
            $table->boolean('must_change')->default(false);
        });
        $this->create('attempts', static function (Blueprint $table): void {
            $table->char('of', 64)->charset('ascii')->collation('ascii_bin')->primary();
            $table->unsignedInteger('count');
            $table->unsignedBigInteger('until');
        });
        $this->create('enterprise_owners', static function (Blueprint $table): void {
            $table->id();
            $table->string('kind', 20);
            $table->string('uid', 64)->charset('ascii')->collation('ascii_bin');
            $table->foreignId('branch_id')->constrained('branches')->cascadeOnDelete();
            $table->unique(['kind', 'uid']);
        });
    }

    public function down(): void
    {
        $this->statement('DROP TABLE attempts');
        $this->statement('DROP TABLE enterprise_owners');
        $this->statement('ALTER TABLE users DROP COLUMN must_change');
    }
};
