<?php

declare(strict_types=1);

namespace Reihe\Core\Tests\Formula;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Formula\Formula;
use Reihe\Core\Formula\InvalidFormula;
use Reihe\Core\Time\Instant;
use Symfony\Component\ExpressionLanguage\ExpressionLanguage;

final class FormulaTest extends TestCase
{
    /** @return iterable<array{string, string|float|bool|null}> */
    public static function meanings(): iterable
    {
        yield ['totalFloat < 5 ? "watch" : ""', 'watch'];
        yield ['totalFloat < 5 and own("RISK") == "High" ? "watch" : ""', 'watch'];
        yield ['finish - start', 9.5];
        yield ['deadline - finish', null];
        yield ['deadline ?? finish == finish', true];
        yield ['cost / work', null];
        yield ['max(duration, 20) * own("factor")', 50.0];
        yield ['round(10 / 3, 2)', 3.33];
        yield ['name ~ " (" ~ code ~ ")"', 'Weld (A-1)'];
        yield ['finish > date("2027-01-08")', true];
        yield ['year(finish) * 100 + month(finish)', 202701.0];
        yield ['name contains "WE" and not critical', true];
        yield ['own("none") == null', true];
        yield ['1 / 0', null];
        yield ['10 ** 400', null];
        yield ['-duration', -10.0];
        yield ['"b" > "a"', true];
        yield ['name + 1', null];
        // empty text, nothing, 0 and false do not hold; any other text does, also "0"
        yield ['"" ? 1 : 2', 2.0];
        yield ['own("none") ? 1 : 2', 2.0];
        yield ['0 ? 1 : 2', 2.0];
        yield ['critical ? 1 : 2', 2.0];
        yield ['name ? 1 : 2', 1.0];
        yield ['"0" ? 1 : 2', 1.0];
        yield ['-0.5 ? 1 : 2', 1.0];
        yield ['not ""', true];
        yield ['not name', false];
        yield ['"" or "" ? 1 : 2', 2.0];
        yield ['"" or name ? 1 : 2', 1.0];
        yield ['name and "" ? 1 : 2', 2.0];
        // texts are compared letter by letter, a text with anything else not at all
        yield ['"a" < "a"', false];
        yield ['"a" <= "a"', true];
        yield ['"a" > "a"', false];
        yield ['"a" >= "a"', true];
        yield ['"a" < "b"', true];
        yield ['"b" <= "a"', false];
        yield ['"a" >= "b"', false];
        yield ['"A" == "a"', true];
        yield ['"a" != "b"', true];
        yield ['name < 1', null];
        yield ['1 < name', null];
        yield ['1 == "1"', false];
        yield ['"Weld" starts with "we"', true];
        yield ['"Weld" ends with "LD"', true];
        yield ['"Weld" ends with "we"', false];
        // the first that is there
        yield ['name ?? "x"', 'Weld'];
        yield ['own("none") ?? "x"', 'x'];
        yield ['0 ?? 5', 0.0];
        // each function, with what it does not take
        yield ['ceil(1.2) * 10 + floor(1.8)', 21.0];
        yield ['ceil(name)', null];
        yield ['floor("x")', null];
        yield ['abs(-2) + abs(3)', 5.0];
        yield ['min(3, 1, 2) + max(3, 1, 2)', 4.0];
        yield ['min(name)', null];
        yield ['round(2.5) + round(-15, -1)', -17.0];
        yield ['lower("ÅSE") ~ length("åse")', 'åse3'];
        yield ['7 % 4', 3.0];
        yield ['7 % 0', null];
        yield ['2 ** 3', 8.0];
        yield ['critical ~ ""', 'no'];
        yield ['(1 == 1) ~ ""', 'yes'];
        yield ['0.5 ~ ""', '0.5'];
    }

    #[DataProvider('meanings')]
    public function test_a_formula_means_what_it_says(string $text, string|float|bool|null $expected): void
    {
        $own = static fn (string $key): string|float|null => ['RISK' => 'high', 'factor' => 2.5][$key] ?? null;
        self::assertSame($expected, Formula::of($text)->evaluate(['name' => 'Weld', 'code' => 'A-1', 'totalFloat' => 3.0,
            'start' => Instant::parse('2027-01-04T08:00') / 1440, 'finish' => Instant::parse('2027-01-13T20:00') / 1440, 'duration' => 10.0,
            'cost' => 100, 'work' => 0, 'critical' => false], $own));
    }

    /** @return iterable<array{string, string}> */
    public static function faults(): iterable
    {
        yield ['', 'Unexpected token "end of expression"'];
        yield ['totalFlaot < 5', 'Variable "totalFlaot" is not valid around position 1'];
        yield ['duration +', 'position 11'];
        yield ['system("x")', 'The function "system" does not exist around position 1'];
        yield ['name.length', 'no lists, properties and methods'];
        yield ['name["x"]', 'no lists, properties and methods'];
        yield ['[1, 2]', 'no lists, properties and methods'];
        yield ['1..99999999', '“..” cannot be used'];
        yield ['name matches "/x/"', '“matches” cannot be used'];
        yield ['round()', '“round” takes 1 to 2 values'];
        yield ['date("soon")', 'date("2027-03-01")'];
        yield [str_repeat('1 + ', 150).'1', 'too long'];
        yield ['constant("PHP_VERSION")', 'does not exist'];
    }

    #[DataProvider('faults')]
    public function test_what_is_no_formula_says_where(string $text, string $why): void
    {
        $this->expectException(InvalidFormula::class);
        $this->expectExceptionMessage($why);
        Formula::of($text);
    }

    /** Reference: symfony/expression-language's own evaluation, for what both can say. */
    public function test_functions_take_so_many_arguments_and_no_more(): void
    {
        $takes = [
            'own' => [1, 1], 'min' => [1, 9], 'max' => [1, 9], 'round' => [1, 2], 'abs' => [1, 1], 'floor' => [1, 1], 'ceil' => [1, 1],
            'date' => [1, 1], 'year' => [1, 1], 'month' => [1, 1], 'lower' => [1, 1], 'length' => [1, 1],
        ];
        self::assertSame(array_keys($takes), array_keys(Formula::FUNCTIONS));
        foreach ($takes as $name => [$least, $most]) {
            foreach (range(0, 11) as $count) {
                $text = "{$name}(".implode(', ', array_fill(0, $count, $name === 'own' || $name === 'date' ? '"2027-01-04"' : '1')).')';
                try {
                    Formula::of($text);
                    self::assertTrue($count >= $least && $count <= $most, $text);
                } catch (InvalidFormula) {
                    self::assertFalse($count >= $least && $count <= $most, $text);
                }
            }
        }
    }

    public function test_numbers_are_worked_out_like_the_library_does(): void
    {
        $language = new ExpressionLanguage;
        mt_srand(7);
        $term = static function (int $depth) use (&$term): string {
            return $depth === 0 || mt_rand(0, 3) === 0 ? [(string) mt_rand(1, 9), 'duration', 'progress', 'work'][mt_rand(0, 3)]
                : '('.$term($depth - 1).' '.['+', '-', '*', '<', '>=', '==', 'and', 'or'][mt_rand(0, 4)].' '.$term($depth - 1).')';
        };
        for ($n = 0; $n < 300; $n++) {
            $text = '1.0 * '.str_replace(['<', '>='], ['-', '+'], $term(4));
            $values = ['duration' => mt_rand(0, 99) / 4, 'progress' => mt_rand(0, 100) * 1.0, 'work' => mt_rand(0, 50) * 1.0];
            self::assertEqualsWithDelta((float) $language->evaluate($text, $values),
                Formula::of($text)->evaluate($values, static fn (): null => null), 1e-6, $text);
        }
    }

    /** What formulas cannot say is refused wherever it stands: alone, in a value of a function, in a part of a condition, below others. */
    public function test_what_cannot_be_said_is_refused_at_any_depth(): void
    {
        $places = ['%s', 'min(%s, 1)', 'min(1, %s)', 'round(abs(%s), 1)', '%s ? 1 : 2', 'true ? %s : 2', 'true ? 1 : %s', '1 + (%s)',
            'not (%s)',
            '(%s) ?? 1', 'duration > 1 and (%s) > 2'];
        foreach ($places as $place) {
            Formula::of(sprintf($place, 'duration'));
            foreach (['"a" matches "/a/"', '[1, 2]', '1 in [1]', '1..3', '5 & 1', 'name.length', 'name.length()', 'abs()',
                'own(1, 2)'] as $odd) {
                try {
                    Formula::of(sprintf($place, $odd));
                    self::fail(sprintf($place, $odd).' was taken');
                } catch (InvalidFormula $e) {
                    self::assertNotSame('', $e->getMessage());
                }
            }
        }
        // as long as a formula may be, counted over all of it
        $long = static fn (int $n): string => 'max('.implode(' + ', array_fill(0, $n, '1')).', 1)';
        $most = 1;
        while ($most < 5000) {
            try {
                Formula::of($long(2 * $most));
                $most *= 2;
            } catch (InvalidFormula $e) {
                self::assertSame('The formula is too long.', $e->getMessage());
                break;
            }
        }
        self::assertGreaterThan(8, $most);
        self::assertLessThan(5000, $most);
    }

    /** A moment that no plan can have is no value, at both ends of the range. */
    public function test_moments_beyond_the_range_are_no_value(): void
    {
        $year = static fn (float $days): string|float|bool|null => Formula::of('year(duration)')->evaluate(['duration' => $days],
            static fn (): null => null);
        foreach ([Instant::MIN => true, Instant::MIN - 1 => false, Instant::MAX - 1 => true, Instant::MAX => false] as $minutes => $isOne) {
            $text = Formula::moment($minutes / 1440);
            self::assertSame($isOne ? Instant::format($minutes) : '', $text);
            self::assertSame($isOne ? (float) substr($text, 0, 4) : null, $year($minutes / 1440));
        }
        self::assertSame(['', ''], [Formula::moment(1e300), Formula::moment(-INF)]);
        self::assertSame(['1990', '2099'], [substr(Formula::moment(Instant::MIN / 1440), 0, 4),
            substr(Formula::moment((Instant::MAX - 1) / 1440), 0, 4)]);
    }
}
