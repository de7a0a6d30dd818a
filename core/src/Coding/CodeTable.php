<?php

declare(strict_types=1);

namespace Reihe\Core\Coding;

use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\Coding;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Uid;

/**
 * A table that says what is coded with what: key of a project or `KEY/CODE` of an activity, name or key of a code set, name or key
 * of an entry (`Build / Civil` for one below another). Every row is understood by itself; what one says stands beside it.
 */
final class CodeTable
{
    /** @var list<Operation> */
    public array $operations = [];

    /** @var list<array{state: string, label: string|null, set: string|null, entry: string|null, why: string|null}> per row */
    public array $rows = [];

    /** @var array<string, array<string, string>> set uid => object uid => entry that it gets, and how */
    private array $given = [];

    private int $made = 0;

    /** @var array<string, array{string, string|null}|null> label => uids of project and activity; null where several are called so */
    private array $objects = [];

    /** @var array<string, array<string, Coding>> uid of what is coded => uid => coding */
    private array $codings = [];

    private function __construct(private readonly Plan $plan, private readonly bool $make, private readonly string $uids)
    {
        foreach ($plan->activities as $activity) {
            foreach ([$activity->code, $plan->label($activity->uid)] as $label) {
                $this->objects[$label] = array_key_exists($label, $this->objects) ? null : [$activity->project, $activity->uid];
            }
        }
        foreach ($plan->projects as $project) {
            $this->objects[$project->key] = [$project->uid, null];
        }
        foreach ($plan->codings as $uid => $coding) {
            $this->codings[$coding->activity ?? $coding->project][(string) $uid] = $coding;
        }
    }

    /**
     * @param  list<array{string, string, string}>  $rows  object, set, entry
     * @param  Plan  $plan  with the projects that the rows name
     * @param  bool  $make  entries that are missing are made at the top of their set
     * @param  string  $uids  what the uids of new objects begin with
     */
    public static function read(array $rows, Plan $plan, bool $make, string $uids): self
    {
        $self = new self($plan, $make, $uids);
        foreach ($rows as $row) {
            $self->rows[] = $self->row(...array_map(trim(...), $row));
        }

        return $self;
    }

    /** @return array{state: string, label: string|null, set: string|null, entry: string|null, why: string|null} */
    private function row(string $object, string $setName, string $entryName): array
    {
        $say = static fn (string $state, ?string $why = null, ?CodeSet $set = null, ?string $entry = null): array => ['state' => $state,
            'label' => $object, 'set' => $set?->name, 'entry' => $entry, 'why' => $why];
        [$project, $activity] = $this->objects[$object] ?? [null, null];
        if ($project === null) {
            return $say('wrong', array_key_exists($object, $this->objects)
                ? 'several activities have this code; name the project too, like '
                            .'KEY/CODE' : 'there is no project or activity of this name');
        }
        $scope = $activity === null ? CodeScope::Project : CodeScope::Activity;
        $set = $this->set($setName, $scope);
        if ($set === null) {
            return $say('wrong', "there is no code set {$setName} for {$scope->plural()}");
        }
        $entry = $entryName === '' ? null : $this->entry($set, $entryName);
        if ($entryName !== '' && $entry === null && ! $this->make) {
            return $say('wrong', "there is no entry {$entryName} in {$set->name}", $set);
        }
        $of = $activity ?? $project;
        if (isset($this->given[$set->uid][$of]) && ! $set->multiple) {
            return $say('wrong', 'is coded with this set in a row above', $set);
        }
        $new = $entry === null && $entryName !== '' && ! isset($this->new[self::newKey($set, $entryName)]);
        $entry ??= $entryName === '' ? '' : $this->made($set, $entryName);
        $this->given[$set->uid][$of] = $entry;

        return $say($this->assign($set, $project, $activity, $entry) ? ($new ? 'new' : 'changed') : 'same', null, $set, $entryName);
    }

    private function set(string $name, CodeScope $scope): ?CodeSet
    {
        foreach ([static fn (CodeSet $s): string => $s->key, static fn (CodeSet $s): string => $s->name] as $called) {
            foreach ($this->plan->codeSets as $set) {
                if ($set->scope === $scope && mb_strtolower($called($set)) === mb_strtolower($name)) {
                    return $set;
                }
            }
        }

        return null;
    }

    private function entry(CodeSet $set, string $name): ?string
    {
        $path = array_map(trim(...), explode('/', $name));
        foreach ([static fn (CodeEntry $e): string => $e->key, static fn (CodeEntry $e): string => $e->name,
            fn (CodeEntry $e): string => $this->path($e)] as $called) {
            $found = array_values(array_filter($this->plan->entries, static fn (CodeEntry $e): bool => $e->codeSet === $set->uid
                && ! $e->retired && mb_strtolower($called($e)) === mb_strtolower(implode(' / ', $path))));
            if (count($found) === 1) {
                return $found[0]->uid;
            }
        }

        return null;
    }

    private function path(CodeEntry $entry): string
    {
        return ($entry->parent === null ? '' : $this->path($this->plan->entries[$entry->parent]).' / ').$entry->name;
    }

    /** @var array<string, string> set and name => uid of an entry that is made */
    private array $new = [];

    private function made(CodeSet $set, string $name): string
    {
        $key = self::newKey($set, $name);

        if (! isset($this->new[$key])) {
            $this->new[$key] = Uid::of("{$this->uids}:entry:{$key}");
            $this->operations[] = Operation::create(EntityKind::Entry, $this->new[$key], ['codeSet' => $set->uid, 'name' => $name,
                'position' => 1000.0 + ++$this->made]);
        }

        return $this->new[$key];
    }

    private static function newKey(CodeSet $set, string $name): string
    {
        return "{$set->uid} ".mb_strtolower($name);
    }

    /** @return bool whether anything changes */
    private function assign(CodeSet $set, string $project, ?string $activity, string $entry): bool
    {
        $now = array_filter($this->codings[$activity ?? $project] ?? [],
            fn (Coding $c): bool => ($this->plan->entries[$c->entry]->codeSet ?? null) === $set->uid);
        foreach ($now as $coding) {
            if ($coding->entry === $entry) {
                return false;
            }
        }
        $create = Operation::create(EntityKind::Coding, Uid::of("{$this->uids}:coding:{$project}:{$activity}:{$set->uid}:{$entry}"),
            ['project' => $project, 'activity' => $activity, 'entry' => $entry]);
        if ($entry === '') {
            foreach ($now as $uid => $coding) {
                $this->operations[] = Operation::delete(EntityKind::Coding, (string) $uid, ['entry' => $coding->entry]);
            }

            return $now !== [];
        }
        $this->operations[] = $now === [] || $set->multiple ? $create : Operation::update(EntityKind::Coding,
            (string) array_key_first($now),
            ['entry' => $entry], ['entry' => $now[array_key_first($now)]->entry]);

        return true;
    }
}
