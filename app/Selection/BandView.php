<?php

declare(strict_types=1);

namespace App\Selection;

use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Selection\Band;
use Reihe\Core\Selection\Column;

/** Bands and columns as screens take them. */
final class BandView
{
    /** @return array<string, mixed> */
    public static function of(Band $band, Plan $plan): array
    {
        $r = $band->rolledUp;
        $kind = $band->column === 'branch' ? EntityKind::Branch : (str_starts_with($band->column, 'code:') ? EntityKind::Entry : null);
        $node = $kind === null || ! is_string($band->value) ? null : $plan->find($kind, $band->value);

        return ['id' => $band->id, 'parent' => $band->parent, 'field' => $band->column, 'value' => $band->value,
            'name' => $node === null ? $band->value : $node->fields()['name'], 'colour' => $node instanceof CodeEntry ? $node->colour
                : null,
            'projects' => $band->rows, 'count' => $band->count, 'start' => $r->start, 'finish' => $r->finish,
            'totalFloat' => $r->totalFloat,
            'margin' => $r->margin, 'critical' => $r->critical, 'progress' => round($r->progress(), 4), 'work' => $r->work,
            'cost' => $r->cost];
    }

    /**
     * @param  array<string, Column>  $columns
     * @return list<array<string, mixed>>
     */
    public static function columns(array $columns): array
    {
        return array_values(array_map(static fn (Column $c): array => ['name' => $c->name, 'kind' => $c->kind->value,
            'scale' => $c->scale, 'words' => $c->words], $columns));
    }
}
