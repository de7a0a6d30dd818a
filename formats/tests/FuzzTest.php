<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\PlanCheck;
use Reihe\Core\Plan\Project;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Tests\RandomPlan;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\Zone;
use Reihe\Formats\FormatError;
use Reihe\Formats\PlanXml\Hierarchy;
use Reihe\Formats\PlanXml\PlanXmlReader;
use Reihe\Formats\PlanXml\PlanXmlWriter;
use Reihe\Formats\PlanXml\Told;
use Reihe\Formats\Todo\IcsReader;
use Reihe\Formats\Todo\IcsWriter;
use Reihe\Formats\Todo\JCalReader;
use Reihe\Formats\Todo\TodoMapper;
use Reihe\Formats\Todo\TodoReader;
use Reihe\Formats\Todo\Todos;
use Reihe\Formats\Todo\XCalReader;
use Reihe\Formats\Todo\XCalWriter;
use Sabre\VObject\Component\VCalendar;

/** Files with something wrong in them are read or refused with a place, whatever is wrong. REIHE_ROUNDS=700 runs the bar. */
final class FuzzTest extends TestCase
{
    #[TestWith(['plan-xml'])]
    #[TestWith(['icalendar'])]
    #[TestWith(['xcal'])]
    #[TestWith(['jcal'])]
    #[TestWith(['foreign'])]
    public function test_mutated_files_end_in_a_plan_or_in_an_error_with_a_place(string $format): void
    {
        $rounds = (int) (getenv('REIHE_ROUNDS') ?: 120);
        $random = new Randomizer(new Mt19937(crc32($format)));
        $foreign = glob(__DIR__.'/foreign/*') ?: [];
        set_error_handler(static fn (int $level, string $why, string $file, int $line): never => throw new \ErrorException(
            "{$why} ({$file}:{$line})"), E_WARNING | E_NOTICE | E_USER_WARNING); // nothing may come into the log
        try {
            [$read, $refused] = $this->rounds($format, $rounds, $random, $foreign);
        } finally {
            restore_error_handler();
        }
        self::assertGreaterThan(0, $read);
        self::assertGreaterThan($format === 'foreign' ? 3 : $rounds / 4, $refused);
    }

    /**
     * @param  list<string>  $foreign
     * @return array{int, int}
     */
    private function rounds(string $format, int $rounds, Randomizer $random, array $foreign): array
    {
        $read = $refused = 0;
        for ($round = 0; $round < $rounds; $round++) {
            $plan = $round % 3 === 0 && $format !== 'plan-xml' ? FilledPlan::make($round % 9 + 1)
                : RandomPlan::make($round % 7 + 1, 2, 6, typed: true);
            $todos = in_array($format, ['plan-xml', 'foreign'], true) ? new Todos : TodoMapper::map(Schedule::of($plan));
            $file = match ($format) {
                'plan-xml' => $round % 2 === 0 ? PlanXmlWriter::write($plan) : self::everything($round),
                'icalendar' => IcsWriter::write($todos, '20260327T080000Z'),
                'jcal' => IcsWriter::json($todos, '20260327T080000Z'),
                'foreign' => (string) file_get_contents($foreign[$round % count($foreign)]),
                default => XCalWriter::write($todos, '2026-03-27T08:00:00Z'),
            };
            for ($i = $random->getInt(1, 3); $i > 0; $i--) {
                $file = Mutations::mutate($file, $random);
            }
            $began = hrtime(true);
            try {
                $this->open($format, $file);
                $read++;
            } catch (FormatError $e) {
                $refused++;
                self::assertNotNull($e->fileLine, "round {$round}: {$e->getMessage()}");
                self::assertLessThan(700, mb_strlen($e->getMessage()), "round {$round}");
                self::assertTrue(mb_check_encoding($e->getMessage(), 'UTF-8'), "round {$round}");
            }
            self::assertLessThan(5e9, hrtime(true) - $began, "round {$round} hangs");
        }

        return [$read, $refused];
    }

    /** A plan with every kind of object, computed dates and a baseline. */
    private static function everything(int $round): string
    {
        $plan = FilledPlan::make($round % 9 + 1);
        $schedule = Schedule::of($plan);

        return PlanXmlWriter::write($plan, new Told(13_000_000, 'fuzz', $schedule,
            [[Baseline::take($schedule, RollUp::of($schedule), 'p0', 'base', 'First', 13_000_000), true]],
            new Hierarchy(['A' => ['lead' => null, 'archived' => false], 'A/B' => ['lead' => 'L', 'archived' => true]], ['p0' => 'A/B'])));
    }

    private function open(string $format, string $file): void
    {
        if ($format === 'plan-xml') {
            PlanXmlReader::read($file)->schedule();

            return;
        }
        $zone = new Zone('Europe/Oslo');
        $todos = match ($format) {
            'xcal' => XCalReader::read($file, $zone, true),
            'jcal' => JCalReader::read($file, $zone, true),
            default => IcsReader::read($file, $zone, true),
        };
        [$plan] = TodoReader::read($todos, new Project('foreign', 'SUPPLY', 'Supplier', null, 'office',
            Instant::parse('2026-03-02T08:00')), RandomPlan::calendars());
        try {
            PlanCheck::of($plan);
        } catch (InvalidPlan $e) {
            self::assertNotSame('', $e->getMessage()); // the importer names it with the file
        }
    }

    /** Any property of any type with any parameters, also such as no program writes. */
    #[TestWith(['icalendar'])]
    #[TestWith(['jcal'])]
    public function test_every_property_with_odd_values_is_read_or_refused_with_a_line(string $format): void
    {
        $random = new Randomizer(new Mt19937(7));
        $json = $format === 'jcal';
        $values = $json ? ['""', '"x"', 'null', '1', '1.5', 'true', '[]', '{}', '["a","b"]', '[["a"]]', '{"a":"b"}',
            '{"freq":["DAILY",["x"]]}',
            '"2027-01-04"', '"2027-01-04T08:00:00/PT1H"', '"P1D"', '1,2', '"a","b"', '[],[]', '"\u0000"', '"FREQ=DAILY;X"']
            : ['', 'x', ';', ',', '=', 'A=', '=A', 'FREQ=DAILY;X', '20270104', '20270104T080000Z/PT1H', '/', '1;2', 'P', 'PT', 'P1Y',
                '-P1D',
                'true', '99999999999999999999', 'a,b;c', '\\', '"', 'é', "\t", '::', '20270132T250000', '0000-00-00'];
        $types = ['text', 'date', 'date-time', 'period', 'recur', 'duration', 'integer', 'float', 'boolean', 'time', 'utc-offset', 'uri',
            'cal-address', 'binary', 'unknown', 'x-odd', 'uid'];
        $parameters = $json ? ['{}', '{"tzid":["a","b"]}', '{"reltype":"FINISHTOSTART","gap":"x"}', '[]', '{"a":{"b":1}}', 'null']
            : ['', ';TZID=Nowhere/At', ';ENCODING=BASE64', ';X=', ';=', ';RELTYPE=FINISHTOSTART;GAP=x', ';RELTYPE=SS;X-REIHE-LAG=a/b'];
        $names = [...array_keys(VCalendar::$propertyMap), 'X-REIHE-KIND', 'X-REIHE-CONSTRAINT', 'X-REIHE-WRITTEN', 'X-OTHER'];
        $pick = static fn (array $of): string => (string) $of[$random->getInt(0, count($of) - 1)];
        $read = 0;
        set_error_handler(static fn (int $level, string $why): never => throw new \ErrorException($why), E_WARNING | E_NOTICE);
        try {
            for ($n = 0; $n < 4000; $n++) {
                [$name, $type, $parameter, $value] = [$pick($names), $pick($types), $pick($parameters), $pick($values)];
                $kind = $random->getInt(0, 3) === 0 ? 'VEVENT' : 'VTODO';
                $file = $json ? '["vcalendar",[],[["'.strtolower($kind).'",[["uid",{},"text","u"],["summary",{},"text","S"],["dtstart",{},'
                    .'"date-time","2027-01-04T08:00:00"],["'.strtolower($name)."\",{$parameter},\"{$type}\",{$value}]],[]]]]"
                    : "BEGIN:VCALENDAR\r\nBEGIN:{$kind}\r\nUID:u\r\nSUMMARY:S\r\nDTSTART:20270104T080000\r\n{$name};VALUE="
                        .strtoupper($type)
                        ."{$parameter}:{$value}\r\nEND:{$kind}\r\nEND:VCALENDAR\r\n";
                try {
                    $json ? JCalReader::read($file, new Zone('Europe/Oslo'), true) : IcsReader::read($file, new Zone('Europe/Oslo'), true);
                    $read++;
                } catch (FormatError $e) {
                    self::assertNotNull($e->fileLine, $file);
                } catch (\Throwable $e) {
                    self::fail("{$e->getMessage()} {$e->getFile()}:{$e->getLine()}\n{$file}");
                }
            }
        } finally {
            restore_error_handler();
        }
        self::assertGreaterThan(500, $read);
    }
}
