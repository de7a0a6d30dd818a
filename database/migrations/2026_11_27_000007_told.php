<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;

/** What other systems said of our objects last, so that it can be told who changed what since. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->alter('external_identities', static function (Blueprint $table): void {
            $table->mediumText('told')->nullable();
        });
    }

    public function down(): void
    {
        $this->statement('ALTER TABLE external_identities DROP COLUMN told');
    }
};
