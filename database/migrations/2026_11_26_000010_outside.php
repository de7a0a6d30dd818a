<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use Illuminate\Support\Str;

/** Projects kept outside with the dates that come from there, and what other systems call our objects. */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->alter('projects', static function (Blueprint $t): void {
            $t->string('kept', 20)->default('here');
        });
        $this->create('outside_dates', static function (Blueprint $table): void {
            $table->foreignId('activity_id')->primary()->constrained()->cascadeOnDelete();
            $table->integer('start');
            $table->integer('finish');
            $table->string('source', 190)->nullable();
            $table->integer('as_of')->nullable();
        });
        // the uid of an object that is gone stays: an undo brings it back
        $this->create('external_identities', static function (Blueprint $table): void {
            $table->id();
            $table->string('source', 190)->collation('utf8mb4_nopad_bin');
            $table->string('kind', 20);
            $table->string('foreign_id', 255)->collation('utf8mb4_nopad_bin');
            $table->string('uid', 64)->charset('ascii')->collation('ascii_bin');
            $table->unique(['source', 'kind', 'foreign_id']);
            $table->index(['kind', 'uid']);
        });
        $this->alter('change_sets', static function (Blueprint $t): void {
            $t->string('exchanged_with', 190)->nullable();
        });
        $this->alter('change_sets', static function (Blueprint $t): void {
            $t->longText('identities')->nullable();
        });
        $this->alter('enterprise', static function (Blueprint $t): void {
            $t->string('uid', 64)->charset('ascii')->collation('ascii_bin')->nullable();
        });
        DB::table('enterprise')->whereNull('uid')->update(['uid' => (string) Str::ulid()]);
    }

    public function down(): void
    {
        Schema::dropIfExists('external_identities');
        Schema::dropIfExists('outside_dates');
        foreach (['projects' => ['kept'], 'change_sets' => ['exchanged_with', 'identities'],
            'enterprise' => ['uid']] as $table => $columns) {
            Schema::table($table, static function (Blueprint $t) use ($columns): void {
                $t->dropColumn($columns);
            });
        }
    }
};
