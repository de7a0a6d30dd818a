<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Compose\Composer;
use App\Compose\Sources;
use App\Planning\Planning;
use App\Planning\PlanStore;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Change\Operation;
use Reihe\Core\Copying\Copy;
use Reihe\Core\Copying\CopyWish;
use Reihe\Core\Copying\Extract;
use Reihe\Core\Copying\FragmentDocument;
use Reihe\Core\Copying\FragmentUpdate;
use Reihe\Core\Copying\Insert;
use Reihe\Core\Copying\InsertWish;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\CopyPart;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\OpenEnd;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Role;

/** Fragments: made from rows, kept in versions, put into projects, brought up to date there. */
final class FragmentController
{
    private readonly Composer $composer;

    private readonly Sources $sources;

    public function __construct(private readonly Reach $reach, Planning $planning)
    {
        $this->composer = new Composer($reach, $planning);
        $this->sources = new Sources($reach);
    }

    /** A fragment from WBS elements with what lies below them, and from activities. */
    public function create(Request $request): JsonResponse
    {
        /** @var array{project: string, wbs?: list<string>, activities?: list<string>, key: string, name: string, branch: string,
         *     home?: string|null, parts?: list<string>} $input */
        $input = $request->validate(['project' => 'required|string', 'wbs' => 'array', 'wbs.*' => 'string', 'activities' => 'array',
            'activities.*' => 'string', 'key' => 'required|string|max:20', 'name' => 'required|string|max:255',
            'branch' => 'required|string',
            'home' => 'nullable|string|max:64', 'parts' => 'array', 'parts.*' => [Rule::in(CopyPart::wishes())]]);
        $plan = $this->sources->plan([$input['project']]);
        $part = Extract::of($plan, $input['project'], $input['wbs'] ?? [], $input['activities'] ?? []);
        if ($part->activities === [] && $part->wbs === []) {
            throw ValidationException::withMessages(['wbs' => 'Choose at least one row of the project.']);
        }
        $copy = Copy::of($part, new CopyWish([$input['project'] => ['key' => $input['key'], 'name' => $input['name']]], $input['branch'],
            Composer::stem($request), null, Kept::Fragment,
            array_values(array_diff($input['parts'] ?? CopyPart::wishes(), [CopyPart::Deadlines->value]))));
        $operations = array_map(static fn (Operation $o): Operation => $o->kind === EntityKind::Project
            ? Operation::create($o->kind, $o->uid, ['home' => $input['home'] ?? null] + ($o->after ?? [])) : $o, $copy->operations);
        $outcome = $this->composer->carryOut($request, $operations,
            "fragment {$input['key']} from {$plan->projects[$input['project']]->key}");
        $uid = $copy->made[$input['project']];
        if ($outcome->changeSet !== null) {
            $this->keep($uid, '');
        }

        return $this->composer->answer($request, $outcome, ['projects' => [$uid]]);
    }

    /** Versions, where it is used as far as the user sees, and what its network is open to. */
    public function show(string $uid): JsonResponse
    {
        $plan = $this->plan($uid, null);
        $from = $to = [];
        foreach ($plan->links as $link) {
            $from[$link->from] = $to[$link->to] = true;
        }
        $told = static fn (Activity $a): array => ['uid' => $a->uid, 'code' => $a->code, 'name' => $a->name];
        $uses = $this->reach->limit(DB::table('insertions as i')->join('projects', 'projects.id', '=', 'i.project_id'))
            ->where('i.fragment', $uid)->orderBy('projects.key')->orderBy('i.id')
            ->get(['i.uid', 'projects.key', 'projects.uid as project', 'i.version', 'i.prefix']);

        return new JsonResponse([
            'versions' => DB::table('fragment_versions as v')->leftJoin('users as u', 'u.id', '=', 'v.author_id')->where('fragment', $uid)
                ->orderByDesc('number')->get(['v.number', 'v.note', 'u.name as author', 'v.created_at as at'])->all(),
            'changed' => $this->differs($uid, $plan),
            'uses' => $uses->all(),
            'openEnds' => array_values(array_map(static fn (OpenEnd $e): array => ['uid' => $e->uid, 'side' => $e->side->value,
                'label' => $e->label, 'name' => $e->name, 'activity' => $told($plan->activities[$e->activity])], $plan->openEnds)),
            'begins' => array_values(array_map($told, array_filter($plan->activities,
                static fn (Activity $a): bool => ! isset($to[$a->uid])))),
            'ends' => array_values(array_map($told, array_filter($plan->activities,
                static fn (Activity $a): bool => ! isset($from[$a->uid])))),
        ]);
    }

    /** Keeps the fragment as it is now under the next number. */
    public function version(Request $request, string $uid): JsonResponse
    {
        /** @var array{note?: string|null} $input */
        $input = $request->validate(['note' => 'nullable|string|max:500']);
        $id = $this->reach->projects()[$uid] ?? null;
        abort_if($id === null || ! isset($this->reach->sources()[$uid]), 404);
        $branch = DB::table('projects')->where('id', $id)->value('branch_id');
        $this->reach->require(Role::Planner, is_int($branch) ? $branch : 0);

        return new JsonResponse(['number' => $this->keep($uid, $input['note'] ?? '')], 201);
    }

    /** Puts a fragment into a project. */
    public function insert(Request $request): JsonResponse
    {
        /** @var array{fragment: string, version?: int|null, project: string, wbs?: string|null, prefix?: string|null, times?: int,
         *     ties?: array<string, string>} $input */
        $input = $request->validate(['fragment' => 'required|string', 'version' => 'nullable|integer|min:1', 'project' => 'required|string',
            'wbs' => 'nullable|string', 'prefix' => 'nullable|string|max:40', 'times' => 'integer|min:1|max:50', 'ties' => 'array',
            'ties.*' => 'string']);
        $number = $input['version'] ?? $this->latest($input['fragment']);
        $fragment = $this->plan($input['fragment'], $number);
        $project = $this->reach->projects()[$input['project']] ?? null;
        abort_if($project === null, 404);
        $ids = [$project];
        $ties = $input['ties'] ?? [];
        foreach ($ties === [] ? [] : $this->reach->limit(DB::table('activities')->join('projects', 'projects.id', '=',
            'activities.project_id'))
            ->whereIn('activities.uid', array_values($ties))->distinct()->pluck('projects.id') as $id) {
            $ids[] = is_int($id) ? $id : 0;
        }
        $plan = $this->composer->plan(array_values(array_unique($ids)));
        $insert = Insert::of($plan, $fragment, $input['fragment'], new InsertWish($input['project'], $input['wbs'] ?? null,
            $input['prefix'] ?? '', Composer::stem($request), $number, (int) ($input['times'] ?? 1), $ties));

        return $this->composer->answer($request, $this->composer->carryOut($request, $insert->operations,
            "{$fragment->projects[$input['fragment']]->name} into {$plan->projects[$input['project']]->key}"),
            ['codes' => array_values(array_filter(array_map(static fn (Operation $o): mixed => $o->kind === EntityKind::Activity
                ? $o->after['code'] ?? null : null, $insert->operations), is_string(...)))]);
    }

    /** What a newer version would change where an older one was put. */
    public function update(Request $request): JsonResponse
    {
        /** @var array{insertion: string, version?: int|null} $input */
        $input = $request->validate(['insertion' => 'required|string', 'version' => 'nullable|integer|min:1']);
        $project = $this->reach->limit(DB::table('insertions as i')->join('projects', 'projects.id', '=', 'i.project_id'))
            ->where('i.uid', $input['insertion'])->value('projects.id');
        abort_if(! is_int($project), 404);
        $plan = PlanStore::load([$project])[0];
        $insertion = $plan->insertions[$input['insertion']];
        $number = $input['version'] ?? $this->latest($insertion->fragment);
        $update = FragmentUpdate::of($plan, $insertion, $this->plan($insertion->fragment, $insertion->version),
            $this->plan($insertion->fragment, $number), $number);

        return $this->composer->answer($request, $this->composer->carryOut($request, $update->operations,
            "{$insertion->name} in {$plan->projects[$insertion->project]->key} brought to version {$number}"),
            ['conflicts' => $update->conflicts, 'version' => $number]);
    }

    private function latest(string $fragment): int
    {
        $number = DB::table('fragment_versions')->where('fragment', $fragment)->max('number');

        return is_numeric($number) ? (int) $number : 0;
    }

    /** @param  int|null  $version  null for the fragment as it is now */
    private function plan(string $uid, ?int $version): Plan
    {
        abort_if(! isset($this->reach->sources()[$uid]), 404);
        if ($version === null) {
            return $this->sources->plan([$uid]);
        }
        $objects = DB::table('fragment_versions')->where('fragment', $uid)->where('number', $version)->value('objects');
        if (! is_string($objects)) {
            throw ValidationException::withMessages(['version' => 'There is no such version.']);
        }

        return FragmentDocument::plan((array) json_decode($objects, true), $uid, PlanStore::load([])[0]);
    }

    private function keep(string $uid, string $note): int
    {
        $document = self::document($uid);

        return DB::transaction(function () use ($uid, $note, $document): int {
            DB::table('projects')->where('uid', $uid)->lockForUpdate()->value('id'); // one after the other
            $number = $this->latest($uid) + 1;
            DB::table('fragment_versions')->insert(['fragment' => $uid, 'number' => $number, 'note' => $note, 'objects' => $document,
                'author_id' => $this->reach->user->id, 'created_at' => now()]);

            return $number;
        });
    }

    private static function document(string $uid): string
    {
        $id = DB::table('projects')->where('uid', $uid)->value('id');

        return json_encode(FragmentDocument::of(PlanStore::load([is_int($id) ? $id : 0])[0], $uid), JSON_THROW_ON_ERROR);
    }

    /** Was the fragment changed since its last version? */
    private function differs(string $uid, Plan $plan): bool
    {
        $kept = DB::table('fragment_versions')->where('fragment', $uid)->orderByDesc('number')->value('objects');

        return ! is_string($kept) || json_decode($kept, true)
            != json_decode(json_encode(FragmentDocument::of($plan, $uid), JSON_THROW_ON_ERROR), true);
    }
}
