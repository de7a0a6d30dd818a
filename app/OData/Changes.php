<?php

declare(strict_types=1);

namespace App\OData;

use Illuminate\Database\Query\JoinClause;
use Illuminate\Support\Facades\DB;

/** Rows that are new, changed or gone since a client was told last (Protocol 4.01, section 11.3; JSON Format 4.01, section 15). */
final readonly class Changes
{
    public function __construct(private Reader $reader, private Query $query, private Form $form)
    {
    }

    public static function mayTrack(Options $options): bool
    {
        return $options->set->isEntities && $options->expand === [] && $options->top === null && $options->skip === 0;
    }

    /** @param  array<string, string>  $raw */
    public function keep(Options $options, array $raw): Tracked
    {
        $raw = array_filter($raw, static fn (string $name): bool => str_starts_with($name, '@')
            || in_array($name, ['$select', '$filter', '$search', '$apply'], true), ARRAY_FILTER_USE_KEY);
        $stamps = $this->stamps($options, $raw);
        $now = $this->now($options, $stamps);
        $parts = [];
        foreach ($stamps as $part => $stamp) {
            $parts[$part] = [$stamp, array_map(Tracked::hash(...), $now[$part] ?? [])];
        }

        return Tracked::keep($this->reader->reach->user, $options->set->name, $raw, $parts);
    }

    /** @return array<string, mixed> the body of the answer */
    public function since(EntitySet $set, string $token): array
    {
        $before = Tracked::find($this->reader->reach->user, $set->name, $token);
        $options = Options::read($set, $before->raw);
        $stamps = $this->stamps($options, $before->raw);
        $moved = array_filter($stamps, static fn (string $stamp, string $part): bool => $stamp === ''
            || $stamp !== ($before->parts[$part][0] ?? ''), ARRAY_FILTER_USE_BOTH);
        $now = $this->now($options, $moved);
        $told = $before->parts;
        $left = $this->form->size ?? Query::PAGE;
        $changed = $gone = [];
        foreach ([...array_keys($moved), ...array_keys(array_diff_key($told, $stamps))] as $part) {
            [$stamp, $hashes] = $told[$part] ?? ['', []];
            $isWhole = true;
            $rows = $now[$part] ?? [];
            foreach (array_keys(array_diff_key($hashes, $rows)) as $id) {
                if (! ($isWhole = --$left >= 0)) {
                    break;
                }
                $gone[] = (string) $id;
                unset($hashes[$id]);
            }
            foreach ($isWhole ? $rows : [] as $id => $row) {
                $hash = Tracked::hash($row);
                if (($hashes[$id] ?? null) === $hash) {
                    continue;
                }
                if (! ($isWhole = --$left >= 0)) {
                    break;
                }
                $changed[] = $row;
                $hashes[$id] = $hash;
            }
            $told[$part] = [$isWhole ? $stamps[$part] ?? '' : $stamp, $hashes];
            if (! $isWhole) {
                break;
            }
            if (! isset($stamps[$part])) {
                unset($told[$part]);
            }
        }
        $next = $changed === [] && $gone === [] ? $before
            : Tracked::keep($this->reader->reach->user, $set->name, $before->raw, $told, $before, $left < 0);
        $link = url("odata/v4/{$set->name}").'?$deltatoken='.$next->token;

        return ['@odata.context' => Answer::context($options, '/$delta'),
            'value' => [...(new Answer($this->query, $this->form, $this->reader))->rows($options, $changed), ...$this->removed($set,
                $gone)],
            $left < 0 ? '@odata.nextLink' : '@odata.deltaLink' => $link];
    }

    /**
     * @param  list<string>  $gone
     * @return list<array<string, mixed>>
     */
    private function removed(EntitySet $set, array $gone): array
    {
        $there = [];
        foreach (array_chunk($gone, 100) as $some) {
            $in = "Id in ('".implode("','", array_map(static fn (string $id): string => str_replace("'", "''", $id), $some))."')";
            foreach ($this->query->page(Options::read($set, ['$select' => 'Id', '$filter' => $in]), 100)[0] as $row) {
                $there[is_string($row['Id']) ? $row['Id'] : ''] = true;
            }
        }

        return array_map(function (string $id) use ($set, $there): array {
            $reason = isset($there[$id]) ? 'changed' : 'deleted';
            $at = "{$set->name}('".str_replace("'", "''", $id)."')";

            return $this->form->version === '4.0'
                ? ['@odata.context' => url('odata/v4/$metadata')."#{$set->name}/\$deletedEntity", 'id' => $at, 'reason' => $reason]
                : ['@odata.removed' => ['reason' => $reason], '@odata.id' => $at, 'Id' => $id];
        }, $gone);
    }

    /**
     * What the rows of each project follow from, where they follow from it alone: its revision, that of the enterprise, its current
     * baseline. Where that is as before, its rows are.
     *
     * @param  array<string, string>  $raw
     * @return array<string, string> project => stamp; '' => '' where all rows have to be looked at
     */
    private function stamps(Options $options, array $raw): array
    {
        if (! isset($options->set->properties['ProjectId']) || ! in_array($options->set->name, ['Activities', 'WbsElements'], true)
            || ! $options->isOwn() || isset($raw['$apply'])) {
            return ['' => ''];
        }
        $enterprise = DB::table('enterprise')->value('revision');
        $stamps = [];
        /** @var object{uid: string, revision: int, kept: string, baseline: int|null} $p */
        foreach ($this->reader->reach->limit(DB::table('projects'))->leftJoin('baselines',
            static fn (JoinClause $j) => $j->on('project_uid', '=',
                'projects.uid')->where('current', true))->get(['projects.uid', 'revision', 'kept', 'baselines.id as baseline']) as $p) {
            $stamps[$p->uid] = implode(' ', [$p->revision, is_int($enterprise) ? $enterprise : 0, $p->kept, $p->baseline ?? 0]);
        }

        return $stamps;
    }

    /**
     * @param  array<string, string>  $parts
     * @return array<string, array<string, array<string, mixed>>> rows by part and key
     */
    private function now(Options $options, array $parts): array
    {
        $isWhole = isset($parts['']);
        $query = $isWhole ? $this->query
            : new Query($this->reader, "r.ProjectId IN ('".implode("','", array_keys($parts + ['-' => '']))."')");
        $rows = [];
        $after = null;
        do {
            [$found, $after] = $query->page($options, 50_000, null, $after, $isWhole ? null : 'ProjectId');
            foreach ($found as $row) {
                $part = is_string($row['#part'] ?? null) ? $row['#part'] : '';
                unset($row['#0'], $row['#part']);
                $rows[$part][is_scalar($row['Id']) ? (string) $row['Id'] : ''] = $row;
            }
        } while ($after !== null);

        return $rows;
    }
}
