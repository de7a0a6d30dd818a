<?php

declare(strict_types=1);

namespace Reihe\Core\Tests\Pasting;

use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Reihe\Core\Pasting\LinkOrder;
use Reihe\Core\Tests\Growth;

/** Links taken one by one, compared with a search of everything for each. */
final class LinkOrderTest extends TestCase
{
    public function test_exactly_the_links_that_close_no_loop_are_taken(): void
    {
        $refused = $taken = 0;
        for ($seed = 1; $seed <= 200; $seed++) {
            $random = new Randomizer(new Mt19937($seed));
            $order = new LinkOrder;
            $after = [];
            for ($i = 0; $i < 60; $i++) {
                [$from, $to] = [(string) $random->getInt(0, 14), (string) $random->getInt(0, 14)];
                $closes = self::leads($after, $to, $from);
                self::assertSame(! $closes, $order->add($from, $to), "seed {$seed}, {$from} → {$to}");
                $closes ? $refused++ : $taken++;
                if (! $closes) {
                    $after[$from][] = $to;
                }
            }
        }
        self::assertGreaterThan(1_000, min($refused, $taken));
    }

    /** Four times the rows with sixty predecessors each take about four times as long, in the order of the rows and against it. */
    public function test_it_takes_time_as_there_are_links(): void
    {
        foreach ([false, true] as $isBackwards) {
            $work = static function (int $rows) use ($isBackwards): void {
                $order = new LinkOrder;
                for ($k = 0; $k < $rows; $k++) {
                    $i = $isBackwards ? $rows - 1 - $k : $k;
                    for ($j = max(0, $i - 60); $j < $i; $j++) {
                        self::assertTrue($order->add("Z{$j}", "Z{$i}"));
                    }
                }
            };
            self::assertLessThan(12, Growth::of($work, 150, 600, 12));
        }
    }

    /** @param  array<array-key, list<string>>  $after */
    private static function leads(array $after, string $from, string $to): bool
    {
        $seen = [];
        for ($open = [$from]; ($at = array_pop($open)) !== null;) {
            if ($at === $to) {
                return true;
            }
            foreach (isset($seen[$at]) ? [] : $after[$at] ?? [] as $next) {
                $open[] = $next;
            }
            $seen[$at] = true;
        }

        return false;
    }
}
