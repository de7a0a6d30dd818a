<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;

/** Calendars of a file. Bases may be named before they are read, so calendars are made when all are known. */
final class CalendarParts
{
    /** @var array<string, string> key => uid */
    private array $keys = [];

    /** @var array<string, array{array<string, mixed>, array<int, string>, list<array<string, string>>}> uid => fields, week, exceptions */
    private array $open = [];

    public function __construct(private readonly Uids $uids)
    {
    }

    /**
     * @param  array<string, string>  $a  attributes
     * @return bool false for an element of something else
     */
    public function begin(string $name, array $a, int $ordinal): bool
    {
        $uid = (string) array_key_last($this->open);
        switch ($name) {
            case 'calendar':
                if (isset($this->keys[$a['key']])) {
                    throw new InvalidField('key', "calendar {$a['key']} is given twice");
                }
                $uid = $this->keys[$a['key']] = $this->uids->of($ordinal, $a, "calendar:{$a['key']}");
                $this->open[$uid] = [Attributes::values(EntityKind::Calendar, $a), [], []];

                return true;
            case 'day':
                if (isset($this->open[$uid][1][(int) $a['weekday']])) {
                    throw new InvalidField('weekday', "{$a['weekday']} is given twice");
                }
                $this->open[$uid][1][(int) $a['weekday']] = $a['hours'];

                return true;
            case 'exception':
                $this->open[$uid][2][] = ['date' => $a['date'], 'periods' => $a['hours'], 'name' => $a['name'] ?? ''];

                return true;
            default:
                return false;
        }
    }

    /** @return list<Calendar> those that were not made yet */
    public function made(): array
    {
        $made = [];
        foreach ($this->open as $uid => [$fields, $week, $exceptions]) {
            if (isset($fields['base'])) {
                $fields['base'] = $this->named(is_string($fields['base']) ? $fields['base'] : '', 'base');
            }
            $made[] = Calendar::read((string) $uid, $fields + ['week' => $week, 'exceptions' => $exceptions]);
        }
        $this->open = [];

        return $made;
    }

    /** The uid of a calendar by its key. */
    public function named(string $key, string $field): string
    {
        return $this->keys[$key] ?? throw new InvalidField($field, "there is no calendar {$key} in the file");
    }
}
