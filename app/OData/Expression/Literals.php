<?php

declare(strict_types=1);

namespace App\OData\Expression;

use App\OData\EdmType;
use App\OData\ODataError;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\Zone;
use Reihe\Formats\FormatError;

/** Values that stand in an expression, and which types go together. */
final class Literals
{
    /** @throws ODataError */
    public static function read(string $kind, string $text, int $at, string $option): Literal
    {
        try {
            return match ($kind) {
                'string' => new Literal(EdmType::Text, $at, str_replace("''", "'", substr($text, 1, -1)), $text),
                'duration' => new Literal(EdmType::Span, $at, Literal::number(self::span(substr($text, 9, -1))), $text),
                'date' => new Literal(EdmType::Day, $at, (string) intdiv(self::wall($text), Instant::DAY), $text),
                'clock' => new Literal(EdmType::Clock, $at, Literal::number(self::clock($text)), $text),
                'moment' => self::moment($text, $at),
                default => self::numeric($text, $at, $option),
            };
        } catch (FormatError $e) {
            throw Lexer::error($option, $at, $e->getMessage());
        }
    }

    /**
     * Both sides so that they can be compared or calculated with: a moment as the other side has moments, a duration that came
     * without its prefix (ABNF 4.01, `duration`).
     *
     * @param  bool  $isComparison  both must be of one kind
     * @return array{Node, Node}
     *
     * @throws ODataError
     */
    public static function alike(Node $left, Node $right, string $option, bool $isComparison = true): array
    {
        $left = self::beside($left, $right, $option, $isComparison);
        $right = self::beside($right, $left, $option, $isComparison);
        if (! $isComparison || $left->type === null || $right->type === null || $left->type === $right->type
            || ($left->type->isNumber() && $right->type->isNumber())) {
            return [$left, $right];
        }
        [$other, $one] = $left instanceof Literal ? [$right, $left] : [$left, $right];
        throw Lexer::error($option, $one->at, self::said($one).' is not a value of type '.$other->type?->edm());
    }

    /** A part of an expression, as an error names it. */
    public static function said(Node $node): string
    {
        return match (true) {
            $node instanceof Literal => $node->written,
            $node instanceof Member => $node->name(),
            default => $node->type?->edm() ?? 'null',
        };
    }

    private static function beside(Node $node, Node $other, string $option, bool $isComparison): Node
    {
        if (! $node instanceof Literal || $other->type === null || $node->type === $other->type) {
            return $node;
        }
        if ($node->type === EdmType::Text && $other->type === EdmType::Span) {
            return self::read('duration', "duration{$node->written}", $node->at, $option);
        }
        if ($node->type?->isMoment() && in_array($other->type, [EdmType::Moment, EdmType::Stamp], true)
            && ($isComparison || $node->type !== EdmType::Day)) {
            return $node->as($other->type, app(Zone::class));
        }

        return $node;
    }

    /** With an offset it becomes the wall clock of the enterprise; without one it is that. */
    private static function moment(string $text, int $at): Literal
    {
        preg_match('/^(.{16})(?::(\d\d(?:\.\d+)?))?(?:(z)|([+\- ])(\d\d):(\d\d))?$/i', $text, $m);
        $wall = self::wall($m[1] ?? '');
        if (($m[3] ?? '') !== '' || isset($m[5])) {
            $ahead = isset($m[5]) ? ($m[4] === '-' ? -1 : 1) * ((int) $m[5] * 60 + (int) ($m[6] ?? 0)) : 0;
            $wall = app(Zone::class)->wall($wall - $ahead);
        }

        return new Literal(EdmType::Moment, $at, Literal::number($wall + (float) ($m[2] ?? '0') / 60), $text);
    }

    /** Any day of the calendar, also before and after those that plans are about; with a time of day. */
    private static function wall(string $text): int
    {
        [$year, $month, $day, $hour, $minute] = [...array_map(intval(...), preg_split('/[-T:]/i', $text) ?: []), 0, 0];
        if (! checkdate($month, $day, max(1, $year)) || $hour > 23 || $minute > 59) {
            throw new FormatError("{$text} does not exist in the calendar");
        }

        return Instant::of($year, $month, $day, $hour * 60 + $minute);
    }

    /** Minutes of a day-time duration (XML Schema 1.1 Part 2, section 3.4.27). */
    private static function span(string $text): float
    {
        if (preg_match('/^([+-]?)P(?=.)(?:(\d{1,9})D)?(?:T(?=.)(?:(\d{1,9})H)?(?:(\d{1,9})M)?(?:(\d{1,9}(?:\.\d{1,12})?)S)?)?$/D', $text,
            $m) !== 1) {
            throw new FormatError("“{$text}” is not a duration like PT480M");
        }

        return ($m[1] === '-' ? -1 : 1)
            * ((int) ($m[2] ?? 0) * 1440 + (int) ($m[3] ?? 0) * 60 + (int) ($m[4] ?? 0) + (float) ($m[5] ?? 0) / 60);
    }

    private static function clock(string $text): float
    {
        [$hours, $minutes, $seconds] = [...explode(':', $text), '0'];
        if ((int) $hours > 23 || (int) $minutes > 59 || (float) $seconds >= 60) {
            throw new FormatError("{$text} is not a time of day");
        }

        return (int) $hours * 60 + (int) $minutes + (float) $seconds / 60;
    }

    private static function numeric(string $text, int $at, string $option): Literal
    {
        if (! is_finite((float) $text)) {
            throw Lexer::error($option, $at, "{$text} is too large");
        }
        $isWhole = preg_match('/^-?\d{1,18}$/', $text) === 1;

        return new Literal($isWhole ? EdmType::Int : (stripos($text, 'e') === false ? EdmType::Hours : EdmType::Ratio), $at, $text, $text);
    }
}
