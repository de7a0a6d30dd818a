<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Database\Enterprise;
use App\Exchange\ProjectKeys;
use App\Planning\Archive;
use App\Planning\PlanStore;
use App\Portfolio\ProjectColumns;
use App\Portfolio\ProjectRows;
use App\Selection\BandView;
use App\Selection\EnterpriseColumns;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Plan\Branch;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\OwnField;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Role;
use Reihe\Core\Selection\Arrangement;
use Reihe\Core\Selection\Band;
use Reihe\Core\Selection\Column;
use Reihe\Core\Selection\InvalidSelection;
use Reihe\Core\Selection\View;
use Reihe\Core\Time\Instant;
use Symfony\Component\HttpFoundation\Response;

/** Everything the portfolio shows: hierarchy, projects with their roll-up, bands, code sets, calendars. */
final class PortfolioController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    /** A key for a project of this name that nobody has yet. */
    public function key(Request $request): JsonResponse
    {
        /** @var array{name: string} $input */
        $input = $request->validate(['name' => 'required|string|max:255']);

        return new JsonResponse(['key' => ProjectKeys::propose($input['name'])]);
    }

    /** Asked for every few seconds while a page is visible; what the asker knows already is not made again (304). */
    public function __invoke(Request $request): Response
    {
        $stamp = $this->stamp();
        $known = (new Response)->setEtag($stamp);
        if ($known->isNotModified($request)) {
            return $known;
        }
        [$plan, $ids] = PlanStore::load([]); // what the enterprise has
        $enterprise = new EnterpriseColumns($plan, $this->reach);
        $columns = new ProjectColumns($enterprise, $ids);
        $view = self::view($request, $columns->columns());
        $rows = new ProjectRows($this->reach, $columns, $plan, $enterprise->dayLengths(), $view, self::today());
        $archive = new Archive($plan);
        $arrangement = Arrangement::of($rows->arranged(), $columns->columns(), $view, $enterprise->retired()
            + ($view->archived ? [] : array_filter(array_map(static fn ($b): bool => $archive->branchRests($b->uid), $plan->branches))));
        $sets = $enterprise->sets(CodeScope::Project);

        return (new JsonResponse([
            'branches' => $this->branches($plan, $archive),
            'projects' => $rows->shown($arrangement->uids()),
            'bands' => array_map(static fn (Band $b): array => BandView::of($b, $plan), $arrangement->bands),
            'columns' => BandView::columns($columns->columns()),
            'codeSets' => array_map(static fn (CodeSet $s): array => CodeSetController::shown($s, $plan), $sets),
            'ownFields' => array_values(array_map(static fn (OwnField $f): array => ['uid' => $f->uid] + $f->fields(),
                $enterprise->ownFields(CodeScope::Project))),
            'calendars' => array_values(array_map(static fn (Calendar $c): array => ['uid' => $c->uid, 'key' => $c->key,
                'name' => $c->name, 'days' => count($c->exceptions), 'retired' => $c->retired], $plan->calendars)),
            'handovers' => $this->reach->limit(DB::table('links')->join('projects', 'projects.id', '=', 'links.to_project_id'))
                ->where('links.handover', 1)->count(),
        ]))->setEtag($stamp);
    }

    /** @param  array<string, Column>  $columns */
    private static function view(Request $request, array $columns): View
    {
        $written = $request->query('view');
        $data = ['group' => ['branch']];
        if (is_string($written) && $written !== '') {
            $data = json_decode($written, true, 32);
            is_array($data) ?: throw new InvalidSelection('', 'must be written as JSON');
        }

        return View::read($data, $columns);
    }

    /** Noon of today, where a project has no status date. */
    private static function today(): int
    {
        return Instant::parse(now()->format('Y-m-d').'T12:00');
    }

    /** Differs whenever anything that the portfolio shows to this user differs. */
    private function stamp(): string
    {
        $seen = [
            $this->reach->limit(DB::table('projects'))->orderBy('projects.id')
                ->get(['projects.id', 'projects.revision', 'projects.branch_id'])->all(),
            $this->reach->branchUids(), array_map(fn (int $b): ?string => $this->reach->roleOn($b)?->value, $this->reach->branches()),
            Enterprise::epoch(), Enterprise::revision(), now()->format('Y-m-d'),
        ];

        return hash('xxh128', json_encode($seen, JSON_THROW_ON_ERROR));
    }

    /** @return list<array<string, mixed>> */
    private function branches(Plan $plan, Archive $archive): array
    {
        $uids = $this->reach->branchUids();

        $branches = array_intersect_key($plan->branches, array_flip($uids));
        uasort($branches, static fn (Branch $a, Branch $b): int => [$a->position, $a->uid] <=> [$b->position, $b->uid]);

        return array_values(array_map(fn (Branch $b): array => ['uid' => $b->uid] + array_replace($b->fields(), [
            'parent' => in_array($b->parent, $uids, true) ? $b->parent : null,
            'rests' => $archive->branchRests($b->uid), 'role' => $this->reach->roleOn((int) $this->reach->branch($b->uid))?->value,
            'mayPlan' => ! $archive->branchRests($b->uid) && $this->reach->may(Role::Planner, (int) $this->reach->branch($b->uid)),
        ]), $branches));
    }
}
