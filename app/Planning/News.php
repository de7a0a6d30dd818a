<?php

declare(strict_types=1);

namespace App\Planning;

use App\Database\Rows;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\EntityKind;

/**
 * What changed since a revision. A project's revision rises with every change set that alters one of its objects or
 * computed results; `plan_changes` tells the objects, the revision of the result rows tells the results.
 */
final class News implements Follower
{
    /** stands for the enterprise where a project's uid would */
    public const ENTERPRISE = '';

    /**
     * Objects that were made, changed or deleted.
     *
     * @param  array<string, int>  $since  project uid => revision
     * @return array<string, array<string, true>> kind => uid
     */
    public static function objects(array $since): array
    {
        $objects = [];
        foreach (self::changes($since, ['kind', 'uid']) as $row) {
            $objects[$row->kind][$row->uid] = true;
        }

        return $objects;
    }

    /**
     * Uids of rows to show again: objects and computed results.
     *
     * @param  array<string, int>  $since  project uid => revision
     * @return array{touched: array<string, array<string, true>>, removed: list<string>} touched: kind => uid
     */
    public static function rows(array $since): array
    {
        $touched = ['project' => [], 'wbs' => [], 'activity' => [], 'link' => []];
        $removed = [];
        foreach (self::changes($since, ['kind', 'uid', 'verb']) as $row) {
            if ($row->verb === 'delete') {
                $removed[(string) $row->uid] = true;
                unset($touched[$row->kind][$row->uid]);
            } else {
                unset($removed[(string) $row->uid]);
                $touched[$row->kind][$row->uid] = true;
            }
        }
        foreach ($since as $project => $revision) {
            $id = DB::table('projects')->where('uid', $project)->value('id');
            foreach (is_int($id) ? self::resultsOf($id, $revision) : [] as [$kind, $uid]) {
                $touched[$kind][$uid] = true;
            }
        }

        /** @var list<string> $gone */
        $gone = array_keys($removed);

        return ['touched' => $touched, 'removed' => $gone];
    }

    /** @return iterable<array{string, string}> kind and uid of objects with newer results than the revision */
    private static function resultsOf(int $project, int $revision): iterable
    {
        foreach (Results::TABLES as $kind => [$table, $key, $of, $column]) {
            if ($kind === 'handover') {
                continue; // boards get all of them
            }
            $sql = "SELECT x.uid FROM {$table} d JOIN {$of} x ON x.id = d.{$key} WHERE x.{$column} = {$project}
                AND d.revision > {$revision}";
            if ($kind === 'link') {
                $sql .= " UNION SELECT x.uid FROM link_dates d JOIN links x ON x.id = d.link_id
                    WHERE x.from_project_id = {$project} AND d.giver_revision > {$revision}";
            }
            foreach (Rows::all($sql) as [$uid]) {
                yield [$kind, (string) $uid];
            }
        }
    }

    public function follow(Committed $change): void
    {
        [$before, $after, $revisions] = [$change->before, $change->after, $change->revisions];
        foreach (array_chunk($change->operations, Rows::CHUNK) as $operations) {
            $changes = [];
            foreach ($operations as $o) {
                array_push($changes, ...Touched::news($o->kind, $o->uid, $o->verb,
                    $o->verb === Verb::Update ? array_map(strval(...), array_keys($o->after ?? [])) : [], $before, $after, $revisions),
                    ...Touched::shownOn($o, $before, $after, $revisions));
            }
            self::record($change->id, $changes);
        }
        self::record($change->id, array_merge(...array_map(static fn (array $a): array => Touched::news($a[0], $a[1], Verb::Update, [],
            $before, $after, $revisions), $change->along)));
    }

    /**
     * Records what a change set did to objects.
     *
     * @param  list<array{project: string, revision: int, kind: EntityKind, uid: string, verb: string, fields: list<string>}>  $changes
     */
    private static function record(int $changeSet, array $changes): void
    {
        $rows = [];
        foreach ($changes as $c) {
            $base = ['change_set_id' => $changeSet, 'project_uid' => $c['project'], 'revision' => $c['revision'],
                'kind' => $c['kind']->value, 'uid' => $c['uid'], 'verb' => $c['verb']];
            foreach ($c['fields'] === [] ? [''] : $c['fields'] as $field) {
                $rows[] = $base + ['field' => mb_substr($field, 0, 80)];
            }
        }
        Rows::insert('plan_changes', $rows);
    }

    /**
     * @param  array<string, int>  $since
     * @param  list<string>  $columns
     * @return iterable<object{kind: string, uid: string, verb: string}>
     */
    private static function changes(array $since, array $columns): iterable
    {
        /** @var array<int, object{kind: string, uid: string, verb: string}> $found */
        $found = [];
        foreach ($since as $project => $revision) {
            $rows = DB::table('plan_changes')->where('project_uid', $project)->where('revision', '>', $revision)->get(['id', ...$columns]);
            foreach ($rows as $row) {
                /** @var object{id: int, kind: string, uid: string, verb: string} $row */
                $found[$row->id] = $row;
            }
        }
        ksort($found); // what left one of the projects may have come to another one

        return $found;
    }
}
