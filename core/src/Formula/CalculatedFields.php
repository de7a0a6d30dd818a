<?php

declare(strict_types=1);

namespace Reihe\Core\Formula;

use Reihe\Core\Plan\OwnField;
use Reihe\Core\Plan\OwnType;
use Reihe\Core\Time\Instant;

/** Own fields of an activity that follow from its other fields. */
final class CalculatedFields
{
    /** values of columns in minutes of the calendar that a formula counts in days */
    private const SPANS = ['duration', 'remaining', 'totalFloat', 'freeFloat'];

    /** the same in moments */
    private const MOMENTS = ['start', 'finish', 'lateStart', 'lateFinish', 'actualStart', 'actualFinish', 'statusDate', 'deadline'];

    private const SCALES = ['progress' => 1000, 'work' => 60, 'cost' => 100];

    /**
     * What formulas make of a row; a field that cannot be worked out, or that leads back to itself, has no value.
     *
     * @param  array<string, OwnField>  $fields  all of activities, by uid
     * @param  array<string, mixed>  $row  values by the names of {@see Formula::VARIABLES}: spans in working minutes, moments in minutes,
     *     progress in thousandths of a percent, work in minutes, cost in hundredths
     * @param  int  $day  minutes of a day of its calendar
     * @param  array<string, string>  $typed  uid of the field => value
     * @param  array<string, Formula>  $formulas  of those that are calculated, by uid
     * @return array<string, string> uid of the field => value, written as one that is typed
     */
    public static function of(array $fields, array $row, int $day, array $typed, array $formulas): array
    {
        $values = [];
        foreach (Formula::VARIABLES as $name => $holds) {
            $value = $row[$name] ?? null;
            $values[$name] = match (true) {
                ! is_scalar($value) => null,
                in_array($name, self::SPANS, true) => (float) $value / $day,
                in_array($name, self::MOMENTS, true) => (float) $value / 1440,
                isset(self::SCALES[$name]) => (float) $value / self::SCALES[$name],
                $holds === 'flag' => (bool) $value,
                default => (string) $value,
            };
        }
        $byKey = [];
        foreach ($fields as $uid => $field) {
            $byKey[mb_strtolower($field->key)] = (string) $uid;
        }
        $known = $open = [];
        $work = static function (string $uid) use (&$work, &$known, &$open, $fields, $formulas, $values, $byKey, $typed, $day): string {
            if (! isset($formulas[$uid])) {
                return $typed[$uid] ?? '';
            }
            if (isset($known[$uid]) || isset($open[$uid])) {
                return $known[$uid] ?? '';
            }
            $open[$uid] = true;
            $own = static function (string $key) use ($byKey, $fields, $work, $day): string|float|bool|null {
                $of = $byKey[mb_strtolower($key)] ?? null;

                return $of === null ? null : self::given($fields[$of], $work($of), $day);
            };
            $known[$uid] = self::written($fields[$uid], $formulas[$uid]->evaluate($values, $own), $day);
            unset($open[$uid]);

            return $known[$uid];
        };
        $results = [];
        foreach (array_keys($formulas) as $uid) {
            $value = $work((string) $uid);
            $value === '' ?: $results[(string) $uid] = $value;
        }

        return $results;
    }

    /** A kept value as formulas see it. */
    private static function given(OwnField $field, string $value, int $day): string|float|bool|null
    {
        return match (true) {
            $field->type === OwnType::Flag => $value === 'true',
            $value === '' => null,
            $field->type->fault($value, $field->choices) !== null => null, // typed before the field became what it is
            $field->type === OwnType::Number => (float) $value,
            $field->type === OwnType::Duration => (float) $value / $day,
            $field->type === OwnType::Date => Instant::parse($value) / 1440,
            default => $value,
        };
    }

    /** What a formula gave, as a field of this type keeps it; empty where it is nothing of the kind. */
    private static function written(OwnField $field, string|float|bool|null $value, int $day): string
    {
        return match ($field->type) {
            OwnType::Number => is_float($value) ? Formula::number($value) : '',
            OwnType::Date => is_float($value) ? Formula::moment($value) : '',
            OwnType::Duration => is_float($value) && $value >= 0 && $value < 1e6 ? (string) (int) round($value * $day) : '',
            OwnType::Flag => $value === true ? 'true' : '',
            default => is_float($value) ? Formula::number($value) : (is_string($value) ? trim($value) : ''),
        };
    }
}
