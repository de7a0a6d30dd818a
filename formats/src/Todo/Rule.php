<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Sabre\VObject\Property\ICalendar\Recur;

/** A recurrence rule as somebody wrote it: what is no `NAME=value` is passed over, which the library takes for granted. */
final class Rule extends Recur
{
    /** @param  mixed  $value  text, or values by their names */
    public function setValue($value): void
    {
        $parts = [];
        if (is_array($value)) {
            foreach ($value as $name => $of) {
                $list = array_map(strval(...), array_filter(is_array($of) ? $of : [$of], is_scalar(...)));
                $list === [] ?: $parts[strtoupper((string) $name)] = strtoupper(implode(',', $list));
            }
        } elseif (is_string($value)) {
            foreach (explode(';', strtoupper($value)) as $part) {
                [$name, $of] = [...explode('=', $part, 2), ''];
                $name === '' || $of === '' ?: $parts[$name] = $of;
            }
        }
        $this->value = $parts;
    }
}
