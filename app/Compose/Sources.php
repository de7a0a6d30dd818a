<?php

declare(strict_types=1);

namespace App\Compose;

use App\Access\Reach;
use App\Database\Rows;
use App\Planning\PlanStore;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Copying\Copy;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Stub;

/** What a user may copy from: the projects within reach, templates and fragments also of the branches above. */
final readonly class Sources
{
    public function __construct(private Reach $reach)
    {
    }

    /**
     * A plan with the projects; what they are linked with stands as stubs, without names where the user may not look.
     *
     * @param  list<string>  $uids
     *
     * @throws \Symfony\Component\HttpKernel\Exception\NotFoundHttpException when one may not be copied from, as when it is not there
     */
    public function plan(array $uids): Plan
    {
        $plan = PlanStore::load($this->ids($uids))[0];
        $stubs = array_map(fn (Stub $s): Stub => $this->reach->sees($s->code) ? $s : new Stub($s->uid, '', '', $s->start, $s->finish),
            $plan->stubs);
        $lists = [];
        foreach (EntityKind::cases() as $kind) {
            $lists[$kind->value] = $plan->all($kind);
        }

        return Plan::from($lists, $stubs);
    }

    /**
     * @param  list<string>  $uids
     * @return list<int>
     *
     * @throws \Symfony\Component\HttpKernel\Exception\NotFoundHttpException when one may not be copied from, as when it is not there
     */
    public function ids(array $uids): array
    {
        $known = $this->reach->projects() + $this->reach->sources();
        foreach ($uids as $uid) {
            abort_if(! isset($known[$uid]), 404);
        }

        return array_values(array_intersect_key($known, array_flip($uids)));
    }

    /**
     * Activities within reach that open ends and links name, or that give instead.
     *
     * @param  array<string, string>  $keys  key of a giver's project => key of the one that gives instead
     * @return array<string, string> `KEY/CODE` => uid
     */
    public function givers(Plan $plan, array $keys): array
    {
        $labels = array_map(static fn ($end): string => $end->label, $plan->openEnds);
        foreach ($plan->links as $link) {
            $labels[] = $plan->label($link->from);
        }
        $codes = array_values(array_unique(array_map(static fn (string $l): string => explode('/', Copy::giver($l, $keys), 2)[1] ?? '',
            $labels)));
        $found = [];
        foreach (array_chunk($codes, Rows::CHUNK) as $chunk) {
            foreach ($this->reach->limit(DB::table('activities')->join('projects', 'projects.id', '=', 'activities.project_id'))
                ->whereIn('kept', ['here', 'outside'])->whereIn('activities.code', $chunk)
                ->get(['projects.key', 'activities.code', 'activities.uid']) as $a) {
                /** @var object{key: string, code: string, uid: string} $a */
                $found["{$a->key}/{$a->code}"] = $a->uid;
            }
        }

        return $found;
    }
}
