<?php

declare(strict_types=1);

namespace Reihe\Core\Tests\Formula;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Formula\CalculatedFields;
use Reihe\Core\Formula\Formula;
use Reihe\Core\Plan\OwnField;
use Reihe\Core\Time\Instant;

/** What formulas see of a row, in the units that people count in, and what becomes of what they give. */
final class CalculatedFieldsTest extends TestCase
{
    /** @return iterable<string, array{string, string, string}> formula, type of its field, value as it is kept */
    public static function rows(): iterable
    {
        yield 'spans in days of the row' => ['duration + 10 * remaining + 100 * totalFloat + 1000 * freeFloat', 'number', '5432'];
        yield 'moments in days' => ['finish - start', 'number', '4.375'];
        yield 'a moment as a date' => ['deadline', 'date', '2027-02-01T17:00'];
        yield 'progress in percent' => ['progress', 'number', '37.5'];
        yield 'work in hours' => ['work', 'number', '24'];
        yield 'cost in whole units' => ['cost', 'number', '1250.5'];
        yield 'a flag' => ['critical', 'flag', 'true'];
        yield 'a flag that is not set' => ['nearCritical', 'flag', ''];
        yield 'a text' => ['name ~ "/" ~ code', 'text', 'Weld/A-1'];
        yield 'what is not there' => ['actualFinish', 'date', ''];
        yield 'a typed number' => ['own("N") * 2', 'number', '25'];
        yield 'a typed duration, in days' => ['own("D")', 'number', '3'];
        yield 'a typed date' => ['own("T") - start', 'number', '1'];
        yield 'a typed flag' => ['own("F") ? "yes" : "no"', 'text', 'yes'];
        yield 'a typed text' => ['own("x")', 'text', 'Low'];
        yield 'what nobody typed' => ['own("E") == null', 'flag', 'true'];
        yield 'what was typed before the field became what it is' => ['own("BAD") == null', 'flag', 'true'];
        yield 'a field that is calculated itself' => ['own("TWICE") + 1', 'number', '11'];
        yield 'a field that leads back to itself' => ['own("LOOP")', 'number', ''];
        yield 'text where a number is kept' => ['name', 'number', ''];
        yield 'a number where a text is kept' => ['duration', 'text', '2'];
        yield 'a duration in minutes of the day' => ['1.5', 'duration', '720'];
        yield 'no duration' => ['0', 'duration', '0'];
        yield 'a duration below none' => ['-0.001', 'duration', ''];
        yield 'the longest duration' => ['999999.9', 'duration', '479999952'];
        yield 'a longer one' => ['1000000', 'duration', ''];
        yield 'a flag that is no flag' => ['1', 'flag', ''];
    }

    #[DataProvider('rows')]
    public function test_a_row_is_seen_in_the_units_that_people_count_in(string $formula, string $type, string $expected): void
    {
        $moment = static fn (string $text): int => Instant::parse($text);
        $row = ['duration' => 960, 'remaining' => 1440, 'totalFloat' => 1920, 'freeFloat' => 2400, 'start' => $moment('2027-01-04T08:00'),
            'finish' => $moment('2027-01-08T17:00'), 'deadline' => $moment('2027-02-01T17:00'), 'progress' => 37_500, 'work' => 1440,
            'cost' => 125_050, 'critical' => 1, 'nearCritical' => 0, 'name' => 'Weld', 'code' => 'A-1', 'actualFinish' => null];
        $fields = $formulas = [];
        foreach (['N' => 'number', 'D' => 'duration', 'T' => 'date', 'F' => 'flag', 'X' => 'text', 'E' => 'text', 'BAD' => 'number',
            'TWICE' => 'number', 'LOOP' => 'number', 'OUT' => $type] as $key => $of) {
            $calculated = ['TWICE' => 'own("N") - 2.5', 'LOOP' => 'own("LOOP") + 1', 'OUT' => $formula][$key] ?? '';
            $fields[$key] = OwnField::read($key, ['scope' => 'activity', 'key' => $key, 'name' => $key, 'type' => $of,
                'formula' => $calculated]);
            $calculated === '' || $formulas[$key] = Formula::of($calculated);
        }
        $typed = ['N' => '12.5', 'D' => '1440', 'T' => '2027-01-05T08:00', 'F' => 'true', 'X' => 'Low', 'E' => '', 'BAD' => 'hello'];
        $found = CalculatedFields::of($fields, $row, 480, $typed, $formulas);
        self::assertSame($expected, $found['OUT'] ?? '');
        self::assertArrayNotHasKey('LOOP', $found);
        self::assertSame($expected === '', ! isset($found['OUT']), 'what has no value is not there');
    }
}
