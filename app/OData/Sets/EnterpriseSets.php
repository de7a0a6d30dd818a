<?php

declare(strict_types=1);

namespace App\OData\Sets;

use App\OData\EntitySet;
use Reihe\Core\Plan\EntityKind;

/** Sets of the enterprise: the hierarchy, calendars, code sets and own fields. */
final class EnterpriseSets
{
    public static function branches(): EntitySet
    {
        return EntitySet::stored('Branches', 'Branch', 'branches b LEFT JOIN branches u ON u.id = b.parent_id', 'b.id',
            'The hierarchy that projects hang on.', Described::properties(EntityKind::Branch, [['Id', 'b.uid'], ['ParentId', 'u.uid',
                'parent'],
                ['Name', 'b.name', 'name'], ['Lead', 'b.lead', 'lead'], ['Archived', 'b.archived', 'archived'],
                ['Position', 'b.position', 'position']]), Described::navigations([
                    ['Parent', 'Branches', 'ParentId', 'Id', false, 'Children'],
                    ['Children', 'Branches', 'Id', 'ParentId', true, 'Parent'],
                    ['Projects', 'Projects', 'Id', 'BranchId', true, 'BranchOfProject']]));
    }

    public static function calendars(): EntitySet
    {
        return EntitySet::stored('Calendars', 'Calendar', 'calendars k LEFT JOIN calendars u ON u.id = k.base_id', null,
            'When work is done.', Described::properties(EntityKind::Calendar, [['Id', 'k.uid'], ['Key', 'k.`key`', 'key'],
                ['Name', 'k.name', 'name'], ['BaseId', 'u.uid', 'base'], ['HoursPerDay', 'k.minutes_per_day', 'minutesPerDay', true],
                ['Retired', 'k.retired', 'retired']]),
            Described::navigations([['Base', 'Calendars', 'BaseId', 'Id', false, 'Derived'],
                ['Derived', 'Calendars', 'Id', 'BaseId', true, 'Base'],
                ['Projects', 'Projects', 'Id', 'CalendarId', true, 'Calendar'],
                ['Resources', 'Resources', 'Id', 'CalendarId', true, 'Calendar'],
                ['Activities', 'Activities', 'Id', 'CalendarId', true, 'Calendar']]));
    }

    public static function codeSets(): EntitySet
    {
        return EntitySet::stored('CodeSets', 'CodeSet', 'code_sets s', null,
            'Named lists of entries that projects and activities are coded with.',
            Described::properties(EntityKind::CodeSet, [['Id', 's.uid'], ['Scope', 's.scope', 'scope'], ['Key', 's.`key`', 'key'],
                ['Name', 's.name', 'name'], ['Description', 's.description', 'description'], ['Weight', 's.weight', 'weight'],
                ['Steward', 's.steward', 'steward'], ['Multiple', 's.multiple', 'multiple']]),
            Described::navigations([['Entries', 'CodeEntries', 'Id', 'CodeSetId', true, 'CodeSet']]));
    }

    public static function codeEntries(): EntitySet
    {
        return EntitySet::stored('CodeEntries', 'CodeEntry', 'code_entries e JOIN code_sets s ON s.id = e.code_set_id
                LEFT JOIN code_entries u ON u.id = e.parent_id', null, 'Entries of code sets.',
            Described::properties(EntityKind::Entry, [['Id', 'e.uid'], ['CodeSetId', 's.uid', 'codeSet'], ['ParentId', 'u.uid', 'parent'],
                ['Key', 'e.`key`', 'key'], ['Name', 'e.name', 'name'], ['Description', 'e.description', 'description'],
                ['Weight', 'e.weight', 'weight'], ['Steward', 'e.steward', 'steward'], ['Retired', 'e.retired', 'retired']]),
            Described::navigations([['CodeSet', 'CodeSets', 'CodeSetId', 'Id', false, 'Entries'],
                ['ProjectCoding', 'ProjectCoding', 'Id', 'EntryId', true, 'Entry'],
                ['ActivityCoding', 'ActivityCoding', 'Id', 'EntryId', true, 'Entry']]));
    }

    public static function resources(): EntitySet
    {
        return EntitySet::stored('Resources', 'Resource', 'resources r LEFT JOIN calendars k ON k.id = r.calendar_id', null,
            'Who and what work is done with.', Described::whole(EntityKind::Resource, [['Id', 'r.uid'], ['Key', 'r.`key`', 'key'],
                ['Name', 'r.name', 'name'], ['Kind', 'r.kind', 'kind'], ['CalendarId', 'k.uid', 'calendar'],
                ['UnitsPercent', 'r.units', 'units']], 'r', []),
            Described::navigations([['Calendar', 'Calendars', 'CalendarId', 'Id', false, 'Resources'],
                ['Assignments', 'Assignments', 'Id', 'ResourceId', true, 'Resource']]));
    }

    public static function ownFields(): EntitySet
    {
        return EntitySet::stored('OwnFields', 'OwnField', 'own_fields f', null, 'Fields that the enterprise added.',
            Described::properties(EntityKind::OwnField, [['Id', 'f.uid'], ['Scope', 'f.scope', 'scope'],
                ['Key', 'f.`key`', 'key'], ['Name', 'f.name', 'name'], ['Type', 'f.type', 'type'],
                ['Description', 'f.description', 'description'], ['Required', 'f.required', 'required'],
                ['Formula', 'f.formula', 'formula']]),
            Described::navigations([['ProjectValues', 'ProjectOwnValues', 'Id', 'FieldId', true, 'Field'],
                ['ActivityValues', 'ActivityOwnValues', 'Id', 'FieldId', true, 'Field']]));
    }
}
