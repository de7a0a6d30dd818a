<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Support\Facades\DB;
use PHPUnit\Framework\Attributes\DataProvider;
use Reihe\Formats\Format;
use Reihe\Formats\Tests\Readers;

/** What the demo is made of leaves as documents that others find valid, and comes into an instance that has nothing. */
final class DemoDocumentsTest extends TestCase
{
    use Travels;

    /** @return iterable<string, array{array<string, string|int>}> */
    public static function demos(): iterable
    {
        yield 'small' => [['size' => 'small']];
        yield 'standard' => [['size' => 'standard']];
        // the same generator as the twenty thousand; all of those with REIHE_SWEEP=1
        yield 'large' => [['size' => 'large'] + (getenv('REIHE_SWEEP') === '1' ? [] : ['--projects' => 6, '--activities' => 900])];
    }

    /** @param  array<string, string|int>  $demo */
    #[DataProvider('demos')]
    public function test_the_documents_of_a_demo_are_valid_and_come_back(array $demo): void
    {
        $this->emptied();
        DB::table('users')->delete();
        DB::table('branches')->update(['parent_id' => null]);
        DB::table('branches')->delete();
        $this->artisan('reihe:demo', $demo + ['--status' => '2026-11-25'])->assertSuccessful();
        $this->actingAs($this->person('ilse'));
        $keys = DB::table('projects')->orderBy('id')->pluck('key')->implode(',');
        $kept = DB::table('projects')->distinct()->orderBy('kept')->pluck('kept')->all();
        self::assertSame($demo['size'] === 'standard' ? ['fragment', 'here', 'outside', 'template'] : ['here'], $kept);
        $file = $this->exported($keys);
        self::assertSame([], Readers::json('planxml.py', $file));
        foreach (DB::table('projects')->groupBy('kept')->selectRaw('MIN(`key`) AS `key`')->pluck('key') as $key) {
            self::assertSame([], Readers::json('planxml.py', $this->exported((string) $key)), "{$key} alone");
        }
        $calendar = (string) $this->get("/api/v1/exchange/export?projects={$keys}&format=".Format::ICalendar->value)->assertOk()
            ->getContent();
        $counts = array_map(static fn (string $reader): int => count(Readers::read($reader, $calendar)), Readers::ICALENDAR);
        self::assertSame([array_sum(array_map(static fn (string $t): int => DB::table($t)->count(),
            ['projects', 'wbs_elements', 'activities']))], array_values(array_unique($counts)));
        $dates = $this->dates();
        $this->emptied();
        config(['reihe.inline_import' => 1_000_000, 'reihe.inline_operations' => 1_000_000]);
        $this->taken($file);
        self::assertSame(self::plain($file), self::plain($this->exported($keys)));
        self::assertSame($dates, $this->dates());
        $this->assertResultsAreTrue();
    }
}
