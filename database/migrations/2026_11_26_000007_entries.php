<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Support\Facades\Schema;

/** What classifies is an entry of a code set: tables and columns by that name. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        if (Schema::hasTable('code_values')) {
            $this->statement('RENAME TABLE code_values TO code_entries');
        }
        if (Schema::hasColumn('project_codes', 'code_value_id')) {
            $this->statement('ALTER TABLE project_codes CHANGE code_value_id code_entry_id BIGINT UNSIGNED NOT NULL');
        }
    }

    public function down(): void
    {
        $this->statement('ALTER TABLE project_codes CHANGE code_entry_id code_value_id BIGINT UNSIGNED NOT NULL');
        $this->statement('RENAME TABLE code_entries TO code_values');
    }
};
