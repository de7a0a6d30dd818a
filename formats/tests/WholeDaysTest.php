<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Calendar\DayEdge;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\Operation;
use Reihe\Core\Pasting\PastedRows;
use Reihe\Core\Pasting\PasteWish;
use Reihe\Core\Pasting\TypedDate;
use Reihe\Core\Plan\ConstraintKind;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\FieldType;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\WholeDays;
use Reihe\Core\Tests\Made;
use Reihe\Core\Time\Instant;
use Reihe\Formats\PlanXml\PlanXmlReader;
use Reihe\Formats\PlanXml\PlanXmlWriter;

/** A date without an hour: the first working minute of its day for a start, the last for everything that ends or is due. */
final class WholeDaysTest extends TestCase
{
    /** calendar => a working day, what it begins and ends with, a day off */
    private const CALENDARS = ['office' => ['2026-03-04', '08:00', '17:00', '2026-03-07'], 'dock' => ['2026-03-07', '00:00', '12:00', null],
        'late' => ['2026-03-04', '14:00', '24:00', '2026-03-07']];

    /** @return iterable<string, array{string}> */
    public static function calendars(): iterable
    {
        foreach (array_keys(self::CALENDARS) as $uid) {
            yield $uid => [$uid];
        }
    }

    /** Every moment of the catalogue that somebody types has an edge; a new one without is seen here. */
    public function test_every_typed_moment_says_which_edge_of_its_day_it_is(): void
    {
        $without = [];
        foreach (EntityKind::cases() as $kind) {
            foreach ($kind->fields() as $name => $field) {
                $field->type !== FieldType::Moment || $field->edge !== null ?: $without[] = "{$kind->value}.{$name}";
            }
        }
        self::assertSame(['activity.asOf', 'remark.written'], $without, 'stamps of the clock');
    }

    #[DataProvider('calendars')]
    public function test_every_field_at_every_door_means_the_same(string $calendar): void
    {
        [$day, $begin, $end, $off] = self::CALENDARS[$calendar];
        $axis = new WorkAxis(self::plan($calendar)->calendars[$calendar], self::plan($calendar)->calendars);
        $moments = static fn (string $day, ?string $begin, ?string $end): array => ['first' => $begin === null ? "{$day}T00:00"
            : "{$day}T{$begin}",
            'last' => Instant::format(Instant::parse("{$day}T".($end ?? '24:00')))];
        foreach (array_filter([[$day, $moments($day, $begin, $end)], $off === null ? null : [$off,
            $moments($off, null, null)]]) as [$date, $expected]) {
            foreach (EntityKind::cases() as $kind) {
                foreach (WholeDays::edges($kind) as $name => $edge) {
                    self::assertSame($expected[$edge->value], WholeDays::timed($kind, [$name => $date],
                        static fn (): WorkAxis => $axis)[$name]);
                    $uid = ['project' => 'P', 'wbs' => 'W', 'activity' => 'B', 'link' => 'A>B', 'resource' => 'R'][$kind->value];
                    if (in_array($name, ['outsideStart', 'outsideFinish', 'actualStart', 'actualFinish', 'suspend', 'resume'], true)) {
                        continue; // belong together; seen in the next test
                    }
                    // the API and everything else that sends operations
                    $after = ChangeSet::apply(self::plan($calendar), [Operation::update($kind, $uid, [$name => $date])])->plan;
                    self::assertSame($expected[$edge->value], $after->find($kind, $uid)?->fields()[$name], "{$kind->value}.{$name}");
                    // a stranger’s file
                    $xml = str_replace("=\"{$expected[$edge->value]}\"", "=\"{$date}\"", PlanXmlWriter::write($after), $count);
                    self::assertGreaterThan(0, $count);
                    $read = PlanXmlReader::read($xml)->plan;
                    $there = $kind === EntityKind::Link ? array_values($read->links)[0] : $read->find($kind, $uid);
                    self::assertSame($expected[$edge->value], $there?->fields()[$name], "{$kind->value}.{$name} in a file");
                }
            }
            foreach (ConstraintKind::cases() as $kind) {
                if ($kind->needsDate()) {
                    $after = ChangeSet::apply(self::plan($calendar), [Operation::update(EntityKind::Activity, 'B',
                        ['constraints' => [['kind' => $kind->value, 'date' => $date]]])])->plan;
                    $expect = [['kind' => $kind->value, 'date' => $expected[$kind->isOnStart() ? 'first' : 'last']]];
                    self::assertSame($expect, $after->activities['B']->fields()['constraints']);
                    $xml = str_replace("date=\"{$expect[0]['date']}\"", "date=\"{$date}\"", PlanXmlWriter::write($after));
                    self::assertSame($expect, PlanXmlReader::read($xml)->plan->activities['B']->fields()['constraints']);
                }
            }
            self::assertSame($expected, ['first' => Instant::format((int) TypedDate::read($date, DayEdge::First, $axis)),
                'last' => Instant::format((int) TypedDate::read($date, DayEdge::Last, $axis))]);
        }
    }

    #[DataProvider('calendars')]
    public function test_pasted_rows_mean_the_hours_of_the_calendar(string $calendar): void
    {
        [$day, $begin, $end] = self::CALENDARS[$calendar];
        $plan = ChangeSet::apply(self::plan($calendar),
            [Operation::update(EntityKind::Project, 'P', ['statusDate' => '2026-12-01T08:00'])])->plan;
        $rows = PastedRows::of($plan, new PasteWish('P', hold: true),
            "Name\tStart\tDeadline\tActual start\tActual finish\nOne\t{$day}\t{$day}\t\t\nTwo\t\t\t{$day}\t{$day}");
        $made = array_values(array_filter(array_map(static fn (Operation $o): array => $o->kind === EntityKind::Activity ? $o->after ?? []
            : [],
            $rows->operations)));
        $last = Instant::format(Instant::parse("{$day}T{$end}"));
        self::assertSame(["{$day}T{$begin}", $last, "{$day}T{$begin}", $last], [$made[0]['constraints'][0]['date'], $made[0]['deadline'],
            $made[1]['actualStart'], $made[1]['actualFinish']]);
    }

    public function test_what_is_no_date_or_has_an_hour_stays_as_it_is(): void
    {
        $axis = new WorkAxis(self::plan('office')->calendars['office'], self::plan('office')->calendars);
        foreach (['2026-02-30', 'soon', '', '2026-03-04T09:15', '2026-03-04 00:00', '1889-01-01'] as $text) {
            self::assertSame($text, WholeDays::moment($text, DayEdge::Last, $axis), $text);
        }
        self::assertSame('2099-12-31T17:00', WholeDays::moment('2099-12-31', DayEdge::Last, $axis));
        self::assertSame('2099-12-31T23:59', WholeDays::moment('2099-12-31', DayEdge::Last, null), 'the last minute that there is');
        self::assertSame(Instant::parse('2026-03-05T00:00'), TypedDate::read('2026-03-04 24:00', DayEdge::First, $axis));
        foreach (['2026-03-04 24:01', '2026-03-04 25:00', '2026-03-04 09:60'] as $text) {
            self::assertNull(TypedDate::read($text, DayEdge::First, $axis), $text);
        }
    }

    /** Activities A and B on one calendar, a link between them, an element above. */
    private static function plan(string $calendar): Plan
    {
        $plan = Made::plan(['A' => [2], 'B' => [2, 'A']], ['A' => ['calendar' => $calendar],
            'B' => ['calendar' => $calendar, 'wbs' => 'W']]);
        $objects = [];
        foreach (EntityKind::cases() as $kind) {
            $objects[$kind->value] = $plan->all($kind);
        }
        $objects['calendar']['late'] = Calendar::weekly('late', 'LATE', '14:00-24:00');
        $objects['wbs']['W'] = EntityKind::Wbs->read('W', ['project' => 'P', 'code' => 'W', 'name' => 'W']);
        $objects['resource']['R'] = EntityKind::Resource->read('R', ['key' => 'R', 'calendar' => $calendar]);
        $objects['project']['P'] = EntityKind::Project->read('P', ['calendar' => $calendar] + $objects['project']['P']->fields());

        return Plan::from($objects);
    }
}
