<?php

declare(strict_types=1);

namespace Reihe\Formats;

use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Coding\ProjectKey;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\Zone;
use Reihe\Formats\Outline\IndentedText;
use Reihe\Formats\Outline\Opml;
use Reihe\Formats\Outline\PlanOutline;
use Reihe\Formats\PlanXml\PlanDocument;
use Reihe\Formats\PlanXml\PlanXmlReader;
use Reihe\Formats\PlanXml\PlanXmlWriter;
use Reihe\Formats\PlanXml\Told;
use Reihe\Formats\Report\DifferenceReport;
use Reihe\Formats\Table\PlanTable;
use Reihe\Formats\Table\TablePlan;
use Reihe\Formats\Table\TableReader;
use Reihe\Formats\Todo\IcsReader;
use Reihe\Formats\Todo\IcsWriter;
use Reihe\Formats\Todo\JCalReader;
use Reihe\Formats\Todo\Todo;
use Reihe\Formats\Todo\TodoMapper;
use Reihe\Formats\Todo\TodoReader;
use Reihe\Formats\Todo\Todos;
use Reihe\Formats\Todo\XCalReader;
use Reihe\Formats\Todo\XCalWriter;

/** Files of every format as plans and back, without a database. */
final class PlanFile
{
    /** @throws FormatError where it is none that is read */
    public static function formatOf(string $content): Format
    {
        $format = Format::detect($content) ?? throw new FormatError('the file is neither plan XML nor iCalendar, xCal or jCal');
        if (! $format->isPlan()) {
            throw new FormatError('this is a table or an outline; a project takes it as rows (paste rows on the board)', 1);
        }

        return $format->isRead() ? $format : throw new FormatError('a graph is not read: it says nothing of calendars and projects', 1);
    }

    /**
     * @param  string  $name  of the file, names the project of a calendar that does not
     * @param  Plan  $shared  code sets, own fields and calendars that columns of a table may name
     * @return array{Plan, list<string>, PlanDocument|null} the plan, what is to be said about the reading, and more of plan XML
     *
     * @throws FormatError
     */
    public static function read(string $content, string $name, Plan $shared = new Plan): array
    {
        $format = Format::detect($content);
        $format ??= str_ends_with(strtolower($name), '.tsv') ? Format::Csv : Format::ofName($name);
        if ($format !== null && ! $format->isPlan()) {
            return [...self::rows($content, $format, $name, $shared), null];
        }
        $format = self::formatOf($content);
        if ($format === Format::PlanXml) {
            $document = PlanXmlReader::read($content);

            return [$document->plan, [], $document];
        }
        $office = Calendar::weekly('office', 'OFFICE', '08:00-12:00 13:00-17:00');
        $todos = self::todos($content, $format);
        $foreign = self::projectOf($todos, 'imported', $name, $office, static fn (string $key): bool => false,
            Instant::parse('2000-01-03T08:00'));
        [$plan, $notes] = TodoReader::read($todos, $foreign, [$office->uid => $office]);

        return [$plan, $notes, null];
    }

    /**
     * @return array{Plan, list<string>}
     *
     * @throws FormatError
     */
    private static function rows(string $content, Format $format, string $name, Plan $shared): array
    {
        $first = array_values($shared->projects)[0] ?? null;
        $office = Calendar::weekly('office', 'OFFICE', '08:00-12:00 13:00-17:00');
        $title = self::title($name);
        $project = $first ?? new Project('imported', ProjectKey::propose($title, static fn (string $key): bool => false),
            $title === '' ? 'Imported' : $title, null, $office->uid, Instant::parse('2000-01-03T08:00'));
        $sheets = match ($format) {
            Format::Opml => [PlanOutline::sheet(Opml::read($content))],
            Format::Text => [PlanOutline::sheet(IndentedText::read(Text::clean(mb_scrub($content, 'UTF-8'))))],
            default => TableReader::read($content, $name),
        };
        [$plan, $notes] = TablePlan::read(($sheets[0] ?? throw new FormatError('there is nothing in the file', 1)), $project,
            $first === null ? Plan::of([$office]) : $shared);
        count($sheets) === 1 ?: $notes[] = 'Only the first sheet, “'.$sheets[0]->name.'”, was read.';

        return [$plan, $notes];
    }

    /**
     * @param  Zone|null  $zone  of the wall clock; UTC where it is not said
     * @param  bool  $events  appointments are read too
     *
     * @throws FormatError
     */
    public static function todos(string $content, Format $format, ?Zone $zone = null, bool $events = false): Todos
    {
        return match ($format) {
            Format::ICalendar => IcsReader::read($content, $zone, $events),
            Format::JCal => JCalReader::read($content, $zone, $events),
            default => XCalReader::read($content, $zone, $events),
        };
    }

    /**
     * The project that components from elsewhere go into: called like the file, from the earliest start in it.
     *
     * @param  \Closure(string): bool  $isTaken  a key
     * @param  int  $else  start where the file has none
     */
    public static function projectOf(Todos $todos, string $uid, string $file, Calendar $calendar, \Closure $isTaken, int $else): Project
    {
        $starts = array_filter(array_map(static fn (Todo $t): ?int => $t->start, $todos->items), is_int(...));
        $title = self::title($file);

        return new Project($uid, ProjectKey::propose($title, $isTaken), $title === '' ? 'Imported' : $title, null, $calendar->uid,
            $starts === [] ? $else : min($starts));
    }

    /** What a file is called, without where it lies and what kind it is. */
    public static function title(string $file): string
    {
        return mb_substr(Text::clean(mb_scrub(pathinfo($file, PATHINFO_FILENAME), 'UTF-8')), 0, 120);
    }

    /**
     * @param  Told  $told  what plan XML says beside the plan; the dates are those of the schedule
     * @param  string  $source  of it where it says none
     */
    public static function write(Schedule $schedule, Format $format, Told $told = new Told, string $source = 'reihe'): string
    {
        return match ($format) {
            Format::PlanXml => PlanXmlWriter::write($schedule->plan, $told->of($schedule, $source)),
            Format::ICalendar => IcsWriter::write(TodoMapper::map($schedule), '20000101T000000Z'),
            Format::XCal => XCalWriter::write(TodoMapper::map($schedule), '2000-01-01T00:00:00Z'),
            Format::JCal => IcsWriter::json(TodoMapper::map($schedule), '20000101T000000Z'),
            Format::GraphMl => GraphMl::write($schedule),
            Format::Xlsx, Format::Ods, Format::Csv => PlanTable::whole($schedule, $format->value),
            Format::Opml => Opml::write(PlanOutline::whole($schedule->plan), $schedule->plan->projects === [] ? 'Reihe'
                : array_values($schedule->plan->projects)[0]->name),
            Format::Text => IndentedText::write(PlanOutline::whole($schedule->plan)),
        };
    }

    /**
     * What a format did not carry: what was written is read again and compared. A graph has nodes and edges and nothing else.
     *
     * @return list<string>
     *
     * @throws FormatError
     */
    public static function lost(Plan $plan, string $written, Format $format): array
    {
        if ($format === Format::GraphMl) { // is not read
            return GraphMl::lost($plan);
        }
        try {
            return DifferenceReport::lost($plan, self::read($written, ".{$format->suffix()}", $plan)[0]);
        } catch (FormatError $e) {
            return $format->isPlan() ? throw $e : ["what a table or outline of this size loses was not compared ({$e->getMessage()})"];
        }
    }
}
