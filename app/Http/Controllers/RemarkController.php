<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Planning\Notices;
use App\Planning\Tables\Table;
use App\Portfolio\BranchRemarks;
use Illuminate\Database\Query\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Time\Instant;

/**
 * What people have to say about projects and what is in them, and what they have to do.
 *
 * @phpstan-type Row object{id: int, uid: string, answers_id: int|null, text: string, author: string, written: int|null,
 *     todo: int, done: int, about?: string}
 */
final class RemarkController
{
    /** begun talks in one answer */
    private const PAGE = 30;

    private const MOST = 200;

    /** column of `remarks` by the kind that they are about */
    private const ABOUT = ['project' => 'project_id', 'wbs' => 'wbs_id', 'activity' => 'activity_id', 'link' => 'link_id'];

    public function __construct(private readonly Reach $reach, private readonly BranchRemarks $onBranches)
    {
    }

    /** Remarks on an object: what is to be done first, then the newest, each with its answers. */
    public function on(Request $request, string $kind, string $uid): JsonResponse
    {
        /** @var array{page?: int} $input */
        $input = $request->validate(['page' => 'integer|min:1|max:100000']);
        if ($kind === 'branch') {
            abort_if($this->reach->branch($uid) === null, 404);

            return self::page(BranchRemarks::query()->where('r.branch', $uid), (int) ($input['page'] ?? 1));
        }
        $of = EntityKind::tryFrom($kind);
        abort_if($of === null || ! isset(self::ABOUT[$kind]), 404);
        $table = Table::of($of)->name();
        $query = DB::table($table);
        $id = ($kind === 'project' ? $this->reach->limit($query)
            : $this->reach->limit($query->join('projects', 'projects.id', '=', $kind === 'link' ? 'links.to_project_id'
                : "{$table}.project_id")))->where("{$table}.uid", $uid)->value("{$table}.id");
        abort_if(! is_int($id), 404);
        $about = DB::table('remarks as r')->where('r.'.self::ABOUT[$kind], $id)
            ->when($kind === 'project', static fn (Builder $q): Builder => $q->whereNull('r.wbs_id')->whereNull('r.activity_id')
                ->whereNull('r.link_id'));

        return self::page($about, (int) ($input['page'] ?? 1));
    }

    /** Something is said about a branch; sent again it is harmless. */
    public function say(Request $request, string $branch, string $uid): Response
    {
        /** @var array{text: string, todo?: bool, answers?: string|null} $input */
        $input = $request->validate(['text' => 'required|string|max:4000', 'todo' => 'boolean', 'answers' => 'nullable|string|max:64']);
        $this->onBranches->say($branch, $uid, $input['text'], $input['todo'] ?? false, $input['answers'] ?? null);

        return new Response(status: 204);
    }

    /** It was done, or not; it is removed, or brought back. */
    public function change(Request $request, string $branch, string $uid): Response
    {
        /** @var array{done?: bool, removed?: bool} $input */
        $input = $request->validate(['done' => 'boolean', 'removed' => 'boolean']);
        $this->onBranches->change($branch, $uid, $input);

        return new Response(status: 204);
    }

    /** @param  Builder  $about  remarks of a table as `r` */
    private static function page(Builder $about, int $page): JsonResponse
    {
        $begun = (clone $about)->whereNull('r.answers_id');
        $total = (clone $begun)->count();
        /** @var list<int> $first */
        $first = $begun->orderByRaw('r.todo AND NOT r.done DESC')->orderByDesc('r.id')
            ->offset(($page - 1) * self::PAGE)->limit(self::PAGE)->pluck('r.id')->all();
        $threads = array_fill_keys($first, []);
        foreach ($first === [] ? [] : [...self::rows($about, 'r.id', $first),
            ...self::rows($about, 'r.answers_id', $first)] as $row) {
            $begun = $row->answers_id === null ? null : $threads[$row->answers_id][0]['uid'];
            $threads[$row->answers_id ?? $row->id][] = self::shown($row, $begun);
        }

        return new JsonResponse(['remarks' => array_merge(...array_values($threads)), 'total' => $total,
            'pages' => (int) ceil($total / self::PAGE)]);
    }

    /**
     * @param  non-empty-list<int>  $ids
     * @return list<Row>
     */
    private static function rows(Builder $about, string $column, array $ids): array
    {
        /** @var list<Row> */
        return (clone $about)->whereIn($column, $ids)->orderBy('r.id')->get(['r.*'])->all();
    }

    /**
     * @param  Row  $row
     * @param  string|null  $answers  uid of what began the talk
     * @return array{uid: string, answers: string|null, text: string, author: string, written: string|null, todo: bool, done: bool,
     *     about: string}
     */
    private static function shown(object $row, ?string $answers): array
    {
        return ['uid' => $row->uid, 'answers' => $answers, 'text' => $row->text, 'author' => $row->author,
            'written' => Instant::formatOrNull($row->written), 'todo' => (bool) $row->todo, 'done' => (bool) $row->done,
            'about' => $row->about ?? ''];
    }

    /**
     * What the user has to do, in all projects: where a remark to be done mentions them, stands on what they answer for, or is
     * their own. The person of an activity answers for it, else the lead of its project.
     */
    public function todos(): JsonResponse
    {
        $name = $this->reach->user->name;
        $mine = static fn (string $lead): \Closure => static fn (Builder $w): Builder => $w->where('r.author', $name)
            ->orWhere(DB::raw($lead), $name)->orWhereLike('r.text', '%@'.addcslashes($name, '%_\\').'%');
        $inProjects = $this->reach->limit(DB::table('remarks as r')->join('projects', 'projects.id', '=', 'r.project_id'))
            ->leftJoin('activities as a', 'a.id', '=', 'r.activity_id')->leftJoin('wbs_elements as w', 'w.id', '=', 'r.wbs_id')
            ->leftJoin('links as l', 'l.id', '=', 'r.link_id')->leftJoin('activities as t', 't.id', '=', 'l.to_id')
            ->where('r.todo', true)->where('r.done', false)->whereIn('projects.kept', [Kept::Here->value, Kept::Outside->value])
            ->where($mine('COALESCE(a.lead, t.lead, projects.lead)'))
            ->orderByDesc('r.id')->limit(self::MOST)
            ->get(['r.uid', 'r.text', 'r.author', 'r.written', 'projects.key as project', DB::raw('NULL as branch'),
                DB::raw('COALESCE(a.uid, w.uid, t.uid, projects.uid) as `row`'), DB::raw('COALESCE(a.code, w.code, t.code, \'\') as code'),
                DB::raw('COALESCE(a.name, w.name, t.name, projects.name) as name'),
                DB::raw('COALESCE(a.lead, t.lead, projects.lead) as lead')]);
        $onBranches = $this->reach->limit(BranchRemarks::query()->join('branches as b', 'b.uid', '=', 'r.branch'), 'b.id')
            ->where('r.todo', true)->where('r.done', false)->where($mine('b.lead'))->orderByDesc('r.id')->limit(self::MOST)
            ->get(['r.uid', 'r.text', 'r.author', 'r.written', DB::raw('NULL as project'), 'b.uid as branch', 'b.uid as row',
                DB::raw("'' as code"), 'b.name', 'b.lead']);
        $me = [$this->reach->user];
        $todos = [];
        foreach ($inProjects->concat($onBranches)->sortByDesc('written')->take(self::MOST) as $r) {
            /** @var object{uid: string, text: string, author: string, written: int|null, project: string|null, branch: string|null,
             *     row: string, code: string, name: string, lead: string|null} $r */
            $why = match (true) {
                Notices::mentioned($r->text, $me) !== [] => 'mentioned',
                $r->lead === $name => 'responsible',
                $r->author === $name => 'own',
                default => null, // the name is the beginning of another one
            };
            $why === null ?: $todos[] = ['uid' => $r->uid, 'text' => $r->text, 'author' => $r->author,
                'written' => Instant::formatOrNull($r->written), 'project' => $r->project, 'branch' => $r->branch, 'row' => $r->row,
                'code' => $r->code, 'name' => $r->name, 'why' => $why];
        }

        return new JsonResponse(['todos' => $todos, 'more' => $inProjects->count() + $onBranches->count() >= self::MOST]);
    }
}
