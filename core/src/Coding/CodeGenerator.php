<?php

declare(strict_types=1);

namespace Reihe\Core\Coding;

use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\WbsElement;

/**
 * Codes for activities and WBS elements that come without one. An activity continues the largest number among its
 * neighbours by tens (`TERN-HU-0050` → `TERN-HU-0060`); the first one takes project key and WBS code as prefix. A WBS
 * element counts on from its neighbours, and keeps its code in another project where that is free.
 * Made where the change set is applied, so two people never get the same.
 */
final class CodeGenerator
{
    /** @var array<string, array<array-key, true>>|null project uid => codes in use */
    private ?array $codes = null;

    /** @var array<string, array{int, string}> project and parent uid => largest number and the prefix before it */
    private array $largest = [];

    /** @var array<string, array<array-key, true>> project and parent uid => codes of the elements there */
    private array $elements = [];

    /**
     * @param  iterable<Entity>  $activities  there are
     * @param  iterable<Entity>  $wbs  elements there are
     */
    public function __construct(private readonly iterable $activities, private readonly iterable $wbs)
    {
    }

    public function activity(Project $project, ?WbsElement $wbs): string
    {
        $this->look();
        $place = "{$project->uid} ".($wbs->uid ?? '');
        [$largest, $prefix] = $this->largest[$place]
            ?? [0, $wbs === null ? "{$project->key}-" : "{$project->key}-".($wbs->code === '' ? 'A' : $wbs->code).'-'];
        for ($n = intdiv($largest, 10) * 10 + 10; ; $n += 10) {
            $code = $prefix.str_pad((string) $n, 4, '0', STR_PAD_LEFT);
            if (! isset($this->codes[$project->uid][$code])) {
                return $code;
            }
        }
    }

    /** @param  string  $wish  taken where none of the neighbours has it */
    public function element(Project $project, ?WbsElement $parent, string $wish = ''): string
    {
        $this->look();
        $taken = $this->elements["{$project->uid} ".($parent->uid ?? '')] ?? [];
        if ($wish !== '' && ! isset($taken[$wish])) {
            return $wish;
        }
        for ($n = count($taken) + 1; isset($taken[$n]); $n++);

        return (string) $n;
    }

    /** An object came into the plan, or was changed. */
    public function note(Entity $entity): void
    {
        if ($this->codes === null) {
            return;
        }
        if ($entity instanceof Activity) {
            $this->codes[$entity->project][$entity->code] = true;
            $place = "{$entity->project} {$entity->wbs}";
            if (preg_match('/^(.*?)(\d{1,9})$/Ds', $entity->code, $m) === 1 && (int) $m[2] >= ($this->largest[$place][0] ?? 0)) {
                $this->largest[$place] = [(int) $m[2], $m[1]];
            }
        } elseif ($entity instanceof WbsElement) {
            $this->elements["{$entity->project} {$entity->parent}"][$entity->code] = true;
        }
    }

    private function look(): void
    {
        if ($this->codes !== null) {
            return;
        }
        $this->codes = [];
        foreach ([$this->activities, $this->wbs] as $list) {
            foreach ($list as $entity) {
                $this->note($entity);
            }
        }
    }
}
