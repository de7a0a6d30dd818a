<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What readers of feeds were told, so that they are told only what differs. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->create('feed_states', static function (Blueprint $table): void {
            $table->id();
            $table->char('token', 64)->charset('ascii')->collation('ascii_bin')->unique();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->string('set', 40);
            $table->text('options');
            $table->binary('rows');
            $table->unsignedBigInteger('base_id')->nullable()->index();
            $table->boolean('is_page');
            $table->dateTime('created_at')->index();
        });
        // tokens for feeds may be limited: to a branch with everything below, to entity sets
        $this->alter('personal_access_tokens', static function (Blueprint $table): void {
            $table->string('last_used_from', 45)->nullable();
        });
        $this->alter('personal_access_tokens', static function (Blueprint $table): void {
            $table->text('sets')->nullable();
        });
        $this->alter('personal_access_tokens', static function (Blueprint $table): void {
            $table->foreignId('branch_id')->nullable()->constrained()->cascadeOnDelete();
        });
        // addresses that calendars and readers fetch, each with a secret of its own
        $this->create('subscriptions', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->char('secret', 64)->charset('ascii')->collation('ascii_bin')->unique();
            $table->string('kind', 20);
            $table->string('about', 255)->nullable();
            $table->string('name', 255);
            $table->dateTime('created_at');
            $table->dateTime('last_used_at')->nullable();
            $table->string('last_used_from', 45)->nullable();
        });
        $this->statement('ALTER TABLE feed_states MODIFY `rows` LONGBLOB NOT NULL');
    }

    public function down(): void
    {
        Schema::dropIfExists('subscriptions');
        Schema::dropIfExists('feed_states');
        $this->statement('ALTER TABLE personal_access_tokens DROP FOREIGN KEY personal_access_tokens_branch_id_foreign');
        foreach (['branch_id', 'last_used_from', 'sets'] as $column) {
            $this->statement("ALTER TABLE personal_access_tokens DROP COLUMN {$column}");
        }
    }
};
