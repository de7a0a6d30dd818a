<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Owners;
use App\Access\Reach;
use App\Compose\Composer;
use App\Planning\Planning;
use App\Planning\PlanStore;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Validation\Rule;
use Reihe\Core\Change\Operation;
use Reihe\Core\Coding\CodeFinding;
use Reihe\Core\Coding\Codes;
use Reihe\Core\Coding\LevelCodes;
use Reihe\Core\Coding\LevelTable;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\LevelCode;
use Reihe\Core\Plan\LevelScheme;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Role;
use Reihe\Core\Plan\Uid;
use Reihe\Core\Plan\WbsElement;
use Reihe\Formats\Outline\IndentedText;
use Reihe\Formats\Outline\Opml;
use Reihe\Formats\Outline\OutlineItem;
use Reihe\Formats\Outline\PlanOutline;

/** Level codes, codes put together from them, and the WBS as an outline. */
final class LevelController
{
    private const SAMPLES = 12;

    private const FINDINGS = 500;

    private const MOST_ROWS = 10_000;

    private readonly Composer $composer;

    public function __construct(private readonly Reach $reach, Planning $planning)
    {
        $this->composer = new Composer($reach, $planning);
    }

    public function schemes(): JsonResponse
    {
        [$plan] = PlanStore::load([]);
        $codes = $plan->levelCodes;
        uasort($codes, static fn (LevelCode $a, LevelCode $b): int => [$a->level, $a->position, $a->uid] <=> [$b->level, $b->position,
            $b->uid]);

        $owners = new Owners($this->reach);

        return new JsonResponse([
            'schemes' => array_values(array_map(static fn (LevelScheme $s): array => ['uid' => $s->uid] + $s->fields()
                + ['mayEdit' => $owners->may(EntityKind::LevelScheme, $s->uid)], $plan->levelSchemes)),
            'codes' => array_values(array_map(static fn (LevelCode $c): array => ['uid' => $c->uid] + $c->fields(), $codes)),
            'mayAdd' => $this->reach->mayAnywhere(Role::Planner),
        ]);
    }

    /** What codes and names would be, on some rows, and what does not fit the level scheme. */
    public function codes(Request $request, string $uid): JsonResponse
    {
        $plan = $this->plan($uid);
        $codes = $this->read($request, $plan, $uid);
        $operations = $codes->regenerate(true);
        $findings = $codes->findings();
        $new = array_column(array_map(static fn (Operation $o): array => [$o->uid, $o->after], $operations), 1, 0);
        $rows = [];
        foreach (array_slice($plan->activities, 0, null) as $a) {
            if ($a->project === $uid && count($rows) < self::SAMPLES) {
                $rows[] = ['uid' => $a->uid, 'code' => $a->code, 'newCode' => $new[$a->uid]['code'] ?? $a->code, 'name' => $a->name,
                    'newName' => $new[$a->uid]['name'] ?? $a->name];
            }
        }

        return new JsonResponse(['changes' => count($operations), 'sample' => $rows, 'paths' => (object) $codes->wbsPaths(),
            'findings' => array_map(static fn (CodeFinding $f): array => get_object_vars($f), array_slice($findings, 0, self::FINDINGS)),
            'count' => count($findings)]);
    }

    /** Puts all codes of a project together again, as one change set. */
    public function regenerate(Request $request): JsonResponse
    {
        /** @var array{project: string} $input */
        $input = $request->validate(['project' => 'required|string', 'names' => 'boolean']);
        $plan = $this->plan($input['project']);
        $operations = $this->read($request, $plan, $input['project'])->regenerate($request->boolean('names'));

        return $this->composer->answer($request, $this->composer->carryOut($request, $operations,
            "codes of {$plan->projects[$input['project']]->key} put together from the level scheme"));
    }

    /** The WBS from a table of level codes per activity. */
    public function table(Request $request): JsonResponse
    {
        /** @var array{project: string, sets?: array<int, string>, rows: list<array{code?: string|null, name?: string|null,
         *     minutes?: int|null, levels?: list<string|null>}>} $input */
        $input = $request->validate(['project' => 'required|string', 'sets' => 'array', 'sets.*' => 'string',
            'rows' => 'required|array|min:1|max:'.self::MOST_ROWS, 'rows.*.code' => 'nullable|string|max:60',
            'rows.*.name' => 'nullable|string|max:255', 'rows.*.minutes' => 'nullable|integer|min:0|max:60000000',
            'rows.*.levels' => 'array|max:12', 'rows.*.levels.*' => 'nullable|string|max:60']);
        $plan = $this->plan($input['project']);
        $rows = array_map(static fn (array $row): array => ['code' => trim($row['code'] ?? ''), 'name' => trim($row['name'] ?? ''),
            'minutes' => isset($row['minutes']) ? (int) $row['minutes'] : null,
            'levels' => array_map(static fn (?string $l): string => trim($l ?? ''), $row['levels'] ?? [])], $input['rows']);
        $table = LevelTable::read($rows, $plan, $input['project'], $input['sets'] ?? [], Composer::stem($request));

        return $this->composer->answer($request, $this->composer->carryOut($request, $table->operations,
            "WBS of {$plan->projects[$input['project']]->key} from level codes"), ['rows' => $table->rows]);
    }

    /** WBS elements from an outline. */
    public function outline(Request $request): JsonResponse
    {
        /** @var array{project: string, parent?: string|null, format: string, text: string} $input */
        $input = $request->validate(['project' => 'required|string', 'parent' => 'nullable|string', 'format' => ['required',
            Rule::in(['opml', 'text'])], 'text' => 'required|string|max:2000000']);
        $plan = $this->plan($input['project']);
        $items = $input['format'] === 'opml' ? Opml::read($input['text']) : IndentedText::read($input['text']);
        $position = 0.0;
        foreach ([...$plan->wbs, ...$plan->activities] as $row) {
            $above = $row instanceof WbsElement ? $row->parent : $row->wbs;
            $position = $row->project === $input['project'] && $above === ($input['parent'] ?? null) ? max($position, $row->position)
                : $position;
        }
        $operations = self::elements($items, $input['project'], $input['parent'] ?? null, $position, Composer::stem($request));

        return $this->composer->answer($request, $this->composer->carryOut($request, $operations,
            "WBS of {$plan->projects[$input['project']]->key} from an outline"));
    }

    /**
     * @param  list<OutlineItem>  $items
     * @return list<Operation>
     */
    private static function elements(array $items, string $project, ?string $parent, float $position, string $stem): array
    {
        $operations = [];
        foreach ($items as $n => $item) {
            $uid = Uid::of("{$stem}:wbs:{$parent}:{$n}");
            array_push($operations, Operation::create(EntityKind::Wbs, $uid, ['project' => $project, 'parent' => $parent,
                'name' => $item->name,
                'position' => $position + $n + 1] + ($item->code === '' ? [] : ['code' => $item->code])),
                ...self::elements($item->children, $project, $uid, 0.0, $stem));
        }

        return $operations;
    }

    /** The WBS as OPML or indented text. */
    public function export(Request $request, string $uid): Response
    {
        /** @var array{format: string} $input */
        $input = $request->validate(['format' => ['required', Rule::in(['opml', 'text'])], 'activities' => 'in:0,1']);
        $plan = $this->plan($uid);
        $project = $plan->projects[$uid];
        $items = PlanOutline::of($plan, $uid, $request->boolean('activities'));
        $isOpml = $input['format'] === 'opml';

        return new Response($isOpml ? Opml::write($items, "{$project->key} {$project->name}") : IndentedText::write($items), 200, [
            'Content-Type' => $isOpml ? 'text/x-opml; charset=utf-8' : 'text/plain; charset=utf-8',
            'Content-Disposition' => "attachment; filename=\"{$project->key}-wbs.".($isOpml ? 'opml' : 'txt').'"']);
    }

    private function plan(string $project): Plan
    {
        $id = ($this->reach->projects() + $this->reach->sources())[$project] ?? null;
        abort_if($id === null, 404);

        return $this->composer->plan([$id]);
    }

    /** @throws InvalidField where the project has no level scheme and none is tried out */
    private function read(Request $request, Plan $plan, string $project): Codes
    {
        $tried = $request->input('scheme');
        $known = $plan->projects[$project]->levelScheme;
        if (is_array($tried)) {
            /** @var array<string, mixed> $tried */
            $scheme = LevelScheme::read($known ?? 'tried', array_intersect_key($tried,
                ['levels' => 0, 'activityCode' => 0, 'activityName' => 0])
                + ['key' => 'TRIED', 'name' => 'Tried']);

            return new Codes($plan, $project, new LevelCodes($scheme, $plan));
        }

        return new Codes($plan, $project, LevelCodes::ofProject($plan, $project)
            ?? throw new InvalidField('levelScheme', 'is missing; choose one for the project first'));
    }
}
