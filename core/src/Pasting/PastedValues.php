<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\OwnField;
use Reihe\Core\Plan\OwnType;
use Reihe\Core\Plan\OwnValue;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Time\Instant;

/** Values of own fields and costs that rows of a table give to activities. */
final class PastedValues
{
    /** smallest units in one of the currency, as costs are shown */
    private const MINOR = 100;

    /** @var array<string, OwnValue> field and activity => value that is there */
    private array $values = [];

    /** @var array<string, list<Assignment>> by activity */
    private array $assignments = [];

    public function __construct(private readonly Plan $plan, private readonly PasteWish $wish)
    {
        foreach ($plan->ownValues as $value) {
            $this->values["{$value->field} {$value->activity}"] = $value;
        }
        foreach ($plan->assignments as $assignment) {
            $this->assignments[$assignment->activity][] = $assignment;
        }
    }

    /**
     * @param  string  $new  uid of a value that is new
     * @param  int  $day  minutes of a working day of the activity
     * @param  string|null  $unit  of plain numbers as durations, where the column says it
     * @param  NumberFormat|null  $format  of the column
     * @return array{Cell, Operation|null}
     */
    public function own(string $text, OwnField $field, string $activity, string $new, int $day, ?string $unit = null,
        ?NumberFormat $format = null): array
    {
        if ($field->formula !== '') {
            return [new Cell($text, 'is calculated here'), null];
        }
        $now = $this->values["{$field->uid} {$activity}"] ?? null;
        $isOff = $field->type === OwnType::Flag && in_array(mb_strtolower(trim($text)), ['no', 'n', 'false', '0', '-'], true);
        $value = $isOff ? null : $this->value($text, $field, $day, $unit ?? $this->wish->unit, $format);
        $fault = $value === null ? null : $field->type->fault($value, $field->choices);
        if ($fault !== null) {
            return [new Cell($text, null, $field->type === OwnType::Choice ? "is no choice of {$field->name}" : $fault), null];
        }
        $shown = $isOff ? 'no' : $this->shown($value, $field, $day);
        $was = $now === null || $now->value === $value ? null : $this->shown($now->value, $field, $day);

        return [new Cell($text, $shown, null, $was), match (true) {
            $value === ($now->value ?? null) => null,
            $now === null => Operation::create(EntityKind::OwnValue, $new, ['project' => $this->wish->project, 'activity' => $activity,
                'field' => $field->uid, 'value' => $value]),
            $value === null => Operation::delete(EntityKind::OwnValue, $now->uid, $now->fields()),
            default => Operation::update(EntityKind::OwnValue, $now->uid, ['value' => $value], ['value' => $now->value]),
        }];
    }

    private function value(string $text, OwnField $field, int $day, string $unit, ?NumberFormat $format): string
    {
        $plain = trim($text);

        return match ($field->type) {
            OwnType::Text => mb_substr((string) preg_replace('/\s+/u', ' ', $plain), 0, 500),
            OwnType::Number => NumberFormat::number($plain, $format) ?? $plain,
            OwnType::Date => Instant::formatOrNull(TypedDate::read($plain, 0)) ?? $plain,
            OwnType::Duration => ($span = TypedSpan::read($plain, $day, $unit, $format)) === null ? $plain : (string) $span->minutes,
            OwnType::Flag => in_array(mb_strtolower($plain), ['yes', 'y', 'true', '1', 'x'], true) ? 'true' : $plain,
            OwnType::Choice => array_values(array_filter(array_map(static fn ($c): string => $c->name, $field->choices),
                static fn (string $name): bool => mb_strtolower($name) === mb_strtolower($plain)))[0] ?? $plain,
        };
    }

    private function shown(?string $value, OwnField $field, int $day): string
    {
        return match ($field->type) {
            OwnType::Duration => TypedSpan::shown((int) $value, $day),
            OwnType::Flag => $value === null ? 'no' : 'yes',
            default => (string) $value,
        };
    }

    /**
     * @param  string  $new  uid of an assignment that is new
     * @param  NumberFormat|null  $format  of the column
     * @return array{Cell, Operation|null}
     */
    public function cost(string $text, string $activity, string $new, ?NumberFormat $format): array
    {
        $plain = self::amount($text);
        $number = NumberFormat::number($plain, $format);
        if ($number === null || (float) $number < 0 || (float) $number > 1e12) {
            return [new Cell($text, null, $number === null && preg_match('/^\d{1,3}[.,]\d{3}$/D', $plain) === 1
                ? 'may be two numbers; say how numbers are written' : 'is no cost'), null];
        }
        $cost = (int) round((float) $number * self::MINOR);
        $there = $this->assignments[$activity] ?? [];
        $sum = array_sum(array_map(static fn (Assignment $a): int => (int) $a->cost, $there));
        $shown = static fn (int $minor): string => number_format($minor / self::MINOR, 2, '.', '');
        if ($there !== [] && $sum === $cost) {
            return [new Cell($text, $shown($cost)), null];
        }
        if (count($there) > 1) {
            return [new Cell($text, null, 'is told by several assignments here'), null];
        }
        $now = $there[0] ?? null;

        return [new Cell($text, $shown($cost), null, $now === null ? null : $shown($sum)), $now === null
            ? Operation::create(EntityKind::Assignment, $new, ['activity' => $activity, 'cost' => $cost])
            : Operation::update(EntityKind::Assignment, $now->uid, ['cost' => $cost], ['cost' => $now->cost])];
    }

    /** What an amount says beside its number: a currency, before or after it. */
    private static function amount(string $text): string
    {
        return trim((string) preg_replace('/^(?:\p{Sc}|[A-Z]{3}|kr\.?)\s*|\s*(?:\p{Sc}|[A-Z]{3}|kr\.?)$/Du', '', trim($text)));
    }
}
