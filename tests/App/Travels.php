<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;

/** Files that leave an instance and come into one that has nothing. */
trait Travels
{
    /**
     * @param  array<string, string>  $more
     * @return list<string> what was said
     */
    private function taken(string $file, array $more = [], string $branch = 'Varnsund Ferries'): array
    {
        $preview = $this->post('/api/v1/exchange/import', $more + ['branch' => $this->branch($branch), 'branches' => '1', 'update' => '1',
            'file' => UploadedFile::fake()->createWithContent('a.plan.xml', $file)], ['Accept' => 'application/json'])->assertCreated();
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/apply")->assertOk();

        return $preview->json('notes');
    }

    private function exported(string $keys): string
    {
        return (string) $this->get("/api/v1/exchange/export?projects={$keys}&format=plan-xml")->assertOk()->getContent();
    }

    /** Without who wrote it. */
    private static function plain(string $file): string
    {
        return (string) preg_replace('/ source="reihe:[^"]*"/', '', $file);
    }

    /** @return array<string, string> activity => its dates and floats */
    private function dates(): array
    {
        return DB::table('activity_dates as d')->join('activities as a', 'a.id', '=', 'd.activity_id')->orderBy('a.uid')
            ->get(['a.uid', 'd.*'])->mapWithKeys(static fn (object $r): array => [$r->uid => (string) json_encode(
                array_diff_key((array) $r, ['activity_id' => 0, 'revision' => 0]))])->all();
    }

    /** Nothing is left but the root, its administrators and another name. */
    private function emptied(): void
    {
        $kept = ['users', 'migrations', 'enterprise', 'branches', 'grants', 'sessions', 'cache', 'cache_locks'];
        DB::statement('SET FOREIGN_KEY_CHECKS = 0');
        foreach (array_diff(array_column(DB::select('SHOW TABLES'), 'Tables_in_'.DB::getDatabaseName()), $kept) as $table) {
            DB::table((string) $table)->delete();
        }
        DB::table('branches')->whereNotNull('parent_id')->delete();
        DB::table('grants')->whereNotIn('branch_id', DB::table('branches')->pluck('id'))->delete();
        DB::statement('SET FOREIGN_KEY_CHECKS = 1');
        DB::table('enterprise')->update(['uid' => 'elsewhere']);
        $this->artisan('reihe:recalculate')->assertSuccessful();
    }
}
