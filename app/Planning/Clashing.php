<?php

declare(strict_types=1);

namespace App\Planning;

use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Clash;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;

/** Finds fields that others changed after the revisions that a change set was made against. */
final class Clashing
{
    /**
     * @param  list<Operation>  $operations  as asked for
     * @param  array<string, int>  $known  project uid => revision that the author saw
     * @param  array<string, int>  $now  project uid => revision now
     *
     * @throws Clash on the first field of the same object with another value
     */
    public static function check(array $operations, array $known, array $now, LoadedPlan $loaded): void
    {
        $changed = [];
        foreach ($known as $project => $revision) {
            if (($now[$project] ?? $revision) <= $revision) {
                continue;
            }
            $later = DB::table('change_set_projects')->join('change_sets', 'change_sets.id', '=', 'change_set_projects.change_set_id')
                ->where('project_uid', $project)->where('revision', '>', $revision)->pluck('operations');
            foreach ($later as $json) {
                foreach ((array) json_decode(is_string($json) ? $json : '[]', true) as $operation) {
                    if (is_array($operation) && $operation['verb'] === 'update' && is_array($operation['after']) && is_string($operation['kind']) && is_string($operation['uid'])) {
                        foreach (array_keys($operation['after']) as $field) {
                            $changed["{$operation['kind']} {$operation['uid']}"][$field] = true;
                        }
                    }
                }
            }
        }
        foreach ($operations as $position => $operation) {
            $fields = $changed["{$operation->kind->value} {$operation->uid}"] ?? [];
            if ($operation->verb !== Verb::Update || $fields === []) {
                continue;
            }
            $current = $loaded->plan->find($operation->kind, $operation->uid)?->fields() ?? [];
            foreach ($operation->after ?? [] as $field => $value) {
                if (isset($fields[$field]) && ($current[$field] ?? null) != $value) {
                    throw new Clash($position, $operation->kind, $operation->uid, $field, $value, $current[$field] ?? null);
                }
            }
        }
    }
}
