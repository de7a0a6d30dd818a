<?php

declare(strict_types=1);

namespace App\OData;

use App\Board\ActivityColumns;
use App\Database\Rows;
use App\OData\Expression\Node;
use App\Planning\PlanStore;
use App\Selection\EnterpriseColumns;
use Illuminate\Database\QueryException;
use Illuminate\Support\Facades\DB;

/** Runs options against the database, within the reach of the token's owner. Rows have the values of SQL, see {@see EdmType}. */
final class Query
{
    /** Rows per page of an answer where the client says nothing; more are linked. */
    public const PAGE = 2000;

    /** Rows per page that a client may ask for. */
    public const LARGEST = 10_000;

    /** Related rows in one answer, of all relations together. */
    private const RELATED = 100_000;

    /** sets of many rows, whose first table has their keys */
    private const LARGE = ['Activities', 'WbsElements', 'Links', 'Assignments'];

    private int $related = 0;

    private bool $calculated = false;

    /** @param  string|null  $further  condition on the rows `r` of the set that is asked for itself */
    public function __construct(private readonly Reader $reader, private readonly ?string $further = null)
    {
    }

    /**
     * @param  Node|null  $where  further condition
     * @param  list<string|int|float|null>|null  $after  what the row before had in the orders: the page goes on behind it
     * @param  string|null  $part  property that comes along as `#part`
     * @return array{list<array<string, mixed>>, list<string|int|float|null>|null} rows, and what the last of them has in the orders
     *     where more follow
     */
    public function page(Options $options, int $size, ?Node $where = null, ?array $after = null, ?string $part = null): array
    {
        $orders = self::orders($options);
        $sql = new Sql($this->reader);
        $sql->byKey = $this->followsKeys($options, $where);
        $columns = [...$this->columns($options), ...($part === null ? [] : ["r.`{$part}` AS `#part`"])];
        foreach ($orders as $i => [$node]) {
            $columns[] = self::ordered($node, $sql)." AS `#{$i}`";
        }
        $from = $this->from($sql, $options, $where);
        if ($after !== null) {
            $from .= ' AND '.self::behind($orders, $after, $sql);
        }
        $directions = array_map(static fn (int $i): string => "`#{$i}`".($orders[$i][1] ? ' DESC' : ''), array_keys($orders));
        $select = $sql->byKey ? 'SELECT STRAIGHT_JOIN ' : 'SELECT ';
        $found = self::run($select.implode(', ', $columns)." FROM {$from}".($directions === [] ? ''
            : ' ORDER BY '.implode(', ', $directions)).' LIMIT '.($size + 1).' OFFSET '.($after === null ? $options->skip : 0), $sql);
        $next = null;
        if (count($found) > $size) {
            array_pop($found);
            $last = $found === [] ? [] : $found[count($found) - 1];
            foreach (array_keys($orders) as $i) {
                $value = $last["#{$i}"] ?? null;
                $next[] = is_string($value) || is_int($value) || is_float($value) ? $value : null;
            }
        }

        return [$found, $next];
    }

    /**
     * Somebody who sees everything goes through all rows: these are read along the index of their keys, page by page. Left to itself the
     * database reads and sorts all of them for each page.
     */
    private function followsKeys(Options $options, ?Node $where): bool
    {
        return in_array($options->set->name, self::LARGE, true) && $options->set->isEntities && $options->orderby === [] && $where === null
            && $options->filter === null && $options->search === null && $this->further === null && $this->reader->reach->seesAll();
    }

    public function count(Options $options, ?Node $where = null): int
    {
        $sql = new Sql($this->reader);
        $n = self::run("SELECT COUNT(*) AS n FROM {$this->from($sql, $options, $where)}", $sql)[0]['n'] ?? 0;

        return is_numeric($n) ? (int) $n : 0;
    }

    /**
     * Rows that are related to some, of one relation.
     *
     * @param  list<string>  $keys  what those rows have
     * @return array<string, list<array<string, mixed>>> by key
     */
    public function related(Navigation $navigation, Options $nested, array $keys): array
    {
        $orders = self::orders($nested);
        $groups = [];
        foreach (array_chunk(array_values(array_unique($keys)), 1000) as $chunk) {
            $sql = new Sql($this->reader);
            $columns = [...$this->columns($nested), "r.`{$navigation->theirs}` AS `#owner`"];
            foreach ($orders as $i => [$node]) {
                $columns[] = self::ordered($node, $sql)." AS `#{$i}`";
            }
            $from = $this->from($sql, $nested, null, false)." AND r.`{$navigation->theirs}` IN ("
                .implode(', ', array_map($sql->bind(...), $chunk)).')';
            $order = implode(', ', array_map(static fn (int $i): string => "`#{$i}`".($orders[$i][1] ? ' DESC' : ''), array_keys($orders)));
            $found = self::run('SELECT '.implode(', ', $columns)." FROM {$from} ORDER BY {$order} LIMIT ".(self::RELATED + 1), $sql);
            $this->related += count($found);
            if ($this->related > self::RELATED) {
                throw new ODataError(400, 'This would expand to more than '.self::RELATED.' related rows; ask for fewer with $top, '
                    .'$filter or less $expand.', '$expand');
            }
            foreach ($found as $row) {
                $groups[is_scalar($row['#owner']) ? (string) $row['#owner'] : ''][] = $row;
            }
        }

        return $groups;
    }

    /** @return list<string> */
    private function columns(Options $options): array
    {
        $needed = [];
        foreach ($options->select as $p) {
            $needed[$p->name] = true;
        }
        if ($options->set->isEntities) {
            $needed['Id'] = true;
        }
        foreach (array_keys($options->expand) as $name) {
            $needed[$options->set->navigations[$name]->ours] = true;
        }

        return array_map(static fn (string $name): string => "r.`{$name}`", array_map(strval(...), array_keys($needed)));
    }

    private function from(Sql $sql, Options $options, ?Node $where, bool $isAsked = true): string
    {
        $options->set->name !== 'ActivityOwnValues' ?: $this->calculate();
        $from = ($options->set->table)($sql).' r WHERE 1';
        if ($isAsked && $this->further !== null) {
            $from .= " AND {$this->further}";
        }
        foreach ([$where, $options->filter] as $condition) {
            $from .= $condition === null ? '' : " AND {$condition->sql($sql)}";
        }

        return $from.($options->search === null ? '' : " AND {$options->search->sql($sql, 'r')}");
    }

    /** What formulas give stands beside what was typed; once for an answer. */
    private function calculate(): void
    {
        if (! $this->calculated) {
            $this->calculated = true;
            [$plan, $ids] = PlanStore::load([]);
            (new ActivityColumns(new EnterpriseColumns($plan, $this->reader->reach), $ids, 'p.branch_id IN '
                .Rows::in($this->reader->reach->branches())))
                ->workOut();
        }
    }

    /** @return list<array{Node, bool}> so that no two rows are alike: what was asked for, then the key, or all that was grouped by */
    private static function orders(Options $options): array
    {
        $orders = $options->orderby;
        foreach ($options->set->isEntities ? ['Id'] : array_keys($options->set->properties) as $name) {
            $orders[] = [new Expression\Member(new Expression\Path('r'), $options->set->property($name), 1), false];
        }

        return $orders;
    }

    private static function ordered(Node $node, Sql $sql): string
    {
        return $node->type === EdmType::Text && ! ($node instanceof Expression\Member && $node->property->isUid && $node->isOwn())
            ? $node->exact($sql) : $node->sql($sql);
    }

    /**
     * Rows behind that one; null comes first, last when descending (URL Conventions 4.01, section 5.1.6).
     *
     * @param  list<array{Node, bool}>  $orders
     * @param  list<string|int|float|null>  $after
     */
    private static function behind(array $orders, array $after, Sql $sql): string
    {
        if (count($orders) !== count($after)) {
            throw new ODataError(400, 'This $skiptoken does not go with the other options.', '$skiptoken');
        }
        $value = static fn (int $i): string => is_int($after[$i]) || is_float($after[$i]) ? (string) $after[$i]
            : $sql->bind((string) $after[$i]);
        $text = '0';
        foreach ($orders as $i => [$node, $descending]) {
            $text .= ' OR (';
            for ($j = 0; $j < $i; $j++) {
                $text .= self::ordered($orders[$j][0], $sql).' <=> '.($after[$j] === null ? 'NULL' : $value($j)).' AND ';
            }
            if ($after[$i] === null) {
                $text .= $descending ? '0)' : self::ordered($node, $sql).' IS NOT NULL)';
            } elseif ($descending) {
                $text .= '('.self::ordered($node, $sql)." < {$value($i)} OR ".self::ordered($node, $sql).' IS NULL))';
            } else {
                $text .= self::ordered($node, $sql)." > {$value($i)})";
            }
        }

        return "({$text})";
    }

    /** @return list<array<string, mixed>> */
    private static function run(string $text, Sql $sql): array
    {
        try {
            /** @var list<object> $found */
            $found = DB::select($text, $sql->bindings);

            /** @var list<array<string, mixed>> */
            return array_map(static fn (object $row): array => (array) $row, $found);
        } catch (QueryException $e) {
            // what only the database can tell of an expression: a pattern it cannot use, a number out of range
            if (in_array($e->errorInfo[1] ?? null, [1139, 1690, 1264, 1292, 1365, 1441], true)) {
                throw new ODataError(400, 'This cannot be calculated: a number, date or pattern leads out of what there is.');
            }
            throw $e;
        }
    }
}
