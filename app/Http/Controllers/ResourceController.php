<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Drafts\DraftPlan;
use App\Drafts\DraftStore;
use App\Jobs\Work;
use App\Levelling\LevelRun;
use App\Levelling\LevelWish;
use App\Resources\LoadQuery;
use App\Resources\LoadWish;
use App\Resources\ResourceList;
use Illuminate\Database\Query\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Levelling\Criterion;
use Reihe\Core\Plan\ResourceKind;
use Reihe\Core\Plan\Role;
use Reihe\Core\Plan\WholeDays;
use Reihe\Core\Resource\Period;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\InvalidInstant;

/** Who and what work is done with, and how much is asked of them. */
final class ResourceController
{
    private const MOST_PERIODS = 1_000;

    private const MOST_DAYS = 7_400;

    public function __construct(private readonly Reach $reach)
    {
    }

    public function index(): JsonResponse
    {
        return new JsonResponse(['resources' => (new ResourceList($this->reach))->all(),
            'currency' => config('reihe.currency'), 'mayAdd' => $this->reach->mayAnywhere(Role::Planner)]);
    }

    public function assignments(string $uid): JsonResponse
    {
        return new JsonResponse((new ResourceList($this->reach))->assignments($uid));
    }

    /** Resource by period: asked for by what was asked about and by everything else, there is, overloaded days. */
    public function load(Request $request): JsonResponse
    {
        $wish = $this->wish($request);

        return new JsonResponse(['periods' => array_map(static fn (int $day): string => substr(Instant::format($day * 1440), 0, 10),
            $wish->bounds), 'resources' => $this->query($request)->of($wish)]);
    }

    /** What is behind the load of a resource between two days. */
    public function behind(Request $request, string $uid): JsonResponse
    {
        return new JsonResponse($this->query($request)->behind($uid, $this->wish($request, $uid)));
    }

    /** Resources kept within what there is of them, in the background; what comes of it is a draft. */
    public function level(Request $request): JsonResponse
    {
        $this->reach->requireAnywhere(Role::Planner);
        /** @var array{name?: string|null, projects: list<string>, resources?: list<string>|null, from?: string|null, to?: string|null,
         *     withinFloat?: bool, criteria?: list<string>, codeSet?: string|null, tries?: int, seconds?: int} $input */
        $input = $request->validate(['name' => 'nullable|string|max:120', 'projects' => 'required|array|min:1|max:5000',
            'projects.*' => 'required|string|distinct', 'resources' => 'nullable|array|min:1', 'resources.*' => 'required|string',
            'from' => 'nullable|string', 'to' => 'nullable|string', 'withinFloat' => 'boolean', 'criteria' => 'array',
            'criteria.*' => ['required', 'distinct', Rule::enum(Criterion::class)], 'codeSet' => 'nullable|string',
            'tries' => 'integer|min:1|max:'.LevelWish::MOST_TRIES, 'seconds' => 'integer|min:1|max:'.LevelWish::MOST_SECONDS]);
        $criteria = array_map(Criterion::from(...), $input['criteria'] ?? []);
        if (in_array(Criterion::CodeOrder, $criteria, true)
            && DB::table('code_sets')->where('uid', $input['codeSet'] ?? '')->doesntExist()) {
            throw ValidationException::withMessages(['codeSet' => 'must be the code set whose order counts']);
        }
        /** @var list<string> $known */
        $known = DB::table('resources')->pluck('uid')->all();
        foreach (array_diff($input['resources'] ?? [], $known) as $unknown) {
            throw ValidationException::withMessages(['resources' => "there is none with the uid {$unknown}"]);
        }
        [$from, $to] = array_map(static fn (string $at): ?int => ($day = $input[$at] ?? '') === '' ? null : self::day($at, $day) * 1440,
            ['from', 'to']);
        if ($from !== null && $to !== null && $to < $from) {
            throw ValidationException::withMessages(['to' => 'lies before the beginning']);
        }
        LevelRun::mayLevel($input['projects'], $this->reach);
        $name = trim($input['name'] ?? '') ?: 'Levelled';
        $wish = new LevelWish($name, $input['projects'], $input['resources'] ?? null, $from, $to === null ? null : $to + 1440,
            $input['withinFloat'] ?? false, $criteria, in_array(Criterion::CodeOrder, $criteria, true) ? $input['codeSet'] ?? null : null,
            $input['tries'] ?? 200, $input['seconds'] ?? 60);

        return new JsonResponse(Work::start($this->reach->user, 'level', $name, $wish->toArray())->shown(), 202);
    }

    /** Ways out of the overload of a resource, in the background; each is a draft. */
    public function waysOut(Request $request): JsonResponse
    {
        /** @var array{resource: string, from: string, to: string} $input */
        $input = $request->validate(['resource' => 'required|string', 'from' => 'required|string', 'to' => 'required|string']);
        [$first, $last] = [self::day('from', $input['from']), self::day('to', $input['to'])];
        if ($last < $first || $last - $first > self::MOST_PERIODS) {
            throw ValidationException::withMessages(['to' => $last < $first ? 'lies before the beginning'
                : 'lies too far from the beginning']);
        }
        /** @var object{name: string, key: string}|null $resource */
        $resource = DB::table('resources')->where('uid', $input['resource'])->where('kind', '!=', ResourceKind::Material->value)
            ->first(['name', 'key']);
        abort_if($resource === null, 404);

        return new JsonResponse(Work::start($this->reach->user, 'ways', $resource->name ?: $resource->key,
            ['resource' => $input['resource'], 'from' => $first, 'to' => $last])->shown(), 202);
    }

    private function query(Request $request): LoadQuery
    {
        $draft = $request->query('draft');
        if (! is_string($draft) || $draft === '') {
            return new LoadQuery($this->reach);
        }
        $operations = (new DraftStore($this->reach))->find($draft)->operations();

        return new LoadQuery($this->reach, $operations === [] ? null : DraftPlan::of($operations, [], [], null)->after);
    }

    private function wish(Request $request, ?string $resource = null): LoadWish
    {
        /** @var array{from: string, to: string, period?: string, what?: string, projects?: string|null, branch?: string|null,
         *     resources?: string|null} $input */
        $input = $request->validate(['from' => 'required|string', 'to' => 'required|string',
            'period' => [Rule::enum(Period::class)], 'what' => 'in:remaining,planned', 'projects' => 'nullable|string',
            'branch' => 'nullable|string', 'resources' => 'nullable|string']);
        [$first, $last] = [self::day('from', $input['from']), self::day('to', $input['to'])];
        if ($last < $first) {
            throw ValidationException::withMessages(['to' => 'lies before the beginning']);
        }
        $period = Period::from($input['period'] ?? Period::Week->value);
        if ($last - $first > ($period === Period::Day ? self::MOST_PERIODS : self::MOST_DAYS)) {
            throw ValidationException::withMessages(['to' => 'lies too far from the beginning; choose longer periods or a shorter time']);
        }
        $bounds = $resource === null ? $period->bounds($first, $last) : [$first, $last + 1];
        $given = $input['resources'] ?? '';

        return new LoadWish($bounds, $this->projects($input['projects'] ?? '', $input['branch'] ?? ''),
            $resource !== null ? [$resource] : ($given === '' ? null : explode(',', $given)), ($input['what'] ?? '') === 'planned');
    }

    private static function day(string $field, string $text): int
    {
        try {
            return WholeDays::isOne($text) ? intdiv(Instant::parse("{$text}T00:00"), 1440)
                : throw ValidationException::withMessages([$field => 'must be a day, like 2027-03-08']);
        } catch (InvalidInstant $e) {
            throw ValidationException::withMessages([$field => $e->getMessage()]);
        }
    }

    /** @return array<int, true>|null ids of the projects that are asked about; null for all */
    private function projects(string $keys, string $branch): ?array
    {
        if ($keys !== '') {
            return array_fill_keys($this->reach->projectsByKey(array_values(array_filter(explode(',', $keys)))), true);
        }
        if ($branch === '') {
            return null;
        }
        $path = DB::table('branches')->where('id', $this->reach->branch($branch))->value('path');
        abort_if(! is_string($path), 404);
        /** @var list<int> $ids */
        $ids = $this->reach->limit(DB::table('projects'))->whereIn('branch_id', static fn (Builder $q): Builder => $q->from('branches')
            ->whereRaw('LEFT(path, CHAR_LENGTH(?)) = ?', [$path, $path])->select('id'))->pluck('id')->all();

        return array_fill_keys($ids, true);
    }
}
