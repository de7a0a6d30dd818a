<?php

declare(strict_types=1);

namespace Reihe\Core\Coding;

use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Catalogue;
use Reihe\Core\Plan\Coding;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;

/** One of two entries, branches or calendars takes over everything that belongs to the other, which goes. */
final class Merging
{
    /** @return list<Operation> for a plan that has all codings with the entry */
    public static function entries(Plan $plan, string $from, string $into): array
    {
        $operations = self::below($plan, EntityKind::Entry, $from, $into);
        $has = [];
        foreach ($plan->codings as $coding) {
            if ($coding->entry === $into) {
                $has[self::coded($coding)] = true;
            }
        }
        foreach ($plan->codings as $uid => $coding) {
            if ($coding->entry === $from) {
                $operations[] = isset($has[self::coded($coding)]) ? Operation::delete(EntityKind::Coding, (string) $uid, ['entry' => $from])
                    : Operation::update(EntityKind::Coding, (string) $uid, ['entry' => $into], ['entry' => $from]);
            }
        }

        return [...$operations, Operation::delete(EntityKind::Entry, $from)];
    }

    /** @return list<Operation> for a plan that has all projects on the branch */
    public static function branches(Plan $plan, string $from, string $into): array
    {
        $operations = self::below($plan, EntityKind::Branch, $from, $into);
        foreach ($plan->projects as $uid => $project) {
            if ($project->branch === $from) {
                $operations[] = Operation::update(EntityKind::Project, (string) $uid, ['branch' => $into], ['branch' => $from]);
            }
        }
        foreach ($plan->codeSets as $uid => $set) {
            if ($set->demandedOn === $from) {
                $operations[] = Operation::update(EntityKind::CodeSet, (string) $uid, ['demandedOn' => $into], ['demandedOn' => $from]);
            }
        }

        return [...$operations, Operation::delete(EntityKind::Branch, $from)];
    }

    /**
     * Whatever refers to the calendar, of any kind.
     *
     * @return list<Operation> for a plan that has all that uses the calendar
     */
    public static function calendars(Plan $plan, string $from, string $into): array
    {
        $operations = [];
        foreach (EntityKind::cases() as $kind) {
            foreach ($kind->entry()->references as $reference) {
                foreach ($reference->to === EntityKind::Calendar ? $plan->all($kind) : [] as $uid => $object) {
                    if (Catalogue::value($object, $reference->field) === $from) {
                        $operations[] = Operation::update($kind, (string) $uid, [$reference->field => $into], [$reference->field => $from]);
                    }
                }
            }
        }

        return [...$operations, Operation::delete(EntityKind::Calendar, $from)];
    }

    /** @return list<Operation> */
    private static function below(Plan $plan, EntityKind $kind, string $from, string $into): array
    {
        $operations = [];
        foreach ($plan->all($kind) as $uid => $object) {
            if ($object->fields()['parent'] === $from) {
                $operations[] = Operation::update($kind, (string) $uid, ['parent' => $into], ['parent' => $from]);
            }
        }

        return $operations;
    }

    private static function coded(Coding $coding): string
    {
        return $coding->activity ?? $coding->project;
    }
}
