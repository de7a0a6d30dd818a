<?php

declare(strict_types=1);

use App\Database\RepeatableMigration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use Illuminate\Support\Str;

/**
 * Calculated parts of the network are kept by revision; the epoch tells revisions before and after a restored backup apart.
 * Every write to a part counts `turns` of its first project, so that two database nodes notice that both wrote.
 */
return new class extends RepeatableMigration
{
    public function up(): void
    {
        $this->alter('enterprise', static function (Blueprint $table): void {
            $table->char('epoch', 26)->default('');
        });
        $this->alter('projects', static function (Blueprint $table): void {
            $table->unsignedInteger('turns')->default(0);
        });
        DB::table('enterprise')->where('epoch', '')->update(['epoch' => (string) Str::ulid()]);
    }

    public function down(): void
    {
        Schema::table('enterprise', static function (Blueprint $table): void {
            $table->dropColumn('epoch');
        });
        Schema::table('projects', static function (Blueprint $table): void {
            $table->dropColumn('turns');
        });
    }
};
