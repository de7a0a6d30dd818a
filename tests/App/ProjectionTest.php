<?php

declare(strict_types=1);

namespace Tests\App;

use App\Access\Reach;
use App\Board\BoardQuery;
use App\Board\BoardTable;
use App\Board\PlanRows;
use App\Board\Projection;
use App\Models\User;
use App\Planning\Connected;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use PHPUnit\Framework\Attributes\TestWith;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\FieldType;

/** A board shows a plan in memory exactly as it shows the stored one; the preview of an import is the first to use it. */
final class ProjectionTest extends TestCase
{
    use EveryObject;

    /** @param  list<string>  $keys */
    #[TestWith(['ilse', ['GRID', 'OSTV', 'LYNG', 'TERN', 'GANN', 'CREW']])]
    #[TestWith(['ilse', ['TERN']])]
    #[TestWith(['ilse', ['GRID', 'CREW']])]
    #[TestWith(['aino', ['TERN', 'GANN']])]
    #[TestWith(['noor', ['TERN']])]
    #[TestWith(['wen', ['OSTV']])]
    public function test_stored_and_in_memory_are_the_same_for_everybody(string $who, array $keys): void
    {
        $this->fill();
        $reach = Reach::of($this->person($who));
        $ids = $reach->projectsByKey($keys);
        $stored = (new BoardQuery($reach, $ids))->all();
        unset($stored['variances']);
        $connected = Connected::with($ids);
        $uids = DB::table('projects')->whereIn('id', $ids)->pluck('uid')->all();
        $memory = (new Projection(new PlanRows($connected->schedule, $uids, $reach, $connected->revisions), $reach))->all();
        self::assertSame(array_keys($stored), array_keys($memory));
        foreach ($stored as $kind => $columns) {
            self::assertSame(self::rows($kind, $columns), self::rows($kind, $memory[$kind]), $kind);
        }
    }

    /** An operation says what its author saw: of every field that somebody may write on a board, but for these. */
    public function test_every_field_that_is_written_is_seen(): void
    {
        $seen = [];
        foreach (BoardTable::cases() as $table) {
            foreach ($table->columns() as $column) {
                $seen[$table->kind()->value][(string) $column->seen] = true;
            }
        }
        $unseen = [];
        foreach ($seen as $kind => $fields) {
            foreach (array_diff_key(EntityKind::from($kind)->fields(), $fields) as $name => $field) {
                $unseen[] = "{$kind}.{$name}";
            }
        }
        // told with the branches above it, of fragments, in four columns (seen.ts puts them together), and what comes from outside
        self::assertEqualsCanonicalizing(['project.archived', 'project.home', 'activity.constraints', 'activity.outsideStart',
            'activity.outsideFinish', 'activity.source', 'activity.asOf'], $unseen);
    }

    /** Every column has something in it somewhere, so that equal does not mean empty. */
    public function test_the_plans_of_this_test_fill_every_column(): void
    {
        $this->fill();
        $reach = Reach::of($this->person('ilse'));
        $all = (new BoardQuery($reach, $reach->projectsByKey(['GRID', 'OSTV', 'TERN', 'GANN', 'CREW', 'MILL', 'RACK'])))->all();
        $empty = [];
        foreach ($all as $kind => $columns) {
            foreach ($kind === 'calendars' ? [] : $columns as $name => $values) {
                $values = $kind === 'projects' ? array_values($values) : $values;
                if (array_filter($values, static fn (mixed $v): bool => $v !== null && $v !== []) === []) {
                    $empty[] = "{$kind}.{$name}";
                }
            }
        }
        self::assertSame([], $empty);
    }

    public function test_a_file_is_seen_on_the_board_before_it_is_applied_as_it_is_afterwards(): void
    {
        $this->actingAs($this->person('ilse'));
        $uid = $this->import()->json('changeSet');
        $count = DB::table('activities')->count();
        $before = $this->getJson("/api/v1/changes/{$uid}/board")->assertOk()->json('board');
        self::assertSame($count, DB::table('activities')->count());
        self::assertSame([false], array_values(array_unique(array_column($before['projects'], 'mayPlan'))));
        $this->postJson("/api/v1/changes/{$uid}/apply")->assertOk();
        $after = $this->getJson('/api/v1/board?projects=RACK,MILL')->assertOk()->json();
        foreach (['wbs', 'activities', 'efforts', 'outside', 'links', 'handovers', 'far'] as $kind) {
            self::assertSame(self::rows($kind, $after[$kind]), self::rows($kind, $before[$kind]), $kind);
        }
        self::assertSame(array_column($after['projects'], 'finish'), array_column($before['projects'], 'finish'));
        $this->getJson("/api/v1/changes/{$uid}/board")->assertStatus(409);
    }

    public function test_what_is_left_of_a_proposal_is_shown_to_those_who_may_decide(): void
    {
        $this->actingAs($this->person('ilse'));
        $uid = $this->import()->json('changeSet');
        $this->postJson("/api/v1/changes/{$uid}/decide", ['projects' => [\Reihe\Core\Plan\Uid::of('4711')]])->assertOk();
        self::assertSame(['MILL', 'RACK'], $this->getJson("/api/v1/changes/{$uid}/board")->assertOk()->json('board.projects.*.key'));
        $this->actingAs($this->person('aino'));
        $this->getJson("/api/v1/changes/{$uid}/board")->assertStatus(404);
    }

    /** @return \Illuminate\Testing\TestResponse<\Symfony\Component\HttpFoundation\Response> */
    private function import(): \Illuminate\Testing\TestResponse
    {
        return $this->post('/api/v1/exchange/import', ['branch' => $this->branch('Archive'),
            'file' => UploadedFile::fake()->createWithContent('racks.xml', OutsideProjectsTest::FILE)], ['Accept' => 'application/json'])
            ->assertCreated();
    }

    private function fill(): void
    {
        $this->actingAs(User::query()->where('email', 'ilse@varnsund.example')->firstOrFail());
        $this->postJson('/api/v1/changes/'.$this->import()->json('changeSet').'/apply')->assertOk();
        $this->change([
            self::update('activity', 'act-tern-tr-0030', ['deadline' => '2027-05-01T12:00', 'calendar' => 'cal-dock',
                'constraints' => [['kind' => 'start-no-earlier', 'date' => '2027-03-01T08:00'],
                    ['kind' => 'finish-no-later', 'date' => '2027-09-01T08:00']]]),
            self::update('wbs', 'wbs-tern-tr', ['deadline' => '2027-06-01T12:00']),
            self::made('wbs', 'inner', ['project' => 'prj-TERN', 'parent' => 'wbs-tern-tr', 'name' => 'Inner']),
            self::update('project', 'prj-TERN', ['lead' => 'Noor', 'criticalBy' => 'longest-path']),
            self::update('activity', 'act-tern-el-0030',
                ['keeps' => 'work', 'suspend' => '2026-11-24T12:00', 'resume' => '2026-12-01T08:00', 'percentBy' => 'physical',
                    'physicalPercent' => 12.5]),
            self::update('activity', self::TASK, array_filter(self::VALUES['activity'][self::TASK],
                static fn (mixed $value, string $field): bool => ! is_array($value)
                    && EntityKind::Activity->fields()[$field]->type === FieldType::Text, ARRAY_FILTER_USE_BOTH)),
            self::update('link', (string) DB::table('links')->where('handover', 0)->orderBy('id')->value('uid'),
                ['lagCalendar' => 'elapsed', 'lag' => 60]),
        ])->assertOk();
    }

    /**
     * @param  array<array-key, mixed>  $columns
     * @return array<array-key, mixed> rows by uid
     */
    private static function rows(string $kind, array $columns): array
    {
        if ($kind === 'projects' || $kind === 'calendars') {
            $rows = array_combine(array_column($columns, 'uid'), json_decode((string) json_encode($columns), true));
        } else {
            $rows = [];
            foreach ($columns['uid'] as $at => $uid) {
                $rows[$uid] = array_map(static fn (array $column): mixed => $column[$at], $columns);
            }
        }
        ksort($rows);

        return $rows;
    }
}
