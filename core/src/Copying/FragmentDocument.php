<?php

declare(strict_types=1);

namespace Reihe\Core\Copying;

use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;

/** A version of a fragment: everything in it in written form, so that it stays as it was. */
final class FragmentDocument
{
    /**
     * @return array{project: array<string, mixed>, objects: list<array{string, string, array<string, mixed>}>} objects: kind, uid and
     *     fields
     */
    public static function of(Plan $plan, string $fragment): array
    {
        $objects = [];
        foreach (EntityKind::copied() as $kind) {
            foreach ($plan->all($kind) as $uid => $object) {
                if ($plan->ownerOf($kind, (string) $uid) === $fragment) {
                    $objects[] = [$kind->value, (string) $uid, $object->fields()];
                }
            }
        }

        return ['project' => $plan->projects[$fragment]->fields(), 'objects' => $objects];
    }

    /**
     * A plan with the fragment as it was, and what the enterprise has now. What refers to something that is gone is left out.
     *
     * @param  array<array-key, mixed>  $document
     *
     * @throws InvalidField
     */
    public static function plan(array $document, string $fragment, Plan $enterprise): Plan
    {
        $lists = [];
        foreach (EntityKind::cases() as $kind) {
            $lists[$kind->value] = $kind->entry()->ownedThrough === null && $kind !== EntityKind::Project ? $enterprise->all($kind) : [];
        }
        $read = static function (EntityKind $kind, string $uid, mixed $fields) use (&$lists): void {
            if (! is_array($fields)) {
                throw new InvalidField('objects', 'is no version of a fragment');
            }
            /** @var array<string, mixed> $known */
            $known = array_intersect_key($fields, $kind->fields());
            foreach ($kind->entry()->references as $reference) {
                $to = $known[$reference->field] ?? null;
                if (is_string($to) && ! isset($lists[$reference->to->value][$to])) {
                    if (! ($kind->fields()[$reference->field]->nullable ?? false) || $reference->to === EntityKind::Activity) {
                        return;
                    }
                    $known[$reference->field] = null;
                }
            }
            $lists[$kind->value][$uid] = $kind->read($uid, $known);
        };
        $project = is_array($document['project'] ?? null) ? $document['project'] : [];
        $calendar = is_string($project['calendar'] ?? null) && isset($enterprise->calendars[$project['calendar']]) ? $project['calendar']
            : array_key_first($enterprise->calendars);
        $read(EntityKind::Project, $fragment, ['calendar' => $calendar] + $project);
        foreach (is_array($document['objects'] ?? null) ? $document['objects'] : [] as $object) {
            if (is_array($object) && is_string($object[0] ?? null) && is_string($object[1] ?? null)) {
                $read(EntityKind::from($object[0]), $object[1], $object[2] ?? null);
            }
        }

        return Plan::from($lists);
    }

    /** @throws InvalidField */
    public static function project(Plan $plan, string $fragment): Project
    {
        return $plan->projects[$fragment] ?? throw new InvalidField('fragment', 'does not exist');
    }
}
