<?php

declare(strict_types=1);

namespace App\Exchange;

use App\Access\Reach;
use App\Database\Rows;
use App\Models\ChangeSet;
use App\Planning\Connected;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\Role;
use Reihe\Core\Plan\Stub;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/**
 * What of a file is here already: projects that came from its source before, that are our own, that are called the same, or that somebody
 * chose; with everything in them, found by what the source calls it, then activities by their codes, WBS elements by code or name in
 * their place.
 *
 * What happened here since the file was written, or since the source spoke last, tells who changed what.
 */
final class Known
{
    /** the projects that are updated, calculated; null for none */
    public readonly ?Schedule $schedule;

    public readonly Plan $plan;

    /** @var array<string, string> uids of the projects that are updated => how they were found: known, key, outside, hand */
    public readonly array $projects;

    /**
     * @var array<array-key, string> what the source calls projects that are here and stay as they are, since the user may not plan them
     *     or they rest => why
     */
    public array $beyond = [];

    /** @var array<string, array<array-key, string>> kind => what the source calls it => uid here */
    private array $uids = [];

    /** @var array<string, array<array-key, string|array<string, mixed>>> kind => what the source calls what was deleted or moved elsewhere
     *     here => what it said of it, as JSON where there may be many */
    private array $gone = [];

    /** @var array<string, array<string, string|array<string, mixed>>> kind => uid here => what the source said of it last, the same way */
    private array $told = [];

    /** @var array<string, array<array-key, true>> kind => what the source calls what is in the file */
    private array $named = [];

    /** @var array<string, array<string, true>> kind => uid here, made here after the file was written */
    private array $newer = [];

    /**
     * @param  Plan  $file  the plan of the file
     * @param  array<string, string>  $given  uid in the file => what it really says
     * @param  bool  $isOurs  the file was written here: uids are what they are called
     * @param  int|null  $written  when, in minutes since 2000-01-01
     * @param  array<array-key, string>  $byHand  what the source calls projects => uid here, or nothing for a new one
     * @param  array<string, true>  $withoutCode  uids in the file of activities that it gives no code
     */
    public function __construct(Plan $file, string $source, array $given, public readonly bool $isOurs, ?int $written, Reach $reach,
        array $byHand = [], array $withoutCode = [])
    {
        $calls = static fn (int|string $uid): string => $given[$uid] ?? (string) $uid;
        $found = $this->projects($file, $source, $calls, $reach, $byHand);
        $uids = array_column($found, 0);
        $this->projects = array_combine($uids, array_column($found, 1));
        $ids = DB::table('projects')->whereIn('uid', $uids)->pluck('id')->all();
        /** @var list<int> $ids */
        $this->schedule = $ids === [] ? null : Connected::with($ids)->schedule;
        $this->plan = self::masked($this->schedule->plan ?? new Plan, $reach);
        if ($this->schedule === null) {
            return;
        }
        foreach (EntityKind::cases() as $kind) {
            foreach (array_keys($file->all($kind)) as $uid) {
                $this->named[$kind->value][$calls($uid)] = true;
            }
        }
        $isOurs ? $this->ours($written) : $this->foreign($source);
        foreach ($found as $foreign => [$uid]) {
            $this->uids[EntityKind::Project->value][$foreign] = $uid;
        }
        $this->byCode($file, $calls, $withoutCode);
        $this->byPlace($file, $calls);
    }

    /** Far ends that the user may not look at have no name. */
    private static function masked(Plan $plan, Reach $reach): Plan
    {
        $objects = [];
        foreach (EntityKind::cases() as $kind) {
            $objects[$kind->value] = $plan->all($kind);
        }

        return Plan::from($objects, array_map(static fn (Stub $s): Stub => $reach->sees($s->code) ? $s
            : new Stub($s->uid, 'an activity out of your reach', '', $s->start, $s->finish), $plan->stubs));
    }

    /**
     * The link here that one of the file is: one that the source calls so, or, where an end of it is no activity that the file may
     * name, the one between the other end and an activity of that code.
     *
     * @param  string  $code  `KEY/CODE` of the end that is not resolved
     * @param  array{from: string|null, to: string|null}  $ends  uids here, null for the one that is not resolved
     */
    public function link(Link $link, string $foreign, string $code, array $ends): ?Link
    {
        $known = $this->plan->links[$this->uid(EntityKind::Link, $foreign) ?? ''] ?? null;
        if ($known !== null) {
            return $known;
        }
        $far = $ends['from'] === null ? 'from' : 'to';
        $near = $far === 'from' ? 'to' : 'from';
        foreach ($this->schedule->plan->links ?? [] as $l) {
            if ($l->type === $link->type && $l->{$near} === $ends[$near] && $this->schedule?->plan->label($l->{$far}) === $code) {
                return $l;
            }
        }

        return null;
    }

    /** Uid here of what a file calls so; null where it is not known. */
    public function uid(EntityKind $kind, string $foreign): ?string
    {
        return $this->uids[$kind->value][$foreign] ?? null;
    }

    /** @return array<string, mixed>|null what was said last of what was deleted or moved elsewhere here; null where it is not so */
    public function gone(EntityKind $kind, string $foreign): ?array
    {
        return isset($this->uids[$kind->value][$foreign]) ? null : self::said($kind, $this->gone[$kind->value][$foreign] ?? null);
    }

    /** @return array<string, mixed>|null written form, as the source said it last, or as far as something was changed here since */
    public function told(EntityKind $kind, string $uid): ?array
    {
        return self::said($kind, $this->told[$kind->value][$uid] ?? null);
    }

    /**
     * @param  string|array<string, mixed>|null  $told
     * @return array<string, mixed>|null
     */
    private static function said(EntityKind $kind, string|array|null $told): ?array
    {
        if (! is_string($told)) {
            return $told;
        }
        /** @var array<string, mixed>|null $said */
        $said = json_decode($told, true);

        return $said === null ? null : $kind->complete($said); // what is as it would be anyway is left out
    }

    /** @return list<string> uids here that the source knows */
    public function all(EntityKind $kind): array
    {
        return array_values(array_unique(array_diff_key(array_combine($this->uids[$kind->value] ?? [], $this->uids[$kind->value] ?? []),
            $this->newer[$kind->value] ?? [])));
    }

    /**
     * @param  callable(int|string): string  $calls
     * @param  array<array-key, string>  $byHand
     * @return array<array-key, array{string, string}> what the source calls it => uid here, and how it was found
     */
    private function projects(Plan $file, string $source, callable $calls, Reach $reach, array $byHand): array
    {
        $names = [];
        foreach ($file->projects as $uid => $project) {
            $names[$calls($uid)] = $project;
        }
        $foreign = array_map(strval(...), array_keys($names));
        $known = $this->isOurs ? array_combine($foreign, $foreign)
            : DB::table('external_identities')->where('source', $source)->where('kind', EntityKind::Project->value)
                ->whereIn('foreign_id', $foreign)->pluck('uid', 'foreign_id')->all();
        /** @var array<array-key, string> $known */
        $rows = $beyond = [];
        $there = DB::table('projects')
            ->where(static fn (Builder $q): Builder => $q->whereIn('uid', [...array_values($known), ...array_values($byHand)])
                ->orWhereIn('key', array_values(array_map(static fn (Project $p): string => $p->key, $names))))
            ->get(['uid', 'key', 'name', 'branch_id', 'kept', 'archived']);
        foreach ($there as $row) {
            /** @var object{uid: string, key: string, name: string, branch_id: int, kept: string, archived: int} $row */
            if ($reach->may(Role::Planner, $row->branch_id) && $row->archived === 0) {
                $rows[$row->uid] = $row;
            } else {
                $beyond[$row->uid] = $row;
            }
        }
        $found = $taken = [];
        $take = static function (string $foreign, string $uid, string $how) use (&$found, &$taken): void {
            if (! isset($taken[$uid])) {
                $found[$foreign] = [$uid, $how];
                $taken[$uid] = true;
            }
        };
        foreach ($byHand as $name => $uid) {
            if ($uid === '' || ! isset($names[$name])) {
                continue;
            }
            if (! isset($rows[$uid]) || isset($taken[$uid])) {
                throw ValidationException::withMessages(['mapping' => 'The project that '.$names[$name]->key.' is to update '
                    .(isset($taken[$uid]) ? 'is chosen twice.' : 'is not there to be planned.')]);
            }
            $take((string) $name, $uid, 'hand');
        }
        foreach ($known as $name => $uid) {
            isset($rows[$uid]) && ! isset($byHand[$name]) && $take((string) $name, $uid, 'known');
        }
        foreach ($names as $name => $project) {
            if (isset($byHand[$name]) || isset($found[$name])) {
                continue;
            }
            foreach ($rows as $row) {
                self::isCalled($row, $project) && $take((string) $name, $row->uid, $row->kept === Kept::Outside->value ? 'outside' : 'key');
            }
            if (! isset($found[$name])) {
                $hidden = $beyond[$known[$name] ?? ''] ?? null;
                foreach ($hidden === null ? $beyond : [] as $row) { // that a key is taken is no secret, what is called so is one
                    if ($row->key === $project->key && ($reach->roleOn($row->branch_id) === null || self::isCalled($row, $project))) {
                        $hidden = $row;
                    }
                }
                if ($hidden !== null) {
                    $this->beyond[$name] = $reach->may(Role::Planner, $hidden->branch_id) ? 'it is archived'
                        : 'it is here already, and you may not plan it';
                }
            }
        }

        return $found;
    }

    /** @param  object{key: string, name: string, kept: string}  $row */
    private static function isCalled(object $row, Project $project): bool
    {
        return $row->key === $project->key && ($row->kept === Kept::Outside->value
            || mb_strtolower(trim($row->name)) === mb_strtolower(trim($project->name)));
    }

    private function isUpdated(EntityKind $kind, string $uid): bool
    {
        return $this->plan->find($kind, $uid) !== null && isset($this->projects[$this->plan->ownerOf($kind, $uid) ?? '']);
    }

    /** @param  int|null  $written  when the file was written */
    private function ours(?int $written): void
    {
        foreach (EntityKind::cases() as $kind) {
            foreach (array_keys($this->plan->all($kind)) as $uid) {
                $this->isUpdated($kind, (string) $uid) && $this->uids[$kind->value][(string) $uid] = (string) $uid;
            }
        }
        $written === null ?: $this->since(str_replace('T', ' ', Instant::format($written)));
    }

    /** What happened here since tells what a file of then said of it. */
    private function since(string $moment): void
    {
        $sets = ChangeSet::query()->whereIn('state', ['applied', 'undone'])->where('applied_at', '>=', $moment)
            ->whereIn('id', DB::table('change_set_projects')->whereIn('project_uid', array_map(strval(...), array_keys($this->projects)))
                ->select('change_set_id'))
            ->orderBy('applied_at')->orderBy('id')->lazy(20);
        foreach ($sets as $set) {
            foreach ($set->operationList() as $o) {
                $told = self::said($o->kind, $this->told[$o->kind->value][$o->uid] ?? null) ?? [];
                if ($o->verb === Verb::Update) {
                    $this->told[$o->kind->value][$o->uid] = $told + ($o->before ?? []);
                } elseif ($o->verb === Verb::Delete) {
                    $told += $o->kind->complete($o->before ?? []);
                    isset($this->newer[$o->kind->value][$o->uid]) ?: $this->gone[$o->kind->value][$o->uid] = $told;
                    $this->told[$o->kind->value][$o->uid] = $told; // put back by an undo it may be another since
                } elseif (! isset($this->gone[$o->kind->value][$o->uid])) {
                    $this->newer[$o->kind->value][$o->uid] = true;
                }
            }
        }
    }

    private function foreign(string $source): void
    {
        $rows = Rows::each('SELECT kind, foreign_id, uid, told FROM external_identities WHERE source = '
            .Rows::quoted([$source]).' ORDER BY id');
        foreach ($rows as [$name, $foreign, $uid, $told]) {
            $kind = EntityKind::tryFrom(is_string($name) ? $name : '');
            if ($kind === null || ! is_string($foreign) || ! is_string($uid)) {
                continue;
            }
            $isHere = $this->isUpdated($kind, $uid);
            if ($isHere) {
                $this->uids[$kind->value][$foreign] = $uid;
            }
            if (is_string($told) && $isHere) { // it may have been called otherwise before
                isset($this->told[$kind->value][$uid]) && ! isset($this->named[$kind->value][$foreign])
                    ?: $this->told[$kind->value][$uid] = $told;
            } elseif (is_string($told)) {
                $this->gone[$kind->value][$foreign] = $told;
            }
        }
    }

    /**
     * What is here under a name that the file uses: everything else may be something of the file that is called otherwise by now.
     *
     * @return array<string, true> uids here
     */
    private function met(EntityKind $kind): array
    {
        return array_fill_keys(array_intersect_key($this->uids[$kind->value] ?? [], $this->named[$kind->value] ?? []), true);
    }

    /**
     * Activities that the file does not name, but that have the code of one of the file.
     *
     * @param  callable(int|string): string  $calls
     * @param  array<string, true>  $withoutCode  uids in the file
     */
    private function byCode(Plan $file, callable $calls, array $withoutCode): void
    {
        $met = $this->met(EntityKind::Activity);
        $codes = [];
        foreach ($this->plan->activities as $a) {
            isset($this->projects[$a->project]) && (! isset($met[$a->uid]) || isset($this->newer[EntityKind::Activity->value][$a->uid]))
                && $codes["{$a->project} {$a->code}"] = $a->uid;
        }
        foreach ($file->activities as $a) {
            $project = $this->uid(EntityKind::Project, $calls($a->project));
            $uid = $codes["{$project} {$a->code}"] ?? null;
            if ($uid !== null && $this->uid(EntityKind::Activity, $calls($a->uid)) === null && ! isset($withoutCode[$a->uid])) {
                $this->uids[EntityKind::Activity->value][$calls($a->uid)] = $uid;
            }
        }
    }

    /**
     * WBS elements that the file does not name, but that stand in the same place with the same code, or with the same name where one
     * of the two has no code.
     *
     * @param  callable(int|string): string  $calls
     */
    private function byPlace(Plan $file, callable $calls): void
    {
        $met = $this->met(EntityKind::Wbs);
        $unmet = [];
        foreach ($this->plan->wbs as $w) {
            if (isset($this->projects[$w->project]) && (! isset($met[$w->uid]) || isset($this->newer[EntityKind::Wbs->value][$w->uid]))) {
                $unmet["{$w->project} {$w->parent}"][] = $w;
            }
        }
        $below = [];
        foreach ($unmet === [] ? [] : $file->wbs as $w) {
            $below[$w->parent ?? ''][] = $w;
        }
        $open = $below[''] ?? [];
        while (($of = array_shift($open)) !== null) {
            $name = $calls($of->uid);
            $place = $this->uid(EntityKind::Project, $calls($of->project)).' '
                .($of->parent === null ? '' : $this->uid(EntityKind::Wbs, $calls($of->parent)) ?? '-');
            foreach ($this->uid(EntityKind::Wbs, $name) === null ? $unmet[$place] ?? [] : [] as $n => $w) {
                if ($of->code !== '' && $w->code !== '' ? $of->code === $w->code : mb_strtolower($of->name) === mb_strtolower($w->name)) {
                    $this->uids[EntityKind::Wbs->value][$name] = $w->uid;
                    unset($unmet[$place][$n]);
                    break;
                }
            }
            array_push($open, ...$below[$of->uid] ?? []);
        }
    }
}
