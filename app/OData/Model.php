<?php

declare(strict_types=1);

namespace App\OData;

use App\OData\Sets\CodedSets;
use App\OData\Sets\EnterpriseSets;
use App\OData\Sets\KindSets;
use App\OData\Sets\PlanSets;
use App\OData\Sets\RecordSets;

/** The entity sets of the feed. Names are plain; what a property is stands in the catalogue of fields. */
final class Model
{
    public const NAMESPACE = 'Reihe';

    /** projects that work is done in: no templates, no fragments */
    public const LIVE = "(SELECT * FROM projects WHERE kept IN ('here', 'outside'))";

    /** @return array<string, EntitySet> by name */
    public static function sets(): array
    {
        /** @var array<string, EntitySet>|null $sets */
        static $sets = null;
        if ($sets === null) {
            $sets = [];
            foreach ([EnterpriseSets::branches(), PlanSets::projects(), PlanSets::wbs(), PlanSets::activities(), PlanSets::links(),
                PlanSets::handovers(), ...KindSets::all(), EnterpriseSets::calendars(),
                EnterpriseSets::codeSets(), EnterpriseSets::codeEntries(), CodedSets::coding(false), CodedSets::coding(true),
                EnterpriseSets::ownFields(), EnterpriseSets::resources(), CodedSets::ownValues(false), CodedSets::ownValues(true),
                RecordSets::baselines(),
                RecordSets::baselineActivities(), RecordSets::changeSets(), RecordSets::changeSetProjects()] as $set) {
                $sets[$set->name] = $set;
            }
        }

        return $sets;
    }

    public static function set(string $name): EntitySet
    {
        return self::sets()[$name] ?? throw new ODataError(404, "There is no entity set “{$name}”.", $name);
    }
}
