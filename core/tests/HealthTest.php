<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Health\Check;
use Reihe\Core\Health\Examination;
use Reihe\Core\Health\Finding;
use Reihe\Core\Health\RedundantLinks;
use Reihe\Core\Health\Thresholds;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\OwnField;
use Reihe\Core\Plan\OwnValue;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;

/** Each check on a small plan that has just what it looks for, by hand. */
final class HealthTest extends TestCase
{
    private const SOUND = ['S' => ['start'], 'A' => [5, 'S'], 'B' => [3, 'A'], 'C' => [4, 'A'], 'Z' => ['finish', 'B C']];

    private const WORKED = ['A' => ['remainingWork' => 60], 'B' => ['remainingWork' => 60], 'C' => ['remainingWork' => 60]];

    /**
     * @return iterable<string, array{Check, array<string, array{float|string, 1?: string}>, array<string, array<string, mixed>>,
     *     list<string>, list<string>, float|null, 6?: array<string, mixed>}> check, rows, more, activities, links, share, project
     */
    public static function findings(): iterable
    {
        yield 'missing predecessor' => [Check::MissingPredecessor, ['A' => [5]] + self::SOUND, [], ['A'], [], 20.0];
        yield 'missing successor' => [Check::MissingSuccessor, ['Z' => ['finish', 'B']] + self::SOUND, [], ['C'], [], 20.0];
        yield 'only a hammock follows' => [Check::MissingSuccessor,
            ['Z' => ['finish', 'B'], 'H' => ['hammock', 'A:SS C:FF']] + self::SOUND, [], ['C'], [], 20.0];
        yield 'dangling start' => [Check::DanglingStart, ['B' => [3, 'A:FF']] + self::SOUND, [], ['B'], [], 20.0];
        yield 'dangling finish' => [Check::DanglingFinish, ['Z' => ['finish', 'B:SS C']] + self::SOUND, [], ['B'], [], 20.0];
        yield 'lead' => [Check::Leads, ['B' => [3, 'A-1']] + self::SOUND, [], ['B'], ['A>B'], 20.0];
        yield 'long lag' => [Check::LongLags, ['B' => [3, 'A+5'], 'C' => [4, 'A+5.5']] + self::SOUND, [], ['C'], ['A>C'], 20.0];
        yield 'half of the links are not finish to start' => [Check::LinkTypes, ['B' => [3, 'A:SS'], 'C' => [4, 'A']] + self::SOUND, [],
            ['B'], ['A>BSS'], 20.0];
        yield 'a pin that lies before its predecessor ends' => [Check::ViolatedLinks, self::SOUND,
            ['B' => ['constraints' => [['kind' => 'start-pin', 'date' => '2026-03-05T08:00']]]], ['B'], ['A>B'], 20.0];
        yield 'a pin that keeps its links' => [Check::ViolatedLinks, self::SOUND,
            ['B' => ['constraints' => [['kind' => 'start-pin', 'date' => '2026-03-09T08:00']]]], [], [], 0.0];
        yield 'redundant link' => [Check::RedundantLinks, ['Z' => ['finish', 'A B C']] + self::SOUND, [], ['Z'], ['A>Z'], 100 / 6];
        yield 'hard constraint' => [Check::HardConstraints, self::SOUND,
            ['B' => ['constraints' => [['kind' => 'finish-no-later', 'date' => '2026-04-01']]],
                'C' => ['constraints' => [['kind' => 'start-no-earlier', 'date' => '2026-03-09']]]], ['B'], [], 20.0];
        yield 'pin' => [Check::HardConstraints, self::SOUND,
            ['B' => ['constraints' => [['kind' => 'start-pin', 'date' => '2026-04-01T08:00']]]], ['B'], [], 20.0];
        yield 'long duration' => [Check::LongDurations, ['B' => [44], 'C' => [44.5]] + self::SOUND, [], ['C'], [], 100 / 3];
        yield 'estimate' => [Check::UnconfirmedEstimates, self::SOUND, ['C' => ['estimate' => true]], ['C'], [], 20.0];
        yield 'no resources' => [Check::ResourcesMissing, self::SOUND, ['C' => ['remainingWork' => null]] + self::WORKED, ['C'], [],
            100 / 3];
        yield 'a cost will do' => [Check::ResourcesMissing, self::SOUND, ['C' => ['cost' => 5]] + self::WORKED, [], [], 0.0];
        yield 'negative float' => [Check::NegativeFloat, self::SOUND, ['C' => ['deadline' => '2026-03-11T17:00']], ['S', 'A', 'C'], [],
            60.0];
        yield 'high float (45, 0 and 44 d)' => [Check::HighFloat,
            ['S' => ['start'], 'A' => [1, 'S'], 'B' => [46, 'S'], 'C' => [2, 'S'], 'Z' => ['finish', 'A B C']], [], ['A'], [], 20.0];
        yield 'unfinished work before the status date' => [Check::InvalidDates, self::SOUND,
            ['B' => ['constraints' => [['kind' => 'start-pin', 'date' => '2026-03-09T08:00']]]], ['B'], [], 20.0,
            6 => ['statusDate' => '2026-03-13T17:00']];
        yield 'no status date, no invalid dates' => [Check::InvalidDates, self::SOUND, [], [], [], null];
        $started = ['actualStart' => '2026-03-05T08:00', 'remaining' => 480];
        yield 'out of sequence' => [Check::OutOfSequence, self::SOUND,
            ['A' => ['actualStart' => '2026-03-02T08:00', 'remaining' => 480], 'B' => $started], ['A', 'B'], ['S>A', 'A>B'], 100.0,
            6 => ['statusDate' => '2026-03-06T17:00']];
        yield 'in sequence' => [Check::OutOfSequence, self::SOUND,
            ['S' => ['actualStart' => '2026-03-02T08:00', 'actualFinish' => '2026-03-02T08:00'],
                'A' => ['actualStart' => '2026-03-02T08:00', 'actualFinish' => '2026-03-04T17:00'], 'B' => $started], [], [], 0.0,
            6 => ['statusDate' => '2026-03-06T17:00']];
        yield 'in sequence, both in the same night' => [Check::OutOfSequence, ['A' => [2], 'B' => [2, 'A']],
            ['A' => ['actualStart' => Made::MONDAY, 'actualFinish' => '2026-03-04T20:00'],
                'B' => ['actualStart' => '2026-03-04T18:00', 'remaining' => 60]], [], [], 0.0, 6 => ['statusDate' => '2026-03-06T17:00']];
    }

    /** Who does it: A electricians, B nobody, C somebody who is away, retired, or of whom nobody knows what they cost. */
    public function test_what_is_found_of_resources(): void
    {
        $named = static function (array $resource, ?array $onB = null): array {
            $plan = Made::plan(self::SOUND);
            $objects = [];
            foreach (EntityKind::cases() as $kind) {
                $objects[$kind->value] = $plan->all($kind);
            }
            $objects['resource'] = ['el' => EntityKind::Resource->read('el', ['key' => 'EL', 'calendar' => 'office', 'rate' => 100]),
                'r' => EntityKind::Resource->read('r', $resource + ['key' => 'R', 'calendar' => 'office', 'rate' => 100])];
            foreach (['A' => ['resource' => 'el'], 'B' => $onB ?? ['resource' => 'el'], 'C' => ['resource' => 'r']] as $on => $fields) {
                $objects['assignment'][$on] = EntityKind::Assignment->read("w{$on}", ['activity' => $on, 'remainingWork' => 60] + $fields);
            }
            $objects['assignment'] = array_combine(array_map(static fn ($a): string => $a->uid, $objects['assignment']),
                $objects['assignment']);
            $found = [];
            foreach (Examination::of(Schedule::of(Plan::from($objects)), 'P') as $f) {
                if ($f->activities !== [] && in_array($f->check, [Check::UnnamedWork, Check::AwayResources, Check::RetiredResources,
                    Check::MissingRates], true)) {
                    self::assertSame(3, $f->population);
                    $found[$f->check->value] = $f->activities;
                }
            }

            return $found;
        };
        self::assertSame([], $named([]));
        self::assertSame(['unnamed-work' => ['B']], $named([], []));
        self::assertSame(['retired-resources' => ['C']], $named(['retired' => true]));
        self::assertSame(['missing-rates' => ['C']], $named(['rate' => null]));
        self::assertSame([], $named(['rate' => null, 'rates' => [['from' => '2026-03-01T00:00', 'rate' => 5]]]));
        self::assertSame(['away-resources' => ['C']], $named(['from' => '2026-04-01T08:00'])); // C is 9 to 12 March
        self::assertSame(['away-resources' => ['C']], $named(['units' => 0]));
        self::assertSame([], $named(['to' => '2026-03-11T12:00']), 'there for a part of it');
    }

    /**
     * @param  array<string, array{float|string, 1?: string}>  $rows
     * @param  array<string, array<string, mixed>>  $more
     * @param  list<string>  $activities
     * @param  list<string>  $links
     * @param  array<string, mixed>  $project
     */
    #[DataProvider('findings')]
    public function test_what_a_check_finds(Check $check, array $rows, array $more, array $activities, array $links, ?float $share,
        array $project = []): void
    {
        $finding = self::find(Schedule::of(Made::plan($rows, $more, $project)), $check);
        self::assertSame([$activities, $links], [$finding->activities, $finding->links]);
        self::assertEqualsWithDelta($share, $finding->value, 1e-3);
        self::assertSame($share === null ? null : $share <= $check->limit(), $finding->fine);
        self::assertSame($links !== [] && $check !== Check::OutOfSequence ? count($links) : count($activities), $finding->count);
    }

    public function test_a_sound_plan_is_fine(): void
    {
        foreach (Examination::of(Schedule::of(Made::plan(self::SOUND, self::WORKED)), 'P') as $finding) {
            self::assertNotFalse($finding->fine, $finding->check->value);
        }
    }

    public function test_the_end_follows_the_start_of_the_longest_path(): void
    {
        $path = static fn (array $more): Finding => self::find(Schedule::of(Made::plan(self::SOUND, $more)), Check::PathContinuity);
        self::assertSame([1.0, true, []], [$path([])->value, $path([])->fine, $path([])->activities]);
        // pinned to 10–13 March, C ends the plan but nothing drives it any more: the path begins with C, and C does not move
        $broken = $path(['C' => ['constraints' => [['kind' => 'start-pin', 'date' => '2026-03-10T08:00']]]]);
        self::assertSame([0.0, false, ['C']], [$broken->value, $broken->fine, $broken->activities]);
        $held = $path(['Z' => ['constraints' => [['kind' => 'finish-pin', 'date' => '2026-03-13T17:00']]]]);
        self::assertSame([0.0, false, ['Z']], [$held->value, $held->fine, $held->activities]);
        // A has begun, so its start decides nothing any more: the path ahead begins with B, which its end follows
        $begun = self::find(Schedule::of(Made::plan(['A' => [3], 'B' => [9, 'A:SS+1'], 'C' => [1, 'A B']],
            ['A' => ['actualStart' => Made::MONDAY, 'remaining' => 480]], ['statusDate' => Made::MONDAY])), Check::PathContinuity);
        self::assertSame([1.0, true], [$begun->value, $begun->fine]);
        $alone = self::find(Schedule::of(Made::plan(['A' => [5], 'B' => [2]],
            ['A' => ['constraints' => [['kind' => 'start-pin', 'date' => '2026-03-10T08:00']]]])), Check::PathContinuity);
        self::assertSame([0.0, false, ['A']], [$alone->value, $alone->fine, $alone->activities]);
    }

    /** The path begins in another project, whose pinned start does not move: the finding names what lies in the project examined. */
    public function test_a_broken_path_is_named_where_the_project_has_a_part_in_it(): void
    {
        $project = ['calendar' => 'office', 'start' => Made::MONDAY];
        $plan = Plan::of([Calendar::weekly('office', 'OFFICE', '08:00-16:00'),
            Project::read('p', ['key' => 'P', 'name' => 'P'] + $project), Project::read('q', ['key' => 'Q', 'name' => 'Q'] + $project),
            Activity::read('a', ['project' => 'p', 'code' => 'A', 'duration' => 960,
                'constraints' => [['kind' => 'start-pin', 'date' => '2026-03-10T08:00']]]),
            Activity::read('b', ['project' => 'q', 'code' => 'B', 'duration' => 480]), Link::read('l', ['from' => 'a', 'to' => 'b'])]);
        self::assertSame([0.0, ['b']], [self::find(Schedule::of($plan), Check::PathContinuity, project: 'q')->value,
            self::find(Schedule::of($plan), Check::PathContinuity, project: 'q')->activities]);
    }

    /** 20 d from the status date to the end; the deadline 2 d before gives (20 − 2) ÷ 20, 3 d after (20 + 3) ÷ 20. */
    public function test_critical_path_length_index(): void
    {
        $index = static fn (array $project): Finding => self::find(Schedule::of(Made::plan(['A' => [20]], [],
            $project + ['statusDate' => Made::MONDAY])), Check::PathLengthIndex);
        self::assertSame([0.9, false, ['A']],
            [$index(['deadline' => '2026-03-25T17:00'])->value, $index(['deadline' => '2026-03-25T17:00'])->fine,
                $index(['deadline' => '2026-03-25T17:00'])->activities]);
        self::assertSame([1.15, true], [$index(['deadline' => '2026-04-01T17:00'])->value,
            $index(['deadline' => '2026-04-01T17:00'])->fine]);
        self::assertNull($index([])->fine);
    }

    /** The baseline finishes A, B and C by 11 March; A is done late, B in time, C not at all, and D ahead of its time: 3 of 3. */
    public function test_missed_dates_and_the_execution_index(): void
    {
        $rows = ['A' => [2], 'B' => [4], 'C' => [8], 'D' => [12], 'M' => ['finish', 'B']];
        $before = Schedule::of(Made::plan($rows));
        $baseline = Baseline::take($before, RollUp::of($before), 'P', 'b', 'B', 0);
        $done = static fn (string $finish): array => ['actualStart' => Made::MONDAY, 'actualFinish' => $finish];
        $status = ['statusDate' => '2026-03-11T17:00'];
        $all = Schedule::of(Made::plan($rows,
            ['A' => $done('2026-03-04T17:00'), 'B' => $done('2026-03-05T17:00'), 'D' => $done('2026-03-11T17:00')], $status));
        self::assertSame([['A', 'C'], 66.6667],
            [self::find($all, Check::MissedBaseline, $baseline)->activities, self::find($all, Check::MissedBaseline, $baseline)->value]);
        self::assertSame([1.0, true], [self::find($all, Check::ExecutionIndex, $baseline)->value,
            self::find($all, Check::ExecutionIndex, $baseline)->fine]);
        $few = Schedule::of(Made::plan($rows, ['A' => $done('2026-03-04T17:00')], $status));
        self::assertSame([0.3333, ['B', 'C']],
            [self::find($few, Check::ExecutionIndex, $baseline)->value, self::find($few, Check::ExecutionIndex, $baseline)->activities]);
        self::assertNull(self::find($few, Check::ExecutionIndex)->fine);
    }

    /** Five values of a text field that became a date while they were typed: the one that is no date is found, and nothing else. */
    public function test_values_that_do_not_fit_their_field_any_more_are_found(): void
    {
        $own = static fn (string $type): array => [OwnField::read('f', ['key' => 'delivered', 'name' => 'Delivered', 'type' => $type,
            'scope' => 'activity']),
            ...array_map(static fn (string $a, string $value): OwnValue => OwnValue::read("v{$a}",
                ['project' => 'P', 'activity' => $a, 'field' => 'f', 'value' => $value]),
                ['A', 'B', 'C', 'S', 'Z'], ['2026-03-02T08:00', 'hello', '2026-03-04T08:00', '2026-03-05T08:00', '2026-03-06T08:00'])];
        $find = static fn (string $type): Finding => self::find(Schedule::of(Plan::of(
            [...array_merge(...array_map('array_values', array_map(Made::plan(self::SOUND)->all(...), EntityKind::cases()))),
                ...$own($type)])),
            Check::MisfitValues);
        self::assertSame([[], 0.0, true], [$find('text')->activities, $find('text')->value, $find('text')->fine]);
        self::assertSame([['B'], 20.0, false], [$find('date')->activities, $find('date')->value, $find('date')->fine]);
    }

    public function test_unfinished_handovers_want_an_agreed_date(): void
    {
        $project = ['calendar' => 'office', 'start' => Made::MONDAY];
        $plan = Plan::of([Calendar::weekly('office', 'OFFICE', '08:00-17:00'),
            Project::read('p', ['key' => 'P', 'name' => 'P'] + $project), Project::read('q', ['key' => 'Q', 'name' => 'Q'] + $project),
            Activity::read('a', ['project' => 'p', 'code' => 'A', 'duration' => 60]),
            Activity::read('b', ['project' => 'q', 'code' => 'B', 'duration' => 60]),
            Activity::read('c', ['project' => 'q', 'code' => 'C', 'duration' => 60]),
            Link::read('l', ['from' => 'a', 'to' => 'b']), Link::read('m', ['from' => 'a', 'to' => 'c', 'agreed' => '2026-03-03'])]);
        foreach (['p' => ['a'], 'q' => ['b']] as $uid => $activities) {
            $finding = self::find(Schedule::of($plan), Check::UnagreedHandovers, project: $uid);
            self::assertSame([['l'], $activities, 50.0, false], [$finding->links, $finding->activities, $finding->value, $finding->fine]);
        }
    }

    /** A link is redundant exactly when taking it out leaves every pair in order that was in order before (reachability, by trial). */
    public function test_redundant_links_by_trial(): void
    {
        $found = 0;
        for ($seed = 1; $seed <= 20; $seed++) {
            $plan = RandomPlan::make($seed, 1, 25, 2.5, milestones: false);
            $n = Schedule::of($plan)->network;
            $redundant = (new RedundantLinks($n))->among(array_keys($n->from));
            $next = [];
            foreach ($plan->links as $uid => $link) {
                if ($link->type->value === 'FS' && $link->lag >= 0) {
                    $next[$link->from][$uid] = $link->to;
                }
            }
            foreach ($n->linkUid as $k => $uid) {
                $link = $plan->links[$uid];
                $without = $next;
                unset($without[$link->from][$uid]);
                $seen = [];
                for ($queue = [$link->from]; ($at = array_pop($queue)) !== null;) {
                    foreach ($without[$at] ?? [] as $to) {
                        if (! isset($seen[$to])) {
                            $seen[$to] = true;
                            $queue[] = $to;
                        }
                    }
                }
                self::assertSame($link->type->value === 'FS' && $link->lag === 0 && isset($seen[$link->to]), isset($redundant[$k]),
                    "seed {$seed}, {$uid}");
                $found += isset($redundant[$k]) ? 1 : 0;
            }
        }
        self::assertGreaterThan(20, $found);
    }

    public function test_thresholds_are_adjustable(): void
    {
        $schedule = Schedule::of(Made::plan(['B' => [3, 'A+5'], 'C' => [4, 'A+5.5']] + self::SOUND));
        $finding = self::find($schedule, Check::LongLags, thresholds: Thresholds::read(['long-lags' => ['days' => 4.0, 'limit' => 50]]));
        self::assertSame([['A>B', 'A>C'], 40.0, true, 4.0, 50.0],
            [$finding->links, $finding->value, $finding->fine, $finding->days, $finding->limit]);
        foreach (['nothing' => [], 'leads' => ['days' => 4], 'long-lags' => ['limit' => 101],
            'high-float' => ['share' => 1]] as $check => $item) {
            try {
                Thresholds::read([$check => $item]);
                self::fail("{$check} was taken");
            } catch (InvalidField $e) {
                self::assertStringStartsWith($check, $e->field);
            }
        }
    }

    /** Every check of the catalogue is tried by a case that it finds; none can be added without one. */
    public function test_every_check_is_tried(): void
    {
        $shares = array_unique(array_map(static fn (array $case): string => $case[0]->value,
            array_filter(iterator_to_array(self::findings()), static fn (array $case): bool => $case[3] !== [])));
        $elsewhere = [Check::MissedBaseline, Check::UnagreedHandovers, Check::PathContinuity, Check::PathLengthIndex,
            Check::ExecutionIndex, Check::MisfitValues, Check::UnnamedWork, Check::AwayResources, Check::RetiredResources,
            Check::MissingRates];
        self::assertEqualsCanonicalizing(array_map(static fn (Check $c): string => $c->value, Check::cases()),
            [...$shares, ...array_map(static fn (Check $c): string => $c->value, $elsewhere)]);
    }

    /**
     * The giver works on Saturdays: G ends Saturday 7 March at 12:00, M is pinned to Friday evening. No working minute of M's
     * office calendar lies between, so its float is 0; asked for in moments, the pin is 19 hours too early.
     */
    public function test_a_pin_violated_by_closing_time_alone_is_found_with_the_elapsed_time(): void
    {
        $plan = Made::plan(['G' => [6], 'M' => ['finish', 'G']],
            ['G' => ['calendar' => 'dock', 'duration' => 6 * 720 - 8 * 60],
                'M' => ['constraints' => [['kind' => 'finish-pin', 'date' => '2026-03-06T17:00']]]]);
        $schedule = Schedule::of($plan);
        self::assertSame('2026-03-07T12:00', \Reihe\Core\Time\Instant::format($schedule->activity('G')->earlyFinish));
        $finding = self::find($schedule, Check::ViolatedLinks);
        self::assertSame([['M'], ['G>M'], ['G>M' => 19 * 60]], [$finding->activities, $finding->links, $finding->elapsed]);
    }

    private static function find(Schedule $schedule, Check $check, ?Baseline $baseline = null, Thresholds $thresholds = new Thresholds,
        string $project = 'P'): Finding
    {
        foreach (Examination::of($schedule, $project, $baseline, $thresholds) as $finding) {
            if ($finding->check === $check) {
                return $finding;
            }
        }
        self::fail('the check is missing');
    }
}
