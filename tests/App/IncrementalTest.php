<?php

declare(strict_types=1);

namespace Tests\App;

use App\Planning\Connected;
use App\Planning\Ids;
use App\Planning\KeptParts;
use App\Planning\Part;
use Illuminate\Support\Facades\DB;
use PHPUnit\Framework\Attributes\TestWith;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Whatever is edited, stored results equal a calculation of everything at once; undoing all of it restores every date. */
final class IncrementalTest extends TestCase
{
    #[TestWith([1])]
    #[TestWith([2])]
    #[TestWith([3])]
    #[TestWith([4])]
    #[TestWith([5])]
    #[TestWith([6])]
    public function test_random_edits(int $seed): void
    {
        $this->actingAs($this->person('ilse'));
        $random = new Randomizer(new Mt19937($seed));
        Ids::$many = $seed % 2 === 0 ? 0 : Ids::$many; // also as in a large portfolio, where parts keep the ids of rows
        $before = $this->everything();
        $done = [];
        $kept = [$this->part()];
        for ($edit = 0; $edit < 12; $edit++) {
            match ($random->getInt(0, 3)) { // what this process keeps may be current, nothing, or older than what other servers wrote
                0 => KeptParts::forget(),
                1 => KeptParts::keep($kept[$random->getInt(0, count($kept) - 1)]),
                default => null,
            };
            $had = $this->getJson('/api/v1/board?projects=GRID,TERN')->json();
            $answer = $this->change([$op = $this->operation($random, $edit)], board: 'GRID,TERN');
            self::assertContains($answer->status(), [200, 422], (string) $answer->getContent().json_encode($op));
            if ($answer->status() === 200 && $answer->json('changeSet') !== null) {
                $done[] = $answer->json('changeSet');
                $kept[] = $this->part();
                $this->assertResultsAreTrue();
                $this->assertBoardIsUpToDate($had, $answer->json('board'));
            }
        }
        self::assertGreaterThan(5, count($done));
        self::assertSame(Ids::$many === 0, array_filter($kept, static fn (Part $part): bool => $part->rows !== []) !== []);
        foreach (array_reverse($done) as $uid) {
            $this->postJson("/api/v1/changes/{$uid}/undo")->assertOk();
        }
        self::assertEquals($before, $this->everything());
    }

    protected function tearDown(): void
    {
        Ids::$many = Ids::MANY;
        parent::tearDown();
    }

    private function part(): Part
    {
        return Connected::with([DB::table('projects')->where('key', 'GRID')->value('id')])->part;
    }

    /** @return array<string, mixed> */
    private function operation(Randomizer $random, int $edit): array
    {
        $activities = DB::table('activities')->where('kind', 'task')->whereNull('actual_start')->orderBy('uid')->pluck('uid')->all();
        $pick = static fn (): string => $activities[$random->getInt(0, count($activities) - 1)];
        $day = '2027-0'.$random->getInt(1, 6).'-1'.$random->getInt(0, 9).'T08:00';

        $work = static fn (): string => (string) DB::table('assignments')->orderBy('uid')
            ->skip($random->getInt(0, DB::table('assignments')->count() - 1))->value('uid');
        $handovers = DB::table('links')->where('handover', 1)->orderBy('uid')->pluck('uid')->all();

        return match ($random->getInt(0, 12)) {
            0, 1 => self::update('activity', $pick(), ['duration' => 480 * $random->getInt(1, 40)]),
            2 => self::update('activity', $pick(), ['constraints' => [['kind' => 'start-no-earlier', 'date' => $day]]]),
            3 => ['verb' => 'create', 'kind' => 'link', 'uid' => "new-{$edit}",
                'after' => ['from' => $pick(), 'to' => $pick(), 'type' => ['FS', 'SS', 'FF', 'SF'][$random->getInt(0, 3)],
                    'lag' => $random->getInt(-2, 5) * 480]],
            4 => $edit > 8 && $random->getInt(0, 2) === 0 ? ['verb' => 'delete', 'kind' => 'project', 'uid' => 'prj-OSTV']
                : ['verb' => 'delete', 'kind' => 'activity', 'uid' => $pick()],
            5 => self::update('project', ['prj-GRID', 'prj-OSTV', 'prj-TERN'][$random->getInt(0, 2)],
                ['deadline' => $day, 'floatMeasure' => ['own-end', 'portfolio-end', 'deadline'][$random->getInt(0, 2)]]),
            6 => self::update('activity', $pick(), ['percentBy' => ['work', 'physical'][$random->getInt(0, 1)]]),
            7 => match ($random->getInt(0, 5)) {
                0 => self::gone('assignment', $work()),
                1 => self::made('assignment', "work-{$edit}", ['activity' => $pick(), 'remainingWork' => 480]),
                default => self::update('assignment', $work(), ['actualWork' => $random->getInt(0, 900),
                    'remainingWork' => $random->getInt(0, 900), 'cost' => $random->getInt(0, 9999)]),
            },
            8 => self::update('link', (string) $handovers[$random->getInt(0, count($handovers) - 1)],
                ['agreed' => $day, 'giverOwner' => "Owner {$edit}"]),
            9 => self::update('activity', $pick(),
                ['actualStart' => '2026-11-20T08:00', 'remaining' => 60 * $random->getInt(1, 99), 'percentBy' => 'work']),
            10 => self::update('activity', $pick(),
                ['project' => ['prj-GRID', 'prj-OSTV', 'prj-TERN'][$random->getInt(0, 2)], 'wbs' => null]),
            11 => self::update('wbs', (string) DB::table('wbs_elements')->orderBy('uid')
                ->skip($random->getInt(0, DB::table('wbs_elements')->count() - 1))->value('uid'),
                ['project' => ['prj-GRID', 'prj-TERN'][$random->getInt(0, 1)], 'parent' => null]),
            default => self::update('activity', $pick(),
                ['calendar' => ['cal-dock', 'cal-office', null][$random->getInt(0, 2)], 'deadline' => $day]),
        };
    }

    /**
     * What the answer says about rows is what a fresh board says, and makes the same rows of those that were there.
     *
     * @param  array<string, array<string, list<mixed>>>  $had  the board before
     * @param  array<string, array<string, list<mixed>>>  $delta
     */
    private function assertBoardIsUpToDate(array $had, array $delta): void
    {
        $fresh = $this->getJson('/api/v1/board?projects=GRID,TERN')->assertOk()->json();
        self::assertSame($fresh['handovers'], $delta['handovers']);
        foreach (['wbs', 'activities', 'links'] as $kind) {
            $stays = array_diff($had[$kind]['uid'], $delta['removed']);
            $stays = $kind === 'links' ? $stays : array_filter($stays, static fn (string $uid): bool => in_array(
                $had[$kind]['project'][array_search($uid, $had[$kind]['uid'], true)], array_column($delta['projects'], 'uid'), true));
            self::assertEqualsCanonicalizing($fresh[$kind]['uid'], array_values(array_unique([...$stays, ...$delta[$kind]['uid']])), $kind);
        }
        foreach (['wbs', 'activities', 'efforts', 'links', 'variances'] as $kind) {
            $rows = [];
            foreach ($fresh[$kind]['uid'] as $i => $uid) {
                $rows[$uid] = array_map(static fn (array $column): mixed => $column[$i], $fresh[$kind]);
            }
            foreach ($delta[$kind]['uid'] as $i => $uid) {
                self::assertSame($rows[$uid], array_map(static fn (array $column): mixed => $column[$i], $delta[$kind]), "{$kind} {$uid}");
            }
        }
        self::assertSame($fresh['projects'], $delta['projects']);
    }
}
