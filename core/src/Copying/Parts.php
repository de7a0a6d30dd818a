<?php

declare(strict_types=1);

namespace Reihe\Core\Copying;

use Reihe\Core\Plan\CopyPart;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Field;
use Reihe\Core\Plan\Plan;

/** How much there is of what a copy may have or not, see {@see CopyPart}. */
final class Parts
{
    /** @return array<string, int> part => objects that are it, or say something of it */
    public static function of(Plan $plan): array
    {
        $counts = array_fill_keys(CopyPart::wishes(), 0);
        foreach (EntityKind::cases() as $kind) {
            $whole = $kind->entry()->part->value ?? '';
            $told = array_filter($kind->fields(), static fn (Field $f): bool => $f->part !== null && isset($counts[$f->part->value]));
            foreach ($told === [] && ! isset($counts[$whole]) ? [] : $plan->all($kind) as $object) {
                $says = [];
                foreach ($kind->brief($object->fields()) as $name => $value) {
                    if (isset($told[$name]) && ! in_array($value, [null, '', [], 0, false], true)) {
                        $says[$told[$name]->part->value ?? ''] = true;
                    }
                }
                foreach ([...array_keys($says), $whole] as $part) {
                    isset($counts[$part]) && $counts[$part]++;
                }
            }
        }

        return $counts;
    }
}
