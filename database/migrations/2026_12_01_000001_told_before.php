<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;

/** What a source had said before a change set told otherwise: undo brings it back. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->create('told_before', static function (Blueprint $table): void {
            $table->id();
            $table->unsignedBigInteger('change_set_id');
            $table->string('source', 190)->collation('utf8mb4_nopad_bin');
            $table->string('kind', 20);
            $table->string('foreign_id', 255)->collation('utf8mb4_nopad_bin');
            $table->mediumText('told')->nullable();
            $table->char('since', 32)->charset('ascii')->collation('ascii_bin');
            $table->index('change_set_id');
            $table->foreign('change_set_id')->references('id')->on('change_sets')->cascadeOnDelete();
        });
    }

    public function down(): void
    {
        $this->statement('DROP TABLE told_before');
    }
};
