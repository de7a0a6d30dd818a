<?php

declare(strict_types=1);

namespace App\Drafts;

use App\Access\Reach;
use App\Models\ChangeSet as StoredChangeSet;
use App\Models\Draft;
use App\Planning\Busy;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Reihe\Core\Change\Clash;
use Reihe\Core\Change\Conflict;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;

/** Drafts as records: steps added, taken back and done again, brought up to date with the live plan, proposed. */
final readonly class DraftStore
{
    private const MOST_STEPS = 2_000;

    private const ATTEMPTS = 5;

    public function __construct(private Reach $reach)
    {
    }

    /** @throws \Symfony\Component\HttpKernel\Exception\NotFoundHttpException for one of somebody else that is not shared */
    public function find(string $uid): Draft
    {
        $draft = Draft::query()->with('user')->where('uid', $uid)->first();
        abort_if($draft === null || ($draft->user_id !== $this->reach->user->id && ! $draft->shared), 404);

        return $draft;
    }

    /** @throws AuthorizationException */
    public function own(string $uid): Draft
    {
        $draft = $this->find($uid);
        if ($draft->user_id !== $this->reach->user->id) {
            throw new AuthorizationException('This draft belongs to somebody else.');
        }

        return $draft;
    }

    /**
     * One that the user may alter: its author, and whoever may plan everything in it where it is shared.
     *
     * @throws AuthorizationException
     */
    private function open(string $uid): Draft
    {
        $draft = $this->find($uid);
        if ($draft->user_id !== $this->reach->user->id) {
            DraftPlan::check($draft->operations(), $this->reach);
        }

        return $draft;
    }

    /**
     * A draft of the user with one step, that is there whole or not at all.
     *
     * @param  list<Operation>  $operations
     */
    public function made(string $name, array $operations): Draft
    {
        return DB::transaction(function () use ($name, $operations): Draft {
            $draft = Draft::query()->create(['uid' => (string) Str::ulid(), 'user_id' => $this->reach->user->id,
                'name' => mb_substr($name, 0, 120), 'shared' => false, 'steps' => [], 'undone' => [], 'changed_at' => now()]);
            $this->add($draft->uid, $operations, $name, null, []);

            return $draft->refresh();
        });
    }

    /**
     * Adds a step; the same one again changes nothing more.
     *
     * @param  list<Operation>  $operations
     * @param  list<int>  $show  ids of projects on the board
     */
    public function add(string $uid, array $operations, string $headline, ?string $step, array $show): DraftPlan
    {
        for ($attempt = 1; $attempt <= self::ATTEMPTS; $attempt++) {
            $draft = $this->find($uid);
            if ($step !== null && in_array($step, array_column($draft->steps, 'uid'), true)) {
                return DraftPlan::of($draft->operations(), [], $show, null);
            }
            if (count($draft->steps) >= self::MOST_STEPS) {
                throw new InvalidOperation(0, null, 'belongs to a draft that has too many steps; propose part of it first');
            }
            $plan = DraftPlan::of($draft->operations(), $operations, $show, $this->reach);
            $added = ['uid' => $step ?? (string) Str::ulid(), 'headline' => $headline, 'author' => $this->reach->user->name,
                'operations' => array_map(static fn (Operation $o): array => $o->toArray(), $plan->added)];
            if ($this->write($draft, [...$draft->steps, $added], [])) {
                return $plan;
            }
        }
        throw new Busy(null);
    }

    /** Takes the last step back, or does the one that was taken back last again. */
    public function turn(string $uid, bool $back): void
    {
        $draft = $this->open($uid);
        [$steps, $undone] = [$draft->steps, $draft->undone];
        $step = $back ? array_pop($steps) : array_pop($undone);
        abort_if($step === null, 422, $back ? 'There is nothing to undo in this draft.' : 'There is nothing to redo in this draft.');
        $back ? $undone[] = $step : $steps[] = $step;
        $this->write($draft, $steps, $undone) ?: throw new Busy(null);
    }

    /**
     * Brings a draft up to date with a live plan that went on: what clashes becomes what the draft wants, or what is there; what is
     * about objects that are gone is left out.
     *
     * @return int how many clashes were settled
     */
    public function rebase(string $uid, bool $mine): int
    {
        $draft = $this->open($uid);
        $steps = $draft->steps;
        for ($settled = 0; $settled < 10_000; $settled++) {
            try {
                DraftPlan::of(self::list($steps), [], [], null);
                if ($settled > 0) {
                    $this->write($draft, $steps, []) ?: throw new Busy(null);
                }

                return $settled;
            } catch (Clash $e) {
                foreach ($e->conflicts as $conflict) {
                    $steps = self::settle($steps, $conflict, $mine);
                }
            }
        }
        throw new Busy(null);
    }

    /**
     * Proposes a draft, or some of its steps, for review.
     *
     * @param  list<string>|null  $steps
     */
    public function propose(string $uid, ?array $steps): StoredChangeSet
    {
        $draft = $this->find($uid);
        $operations = $draft->operations($steps);
        if ($operations === []) {
            throw new InvalidOperation(0, null, 'is missing: this draft changes nothing');
        }
        $plan = DraftPlan::of([], $operations, [], $this->reach);

        return StoredChangeSet::query()->create(['uid' => (string) Str::ulid(), 'author_id' => $this->reach->user->id, 'source' => 'draft',
            'state' => 'proposed', 'reason' => $draft->name, 'operations' => $plan->added, 'operation_count' => count($plan->added),
            'ripple' => $plan->ripple()->toArray(), 'created_at' => now(), 'draft_uid' => $draft->uid]);
    }

    /**
     * @param  list<array{uid: string, headline: string, author: string, operations: list<array<string, mixed>>}>  $steps
     * @param  list<array{uid: string, headline: string, author: string, operations: list<array<string, mixed>>}>  $undone
     * @return bool false when somebody was quicker
     */
    private function write(Draft $draft, array $steps, array $undone): bool
    {
        $flags = JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION;

        return DB::table('drafts')->where('id', $draft->id)->where('revision', $draft->revision)->update([
            'steps' => json_encode($steps, $flags), 'undone' => json_encode($undone, $flags),
            'revision' => $draft->revision + 1, 'changed_at' => now()]) === 1;
    }

    /**
     * @param  list<array{uid: string, headline: string, author: string, operations: list<array<string, mixed>>}>  $steps
     * @return list<Operation>
     */
    private static function list(array $steps): array
    {
        return array_map(static fn (array $o): Operation => Operation::fromArray($o), array_merge(...array_column($steps, 'operations')));
    }

    /**
     * @param  list<array{uid: string, headline: string, author: string, operations: list<array<string, mixed>>}>  $steps
     * @return list<array{uid: string, headline: string, author: string, operations: list<array<string, mixed>>}>
     */
    private static function settle(array $steps, Conflict $c, bool $mine): array
    {
        $position = 0;
        foreach ($steps as $s => $step) {
            foreach ($step['operations'] as $i => $o) {
                if ($position++ !== $c->position) {
                    continue;
                }
                /** @var array{verb: string, before?: array<string, mixed>|null, after?: array<string, mixed>|null} $o */
                if (! $mine) {
                    if ($c->field === null || $o['verb'] !== Verb::Update->value) {
                        return self::without($steps, $c->position);
                    }
                    unset($o['before'][$c->field], $o['after'][$c->field]);
                    if (($o['after'] ?? []) === []) {
                        return self::without($steps, $c->position);
                    }
                } elseif ($c->field === null) {
                    if ($o['verb'] !== Verb::Delete->value || ($o['before'] ?? null) === null) {
                        return self::without($steps, $c->position);
                    }
                    $o['before'] = null;
                } else {
                    $o['before'] = [$c->field => $c->theirs] + (array) ($o['before'] ?? []);
                }
                $steps[$s]['operations'][$i] = $o;
            }
        }

        return $steps;
    }

    /**
     * @param  list<array{uid: string, headline: string, author: string, operations: list<array<string, mixed>>}>  $steps
     * @return list<array{uid: string, headline: string, author: string, operations: list<array<string, mixed>>}>
     */
    private static function without(array $steps, int $position): array
    {
        foreach ($steps as $s => $step) {
            $count = count($step['operations']);
            if ($position < $count) {
                array_splice($steps[$s]['operations'], $position, 1);

                return array_values(array_filter($steps, static fn (array $step): bool => $step['operations'] !== []));
            }
            $position -= $count;
        }

        return $steps;
    }
}
