<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** Fields that are calculated and never written: the second half of the catalogue of fields. */
final class Computed
{
    /** @return array<string, Field> by name */
    public static function of(EntityKind $kind): array
    {
        return match ($kind) {
            EntityKind::Project, EntityKind::Wbs => self::named([
                ['start', FieldType::Moment, 'Earliest start of its activities.', null, true],
                ['finish', FieldType::Moment, 'Latest finish of its activities.', null, true],
                ['span', FieldType::Whole, 'Working time between start and finish on the project’s calendar.', 'minutes'],
                ['totalFloat', FieldType::Whole, 'Least total float of its activities.', 'minutes', true],
                ['critical', FieldType::Flag, 'Some activity is critical.'],
                ['percent', FieldType::Number, 'Share done, weighted by planned work, by duration where none is planned.', 'percent'],
                ['margin', FieldType::Whole, 'Working time from the finish to the deadline, negative when missed.', 'minutes', true],
                ['work', FieldType::Whole, 'Planned work.', 'minutes'],
                ['totalCost', FieldType::Whole, 'Cost of its activities.', 'minor units'],
                ...($kind === EntityKind::Project
                    ? [['revision', FieldType::Whole, 'Counts the change sets that altered the project or its results.']] : []),
            ]),
            EntityKind::Activity => self::named([
                ['start', FieldType::Moment, 'Early start, or actual start.'],
                ['finish', FieldType::Moment, 'Early finish, or actual finish.'],
                ['lateStart', FieldType::Moment, 'Late start; none for finished work and hammocks.', null, true],
                ['lateFinish', FieldType::Moment, 'Late finish; none for finished work and hammocks.', null, true],
                ['totalFloat', FieldType::Whole, 'Total float as working time of its calendar; none for finished work and hammocks.',
                    'minutes', true],
                ['freeFloat', FieldType::Whole, 'Free float as working time of its calendar; none for finished work and hammocks.',
                    'minutes', true],
                ['interferingFloat', FieldType::Whole, 'Float that, once used, is taken from successors: total minus free, never below 0.',
                    'minutes', true],
                ['margin', FieldType::Whole, 'Working time of its calendar from the finish to the deadline, negative when missed.',
                    'minutes', true],
                ['critical', FieldType::Flag, 'Critical.'],
                ['nearCritical', FieldType::Flag, 'Near-critical.'],
                ['percent', FieldType::Number, 'Share done in the activity’s own measure.', 'percent'],
                ['actualWork', FieldType::Whole, 'Work done: the sum of its assignments; none where none says any.', 'minutes', true],
                ['remainingWork', FieldType::Whole, 'Work left: the sum of its assignments; none where none says any.', 'minutes', true],
                ['cost', FieldType::Whole, 'Cost: the sum of its assignments; none where none says any.', 'minor units', true],
                ['baselineStart', FieldType::Moment, 'Start in the current baseline of the project.', null, true],
                ['baselineFinish', FieldType::Moment, 'Finish in the current baseline of the project.', null, true],
            ]),
            EntityKind::Link => self::named([
                ['handover', FieldType::Flag, 'The ends lie in two projects.'],
                ['driving', FieldType::Flag, 'It sets the date of its successor.'],
                ['linkFloat', FieldType::Whole, 'Working time by which the predecessor may slip before this link moves its successor.',
                    'minutes', true],
                ['forecast', FieldType::Moment, 'What a handover asks of its taker now.', null, true],
                ['handoverMargin', FieldType::Whole, 'Working time of the taker from forecast to agreed date, negative when late.',
                    'minutes', true],
                ['state', FieldType::Text, 'How a handover stands: open, at-risk, late or met; none inside a project.', null, true],
            ]),
            default => [],
        };
    }

    /**
     * @param  list<array{0: string, 1: FieldType, 2: string, 3?: string|null, 4?: bool}>  $list
     * @return array<string, Field>
     */
    private static function named(array $list): array
    {
        $named = [];
        foreach ($list as $f) {
            $named[$f[0]] = new Field($f[1], $f[2], unit: $f[3] ?? null, name: $f[0], nullable: $f[4] ?? false, computed: true);
        }

        return $named;
    }
}
