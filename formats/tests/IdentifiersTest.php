<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\Uid;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Tests\RandomPlan;
use Reihe\Core\Time\Instant;
use Reihe\Formats\PlanXml\PlanXmlReader;
use Reihe\Formats\PlanXml\PlanXmlWriter;
use Reihe\Formats\Report\HealthReport;
use Reihe\Formats\Report\ScheduleReport;
use Reihe\Formats\Report\TraceReport;
use Reihe\Formats\Todo\IcsReader;
use Reihe\Formats\Todo\IcsWriter;
use Reihe\Formats\Todo\TodoMapper;
use Reihe\Formats\Todo\TodoReader;
use Reihe\Formats\Todo\XCalReader;
use Reihe\Formats\Todo\XCalWriter;

/** Whatever the objects of a file are called, it holds the same plan with the same dates, and everything can be asked of it. */
final class IdentifiersTest extends TestCase
{
    /** @return iterable<string, array{callable(int): string, string}> nth name, format */
    public static function styles(): iterable
    {
        $styles = [
            'digits' => static fn (int $n): string => (string) $n,
            'negative digits and long ones' => static fn (int $n): string => $n % 2 === 0 ? "-{$n}" : "9999999999999999999{$n}",
            'one letter, in both cases' => static fn (int $n): string => $n < 52 ? (string) chr(($n < 26 ? 97 : 39) + $n) : "z{$n}",
            'differing in case' => static fn (int $n): string => $n % 2 === 0 ? 'item'.intdiv($n, 2) : 'ITEM'.intdiv($n, 2),
            'not ASCII' => static fn (int $n): string => "Möwe-{$n}-🚢",
            '64 characters' => static fn (int $n): string => str_pad("x{$n}", 64, '.-_@'),
            '200 characters' => static fn (int $n): string => str_pad("y{$n}", 200, 'ab'),
        ];
        foreach ($styles as $name => $style) {
            foreach (['plan-xml', 'icalendar', 'xcal'] as $format) {
                yield "{$name}, {$format}" => [$style, $format];
            }
        }
    }

    /** @param  callable(int): string  $style */
    #[DataProvider('styles')]
    public function test_the_plan_is_the_same(callable $style, string $format): void
    {
        $plan = RandomPlan::make(4, 3, 8, typed: true);
        $schedule = Schedule::of($plan);
        $file = match ($format) {
            'plan-xml' => PlanXmlWriter::write($plan),
            'icalendar' => str_replace("\r\n ", '', IcsWriter::write(TodoMapper::map($schedule), '20260327T080000Z')),
            default => XCalWriter::write(TodoMapper::map($schedule), '2026-03-27T08:00:00Z'),
        };
        $names = [];
        foreach (EntityKind::cases() as $kind) {
            foreach (array_keys($plan->all($kind)) as $uid) {
                $names[(string) $uid] = $style(count($names));
            }
        }
        $file = (string) preg_replace_callback('/(?<![\w-])('.implode('|', array_map(preg_quote(...), array_keys($names))).')(?![\w-])/',
            static fn (array $m): string => $names[$m[1]], $file);
        $read = match ($format) {
            'plan-xml' => PlanXmlReader::read($file)->plan,
            'icalendar' => self::todos(IcsReader::read($file)),
            default => self::todos(XCalReader::read($file)),
        };
        foreach (EntityKind::cases() as $kind) {
            self::assertCount(count($plan->all($kind)), $read->all($kind), $kind->value);
            foreach (array_keys($read->all($kind)) as $uid) {
                self::assertTrue(Uid::isSound((string) $uid));
            }
        }
        $again = Schedule::of($read);
        self::assertEquals(Results::of($schedule), Results::of($again));
        self::assertNotSame('', ScheduleReport::table($again).HealthReport::text($again));
        foreach (array_slice(array_keys($read->activities), 0, 5) as $uid) {
            TraceReport::text($again, $uid);
            TraceReport::paths($again, $uid);
        }
    }

    private static function todos(\Reihe\Formats\Todo\Todos $todos): Plan
    {
        return TodoReader::read($todos, new Project('foreign', 'SUPPLY', 'Supplier', null, 'office', Instant::parse('2026-03-02T08:00')),
            RandomPlan::calendars())[0];
    }
}
