<?php

declare(strict_types=1);

namespace Reihe\Formats;

/** Formats of files that go out and come in. */
enum Format: string
{
    case PlanXml = 'plan-xml';
    case ICalendar = 'icalendar';
    case XCal = 'xcal';
    case JCal = 'jcal';

    /** goes out only */
    case GraphMl = 'graphml';

    // tables and outlines: rows for a project
    case Xlsx = 'xlsx';
    case Ods = 'ods';
    case Csv = 'csv';
    case Opml = 'opml';
    case Text = 'text';

    public function mediaType(): string
    {
        return match ($this) {
            self::PlanXml => 'application/xml',
            self::ICalendar => 'text/calendar; charset=utf-8',
            self::XCal => 'application/calendar+xml',
            self::JCal => 'application/calendar+json',
            self::GraphMl => 'application/graphml+xml',
            self::Xlsx => 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
            self::Ods => 'application/vnd.oasis.opendocument.spreadsheet',
            self::Csv => 'text/csv; charset=utf-8',
            self::Opml => 'text/x-opml; charset=utf-8',
            self::Text => 'text/plain; charset=utf-8',
        };
    }

    public function suffix(): string
    {
        return match ($this) {
            self::PlanXml => 'plan.xml',
            self::ICalendar => 'ics',
            self::XCal => 'xcal.xml',
            self::JCal => 'jcal.json',
            self::GraphMl => 'graphml',
            self::Xlsx => 'xlsx',
            self::Ods => 'ods',
            self::Csv => 'csv',
            self::Opml => 'opml',
            self::Text => 'txt',
        };
    }

    /** Does it tell whole projects, not rows for one? */
    public function isPlan(): bool
    {
        return in_array($this, self::plans(), true);
    }

    /** @return list<self> */
    public static function plans(): array
    {
        return [self::PlanXml, self::ICalendar, self::XCal, self::JCal, self::GraphMl];
    }

    public function isTable(): bool
    {
        return in_array($this, [self::Xlsx, self::Ods, self::Csv], true);
    }

    /** Does it come in as well? A graph says nothing of calendars and projects. */
    public function isRead(): bool
    {
        return $this !== self::GraphMl;
    }

    /** The format that a file of this name is to have; null where its name does not tell. */
    public static function ofName(string $file): ?self
    {
        foreach (self::cases() as $format) {
            if (str_ends_with(strtolower($file), ".{$format->suffix()}")) {
                return $format;
            }
        }

        return str_ends_with(strtolower($file), '.xml') ? self::PlanXml : null;
    }

    /** What a file is, told by its content. */
    public static function detect(string $content): ?self
    {
        $head = substr($content, 0, 8192);
        foreach (["\xFF\xFE" => 'UTF-16LE', "\xFE\xFF" => 'UTF-16BE'] as $mark => $encoding) {
            $head = str_starts_with($head, $mark) ? mb_convert_encoding(substr($head, 2), 'UTF-8', $encoding) : $head;
        }
        $head = ltrim($head, "\xEF\xBB\xBF \r\n\t");

        return match (true) {
            stripos($head, 'BEGIN:VCALENDAR') === 0 => self::ICalendar,
            str_contains($head, 'urn:ietf:params:xml:ns:icalendar-2.0') => self::XCal,
            str_contains($head, 'http://graphml.graphdrawing.org/xmlns') => self::GraphMl,
            preg_match('/^\[\s*(\[\s*)?"vcalendar"/i', $head) === 1 => self::JCal,
            preg_match('/<opml[\s>]/i', $head) === 1 => self::Opml,
            str_starts_with($head, '<') => self::PlanXml,
            str_starts_with($head, "PK\x03\x04") => str_contains($head, 'opendocument.spreadsheet') ? self::Ods : self::Xlsx,
            default => null,
        };
    }
}
