<?php

declare(strict_types=1);

namespace App\Demo;

use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Calendar\CalendarException;
use Reihe\Core\Calendar\Period;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\Coding;
use Reihe\Core\Plan\ConstraintKind;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\LinkType;
use Reihe\Core\Plan\OutsideDates;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/**
 * The demo: Varnsund Ferries, invented throughout, replaces diesel with batteries. Everything is dated around a status
 * date, so that some work is finished, some runs, and most lies ahead.
 */
final class Varnsund
{
    private const DAY = 480;

    private const MINUTES = ['cal-office' => 480, 'cal-yard' => 960, 'cal-harbour' => 480, 'cal-grid' => 480, 'cal-dock' => 720];

    /** handover (from and to code) => days from the taker's planned start to the agreed date, owners, what is handed over */
    private const AGREEMENTS = [
        'GRID-ST-0060 OSTV-CM-0010' => [6, 'Teodor Lindqvist', 'Aino Rautio', '10 kV at the quay cabinet, tested'],
        'OSTV-CM-0050 TERN-TR-0020' => [12, 'Teodor Lindqvist', 'Aino Rautio', 'Charger accepted, plug position recorded'],
        'TERN-HU-0070 GANN-HU-0020' => [1, 'Aino Rautio', 'Aino Rautio', 'Dock free and cleaned'],
        'TERN-TR-0030 CREW-VE-0010' => [0, 'Aino Rautio', 'Chidi Okafor', 'Vessel at berth 2 for two weeks'],
        'LYNG-CM-0050 TERN-TR-0040' => [null, 'Teodor Lindqvist', null, 'Second charger'],
    ];

    /** @var array<string, array{int|null, string, string|null, string}> */
    private array $agreements = self::AGREEMENTS;

    /** @var array<string, string> project key => calendar uid */
    private array $calendarOf = [];

    /** @var list<\Reihe\Core\Plan\Entity> */
    private array $parts = [];

    /** @var array<string, string> code => uid */
    private array $codes = [];

    /** @var array<string, string>|null activity uid => code, when all are known */
    private ?array $codeOf = null;

    /** @var list<array{string, string, LinkType, int}> from and to code, type, lag; rows may name later ones */
    private array $links = [];

    /** As planned, before anything happened. */
    public Schedule $ideal;

    /** As it stands at the status date. */
    public Plan $plan;

    private function __construct(private readonly int $status)
    {
    }

    /**
     * The status date of a demo loaded on a day: its noon, at weekends that of the Friday before.
     *
     * @param  int  $day  00:00 of the day, minutes since 2000-01-01, a Saturday
     */
    public static function statusOn(int $day): int
    {
        $ofWeek = intdiv($day, Instant::DAY) % 7; // 0 Saturday, 1 Sunday

        return $day - ($ofWeek < 2 ? $ofWeek + 1 : 0) * Instant::DAY + 720;
    }

    /**
     * Six linked projects, with work, costs, agreements and a baseline.
     *
     * @param  int  $status  moment the progress is known up to
     */
    public static function plan(int $status): self
    {
        $demo = new self($status);
        $demo->calendars();
        $demo->projects();
        $demo->handovers();
        $demo->work();
        $demo->withProgress();

        return $demo;
    }

    /** The six with a dozen around them: finished, running, late and only sketched, with codes, weights, level codes, a supplier. */
    public static function standard(int $status): self
    {
        $demo = new self($status);
        $demo->agreements += DemoMore::AGREEMENTS;
        $demo->calendars(true);
        $demo->projects();
        foreach (DemoMore::projects() as $key => [$name, $branch, $calendar, $start, $deadline, $of, $zones]) {
            $demo->project($key, $name, $branch, $calendar, $start, $deadline, []);
            $demo->sections($key, DemoMore::rows($of));
            foreach ($zones as $section => $count) {
                for ($zone = 1; $zone <= $count; $zone++) {
                    $demo->wbs($key, sprintf('%s-Z%02d', $section, $zone), "Zone {$zone}", DemoRows::ZONE,
                        $section === 'HU' ? "{$key}-HU-0030" : "{$key}-EL-0010", $zone + 20, "wbs-{$key}-{$section}",
                        sprintf('Z%02d', $zone));
                    $demo->link(sprintf('%s-%s-Z%02d-0100', $key, $section, $zone), "{$key}-TR-0010");
                }
            }
        }
        $demo->supplier();
        $demo->handovers();
        foreach (DemoMore::HANDOVERS as [$from, $to, $type, $days]) {
            $demo->link($from, $to, LinkType::from($type), $days * self::DAY);
        }
        $demo->work();
        $demo->parts = DemoResources::with(DemoCodes::with($demo->parts), $status);
        $demo->withProgress();

        return $demo;
    }

    /** A project that is kept in another system. */
    private function supplier(): void
    {
        $this->project('BATT', 'Battery supply', 'Grid and energy', 'office', -90, null, []);
        $at = fn (int $days): int => intdiv($this->status, 1440) * 1440 + $days * 1440;
        $project = array_pop($this->parts);
        $this->parts[] = Project::read('prj-BATT', ['kept' => Kept::Outside->value] + ($project?->fields() ?? []));
        foreach (DemoMore::OUTSIDE as $n => [$code, $name, $start, $finish]) {
            $this->codes[$code] = 'act-'.strtolower($code);
            $this->parts[] = new Activity($this->codes[$code], 'prj-BATT', null, $n + 1.0, $code, $name, Kind::Task, self::DAY,
                outside: new OutsideDates($at($start) + 480, $at($finish) + 1020, 'Halden Cells', $this->status - 3 * 1440));
        }
    }

    /** Many conversions side by side, for load and scroll. */
    public static function large(int $status, int $projects, int $activities): self
    {
        $demo = new self($status);
        $demo->calendars();
        $branchNames = ['Vessel conversions', 'Shore power', 'Quays', 'Dry dock', 'Crew', 'Timetable and ticketing'];
        $per = intdiv($activities, $projects);
        for ($p = 1; $p <= $projects; $p++) {
            $key = sprintf('V%03d', $p);
            $demo->project($key, "Conversion {$p}", $branchNames[$p % 6], 'yard', -30 + ($p * 7) % 160, null,
                ['DISTRICT' => ['INNER', 'OUTER', 'NORTH'][$p % 3], 'STAGE' => ['DESIGN', 'BUILD', 'TRIAL'][$p % 3]]);
            $count = 0;
            for ($zone = 1; $count < $per; $zone++) {
                $rows = [];
                foreach (DemoRows::ZONE as [$code, $name, $days, $after]) {
                    if ($count++ < $per) {
                        $rows[] = [$code, $name, $days, $after];
                    }
                }
                $demo->wbs($key, sprintf('Z%02d', $zone), "Zone {$zone}", $rows,
                    $zone === 1 ? null : sprintf('%s-Z%02d-0010', $key, $zone - 1));
            }
            if ($p > 1) {
                $demo->link(sprintf('V%03d-Z01-0040', $p - 1), "{$key}-Z01-0020");
            }
        }
        $demo->withProgress();

        return $demo;
    }

    private function calendars(bool $standard = false): void
    {
        $office = new Calendar('cal-office', 'OFFICE', 'Office',
            array_fill_keys([1, 2, 3, 4, 5], Period::parseList('08:00-12:00 13:00-17:00')),
            [new CalendarException('01-01', [], 'New Year'), new CalendarException('05-01', [], 'May Day'),
                new CalendarException('12-24', Period::parseList('08:00-12:00'), 'Christmas Eve'),
                new CalendarException('12-25', [], 'Christmas')], minutesPerDay: self::DAY);
        $this->parts = [
            ...DemoEnterprise::parts($standard),
            $office,
            new Calendar('cal-yard', 'YARD', 'Yard, two shifts',
                array_fill_keys([1, 2, 3, 4, 5], Period::parseList('06:00-14:00 14:00-22:00')), [], 'cal-office', 960),
            new Calendar('cal-harbour', 'HARBOUR', 'Harbour works, winter stop', [6 => Period::parseList('08:00-12:00')],
                array_map(static fn (int $d): CalendarException => new CalendarException(sprintf('01-%02d', $d), [], 'Winter stop'),
                    range(2, 10)), 'cal-office', self::DAY),
            new Calendar('cal-grid', 'GRID', 'Grid operator', [], [new CalendarException('06-06', [], 'Grid holiday')], 'cal-office',
                self::DAY),
            new Calendar('cal-dock', 'DOCK', 'Dry dock, every day', array_fill_keys(range(1, 7), Period::parseList('07:00-19:00')),
                minutesPerDay: 720),
        ];
    }

    private function projects(): void
    {
        $this->project('GRID', 'Ostvik grid connection', 'Grid and energy', 'grid', -45, 95, ['DISTRICT' => 'INNER', 'STAGE' => 'BUILD']);
        $this->sections('GRID', DemoRows::GRID);
        $this->project('OSTV', 'Shore power Ostvik', 'Shore power', 'harbour', -35, 120, ['DISTRICT' => 'INNER', 'STAGE' => 'BUILD-CIVIL']);
        $this->sections('OSTV', DemoRows::HARBOUR);
        $this->project('LYNG', 'Shore power Lyngholm', 'Shore power', 'harbour', -5, 135,
            ['DISTRICT' => 'OUTER', 'STAGE' => 'DESIGN-DETAIL']);
        $this->sections('LYNG', DemoRows::HARBOUR);
        $this->project('TERN', 'Conversion of Tern', 'Vessel conversions', 'yard', -40, 150,
            ['DISTRICT' => 'INNER', 'STAGE' => 'BUILD-ELECTRICAL']);
        $this->sections('TERN', DemoRows::VESSEL);
        $this->project('GANN', 'Conversion of Gannet', 'Vessel conversions', 'yard', 10, 190, ['DISTRICT' => 'OUTER', 'STAGE' => 'DESIGN']);
        $this->sections('GANN', DemoRows::VESSEL);
        $this->project('CREW', 'Crew certification', 'Crew', 'office', -10, 165, ['STAGE' => 'BUILD']);
        $this->sections('CREW', DemoRows::CREW);
    }

    /** What the projects owe each other. */
    private function handovers(): void
    {
        $this->link('GRID-ST-0060', 'OSTV-CM-0010');
        $this->link('GRID-ST-0060', 'LYNG-CM-0010', LinkType::FS, 5 * self::DAY);
        $this->link('OSTV-CM-0050', 'TERN-TR-0020');
        $this->link('LYNG-CM-0050', 'TERN-TR-0040');
        $this->link('TERN-HU-0070', 'GANN-HU-0020', LinkType::FS, 2 * self::DAY);
        $this->link('TERN-TR-0030', 'CREW-VE-0010');
        $this->link('TERN-TR-0060', 'GANN-TR-0060', LinkType::FF, 3 * self::DAY);
        $this->link('CREW-VE-0030', 'GANN-TR-0030', LinkType::SS, 2 * self::DAY);
    }

    /** @param  array<string, string>  $codes */
    private function project(string $key, string $name, string $branch, string $calendar, int $startDays, ?int $deadlineDays,
        array $codes): void
    {
        $this->calendarOf[$key] = "cal-{$calendar}";
        $at = fn (int $days, int $hour): int => (intdiv($this->status, 1440) + $days) * 1440 + $hour * 60;
        $this->parts[] = new Project("prj-{$key}", $key, $name, DemoEnterprise::branch($branch), "cal-{$calendar}", $at($startDays, 8),
            null, $deadlineDays === null ? null : $at($deadlineDays, 17));
        foreach ($codes as $set => $entry) {
            $this->parts[] = new Coding(strtolower("coding-{$key}-{$set}"), "prj-{$key}", null, DemoEnterprise::entry($set, $entry));
        }
    }

    /** @param  array<string, array{string, list<array{string, string, float|string, string}>}>  $sections */
    private function sections(string $key, array $sections): void
    {
        $position = 0;
        foreach ($sections as $code => [$name, $rows]) {
            $this->wbs($key, $code, $name, $rows, null, ++$position);
        }
    }

    /**
     * @param  list<array{string, string, float|string, string}>  $rows code, name, days (`~3` estimate, `start`/`finish` milestone),
     *     predecessors
     */
    private function wbs(string $key, string $code, string $name, array $rows, ?string $after = null, ?int $position = null,
        ?string $parent = null, ?string $short = null): void
    {
        $wbs = strtolower("wbs-{$key}-{$code}");
        $this->parts[] = new WbsElement($wbs, "prj-{$key}", $parent === null ? null : strtolower($parent),
            (float) ($position ?? (int) substr($code, 1)), $short ?? $code, $name);
        foreach ($rows as $order => [$number, $title, $days, $predecessors]) {
            $full = "{$key}-{$code}-{$number}";
            $kind = match ($days) {
                'start' => Kind::StartMilestone, 'finish' => Kind::FinishMilestone, default => Kind::Task
            };
            $estimate = is_string($days) && str_starts_with($days, '~');
            $calendar = str_starts_with($title, 'Dock:') ? 'cal-dock' : null;
            $perDay = self::MINUTES[$calendar ?? $this->calendarOf[$key]];
            $duration = $kind === Kind::Task ? (int) round((float) ltrim((string) $days, '~') * $perDay) : 0;
            $uid = 'act-'.strtolower($full);
            $this->codes[$full] = $uid;
            $this->parts[] = new Activity($uid, "prj-{$key}", $wbs, $order + 1.0, $full, $title, $kind, $duration, $estimate, $calendar);
            foreach (preg_split('/\s+/', $predecessors, -1, PREG_SPLIT_NO_EMPTY) ?: [] as $text) {
                if (preg_match('/^([A-Z]+-)?(\d{4})(?:(FS|SS|FF|SF))?([+-][\d.]+)?$/', $text, $m) !== 1) {
                    throw new \LogicException("{$full}: “{$text}” is not a predecessor");
                }
                $this->link("{$key}-".($m[1] !== '' ? $m[1] : "{$code}-").$m[2], $full, LinkType::from(($m[3] ?? '') ?: 'FS'),
                    (int) round((float) ($m[4] ?? 0) * $perDay));
            }
        }
        if ($after !== null && $rows !== []) {
            $this->link($after, "{$key}-{$code}-{$rows[0][0]}");
        }
    }

    private function link(string $from, string $to, LinkType $type = LinkType::FS, int $lag = 0): void
    {
        $this->links[] = [$from, $to, $type, $lag];
    }

    /** Plays the plan up to the status date: what would be done is done, every fifth running activity runs late. */
    private function withProgress(): void
    {
        foreach ($this->links as $i => [$from, $to, $type, $lag]) {
            $this->parts[] = new Link('lnk-'.($i + 1), $this->codes[$from], $this->codes[$to], $type, $lag);
        }
        $ideal = $this->ideal = Schedule::of(Plan::of($this->parts));
        $parts = $work = [];
        foreach ($ideal->plan->assignments as $assignment) {
            $work[$assignment->activity][] = $assignment;
        }
        $running = 0;
        foreach ($this->parts as $part) {
            if ($part instanceof Assignment) {
                continue; // comes with its activity
            }
            if ($part instanceof Project) {
                $parts[] = Project::read($part->uid, ['statusDate' => Instant::format($this->status)] + $part->fields());
            } elseif ($part instanceof Activity) {
                $dates = $ideal->activity($part->uid);
                $progress = [];
                if ($part->outside->outsideStart !== null) {
                    $parts[] = $part;

                    continue;
                }
                if ($dates->earlyFinish <= $this->status) {
                    $progress = ['actualStart' => Instant::format($dates->earlyStart),
                        'actualFinish' => Instant::format($dates->earlyFinish)];
                } elseif ($dates->earlyStart < $this->status && $part->kind === Kind::Task) {
                    $late = ++$running % 5 === 0 ? 3 * self::DAY : 0;
                    $progress = ['actualStart' => Instant::format($dates->earlyStart),
                        'remaining' => $ideal->axis($part->uid)->between($this->status, $dates->earlyFinish) + $late];
                }
                $held = $part->code === 'CREW-SI-0020'
                    ? ['constraints' => [['kind' => ConstraintKind::StartNoEarlier->value,
                        'date' => Instant::format($this->status + 20 * 1440 - ($this->status % 1440) + 480)]]] : [];
                foreach ($work[$part->uid] ?? [] as $assignment) {
                    $planned = (int) $assignment->remainingWork;
                    $left = (int) round($planned * min(1.0, ($progress['remaining'] ?? 0) / max(1, $part->duration)));
                    $parts[] = $planned > 0 && isset($progress['actualStart']) ? Assignment::read($assignment->uid,
                        ['actualWork' => $planned - $left, 'remainingWork' => $left] + $assignment->fields()) : $assignment;
                }
                $parts[] = Activity::read($part->uid, $progress + ($progress === [] ? $held : []) + $part->fields());
            } elseif ($part instanceof Link && isset($this->agreements[$key = $this->codeOf($part->from).' '.$this->codeOf($part->to)])) {
                [$margin, $giver, $taker, $note] = $this->agreements[$key];
                $dates = $ideal->activity($part->to);
                $parts[] = Link::read($part->uid,
                    ['agreed' => $margin === null ? null
                        : Instant::format($ideal->axis($part->to)
                            ->startAt($ideal->axis($part->to)->workAt($dates->earlyStart) + $margin * self::DAY)),
                        'giverOwner' => $giver, 'takerOwner' => $taker, 'note' => $note] + $part->fields());
            } else {
                $parts[] = $part;
            }
        }

        $this->plan = Plan::of($parts);
    }

    private function codeOf(string $activity): string
    {
        return ($this->codeOf ??= array_flip($this->codes))[$activity] ?? '';
    }

    /** Every task is worked on by one to three people; some cost money besides, one is measured by a checklist. */
    private function work(): void
    {
        $parts = $this->parts;
        foreach ($this->parts as $i => $part) {
            if (! $part instanceof Activity || $part->kind !== Kind::Task || $part->outside->outsideStart !== null) {
                continue;
            }
            $people = 1 + crc32($part->code) % 3;
            $cost = preg_match('/manufacture|fabrication|Transformer|racks/', $part->name) === 1
                ? intdiv($part->duration, self::DAY) * 1_250_000 : null;
            $parts[] = new Assignment("work-{$part->uid}", $part->uid, null, $part->duration * $people, $cost);
            $measure = [];
            if (preg_match('/training/i', $part->name) === 1) {
                $measure += ['percentBy' => 'work'];
            }
            if ($part->code === 'OSTV-TO-0030') {
                $measure += ['percentBy' => 'physical',
                    'checklist' => [['name' => 'Switchgear placed', 'weight' => 3.0], ['name' => 'Converters placed', 'weight' => 3.0],
                        ['name' => 'Cooling connected', 'weight' => 2.0], ['name' => 'Papers handed in', 'weight' => 1.0]]];
            }
            $parts[$i] = Activity::read($part->uid, $measure + $part->fields());
        }
        $this->parts = array_values($parts);
    }
}
