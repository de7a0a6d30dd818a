<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** Whose things are is known by the uid of the branch: one that is deleted and brought back by an undo has them again. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->create('owners', static function (Blueprint $table): void {
            $table->string('kind', 20)->charset('ascii')->collation('ascii_bin');
            $table->string('uid', 64)->charset('ascii')->collation('ascii_bin');
            $table->string('branch', 64)->charset('ascii')->collation('ascii_bin');
            $table->primary(['kind', 'uid']);
        });
        if (Schema::hasTable('enterprise_owners')) {
            DB::statement('INSERT IGNORE INTO owners (kind, uid, branch) SELECT o.kind, o.uid, b.uid FROM enterprise_owners o '
                .'JOIN branches b ON b.id = o.branch_id');
        }
        $this->statement('DROP TABLE IF EXISTS enterprise_owners');
    }

    public function down(): void
    {
        $this->statement('DROP TABLE owners');
    }
};
