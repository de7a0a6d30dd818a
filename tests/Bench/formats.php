<?php

declare(strict_types=1);

use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Tests\RandomPlan;
use Reihe\Formats\PlanXml\PlanXmlReader;
use Reihe\Formats\PlanXml\PlanXmlWriter;
use Reihe\Formats\PlanXml\Told;
use Reihe\Formats\Table\TableReader;
use Reihe\Formats\Table\TableWriter;
use Reihe\Formats\Todo\TodoMapper;
use Reihe\Formats\Todo\XCalReader;
use Reihe\Formats\Todo\XCalWriter;

require dirname(__DIR__, 2).'/vendor/autoload.php';

/**
 * Figures of files: plan XML and xCal with as many activities as the first argument says, written and read, beside a plain pass of
 * XMLReader over the same file; with `tables` as the second one tables of 10 000 rows and twelve columns.
 */
$n = (int) ($argv[1] ?? 20_000);
$plan = RandomPlan::make(20260327, max(1, intdiv($n, 333)), 333);
$schedule = Schedule::of($plan);
$timed = static function (callable $work): array {
    $t = hrtime(true);
    $result = $work();

    return [$result, round((hrtime(true) - $t) / 1e9, 2)];
};
$pass = static function (string $xml) use ($timed): float {
    return $timed(static function () use ($xml): int {
        $reader = new XMLReader;
        $reader->XML($xml);
        for ($i = 0; $reader->read(); $i++) {
        }

        return $i;
    })[1];
};
[$xml, $written] = $timed(static fn (): string => PlanXmlWriter::write($plan, new Told(1, 'bench', $schedule)));
$plain = $pass($xml);
[, $read] = $timed(static fn () => PlanXmlReader::read($xml));
$size = strlen($xml) / 1e6;
unset($xml);
gc_collect_cycles();
[$xcal, $xcalWritten] = $timed(static fn (): string => XCalWriter::write(TodoMapper::map($schedule), '2026-03-27T08:00:00Z'));
$xcalPlain = $pass($xcal);
[, $xcalRead] = $timed(static fn () => XCalReader::read($xcal));
echo json_encode(['activities' => count($plan->activities), 'plan_xml_mb' => round($size, 1), 'plan_xml_written_s' => $written,
    'plan_xml_read_s' => $read, 'plain_pass_s' => $plain, 'read_to_plain' => round($read / $plain, 1),
    'xcal_mb' => round(strlen($xcal) / 1e6, 1),
    'xcal_written_s' => $xcalWritten, 'xcal_read_s' => $xcalRead, 'xcal_plain_pass_s' => $xcalPlain,
    'xcal_to_plan_xml' => round($xcalRead / $read, 2), 'peak_mb' => round(memory_get_peak_usage() / 1e6)], JSON_PRETTY_PRINT), "\n";
if (($argv[2] ?? '') !== 'tables') {
    exit;
}
unset($xcal, $plan, $schedule);
gc_collect_cycles();
$types = ['text', 'text', 'number', 'moment', 'moment', 'share', 'number', 'text', 'text', 'number', 'moment', 'text'];
$columns = array_map(static fn (string $type, int $i): array => ['name' => "Column {$i}", 'type' => $type], $types, array_keys($types));
$value = ['text' => 'Cable laid and jointed', 'number' => 12.5, 'moment' => 14_000_480, 'share' => 0.25];
$cell = static fn (string $type, int $i): string|int|float => match ($type) {
    'text' => "{$value[$type]} {$i}",
    'share' => $value[$type],
    default => $value[$type] + $i,
};
$rows = array_map(static fn (int $i): array => ['indent' => $i % 3,
    'cells' => array_map(static fn (string $type): string|int|float => $cell($type, $i), $types)], range(1, 10_000));
$figures = ['rows' => count($rows), 'columns' => count($columns)];
foreach (['xlsx', 'ods', 'csv'] as $format) {
    [$file, $figures["{$format}_written_s"]] = $timed(static fn (): string => TableWriter::write('Bench', $columns, $rows, $format));
    [$sheets, $figures["{$format}_read_s"]] = $timed(static fn (): array => TableReader::read($file, "a.{$format}"));
    count($sheets[0]->rows) === 10_001 ?: exit("{$format} lost rows\n");
}
echo json_encode($figures, JSON_PRETTY_PRINT), "\n";
