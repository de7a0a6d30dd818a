<?php

declare(strict_types=1);

namespace App\Exchange;

use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Baseline\BaselineRow;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\OwnValue;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Tells;
use Reihe\Formats\PlanXml\Hierarchy;

/** What an export leaves out on purpose: cost, people, remarks, names of other projects. */
final readonly class Less
{
    public const PARTS = [Tells::Money->value, Tells::People->value, Tells::Remarks->value, 'names'];

    /** @param  list<string>  $parts  of {@see PARTS} */
    public function __construct(public array $parts)
    {
    }

    public function leavesOut(string $part): bool
    {
        return in_array($part, $this->parts, true);
    }

    public function of(Plan $plan): Plan
    {
        $objects = [];
        foreach (EntityKind::cases() as $kind) {
            $gone = $this->gone($kind);
            $objects[$kind->value] = [];
            foreach ($gone === null ? [] : $plan->all($kind) as $uid => $object) {
                /** @var array<string, mixed> $gone */
                if ($object instanceof OwnValue && ($plan->ownFields[$object->field] ?? null)?->fault($object->value) !== null) {
                    continue; // nobody could read it as what its field is; health names it
                }
                $objects[$kind->value][(string) $uid] = $gone === [] ? $object : $kind->read((string) $uid, $gone + $object->fields());
            }
        }

        return Plan::from($objects, $plan->stubs);
    }

    /** @return array<string, mixed>|null fields as they are when they are left out; null where whole objects are */
    public function gone(EntityKind $kind): ?array
    {
        return $kind->silenced(array_values(array_filter(Tells::cases(), fn (Tells $t): bool => $this->leavesOut($t->value))));
    }

    public function ofHierarchy(Hierarchy $hierarchy): Hierarchy
    {
        return $this->leavesOut('names') ? new Hierarchy : ($this->leavesOut('people') ? $hierarchy->withoutPeople() : $hierarchy);
    }

    /**
     * @param  list<array{Baseline, bool}>  $baselines
     * @return list<array{Baseline, bool}>
     */
    public function ofBaselines(array $baselines): array
    {
        if (! $this->leavesOut('cost')) {
            return $baselines;
        }
        $row = static fn (BaselineRow $r): BaselineRow => new BaselineRow($r->code, $r->name, $r->start, $r->finish, $r->duration,
            $r->work, 0);

        return array_map(static fn (array $b): array => [new Baseline($b[0]->uid, $b[0]->project, $b[0]->name, $b[0]->taken,
            $b[0]->total === null ? null : $row($b[0]->total), array_map($row, $b[0]->activities), array_map($row, $b[0]->wbs)), $b[1]],
            $baselines);
    }
}
