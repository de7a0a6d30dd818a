<?php

declare(strict_types=1);

namespace App\Planning;

use App\Database\Rows;
use App\Planning\Tables\Table;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;

/** What must be unique in the whole enterprise, also among what was not loaded. */
final class Uniqueness
{
    /**
     * Uids are unique in the enterprise, also among objects that were not loaded.
     *
     * @param  list<Operation>  $operations
     */
    public static function checkUids(array $operations, Ids $ids): void
    {
        $new = [];
        foreach ($operations as $position => $o) {
            if ($o->verb === Verb::Create && ! $ids->has($o->kind, $o->uid)) {
                $new[$o->kind->value][$o->uid] = $position;
            }
        }
        foreach ($new as $kind => $positions) {
            foreach (Rows::there(Table::of(EntityKind::from($kind))->name(), array_map(strval(...), array_keys($positions))) as $taken) {
                throw new InvalidOperation($positions[$taken], 'uid', 'is taken already');
            }
        }
    }

    /**
     * Project keys are unique in the enterprise, also among projects that were not loaded.
     *
     * @param  list<Operation>  $operations
     */
    public static function checkKeys(array $operations, Plan $plan): void
    {
        $keys = [];
        foreach ($operations as $position => $o) {
            if ($o->kind === EntityKind::Project && is_string($o->after['key'] ?? null)) {
                $keys[$o->after['key']] = $position;
            }
        }
        $taken = $keys === [] ? null : DB::table('projects')->whereIn('key', array_map(strval(...), array_keys($keys)))
            ->whereNotIn('uid', array_map(strval(...), array_keys($plan->projects)))->value('key');
        if (is_string($taken)) {
            throw new InvalidOperation($keys[$taken], 'key', 'is taken by another project');
        }
    }
}
