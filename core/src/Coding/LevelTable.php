<?php

declare(strict_types=1);

namespace Reihe\Core\Coding;

use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Uid;

/**
 * A table of level codes per activity builds the WBS: each row names an activity by its code and the codes of its levels, the
 * outermost first. Elements that are missing are made, named by the level scheme; activities move below theirs, and those that are
 * not there are made where a duration is given. The level codes may be assigned as activity codes at the same time.
 */
final class LevelTable
{
    /** @var list<Operation> */
    public array $operations = [];

    /** @var list<array{state: string, label: string|null, set: string|null, entry: string|null, why: string|null}> per row */
    public array $rows = [];

    /** @var array<string, string> path => uid of a WBS element */
    private array $elements = [];

    /** @var array<string, float> uid of a WBS element, '' for the project => last position below it */
    private array $last = [];

    /** @var array<string, Activity> code => activity */
    private array $activities = [];

    /** @var array<string, string> code set and code => uid of an entry */
    private array $entries = [];

    private function __construct(private readonly Plan $plan, private readonly string $project, private readonly ?LevelCodes $levels,
        private readonly string $uids)
    {
        foreach ($plan->wbs as $w) {
            if ($w->project === $project) {
                $this->elements[implode("\0", LevelCodes::path($plan, $w))] ??= $w->uid;
                $this->last[$w->parent ?? ''] = max($this->last[$w->parent ?? ''] ?? 0.0, $w->position);
            }
        }
        foreach ($plan->activities as $a) {
            if ($a->project === $project) {
                $this->activities[$a->code] = $a;
                $this->last[$a->wbs ?? ''] = max($this->last[$a->wbs ?? ''] ?? 0.0, $a->position);
            }
        }
        foreach ($plan->entries as $e) {
            $this->entries["{$e->codeSet} {$e->key}"] = $e->uid;
        }
    }

    /**
     * @param  list<array{code: string, name: string, minutes: int|null, levels: list<string>}>  $rows
     * @param  array<int, string>  $sets  level => uid of a code set of activities that its codes are assigned with
     */
    public static function read(array $rows, Plan $plan, string $project, array $sets, string $uids): self
    {
        $self = new self($plan, $project, LevelCodes::ofProject($plan, $project), $uids);
        $seen = [];
        foreach ($rows as $row) {
            $why = $self->fault($row, $seen);
            if ($why !== null) {
                $self->rows[] = ['state' => 'wrong', 'label' => $row['code'], 'set' => null, 'entry' => null, 'why' => $why];

                continue;
            }
            $seen[$row['code']] = true;
            $self->row($row, $sets);
        }

        return $self;
    }

    /**
     * @param  array{code: string, name: string, minutes: int|null, levels: list<string>}  $row
     * @param  array<string, true>  $seen
     */
    private function fault(array $row, array $seen): ?string
    {
        $filled = array_values(array_filter($row['levels'], static fn (string $l): bool => $l !== ''));
        if ($row['code'] === '') {
            return 'has no activity code';
        }
        if (isset($seen[$row['code']])) {
            return 'is there in a row above';
        }
        if ($filled !== array_slice($row['levels'], 0, count($filled))) {
            return 'leaves a level out';
        }
        if (! isset($this->activities[$row['code']]) && $row['minutes'] === null) {
            return 'is no activity of the project; a row with a duration makes one';
        }
        foreach ($filled as $depth => $code) {
            $allowed = $this->levels?->below(array_slice($filled, 0, $depth)) ?? [];
            if ($allowed !== [] && ! in_array($code, array_map(static fn ($c): string => $c->code, $allowed), true)) {
                return "{$code} is not in the list of {$this->levels->nameOf(null, $depth + 1)}";
            }
            $length = $this->levels?->scheme->levels[$depth]->length ?? null;
            if ($length !== null && mb_strlen($code) !== $length) {
                return "{$code} must have {$length} characters";
            }
            if (mb_strlen($code) > 60) {
                return "{$code} is longer than 60 characters";
            }
        }

        return null;
    }

    /**
     * @param  array{code: string, name: string, minutes: int|null, levels: list<string>}  $row
     * @param  array<int, string>  $sets
     */
    private function row(array $row, array $sets): void
    {
        $path = array_values(array_filter($row['levels'], static fn (string $l): bool => $l !== ''));
        $wbs = $this->element($path);
        $now = $this->activities[$row['code']] ?? null;
        $before = count($this->operations);
        $uid = $now->uid ?? Uid::of("{$this->uids}:activity:{$row['code']}");
        if ($now === null) {
            $this->operations[] = Operation::create(EntityKind::Activity, $uid, ['project' => $this->project, 'wbs' => $wbs,
                'position' => $this->next($wbs), 'code' => $row['code'], 'name' => $row['name'] === '' ? $row['code'] : $row['name'],
                ...($row['minutes'] === 0 ? ['kind' => 'finish-milestone'] : ['duration' => $row['minutes']])]);
        } elseif ($now->wbs !== $wbs) {
            $this->operations[] = Operation::update(EntityKind::Activity, $uid, ['wbs' => $wbs, 'position' => $this->next($wbs)],
                ['wbs' => $now->wbs, 'position' => $now->position]);
        }
        foreach ($path as $depth => $code) {
            if (isset($sets[$depth + 1])) {
                $this->assign($sets[$depth + 1], $uid, $code, array_slice($path, 0, $depth + 1));
            }
        }
        $this->rows[] = ['state' => $now === null ? 'new' : (count($this->operations) > $before ? 'changed' : 'same'),
            'label' => $row['code'],
            'set' => null, 'entry' => implode(' › ', $path), 'why' => null];
    }

    /** @param  list<string>  $path */
    private function element(array $path): ?string
    {
        if ($path === []) {
            return null;
        }
        $key = implode("\0", $path);
        if (! isset($this->elements[$key])) {
            $parent = $this->element(array_slice($path, 0, -1));
            $code = $path[count($path) - 1];
            $this->elements[$key] = Uid::of("{$this->uids}:wbs:{$key}");
            $this->operations[] = Operation::create(EntityKind::Wbs, $this->elements[$key], ['project' => $this->project,
                'parent' => $parent,
                'position' => $this->next($parent), 'code' => $code, 'name' => $this->levels?->find($path)->name ?? $code]);
        }

        return $this->elements[$key];
    }

    private function next(?string $wbs): float
    {
        return $this->last[$wbs ?? ''] = ($this->last[$wbs ?? ''] ?? 0.0) + 1;
    }

    /** @param  list<string>  $path */
    private function assign(string $set, string $activity, string $code, array $path): void
    {
        $of = $this->plan->codeSets[$set] ?? null;
        if (! $of instanceof CodeSet || $of->scope !== CodeScope::Activity) {
            return;
        }
        $entry = $this->entries["{$set} {$code}"] ?? null;
        if ($entry === null) {
            $entry = $this->entries["{$set} {$code}"] = Uid::of("{$this->uids}:entry:{$set}:{$code}");
            $this->operations[] = Operation::create(EntityKind::Entry, $entry, ['codeSet' => $set, 'key' => $code,
                'name' => $this->levels?->find($path)->name ?? $code, 'position' => 1000.0 + count($this->entries)]);
        }
        foreach ($this->plan->codings as $uid => $coding) {
            if ($coding->activity === $activity && $this->plan->entries[$coding->entry]->codeSet === $set) {
                if ($coding->entry !== $entry) {
                    $this->operations[] = Operation::update(EntityKind::Coding, (string) $uid, ['entry' => $entry],
                        ['entry' => $coding->entry]);
                }

                return;
            }
        }
        $this->operations[] = Operation::create(EntityKind::Coding, Uid::of("{$this->uids}:coding:{$activity}:{$set}"),
            ['project' => $this->project, 'activity' => $activity, 'entry' => $entry]);
    }
}
