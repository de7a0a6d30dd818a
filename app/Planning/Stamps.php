<?php

declare(strict_types=1);

namespace App\Planning;

use App\Models\User;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\Stamp;
use Reihe\Core\Time\Instant;

/** Fills in who made an object, and when; see {@see Stamp}. */
final class Stamps
{
    /**
     * @param  list<Operation>  $operations
     * @param  bool  $told  what the operations say counts, where they say it: files bring their own authors
     * @return list<Operation>
     *
     * @throws InvalidOperation when somebody wants to change a stamp
     */
    public static function assign(array $operations, User $user, bool $told): array
    {
        foreach ($operations as $i => $o) {
            $stamps = [];
            foreach ($o->verb === Verb::Delete ? [] : $o->kind->fields() as $name => $field) {
                if ($field->stamp === null) {
                    continue;
                }
                if ($o->verb === Verb::Update && array_key_exists($name, $o->after ?? [])) {
                    throw new InvalidOperation($i, $name, 'is filled in when the object is made and stays');
                }
                if (! $told || ! isset($o->after[$name])) {
                    $stamps[$name] = $field->stamp === Stamp::Author ? $user->name
                        : Instant::format(Instant::parse(now()->format('Y-m-d\TH:i')));
                }
            }
            if ($o->verb === Verb::Create && $stamps !== []) {
                $operations[$i] = Operation::create($o->kind, $o->uid, $stamps + ($o->after ?? []));
            }
        }

        return $operations;
    }
}
