<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use PHPUnit\Framework\Assert;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Field;
use Reihe\Core\Plan\FieldType;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Tests\RandomPlan;
use Reihe\Formats\PlanXml\Attributes;
use Reihe\Formats\PlanXml\ForeignXml;

/** Random plans in which every field of every kind is filled somewhere; a new field or kind that is not makes the tests fail. */
final class FilledPlan
{
    /**
     * what a plan file does not carry: the branch is chosen where it is read, the order of rows stands for itself, who may do what is
     * a matter of each enterprise
     */
    private const NOT_CARRIED = ['branch', 'position', 'assignedBy', 'addedBy', 'editedBy', 'demandedOn', 'home',
        'madeFrom'];

    /** the hierarchy is that of the reader; what an enterprise sets up for itself comes with the next version of the format */
    private const KINDS_NOT_CARRIED = ['branch'];

    /** what random plans have by themselves */
    private const MORE = [
        'calendar' => ['minutesPerDay' => 450, 'retired' => true],
        'project' => ['lead' => 'Åse “A” <Lead>', 'colour' => 3, 'criticalDays' => 0.5, 'nearCriticalDays' => 7.25,
            'outOfSequence' => 'continues', 'lagCalendar' => 'project', 'criticalBy' => 'longest-path', 'archived' => true,
            'deadline' => '2026-09-30T17:00'],
        'wbs' => ['deadline' => '2026-08-31T12:30', 'code' => 'W.1', 'name' => "Part & parcel\tone"],
        'activity' => ['estimate' => true],
        'link' => ['takerOwner' => 'Aino Rautio'],
        'codeSet' => ['description' => 'What “it” is', 'keyLength' => 50, 'multiple' => true, 'weight' => 2.5,
            'steward' => 'Noor'],
        'entry' => ['description' => 'A & B', 'colour' => 8, 'steward' => 'Åse', 'weight' => 0.25, 'retired' => true],
    ];

    public static function make(int $seed): Plan
    {
        $plan = RandomPlan::make($seed, 3, 8, typed: true);
        if ($seed % 2 === 0) {
            try {
                $plan = RandomPlan::outside($plan, 'p2', Schedule::of($plan));
            } catch (InvalidPlan) { // typed dates may contradict each other
            }
        }
        $objects = [];
        foreach (EntityKind::cases() as $kind) {
            foreach ($plan->all($kind) as $uid => $object) {
                $more = crc32("{$seed} {$uid}") % 2 === 0 ? self::MORE[$kind->value] ?? [] : [];
                $objects[$kind->value][$uid] = $kind->read((string) $uid, $more + $object->fields());
            }
        }
        foreach (array_keys($plan->activities) as $n => $uid) {
            if ($n % 4 === 0) {
                $objects['remark']["r{$n}"] = EntityKind::Remark
                    ->read("r{$n}", ['project' => $plan->activities[$uid]->project, 'activity' => $uid,
                        'text' => "line one\nline “two” & <three>", 'author' => 'Noor Haddad',
                        'written' => '2026-03-04T10:20'] + ($n % 8 === 0 ? [] : ['todo' => true, 'done' => true, 'about' => 'change-1']));
            }
            if ($n % 3 === 0) {
                $objects['openEnd']["o{$n}"] = EntityKind::OpenEnd
                    ->read("o{$n}", ['activity' => $uid, 'side' => 'successor', 'type' => 'SF', 'lag' => -90, 'lagCalendar' => 'elapsed',
                        'label' => 'GONE/A 1', 'name' => 'What “was” there', 'note' => 'A & B']);
            }
            if ($n % 5 === 0) {
                $delay = $objects['activity'][$uid]->fields()['kind'] === 'task' ? 480 : 0;
                $objects['activity'][$uid] = EntityKind::Activity->read($uid, ['keeps' => 'duration', 'levelDelay' => $delay]
                    + $objects['activity'][$uid]->fields());
            }
            $a = $plan->activities[$uid];
            if ($a->isStarted() && ! $a->isFinished()) {
                $objects['activity'][$uid] = EntityKind::Activity
                    ->read($uid, ['suspend' => $a->fields()['actualStart'], 'resume' => '2026-12-01T08:00'] + $objects['activity'][$uid]
                        ->fields());
            }
        }
        $begun = array_key_first($objects['remark'] ?? []);
        $activity = $begun === null ? null : $objects['remark'][$begun]->fields()['activity'];
        $link = $plan->links[array_key_first($plan->links) ?? ''] ?? null;
        foreach (['own' => ['project' => 'p0'], 'wbs' => ['project' => 'p0', 'wbs' => 'p0w'],
            'link' => $link === null ? [] : ['project' => $plan->projectOf($link->to) ?? 'p0', 'link' => $link->uid],
            'answer' => $begun === null ? [] : ['project' => $plan->projectOf((string) $activity), 'activity' => $activity,
                'answers' => (string) $begun]] as $name => $on) {
            $on === [] ?: $objects['remark']["r-{$name}"] = EntityKind::Remark->read("r-{$name}", $on + ['text' => "on {$name}",
                'author' => 'Noor Haddad', 'written' => '2026-03-04T10:20']);
        }
        foreach (['text' => 'two  words & <more>', 'number' => '-12.5', 'date' => '2027-03-01T08:30', 'choice' => 'High & “low”',
            'duration' => '960', 'flag' => 'true'] as $type => $value) {
            $of = $type === 'number' ? 'project' : 'activity';
            $objects['ownField']["own-{$type}"] = EntityKind::OwnField->read("own-{$type}", ['scope' => $of, 'key' => strtoupper($type),
                'name' => "My <{$type}>", 'type' => $type, 'description' => 'What “it” is', 'required' => $of === 'project',
                'position' => (float) count($objects['ownField'] ?? []) + 1,
                'choices' => $type === 'choice' ? [['name' => 'None'], ['name' => 'High & “low”']] : []]);
            $activity = $of === 'project' ? null : (string) array_key_first($plan->activities);
            $objects['ownValue']["value-{$type}"] = EntityKind::OwnValue->read("value-{$type}", ['activity' => $activity, 'value' => $value,
                'project' => $activity === null ? 'p0' : $plan->activities[$activity]->project, 'field' => "own-{$type}"]);
        }
        $objects['ownField']['own-sum'] = EntityKind::OwnField->read('own-sum', ['scope' => 'activity', 'key' => 'SUM', 'name' => 'Sum',
            'type' => 'number', 'formula' => 'duration * 2', 'position' => 7.0]);
        $first = (string) array_key_first($plan->activities);
        foreach (['p0' => ['project' => 'p0'], 'p0w' => ['project' => 'p0', 'wbs' => 'p0w'],
            $first => ['project' => $plan->activities[$first]->project, 'activity' => $first]] as $of => $on) {
            $objects['foreign']["ics-{$of}"] = EntityKind::Foreign->read("ics-{$of}", $on + ['format' => 'icalendar',
                'content' => "DESCRIPTION:One\\nTwo\\, three\nLOCATION:Quay & “dock”\nPRIORITY:3\nX-TONE;X-LEVEL=2:high"]);
            $objects['foreign']["xml-{$of}"] = EntityKind::Foreign->read("xml-{$of}", $on + ['format' => 'xml',
                'content' => ForeignXml::kept([['a', 'tone', 'urn:example:a', 'R&D'], ['b', 'tone', 'urn:example:b', '2']],
                    ['<c:note xmlns:c="urn:example:c" level="1">Text &lt;<c:part/><plan xmlns="urn:example:d">x</plan></c:note>',
                        '<other xmlns="urn:example:e"/>'])]);
        }
        $objects['insertion']['ins'] = EntityKind::Insertion->read('ins',
            ['project' => 'p0', 'fragment' => 'frag 1', 'name' => 'Trial & error', 'version' => 3, 'prefix' => 'T<1>-',
                'pairs' => [['of' => 'a “b”', 'made' => (string) array_key_first($plan->activities)]]]);
        $objects['levelScheme']['scheme'] = EntityKind::LevelScheme->read('scheme', ['key' => 'STD', 'name' => 'Standard <1>',
            'levels' => [['name' => 'Area', 'colour' => 3, 'length' => 2, 'separator' => '-'], ['name' => 'System']],
            'activityCode' => [['kind' => 'level', 'level' => 2], ['kind' => 'literal', 'text' => '/'],
                ['kind' => 'counter', 'width' => 3, 'step' => 5]],
            'activityName' => [['kind' => 'entry', 'set' => 'DISC'], ['kind' => 'name']]]);
        foreach (['lc-a' => [null, 1, 'AA'], 'lc-b' => [null, 1, 'AB'], 'lc-c' => ['lc-b', 2, '1'],
            'lc-d' => [null, 2, '2']] as $uid => $c) {
            $objects['levelCode'][$uid] = EntityKind::LevelCode->read($uid, ['scheme' => 'scheme', 'parent' => $c[0], 'level' => $c[1],
                'code' => $c[2], 'name' => "Code & {$c[2]}", 'below' => $uid === 'lc-a' ? 'Parts' : null,
                'position' => (float) count($objects['levelCode'] ?? [])]);
        }
        $objects['resource']['crew'] = EntityKind::Resource->read('crew', ['key' => 'EL', 'name' => 'Electricians & “<mates>”',
            'kind' => 'crew', 'calendar' => 'office', 'units' => 400, 'capacity' => [['from' => '2026-06-01T08:00', 'units' => 250],
                ['from' => '2027-01-01T00:00', 'units' => 0]], 'rate' => 6_550,
            'rates' => [['from' => '2027-01-01T00:00', 'rate' => 7_000]],
            'costPerUse' => 900, 'placeholder' => true, 'from' => '2026-01-05T08:00', 'to' => '2031-12-31T17:00', 'ownBranchOnly' => true,
            'retired' => true]);
        $objects['resource']['diesel'] = EntityKind::Resource->read('diesel', ['key' => 'D', 'name' => 'Diesel', 'kind' => 'material',
            'unit' => 'l', 'price' => 142]);
        $worked = array_key_first($objects['assignment'] ?? []);
        $at = $worked === null ? $first : (string) $objects['assignment'][$worked]->fields()['activity'];
        foreach (['crew' => ['resource' => 'crew', 'remainingWork' => 960, 'intensity' => 66_667, 'spread' => 'hand',
            'weeks' => [['week' => 1, 'work' => 900], ['week' => 3, 'work' => 60]], 'offset' => 240],
            'diesel' => ['resource' => 'diesel', 'quantity' => 12_500, 'perHour' => true]] as $name => $fields) {
            $plan->activities[$at]->kind === Kind::Hammock ?: $objects['assignment']["on-{$name}"] = EntityKind::Assignment->read(
                "on-{$name}", ['activity' => $at] + $fields);
        }
        $objects['project']['p0'] = EntityKind::Project->read('p0', ['keeps' => 'work', 'levelScheme' => 'scheme']
            + $objects['project']['p0']->fields());
        $objects['wbs']['inner'] = EntityKind::Wbs
            ->read('inner', ['project' => 'p0', 'parent' => 'p0w', 'position' => 99.0, 'code' => 'A.1', 'name' => 'Inner']);
        $objects['calendar']['late'] = EntityKind::Calendar
            ->read('late', ['key' => 'LATE', 'name' => 'Late', 'base' => 'office', 'minutesPerDay' => 300,
                'week' => [3 => '', 5 => '10:00-16:00'],
                'exceptions' => [['date' => '05-17', 'periods' => '', 'name' => 'Day off'],
                    ['date' => '2026-07-01', 'periods' => '09:00-10:00', 'name' => '']]]);

        foreach ([EntityKind::Project, EntityKind::Wbs, EntityKind::Activity, EntityKind::Link] as $kind) { // plain texts
            foreach (self::empty([Plan::from($objects, $plan->stubs)], [$kind]) as $open) {
                $name = substr($open, strlen($kind->value) + 1);
                $field = $kind->fields()[$name];
                foreach ($field->type === FieldType::Text && ! in_array($name, [...self::NOT_CARRIED, 'source'], true)
                    ? $objects[$kind->value] : [] as $uid => $object) {
                    $objects[$kind->value][$uid] = crc32("{$seed} {$uid}") % 2 === 0 ? $kind->read((string) $uid,
                        [$name => self::value($field)] + $object->fields()) : $object;
                }
            }
        }
        foreach (Attributes::kinds() as $kind) { // those that nothing is special about
            foreach (isset($objects[$kind->value]) ? [] : [null, $first] as $n => $on) {
                $fields = array_intersect_key(['project' => 'p0'], $kind->fields());
                if (isset($kind->fields()['activity'])) {
                    $fields = array_intersect_key(['project' => $plan->activities[$first]->project], $fields)
                        + ['activity' => $kind->fields()['activity']->nullable ? $on : $first];
                }
                foreach ($kind->fields() as $name => $field) {
                    $fields += $field->to === null ? [$name => self::value($field)] : [];
                }
                $objects[$kind->value]["{$kind->value}-{$n}"] = $kind->read("{$kind->value}-{$n}", $fields);
            }
        }

        return Plan::from($objects, $plan->stubs);
    }

    private static function value(Field $field): mixed
    {
        return match ($field->type) {
            FieldType::Flag => true,
            FieldType::Whole => max(7, (int) $field->min),
            FieldType::Number => 12.5,
            FieldType::Moment => '2026-12-01T08:00',
            FieldType::Choice => array_slice($field->choices(), -1)[0],
            FieldType::Items => throw new \LogicException("{$field->name}: say here how its items are filled"),
            default => 'Two & “two”',
        };
    }

    /** Every field of every object is the same. */
    public static function assertSameFields(Plan $expected, Plan $actual): void
    {
        $carried = static fn (array $fields): array => array_diff_key($fields, array_fill_keys(self::NOT_CARRIED, 0));
        foreach (EntityKind::cases() as $kind) {
            Assert::assertCount(count($expected->all($kind)), $actual->all($kind), $kind->value);
            foreach ($expected->all($kind) as $uid => $object) {
                Assert::assertEquals($carried($object->fields()), $carried($actual->find($kind, (string) $uid)?->fields() ?? []),
                    "{$kind->value} {$uid}");
            }
        }
    }

    /**
     * @param  list<Plan>  $plans
     * @param  list<EntityKind>|null  $kinds  null for all of them
     * @return list<string> `kind.field` of fields that no object has filled
     */
    public static function empty(array $plans, ?array $kinds = null): array
    {
        $open = [];
        foreach ($kinds ?? EntityKind::cases() as $kind) {
            foreach ($kind->fields() as $name => $field) {
                $open["{$kind->value}.{$name}"] = $field->default;
            }
        }
        foreach ($plans as $plan) {
            foreach (EntityKind::cases() as $kind) {
                foreach ($plan->all($kind) as $object) {
                    $fields = $object->fields();
                    foreach ($kind->fields() as $name => $field) {
                        $value = $fields[$name] ?? null;
                        if ($value !== null && $value !== [] && $value !== false && $value !== $field->type->written($field->default)) {
                            unset($open["{$kind->value}.{$name}"]);
                        }
                    }
                }
            }
        }

        return array_values(array_filter(array_keys($open), static fn (string $field): bool => ! in_array(explode('.', $field)[0],
            self::KINDS_NOT_CARRIED, true) && ! in_array(explode('.', $field)[1], array_diff(self::NOT_CARRIED, ['position']), true)));
    }
}
