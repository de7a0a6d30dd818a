<?php

declare(strict_types=1);

namespace Tests\App;

/** An object of every kind, made by a change set, and another value for each of their fields. A new kind has its rows here. */
trait EveryObject
{
    private const TASK = 'act-grid-st-0030';

    /** kind => object => field => another value, or that and what must change with it */
    private const VALUES = [
        'calendar' => ['cal-grid' => [
            'key' => 'GRID-2', 'name' => 'Grid “two”', 'week' => [5 => '08:00-14:00', 6 => ''], 'base' => 'cal-harbour',
            'minutesPerDay' => 450, 'retired' => true,
            'exceptions' => [['date' => '06-06', 'periods' => '08:00-10:00', 'name' => ''],
                ['date' => '2027-01-02', 'periods' => '', 'name' => 'x']],
        ]],
        'codeSet' => ['codeset-stage' => ['key' => 'stage', 'name' => 'Stages', 'position' => 7.5, 'description' => 'How far',
            'keyLength' => 16,
            'weight' => 2.5, 'steward' => 'Noor', 'assignedBy' => 'contributor', 'addedBy' => 'administrator', 'editedBy' => 'planner',
            'demandedOn' => 'branch-fleet'], 'set-free' => ['scope' => 'resource', 'multiple' => true]],
        'entry' => [
            'entry-stage-build-civil' => ['key' => '4711', 'name' => 'Civil works', 'position' => -1.0, 'parent' => null,
                'description' => 'Quays', 'colour' => 3, 'steward' => 'Åse', 'weight' => 1.25, 'retired' => true],
            'entry-free' => ['codeSet' => 'codeset-stage'],
        ],
        'branch' => ['branch-archive' => ['parent' => 'branch-fleet', 'name' => 'Old', 'position' => 0.25, 'lead' => 'Åse',
            'archived' => true]],
        'ownField' => ['own-goal' => ['scope' => 'resource', 'key' => '1', 'name' => 'Aim', 'type' => 'choice',  'description' => 'Why',
            'required' => true, 'position' => 3.5], 'own-choice' => ['choices' => [['name' => 'A'], ['name' => 'B']]],
            'own-calculated' => ['formula' => 'round(work / 8, 1)']],
        'project' => ['prj-GRID' => [
            'key' => '007', 'name' => 'Ny', 'branch' => 'branch-archive', 'calendar' => 'cal-dock',
            'start' => '2026-10-13T08:00', 'statusDate' => '2026-11-24T17:00', 'deadline' => null, 'floatMeasure' => 'portfolio-end',
            'criticalBy' => 'longest-path',
            'criticalDays' => 1.5, 'nearCriticalDays' => 9.0, 'outOfSequence' => 'continues', 'lagCalendar' => 'elapsed', 'lead' => 'Åse',
            'colour' => 8, 'archived' => true, 'levelScheme' => 'scheme-b', 'madeFrom' => 'prj-TERN', 'keeps' => 'work',
        ]],
        'wbs' => ['wbs-grid-ca' => [
            'parent' => 'wbs-grid-pe', 'position' => 12.5, 'code' => '10', 'name' => 'Kabel', 'deadline' => '2027-01-15T12:00',
        ], 'wbs-free' => ['project' => 'prj-CREW']],
        'activity' => [self::TASK => [
            'wbs' => null, 'position' => 99.0, 'code' => '1', 'name' => ' two  blanks ', 'duration' => 5040, 'estimate' => false,
            'lead' => 'Þóra', 'keeps' => 'duration', 'levelDelay' => 480,
            'calendar' => 'cal-dock', 'deadline' => '2027-02-01T17:00', 'percentBy' => 'physical', 'physicalPercent' => 12.5,
            'constraints' => [['kind' => 'start-no-earlier', 'date' => '2027-03-01T08:00']],
            'checklist' => [['name' => 'One', 'weight' => 2.0, 'done' => false], ['name' => 'Two', 'weight' => 1.0, 'done' => true]],
            'actualStart' => '2026-11-20T08:00', 'actualFinish' => ['2026-11-24T17:00', ['actualStart' => '2026-11-20T08:00']],
            'remaining' => [960, ['actualStart' => '2026-11-20T08:00']],
            'suspend' => ['2026-11-23T08:00', ['actualStart' => '2026-11-20T08:00', 'resume' => '2026-12-07T08:00']],
            'resume' => ['2026-12-07T08:00', ['actualStart' => '2026-11-20T08:00']],
        ], 'act-free' => ['kind' => ['start-milestone', ['duration' => 0]]],
            'act-end' => ['project' => ['prj-CREW', ['code' => 'F3']]]],
        'resource' => ['res-free' => ['key' => '12', 'name' => 'Åse', 'kind' => 'equipment', 'calendar' => 'cal-dock', 'units' => 250,
            'capacity' => [['from' => '2027-01-04T08:00', 'units' => 300], ['from' => '2027-03-01T08:00', 'units' => 0]], 'rate' => 5_500,
            'rates' => [['from' => '2027-01-01T00:00', 'rate' => 6_000]], 'costPerUse' => 10_000, 'placeholder' => true,
            'from' => '2026-01-01T08:00', 'to' => '2030-01-01T17:00', 'ownBranchOnly' => true, 'retired' => true],
            'res-stuff' => ['unit' => 'kg', 'price' => 142]],
        'assignment' => ['work-act-free' => ['activity' => self::TASK.'-b', 'actualWork' => 60, 'remainingWork' => 0, 'cost' => 100_000,
            'resource' => ['res-free', ['intensity' => 100_000]], 'intensity' => [33_333, ['remainingWork' => 160]], 'spread' => 'bell',
            'weeks' => [[['week' => 1, 'work' => 300],
                ['week' => 3, 'work' => 180]], ['spread' => 'hand']], 'offset' => 120], 'use-act-free' => ['quantity' => 1_500,
                    'perHour' => true]],
        'link' => ['link-free' => [
            'from' => self::TASK.'-b', 'to' => self::TASK.'-b', 'type' => 'SF', 'lag' => -480, 'lagCalendar' => 'elapsed',
        ], 'link-over' => ['agreed' => '2027-03-01T12:00', 'giverOwner' => 'Noor', 'takerOwner' => 'Aino', 'note' => 'Papers']],
        'remark' => ['remark-free' => ['activity' => self::TASK, 'text' => "Other\nlines", 'todo' => true,
            'done' => [true, ['todo' => true]], 'answers' => ['remark-first', ['activity' => null]],
            'wbs' => ['wbs-grid-ca', ['activity' => null]],
            'link' => ['link-free', ['activity' => null]], 'project' => ['prj-CREW', ['activity' => 'act-crew-ro-0010']],
            'about' => 'change-set-1']],
        'coding' => ['coding-free' => ['entry' => 'entry-b', 'activity' => self::TASK.'-b',
            'project' => ['prj-CREW', ['activity' => 'act-crew-ro-0010']]]],
        'levelScheme' => ['scheme-free' => ['key' => '7', 'name' => 'Vessel', 'levels' => [['name' => 'Area', 'colour' => 2, 'length' => 2,
            'separator' => '-']], 'activityCode' => [['kind' => 'counter', 'text' => '', 'level' => 1, 'width' => 3, 'step' => 5,
                'set' => '']],
            'activityName' => [['kind' => 'name', 'text' => '', 'level' => 1, 'width' => 4, 'step' => 10, 'set' => '']]]],
        'levelCode' => ['lc-free' => ['code' => '10', 'name' => 'Hull', 'below' => 'Deck', 'position' => 2.5, 'level' => 2,
            'parent' => ['lc-top', ['level' => 2]]], 'lc-lone' => ['scheme' => 'scheme-b']],
        'openEnd' => ['end-free' => ['activity' => self::TASK.'-b', 'side' => 'successor', 'type' => 'SS', 'lag' => -60,
            'lagCalendar' => 'elapsed', 'label' => 'OSTV/1', 'name' => 'Quay', 'note' => 'Papers']],
        'insertion' => ['ins-free' => ['project' => 'prj-CREW', 'fragment' => 'other', 'name' => 'Trial', 'version' => 2, 'prefix' => 'X-',
            'pairs' => [['of' => 'a', 'made' => 'b'], ['of' => 'c', 'made' => 'd']]]],
        'foreign' => ['foreign-free' => ['format' => 'xml', 'content' => "LOCATION:Quay\nPRIORITY:1", 'activity' => self::TASK.'-b',
            'wbs' => ['wbs-grid-ca', ['activity' => null]], 'project' => ['prj-CREW', ['activity' => 'act-crew-ro-0010']]]],
        'ownValue' => ['own-free' => ['field' => 'own-b', 'value' => 'Åse', 'activity' => self::TASK.'-b',
            'project' => ['prj-CREW', ['activity' => 'act-crew-ro-0010']]]],
    ];

    /**
     * Objects that hold nothing else, so that any field of theirs may be changed alone.
     *
     * @return list<array<string, mixed>> operations
     */
    private static function operations(): array
    {
        return [
            self::made('codeSet', 'set-free', ['scope' => 'activity', 'key' => 'FREE', 'name' => 'Free']),
            self::made('codeSet', 'set-other', ['scope' => 'project', 'key' => 'OTHER', 'name' => 'Other']),
            self::made('codeSet', 'set-used', ['scope' => 'activity', 'key' => 'USED', 'name' => 'Used']),
            self::made('entry', 'entry-a', ['codeSet' => 'set-used', 'key' => 'A', 'name' => 'A']),
            self::made('entry', 'entry-b', ['codeSet' => 'set-used', 'key' => 'B', 'name' => 'B']),
            self::made('entry', 'entry-free', ['codeSet' => 'set-other', 'key' => 'FREE', 'name' => 'Free']),
            self::made('wbs', 'wbs-free', ['project' => 'prj-GRID', 'code' => 'F', 'name' => 'Free', 'position' => 50]),
            self::made('activity', 'act-free', ['project' => 'prj-GRID', 'code' => 'F1', 'name' => 'Free', 'duration' => 480]),
            self::made('activity', self::TASK.'-b', ['project' => 'prj-GRID', 'code' => 'F2', 'name' => 'Second', 'duration' => 480]),
            self::made('resource', 'res-free', ['key' => 'FREE', 'name' => 'Free', 'calendar' => 'cal-office']),
            self::made('resource', 'res-stuff', ['key' => 'STUFF', 'name' => 'Stuff', 'kind' => 'material', 'unit' => 'm']),
            self::made('assignment', 'use-act-free', ['activity' => 'act-free', 'resource' => 'res-stuff', 'quantity' => 1_000]),
            self::made('assignment', 'work-act-free', ['activity' => 'act-free', 'actualWork' => null, 'remainingWork' => 480]),
            self::made('activity', 'act-end', ['project' => 'prj-GRID', 'code' => 'F3', 'name' => 'Third', 'duration' => 480]),
            self::made('link', 'link-free', ['from' => 'act-free', 'to' => 'act-end', 'type' => 'FS', 'lag' => 0]),
            self::made('link', 'link-over', ['from' => 'act-free', 'to' => 'act-crew-ro-0050', 'type' => 'FS', 'lag' => 0]),
            self::made('remark', 'remark-first', ['project' => 'prj-GRID', 'text' => 'First']),
            self::made('remark', 'remark-free', ['project' => 'prj-GRID', 'activity' => 'act-free', 'text' => 'Free']),
            self::made('levelScheme', 'scheme-free', ['name' => 'Free']),
            self::made('levelScheme', 'scheme-b', ['name' => 'B']),
            self::made('levelCode', 'lc-top', ['scheme' => 'scheme-free', 'level' => 1, 'code' => 'T', 'name' => 'Top']),
            self::made('levelCode', 'lc-free', ['scheme' => 'scheme-free', 'level' => 1, 'code' => 'F', 'name' => 'Free']),
            self::made('levelCode', 'lc-lone', ['scheme' => 'scheme-free', 'level' => 1, 'code' => 'L', 'name' => 'Lone']),
            self::made('openEnd', 'end-free', ['activity' => 'act-free', 'side' => 'predecessor']),
            self::made('insertion', 'ins-free', ['project' => 'prj-GRID', 'fragment' => 'f', 'name' => 'F', 'version' => 1]),
            self::made('ownField', 'own-goal', ['scope' => 'activity', 'name' => 'Goal']),
            self::made('ownField', 'own-choice', ['scope' => 'project', 'name' => 'Choice', 'type' => 'choice']),
            self::made('ownField', 'own-a', ['scope' => 'activity', 'name' => 'One']),
            self::made('ownField', 'own-calculated',
                ['scope' => 'activity', 'name' => 'Calculated', 'type' => 'number', 'formula' => 'work']),
            self::made('ownField', 'own-b', ['scope' => 'activity', 'name' => 'Other']),
            self::made('foreign', 'foreign-free', ['project' => 'prj-GRID', 'activity' => 'act-free', 'format' => 'icalendar',
                'content' => 'PRIORITY:5']),
            self::made('ownValue', 'own-free', ['project' => 'prj-GRID', 'activity' => 'act-free', 'field' => 'own-a', 'value' => 'x']),
            self::made('coding', 'coding-free', ['project' => 'prj-GRID', 'activity' => 'act-free', 'entry' => 'entry-a']),
        ];
    }

    private function objects(): void
    {
        $this->actingAs($this->person('ilse'));
        $made = $this->change(self::operations());
        self::assertSame(200, $made->status(), (string) $made->getContent());
    }
}
