<?php

declare(strict_types=1);

namespace App\OData;

use App\Access\Reach;
use App\Board\ActivityColumns;
use App\Planning\PlanStore;
use App\Planning\Rows;
use App\Selection\EnterpriseColumns;
use Illuminate\Support\Facades\DB;

/** Runs options against the database, within the reach of the token's owner. */
final class Query
{
    /** Rows per page of an answer; more are linked. */
    public const PAGE = 2000;

    /** Related rows in one answer, of all relations together. */
    private const RELATED = 100_000;

    private int $related = 0;

    private bool $calculated = false;

    /** @param  string|null  $view  further condition on the rows of the set itself */
    public function __construct(private readonly Reach $reach, private readonly ?string $view = null)
    {
    }

    /**
     * @param  array{string, list<mixed>}|null  $where  further condition
     * @param  Property|null  $owner  given for rows of a relation, which are not paged: the property that names their owner
     * @return array{list<array<string, mixed>>, bool, list<string>} rows, whether there are more, owner of each row
     */
    public function rows(Options $options, ?array $where = null, ?Property $owner = null): array
    {
        [$sql, $bindings] = $this->from($options, $where, $owner === null);
        if ($owner !== null && $this->related + $this->count($options, $where, false) > self::RELATED) {
            throw new ODataError(400, 'This would expand to more than '.self::RELATED.' related rows; ask for fewer with $top, $filter '
                .'or less $expand.', '$expand');
        }
        $needed = $options->select;
        foreach (array_keys($options->expand) as $name) {
            $needed[] = $options->set->property($options->set->navigations[$name]->ours);
        }
        if ($owner !== null) {
            $needed[] = $owner;
        }
        $columns = [];
        foreach ($needed as $p) {
            $columns[$p->name] = "{$p->sql} AS `{$p->name}`";
        }
        $order = array_map(static fn (array $o): string => "{$o[0]->sql} IS NULL, {$o[0]->sql}".($o[1] ? ' DESC' : ''), $options->orderby);
        $order[] = $options->set->property('Id')->sql;
        $limit = $owner === null ? min($options->top ?? self::PAGE, self::PAGE) : null;
        $sql = 'SELECT '.implode(', ', $columns)." FROM {$sql} ORDER BY ".implode(', ', $order)
            .($limit === null ? '' : ' LIMIT '.($limit + 1)." OFFSET {$options->skip}");
        /** @var list<object> $objects */
        $objects = DB::select($sql, $bindings);
        $found = array_map(static fn (object $r): array => (array) $r, $objects);
        $more = $limit !== null && count($found) > $limit && ($options->top === null || $options->top > self::PAGE);
        $found = $limit === null ? $found : array_slice($found, 0, $limit);
        $this->related += $owner === null ? 0 : count($found);

        /** @var list<array<string, mixed>> $found */
        return [$this->shape($options, $found), $more, $owner === null ? [] : self::texts($found, $owner->name)];
    }

    /** @param  array{string, list<mixed>}|null  $where */
    public function count(Options $options, ?array $where = null, bool $top = true): int
    {
        [$sql, $bindings] = $this->from($options, $where, $top);

        $n = DB::scalar("SELECT COUNT(*) FROM {$sql}", $bindings);

        return is_numeric($n) ? (int) $n : 0;
    }

    /**
     * @param  array{string, list<mixed>}|null  $where
     * @return array{string, list<mixed>}
     */
    private function from(Options $options, ?array $where, bool $top = true): array
    {
        $options->set->name !== 'ActivityOwnValues' ?: $this->calculate();
        $branches = implode(',', [0, ...$this->reach->branches()]);
        $sql = "{$options->set->from} WHERE ".($options->set->branch === null ? ($this->reach->branches() === [] ? '0' : '1')
                    : "{$options->set->branch} IN ({$branches})");
        if ($options->set->secondBranch !== null) {
            $sql .= " AND {$options->set->secondBranch} IN ({$branches})";
        }
        $sql .= $top && $this->view !== null ? " AND {$this->view}" : '';
        $bindings = [];
        foreach ([$where, $options->filter === null ? null : Filter::sql($options->set, $options->filter)] as $condition) {
            if ($condition !== null) {
                $sql .= " AND {$condition[0]}";
                $bindings = [...$bindings, ...$condition[1]];
            }
        }

        return [$sql, $bindings];
    }

    /** What formulas give stands beside what was typed; once for an answer. */
    private function calculate(): void
    {
        if (! $this->calculated) {
            $this->calculated = true;
            [$plan, $ids] = PlanStore::load([]);
            (new ActivityColumns(new EnterpriseColumns($plan, $this->reach), $ids, 'p.branch_id IN '.Rows::in($this->reach->branches())))
                ->workOut();
        }
    }

    /**
     * @param  list<array<string, mixed>>  $found
     * @return list<array<string, mixed>>
     */
    private function shape(Options $options, array $found): array
    {
        $related = [];
        foreach ($options->expand as $name => $nested) {
            $related[$name] = $this->related($options->set->navigations[$name], $nested, $found);
        }
        $rows = [];
        foreach ($found as $row) {
            $shaped = [];
            foreach ($options->select as $p) {
                $shaped[$p->name] = $p->type->json($row[$p->name]);
            }
            foreach ($related as $name => $groups) {
                $navigation = $options->set->navigations[$name];
                $group = $groups[(string) (is_scalar($row[$navigation->ours]) ? $row[$navigation->ours] : '')] ?? [];
                $shaped[$name] = $navigation->many ? $group : ($group[0] ?? null);
            }
            $rows[] = $shaped;
        }

        return $rows;
    }

    /**
     * @param  list<array<string, mixed>>  $found
     * @return list<string>
     */
    private static function texts(array $found, string $name): array
    {
        return array_map(static fn (array $row): string => is_scalar($row[$name]) ? (string) $row[$name] : '', $found);
    }

    /**
     * @param  list<array<string, mixed>>  $found
     * @return array<string, list<array<string, mixed>>> our key => related rows
     */
    private function related(Navigation $navigation, Options $nested, array $found): array
    {
        $keys = array_values(array_unique(self::texts($found, $navigation->ours)));
        $key = $nested->set->property($navigation->theirs);
        $groups = [];
        foreach (array_chunk($keys, 1000) as $chunk) {
            $where = ["{$key->sql} IN (".implode(', ', array_fill(0, count($chunk), '?')).')', $chunk];
            [$rows, , $owners] = $this->rows($nested, $where, $key);
            foreach ($rows as $i => $row) {
                $groups[$owners[$i]][] = $row;
            }
        }
        foreach ($groups as $owner => $rows) {
            $groups[$owner] = array_slice($rows, $nested->skip, $nested->top);
        }

        return $groups;
    }
}
