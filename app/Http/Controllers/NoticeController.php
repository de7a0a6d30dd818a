<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use Illuminate\Database\Query\JoinClause;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;

/** Who mentioned the user where, and whom one can mention. */
final class NoticeController
{
    private const MOST = 50;

    public function __construct(private readonly Reach $reach)
    {
    }

    public function index(): JsonResponse
    {
        $notices = $this->reach->limit(DB::table('notices')->leftJoin('projects', 'projects.id', '=', 'notices.project_id')
            ->leftJoin('branches', static fn (JoinClause $on): JoinClause => $on->whereNull('notices.project_id')
                ->on('branches.uid', '=', 'notices.activity')), DB::raw('COALESCE(projects.branch_id, branches.id)'))
            ->leftJoin('activities', 'activities.uid', '=', 'notices.activity')->where('notices.user_id', $this->reach->user->id)
            ->orderByDesc('notices.id')->limit(self::MOST)->get(['notices.id', 'notices.author', 'notices.text', 'notices.activity',
                'notices.created_at as created', 'projects.key as project', 'activities.code',
                DB::raw('COALESCE(activities.name, branches.name) as name'), 'branches.uid as branch',
                DB::raw('notices.read_at IS NOT NULL AS `read`')]);

        return new JsonResponse(['notices' => $notices->map(static fn (\stdClass $n): array => ['read' => (bool) $n->read] + (array) $n)
            ->all()]);
    }

    /** All up to one of them are read. */
    public function read(Request $request): Response
    {
        /** @var array{upTo: int} $input */
        $input = $request->validate(['upTo' => 'required|integer|min:1']);
        DB::table('notices')->where('user_id', $this->reach->user->id)->where('id', '<=', $input['upTo'])->whereNull('read_at')
            ->update(['read_at' => now()]);

        return new Response(status: 204);
    }

    /** Names of those who see a project. */
    public function people(string $project): JsonResponse
    {
        $path = $this->reach->limit(DB::table('projects'))->join('branches', 'branches.id', '=', 'projects.branch_id')
            ->where('projects.uid', $project)->value('branches.path');
        abort_if(! is_string($path), 404);

        return self::seeing($path);
    }

    /** Names of those who see a branch. */
    public function peopleOfBranch(string $branch): JsonResponse
    {
        $path = DB::table('branches')->where('id', $this->reach->branch($branch))->value('path');
        abort_if(! is_string($path), 404);

        return self::seeing($path);
    }

    /** A role on a branch reaches everything below it. */
    private static function seeing(string $path): JsonResponse
    {
        $people = DB::table('users')->join('grants', 'grants.user_id', '=', 'users.id')
            ->join('branches', 'branches.id', '=', 'grants.branch_id')->where('users.active', true)
            ->whereRaw('LEFT(?, CHAR_LENGTH(branches.path)) = branches.path', [$path])->distinct()->orderBy('users.name');

        return new JsonResponse(['people' => $people->pluck('users.name')->all()]);
    }
}
