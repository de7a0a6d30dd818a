<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\CoreException;
use Reihe\Core\Plan\Catalogue;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Field;
use Reihe\Core\Plan\FieldType;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Time\Instant;
use Reihe\Formats\FormatError;
use Reihe\Formats\PlanXml\PlanXmlReader;
use Reihe\Formats\PlanXml\PlanXmlWriter;

/** Every case of every enumeration and both ends of every range of the catalogue are valid in plan.xsd and come back as they were. */
final class EveryValueTest extends TestCase
{
    /** what a file does not say, see {@see FilledPlan} */
    private const NOT_CARRIED = ['branch', 'position', 'assignedBy', 'addedBy', 'editedBy', 'demandedOn', 'home', 'madeFrom'];

    /** what the core does not let be, as JSON */
    private const REFUSED = ['levelScheme.activityName.kind' => ['"counter"']];

    /** @return iterable<string, array{EntityKind}> */
    public static function kinds(): iterable
    {
        foreach (EntityKind::cases() as $kind) {
            $kind === EntityKind::Branch ?: yield $kind->value => [$kind];
        }
    }

    #[DataProvider('kinds')]
    public function test_every_value_of_every_field_travels(EntityKind $kind): void
    {
        $tried = [];
        foreach (self::changed($kind) as [$of, $plan, $field, $value]) {
            $said = "{$kind->value}.{$field} = ".json_encode($value);
            try {
                $again = PlanXmlReader::read(PlanXmlWriter::write($plan))->plan;
            } catch (FormatError $e) {
                self::fail("{$said}: {$e->getMessage()}");
            }
            $there = $again->find($kind, $of) ?? self::fail("{$said}: not there");
            self::assertEquals(array_diff_key($plan->find($kind, $of)?->fields() ?? [], array_flip(self::NOT_CARRIED)),
                array_diff_key($there->fields(), array_flip(self::NOT_CARRIED)), $said);
            $tried[$field][json_encode($value)] = true;
        }
        foreach (self::choices($kind->entry()->class) as $field => $cases) {
            $may = array_diff(array_map(json_encode(...), $cases), self::REFUSED["{$kind->value}.{$field}"] ?? []);
            self::assertSame([], array_diff($may, array_keys($tried[$field] ?? [])), "{$kind->value}.{$field} was not tried with");
        }
        self::assertSame($kind === EntityKind::Coding, $tried === []); // codings only refer to others
    }

    /**
     * Plans in which one field of one object has one of its values, as far as the kind lets it have that.
     *
     * @return iterable<array{string, Plan, string, mixed}> uid, plan, field, value
     */
    private static function changed(EntityKind $kind): iterable
    {
        $plans = [FilledPlan::make(2), FilledPlan::make(3)];
        foreach ($kind->fields() as $name => $field) {
            if (in_array($name, self::NOT_CARRIED, true)) {
                continue;
            }
            foreach (self::values($field) as [$part, $value, $of]) {
                foreach (self::carriers($plans, $kind, $name, $value) as [$uid, $plan]) {
                    yield [$uid, $plan, $part === '' ? $name : "{$name}.{$part}", $of];
                    break; // the first that may have it
                }
            }
        }
    }

    /**
     * @param  list<Plan>  $plans
     * @return iterable<array{string, Plan}>
     */
    private static function carriers(array $plans, EntityKind $kind, string $name, mixed $value): iterable
    {
        foreach ($plans as $plan) {
            foreach ($plan->all($kind) as $uid => $object) { // one that has it already, beside what goes with it
                $object->fields()[$name] !== $value ?: yield [(string) $uid, $plan];
            }
        }
        foreach ($plans as $plan) {
            foreach ($plan->all($kind) as $uid => $object) {
                $fields = $object->fields();
                $own = is_array($value) && is_array($fields[$name] ?? null) && ($fields[$name][0] ?? null) !== null
                    ? [array_merge(is_array($fields[$name][0]) ? $fields[$name][0] : [], is_array($value[0] ?? null) ? $value[0] : [])]
                    : $value;
                // a field that goes with another: constraints without a date, milestones without a duration
                foreach ([[], ['constraints' => []], ['duration' => 0, 'remaining' => null, 'constraints' => []],
                    ['duration' => 0, 'remaining' => null, 'actualStart' => null, 'actualFinish' => null, 'suspend' => null,
                        'resume' => null, 'constraints' => [], 'deadline' => null, 'checklist' => [], 'physicalPercent' => null],
                    ['choices' => [], 'formula' => ''], ['choices' => [['name' => 'One']]]] as $beside) {
                    try {
                        $made = $kind->read((string) $uid, [$name => $own] + array_intersect_key($beside, $fields) + $fields);
                    } catch (CoreException) {
                        continue;
                    }
                    $all = [];
                    foreach (EntityKind::cases() as $each) {
                        $all[$each->value] = $plan->all($each);
                    }
                    $all[$kind->value][$uid] = $made;
                    yield [(string) $uid, Plan::from($all, $plan->stubs)];
                }
            }
        }
    }

    /**
     * What a field may hold at the ends of its range, inside lists as lists of one.
     *
     * @return list<array{string, mixed, mixed}> name inside, value of the field, value inside
     */
    private static function values(Field $field): array
    {
        $max = (int) ($field->max ?? 255);
        $plain = match ($field->type) {
            FieldType::Choice => array_map(static fn (\BackedEnum $case): mixed => $case->value, $field->enum()::cases()),
            FieldType::Whole, FieldType::Number => array_filter([$field->min, $field->max], static fn (mixed $n): bool => $n !== null),
            FieldType::Flag => [true, false],
            FieldType::Text, FieldType::Title => array_map(static fn (string $s): string => mb_substr($s, 0, $max),
                ['0', '00', 'é', str_repeat('“ü” ', 30).'x', str_repeat('w', $max)]),
            FieldType::Moment => ['1990-01-01T00:00', '2099-12-31T23:59', Instant::format(Instant::parse('2026-07-01T12:00'))],
            default => [],
        };
        $values = array_map(static fn (mixed $v): array => ['', $v, $v], array_values($plain));
        // uids of objects are what they are
        foreach ($field->type === FieldType::Items ? array_diff_key(Catalogue::fields($field->class()), ['made' => 0])
            : [] as $name => $inner) {
            foreach (self::values($inner) as [$part, $value]) {
                $values[] = [$name, [[$name => $value]], $value];
            }
        }

        return $values;
    }

    /**
     * @param  class-string  $class
     * @return array<string, list<mixed>> field => cases
     */
    private static function choices(string $class): array
    {
        $choices = [];
        foreach (array_diff_key(Catalogue::flat($class), array_flip(self::NOT_CARRIED)) as $name => $field) {
            if ($field->type === FieldType::Choice) {
                $choices[$name] = array_map(static fn (\BackedEnum $case): mixed => $case->value, $field->enum()::cases());
            } elseif ($field->type === FieldType::Items) {
                foreach (self::choices($field->class()) as $inner => $cases) {
                    $choices["{$name}.{$inner}"] = $cases;
                }
            }
        }

        return $choices;
    }
}
