<?php

declare(strict_types=1);

namespace App\Exchange;

use App\Baselines\Imported;
use App\Database\Enterprise;
use App\Planning\Connected;
use Carbon\CarbonImmutable;
use Reihe\Core\Schedule\Extract;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\Zone;
use Reihe\Formats\Format;
use Reihe\Formats\GraphMl;
use Reihe\Formats\PlanXml\Hierarchy;
use Reihe\Formats\PlanXml\PlanXmlWriter;
use Reihe\Formats\PlanXml\Told;
use Reihe\Formats\Todo\IcsWriter;
use Reihe\Formats\Todo\TodoMapper;
use Reihe\Formats\Todo\XCalWriter;

/** Projects → file. */
final class Exporter
{
    /**
     * @param  array<string, int>  $projects  uid => id of the projects to write
     * @param  array<string, int>  $visible  uid => id of those that may be named
     * @param  string  $salt  of the recipient, for what may not be named
     * @param  Less  $less  what is left out on purpose
     * @param  Hierarchy  $hierarchy  branches that may be named
     */
    public static function export(array $projects, array $visible, Format $format, string $salt = '',
        Hierarchy $hierarchy = new Hierarchy, Less $less = new Less([])): string
    {
        $now = CarbonImmutable::now('UTC');
        $instant = Instant::parse($now->format('Y-m-d\TH:i'));
        $schedule = Connected::with(array_values($projects))->schedule;
        $plan = Extract::of($schedule, array_fill_keys(array_keys($projects), true),
            $less->leavesOut('names') ? [] : array_fill_keys(array_keys($visible), true), 'Reihe', $instant, $salt);
        $plan = $less->of($plan);
        if ($format === Format::PlanXml) {
            return PlanXmlWriter::write($plan, new Told($instant, Enterprise::source(), $schedule,
                $less->ofBaselines(Imported::of(array_map(strval(...), array_keys($projects)))), $less->ofHierarchy($hierarchy),
                app(Zone::class)->name,
                config()->string('reihe.currency'), $less->parts));
        }
        if ($format === Format::GraphMl) {
            return GraphMl::write(Schedule::of($plan));
        }
        $todos = TodoMapper::map(Schedule::of($plan));
        $todos->extras['X-REIHE-SOURCE'] = [Enterprise::source()];
        $todos->extras['X-REIHE-WRITTEN'] = [Instant::format($instant)];
        $less->parts === [] ?: $todos->extras['X-REIHE-WITHOUT'] = [implode(' ', $less->parts)];
        $zone = app(Zone::class);

        return match ($format) {
            Format::ICalendar => IcsWriter::write($todos, $now->format('Ymd\THis\Z'), $zone),
            Format::JCal => IcsWriter::json($todos, $now->format('Ymd\THis\Z'), $zone),
            default => XCalWriter::write($todos, $now->format('Y-m-d\TH:i:s\Z'), $zone),
        };
    }
}
