<?php

declare(strict_types=1);

namespace App\Drafts;

use App\Models\Draft;
use App\Planning\Committed;
use App\Planning\Follower;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;

/** What was carried out of a draft's proposal is no longer in the draft: it is the plan now. */
final class Carried implements Follower
{
    public function follow(Committed $change): void
    {
        $uid = $change->request->proposal?->draft_uid;
        $draft = $uid === null ? null : Draft::query()->where('uid', $uid)->lockForUpdate()->first();
        if ($draft === null) {
            return;
        }
        $done = [];
        foreach ($change->operations as $o) {
            $done[$o->kind->value][$o->uid][] = $o;
        }
        $steps = [];
        foreach ($draft->steps as $step) {
            $left = array_values(array_filter(array_map(
                static fn (array $o): ?array => self::left(Operation::fromArray($o), $done), $step['operations'])));
            if ($left !== []) {
                $steps[] = ['operations' => $left] + $step;
            }
        }
        $flags = JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION;
        DB::table('drafts')->where('id', $draft->id)->update(['steps' => json_encode($steps, $flags), 'undone' => '[]',
            'revision' => $draft->revision + 1, 'changed_at' => now()]);
    }

    /**
     * What of an operation was not done.
     *
     * @param  array<string, array<array-key, list<Operation>>>  $done  by kind and uid
     * @return array<string, mixed>|null
     */
    private static function left(Operation $o, array $done): ?array
    {
        $fields = $o->after ?? [];
        foreach ($done[$o->kind->value][$o->uid] ?? [] as $d) {
            if ($d->verb === $o->verb && $o->verb !== Verb::Update) {
                return null;
            }
            foreach ($d->verb === Verb::Update && $o->verb === Verb::Update ? $d->after ?? [] : [] as $field => $value) {
                if (array_key_exists($field, $fields) && $fields[$field] === $value) {
                    unset($fields[$field]);
                }
            }
        }
        if ($o->verb !== Verb::Update || $fields === $o->after) {
            return $o->toArray();
        }

        return $fields === [] ? null : ['after' => $fields]
            + ($o->before === null ? [] : ['before' => array_intersect_key($o->before, $fields)]) + $o->toArray();
    }
}
