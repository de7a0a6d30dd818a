<?php

declare(strict_types=1);

namespace App\History;

use App\Models\ChangeSet;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\EntityKind;

/** What was deleted in the last days as a whole and can be brought back: undoing the change set that did it is the way. */
final class Deleted
{
    public const DAYS = 30;

    private const MOST = 100;

    /** kinds that one looks for by themselves; what is inside comes back with them */
    private const KINDS = [EntityKind::Project, EntityKind::Branch, EntityKind::CodeSet, EntityKind::Entry, EntityKind::Calendar,
        EntityKind::LevelScheme, EntityKind::OwnField, EntityKind::Resource];

    /** things of one change set that are named */
    private const NAMED = 20;

    public function __construct(private readonly ChangeSetReach $sets)
    {
    }

    /**
     * @return list<array<string, mixed>> the latest first; only what the user may bring back
     */
    public function lately(): array
    {
        $kinds = array_map(static fn (EntityKind $k): string => $k->value, self::KINDS);
        $found = ChangeSet::query()->with('author')->where('state', 'applied')->where('source', '!=', 'demo')
            ->where('applied_at', '>=', now()->subDays(self::DAYS))
            ->whereIn('id', DB::table('plan_changes')->whereIn('kind', $kinds)->where('verb', 'delete')->select('change_set_id'))
            ->latest('applied_at')->latest('id')->limit(self::MOST)->get([...ChangeSetReach::LISTED, 'applied_at']);
        $shown = [];
        foreach ($found as $changeSet) {
            if (! $this->sets->mayDecide($changeSet) || $this->sets->hidesOwn($changeSet)) {
                continue;
            }
            [$things, $of] = $this->things($changeSet->id, $kinds);
            if ($things !== []) {
                $shown[] = ['changeSet' => $changeSet->uid, 'author' => $changeSet->author?->name, 'things' => $things,
                    'more' => $of - count($things), 'operations' => $changeSet->operation_count,
                    'deleted' => Carbon::parse($changeSet->applied_at ?? $changeSet->created_at)->toIso8601String()];
            }
        }

        return $shown;
    }

    /**
     * @param  list<string>  $kinds
     * @return array{list<array{kind: string, uid: string, label: string|null}>, int} some of them, and how many there are
     */
    private function things(int $changeSet, array $kinds): array
    {
        $in = implode(', ', array_fill(0, count($kinds), '?'));
        /** @var list<object{kind: string, uid: string, code: string|null, name: string|null, of: int}> $rows */
        $rows = DB::select("SELECT o.kind, o.uid, o.code, o.name, COUNT(*) OVER () AS of FROM change_sets s
            JOIN JSON_TABLE(s.operations, '$[*]' COLUMNS (n FOR ORDINALITY, verb VARCHAR(10) PATH '$.verb',
                kind VARCHAR(20) PATH '$.kind', uid VARCHAR(64) PATH '$.uid', code VARCHAR(190) PATH '$.before.key',
                name VARCHAR(500) PATH '$.before.name')) o
            WHERE s.id = ? AND o.verb = 'delete' AND o.kind IN ({$in})
            ORDER BY FIELD(o.kind, {$in}), o.n LIMIT ".self::NAMED, [$changeSet, ...$kinds, ...$kinds]);

        return [array_map(static fn (object $row): array => ['kind' => $row->kind, 'uid' => $row->uid,
            'label' => trim($row->code.' '.$row->name) ?: null], $rows), $rows[0]->of ?? 0];
    }
}
