<?php

declare(strict_types=1);

namespace App\Planning;

use App\Database\Rows;
use Illuminate\Support\Facades\DB;

/**
 * What change sets of earlier versions said about branches (by row number), codes (fields `code:SET` of a project) and work
 * (fields of an activity), told as operations of today, so that they can be read and undone. Items of proposals keep their states.
 */
final class EarlierOperations
{
    /** The uid of what was work on an activity `a`, in SQL and here ({@see workUid()}). */
    public const WORK_UID = "CONCAT('assignment-', LEFT(SHA2(a.uid, 256), 30))";

    private const WORK = ['actualWork', 'remainingWork', 'cost'];

    public static function workUid(string $activity): string
    {
        return 'assignment-'.substr(hash('sha256', $activity), 0, 30);
    }

    /** The uid of what was a field of a project: there was one entry of a set for each. */
    public static function codingUid(string $project, string $set): string
    {
        return 'coding-'.substr(hash('sha256', "{$project} {$set}"), 0, 30);
    }

    /** Repeatable: what is told in new words already stays as it is. */
    public static function tellInNewWords(): void
    {
        /** @var array<string, string> $entries */
        $entries = [];
        foreach (Rows::all("SELECT s.`key`, e.`key`, e.uid FROM code_entries e JOIN code_sets s ON s.id = e.code_set_id
            WHERE s.scope = 'project'") as [$set, $entry, $uid]) {
            /** @var string $set */
            /** @var string $entry */
            /** @var string $uid */
            $entries["{$set} {$entry}"] = $uid;
        }
        $told = DB::table('change_sets')->where('operations', 'like', '%"code:%')->orWhere('operations', 'like', '%"branch":"%')
            ->orWhere('operations', 'like', '%Work"%')->orWhere('operations', 'like', '%"cost"%')->pluck('id');
        foreach ($told as $id) {
            $row = DB::table('change_sets')->where('id', $id)->first(['operations', 'items']);
            /** @var object{operations: string, items: string|null} $row */
            /**
             * @var list<array{verb: string, kind: string, uid: string, before: array<string, mixed>|null,
             *     after: array<string, mixed>|null}> $earlier
             */
            $earlier = json_decode($row->operations, true, 512, JSON_THROW_ON_ERROR);
            self::provide($earlier);
            [$operations, $items] = self::translate($earlier, $row->items, $entries);
            DB::table('change_sets')->where('id', $id)
                ->update(['operations' => json_encode($operations,
                    JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_PRESERVE_ZERO_FRACTION),
                    'operation_count' => count($operations), 'items' => $items]);
        }
    }

    /**
     * @param list<array{verb: string, kind: string, uid: string, before: array<string, mixed>|null,
     *     after: array<string, mixed>|null}> $operations
     * @param  string|null  $items  a letter for each
     * @param  array<string, string>  $entries  keys of set and entry => uid
     * @return array{list<array<string, mixed>>, string|null}
     */
    public static function translate(array $operations, ?string $items, array $entries): array
    {
        $told = [];
        $letters = '';
        foreach ($operations as $at => $o) {
            $letter = $items === null ? '' : $items[$at];
            $all = match ($o['kind']) {
                'project' => self::project($o, $entries),
                'activity' => self::activity($o),
                default => [$o],
            };
            array_push($told, ...$all);
            $letters .= str_repeat($letter, count($all));
        }

        return [$told, $items === null ? null : $letters];
    }

    /**
     * An assignment for every activity whose work was told of, so that there is something to put back.
     *
     * @param list<array{verb: string, kind: string, uid: string, before: array<string, mixed>|null,
     *     after: array<string, mixed>|null}> $operations
     */
    private static function provide(array $operations): void
    {
        $told = [];
        foreach ($operations as $o) {
            if ($o['kind'] === 'activity' && array_intersect_key(($o['before'] ?? []) + ($o['after'] ?? []),
                array_flip(self::WORK)) !== []) {
                $told[] = $o['uid'];
            }
        }
        foreach (array_chunk($told, Rows::CHUNK) as $chunk) {
            DB::statement('INSERT IGNORE INTO assignments (uid, project_id, activity_id) SELECT '.self::WORK_UID.", a.project_id, a.id
                FROM activities a WHERE a.kind <> 'hammock' AND a.uid IN ".Rows::quoted($chunk));
        }
    }

    /**
     * @param  array{verb: string, kind: string, uid: string, before: array<string, mixed>|null, after: array<string, mixed>|null}  $o
     * @return list<array<string, mixed>>
     */
    private static function activity(array $o): array
    {
        $work = array_flip(self::WORK);
        $sides = [];
        foreach (['before', 'after'] as $side) {
            $sides[$side] = array_intersect_key($o[$side] ?? [], $work);
            $o[$side] = $o[$side] === null ? null : array_diff_key($o[$side], $work);
        }
        $says = static fn (string $side): bool => array_filter($sides[$side], static fn (mixed $v): bool => $v !== null) !== [];
        $uid = self::workUid($o['uid']);
        $of = ['activity' => $o['uid']];
        $becomesHammock = ($o['after']['kind'] ?? null) === 'hammock';
        $assignment = match (true) {
            $o['verb'] === 'create' && $says('after') => ['verb' => 'create', 'before' => null, 'after' => $of + $sides['after']],
            $o['verb'] === 'delete' && $says('before'), $becomesHammock
                && $says('before') => ['verb' => 'delete', 'before' => $of + $sides['before'], 'after' => null],
            $o['verb'] === 'update' && $sides['after'] !== [] && ! $becomesHammock => ['verb' => 'update'] + $sides,
            default => null,
        };
        $own = $o['verb'] === 'update' && $o['after'] === [] ? [] : [$o];
        $more = $assignment === null ? [] : [['verb' => $assignment['verb'], 'kind' => 'assignment', 'uid' => $uid] + $assignment];

        return $o['verb'] === 'delete' ? [...$more, ...$own] : [...$own, ...$more];
    }

    /**
     * @param  array{verb: string, kind: string, uid: string, before: array<string, mixed>|null, after: array<string, mixed>|null}  $o
     * @param  array<string, string>  $entries
     * @return list<array<string, mixed>>
     */
    private static function project(array $o, array $entries): array
    {
        $codes = [];
        foreach (['before', 'after'] as $side) {
            foreach ($o[$side] ?? [] as $field => $value) {
                if (str_starts_with($field, 'code:')) {
                    $codes[substr($field, 5)][$side] = is_string($value) ? $entries[substr($field, 5)." {$value}"] ?? null : null;
                    unset($o[$side][$field]);
                } elseif ($field === 'branch' && is_string($value) && ctype_digit($value)) {
                    $o[$side]['branch'] = "branch-{$value}";
                }
            }
        }
        $more = [];
        foreach ($codes as $set => $sides) {
            $coding = self::coding(self::codingUid($o['uid'], (string) $set), $o['uid'], $sides['before'] ?? null,
                $sides['after'] ?? null);
            $coding === null ?: $more[] = $coding;
        }
        $own = $o['verb'] === 'update' && ($o['after'] ?? []) === [] ? [] : [$o];

        return $o['verb'] === 'delete' ? [...$more, ...$own] : [...$own, ...$more];
    }

    /** @return array<string, mixed>|null */
    private static function coding(string $uid, string $project, ?string $before, ?string $after): ?array
    {
        $fields = static fn (?string $entry): array => ['project' => $project, 'entry' => $entry];

        return match (true) {
            $before === $after => null,
            $before === null => ['verb' => 'create', 'kind' => 'coding', 'uid' => $uid, 'before' => null, 'after' => $fields($after)],
            $after === null => ['verb' => 'delete', 'kind' => 'coding', 'uid' => $uid, 'before' => $fields($before), 'after' => null],
            default => ['verb' => 'update', 'kind' => 'coding', 'uid' => $uid, 'before' => ['entry' => $before],
                'after' => ['entry' => $after]],
        };
    }
}
