<?php

declare(strict_types=1);

namespace App\Portfolio;

use App\Access\Reach;
use App\Planning\Notices;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Database\Query\Builder;
use Illuminate\Database\Query\JoinClause;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Plan\Role;
use Reihe\Core\Time\Instant;

/**
 * What people have to say about branches. Kept as records beside the plan, since only who sees a branch may know of them and change sets
 * of the enterprise are read by everybody who plans. A branch is remembered by its uid: while it is deleted its remarks rest with it.
 */
final readonly class BranchRemarks
{
    public function __construct(private Reach $reach)
    {
    }

    /** Those that are not removed, as `r`; an answer goes with what it answers. */
    public static function query(): Builder
    {
        return DB::table('branch_remarks as r')->leftJoin('branch_remarks as begun', 'begun.id', '=', 'r.answers_id')
            ->where('r.removed', false)->where(static fn (Builder $w): Builder => $w->whereNull('begun.id')
            ->orWhere('begun.removed', false));
    }

    /**
     * Says something, once for each uid.
     *
     * @throws AuthorizationException|ValidationException
     */
    public function say(string $branch, string $uid, string $text, bool $todo, ?string $answers): void
    {
        $this->mayPlan($branch);
        DB::transaction(function () use ($branch, $uid, $text, $todo, $answers): void {
            $begun = $answers === null ? null : DB::table('branch_remarks')->where('uid', $answers)->where('branch', $branch)
                ->whereNull('answers_id')->where('removed', false)->lockForUpdate()->value('id');
            if ($answers !== null && $begun === null) {
                throw ValidationException::withMessages(['answers' => 'No talk on this branch began so.']);
            }
            $new = DB::table('branch_remarks')->insertOrIgnore(['uid' => $uid, 'branch' => $branch, 'answers_id' => $begun, 'text' => $text,
                'author' => $this->reach->user->name, 'written' => Instant::parse(now()->format('Y-m-d\TH:i')), 'todo' => $todo]);
            if ($new === 0) {
                $there = DB::table('branch_remarks')->where('uid', $uid)->first(['branch', 'text', 'author']);
                if ((array) $there !== ['branch' => $branch, 'text' => $text, 'author' => $this->reach->user->name]) {
                    throw ValidationException::withMessages(['uid' => 'This uid is taken.']);
                }
            }
            Notices::tell($this->reach->user, $text, $uid, $branch, (int) $this->reach->branch($branch), null);
        });
    }

    /**
     * @param  array{done?: bool, removed?: bool}  $as
     *
     * @throws AuthorizationException|ValidationException
     */
    public function change(string $branch, string $uid, array $as): void
    {
        $this->mayPlan($branch);
        $remark = DB::table('branch_remarks')->where('uid', $uid)->where('branch', $branch);
        abort_if(! $remark->exists(), 404);
        if (isset($as['done']) && (clone $remark)->where('todo', false)->exists()) {
            throw ValidationException::withMessages(['done' => 'Belongs to something that is to be done.']);
        }
        $as === [] ?: $remark->update($as);
    }

    /** @throws AuthorizationException|ValidationException */
    private function mayPlan(string $branch): void
    {
        $id = $this->reach->branch($branch);
        abort_if($id === null, 404);
        $this->reach->require(Role::Planner, $id);
        $rests = DB::table('branches as b')->join('branches as above', static fn (JoinClause $on): JoinClause => $on->whereRaw(
            'LEFT(b.path, CHAR_LENGTH(above.path)) = above.path'))->where('b.id', $id)->where('above.archived', true)->value('above.name');
        if (is_string($rests)) {
            throw ValidationException::withMessages(['branch' => "The branch “{$rests}” is archived; bring it back first."]);
        }
    }
}
