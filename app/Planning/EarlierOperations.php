<?php

declare(strict_types=1);

namespace App\Planning;

use Illuminate\Support\Facades\DB;

/**
 * What change sets of earlier versions said about branches (by row number) and codes (fields `code:SET` of a project), told
 * as operations of today, so that they can be read and undone. Items of proposals keep their states.
 */
final class EarlierOperations
{
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
        foreach (Rows::all("SELECT s.`key`, e.`key`, e.uid FROM code_entries e JOIN code_sets s ON s.id = e.code_set_id WHERE s.scope = 'project'") as [$set, $entry, $uid]) {
            /** @var string $set */
            /** @var string $entry */
            /** @var string $uid */
            $entries["{$set} {$entry}"] = $uid;
        }
        $told = DB::table('change_sets')->where('operations', 'like', '%"code:%')->orWhere('operations', 'like', '%"branch":"%')->pluck('id');
        foreach ($told as $id) {
            $row = DB::table('change_sets')->where('id', $id)->first(['operations', 'items']);
            /** @var object{operations: string, items: string|null} $row */
            /** @var list<array{verb: string, kind: string, uid: string, before: array<string, mixed>|null, after: array<string, mixed>|null}> $earlier */
            $earlier = json_decode($row->operations, true, 512, JSON_THROW_ON_ERROR);
            [$operations, $items] = self::translate($earlier, $row->items, $entries);
            DB::table('change_sets')->where('id', $id)
                ->update(['operations' => json_encode($operations,
                    JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_PRESERVE_ZERO_FRACTION),
                    'operation_count' => count($operations), 'items' => $items]);
        }
    }

    /**
     * @param  list<array{verb: string, kind: string, uid: string, before: array<string, mixed>|null, after: array<string, mixed>|null}>  $operations
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
            if ($o['kind'] !== 'project') {
                $told[] = $o;
                $letters .= $letter;

                continue;
            }
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
            $all = $o['verb'] === 'delete' ? [...$more, ...$own] : [...$own, ...$more];
            array_push($told, ...$all);
            $letters .= str_repeat($letter, count($all));
        }

        return [$told, $items === null ? null : $letters];
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
