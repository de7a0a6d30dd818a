<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\TestCase;
use Reihe\Core\Plan\Computed;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\FieldType;
use Reihe\Core\Plan\InvalidField;

/** What the catalogues of kinds and fields promise, for every kind and every field. */
final class CatalogueTest extends TestCase
{
    public function test_the_written_form_is_that_of_the_catalogue_and_reading_it_gives_an_equal_object(): void
    {
        $seen = [];
        foreach ([1, 2, 3] as $seed) {
            $plan = RandomPlan::make($seed, 3, 8, typed: true);
            foreach (EntityKind::cases() as $kind) {
                foreach ($plan->all($kind) as $uid => $object) {
                    $fields = $object->fields();
                    self::assertSame(array_keys($kind->fields()), array_keys($fields), $kind->value);
                    self::assertEquals($object, $kind->read((string) $uid, $fields));
                    self::assertEquals($object, $kind->read((string) $uid, $kind->brief($fields)));
                    self::assertEquals($fields, $kind->complete($kind->brief($fields)));
                    self::assertLessThanOrEqual($kind === EntityKind::Activity ? 14 : 17, count($kind->brief($fields)),
                        'what is usual is left out');
                    $seen[$kind->value] = true;
                }
            }
        }
        self::assertSame(['calendar', 'codeSet', 'entry', 'project', 'wbs', 'activity', 'assignment', 'link', 'coding'], array_keys($seen));
    }

    public function test_every_field_says_what_it_means_and_refuses_what_it_is_not(): void
    {
        $plan = RandomPlan::make(4, 3, 8, typed: true);
        $refused = 0;
        foreach (EntityKind::cases() as $kind) {
            $object = array_values($plan->all($kind))[0] ?? self::other($kind);
            foreach ($kind->fields() + Computed::of($kind) as $name => $field) {
                self::assertMatchesRegularExpression('/^\p{Lu}.{3,}\.$/u', $field->meaning, "{$kind->value}.{$name}");
                self::assertSame($name, $field->name);
            }
            foreach ($kind->fields() as $name => $field) {
                $wrong = [new \stdClass, ...match ($field->type) {
                    FieldType::Whole => ['5', 1.5, $field->max === null ? 'x' : $field->max + 1],
                    FieldType::Number => ['5', true, NAN],
                    FieldType::Flag => [1, 'true'],
                    FieldType::Title => ['', '  ', "a\nb", 5, str_repeat('x', 600)],
                    FieldType::Items, FieldType::Week => ['text', [1]],
                    FieldType::Moment => [5, '2026-02-30', 'tomorrow'],
                    FieldType::Choice => ['nothing like it', 0],
                    default => [5, [], "\x01", str_repeat('x', 20_000)],
                }];
                foreach ($wrong as $value) {
                    try {
                        $kind->read('u', [$name => $value] + $object->fields());
                        self::fail("{$kind->value}.{$name} took ".json_encode($value, JSON_PARTIAL_OUTPUT_ON_ERROR));
                    } catch (InvalidField $e) {
                        self::assertSame($name, $e->field, $e->getMessage());
                        $refused++;
                    }
                }
            }
            try {
                $kind->read('u', ['nonsense' => 1] + $object->fields());
                self::fail($kind->value);
            } catch (InvalidField $e) {
                self::assertSame('nonsense', $e->field);
            }
        }
        self::assertGreaterThan(100, $refused);
    }

    public function test_references_and_keys_are_fields(): void
    {
        foreach (EntityKind::cases() as $kind) {
            $entry = $kind->entry();
            foreach ([...$entry->naturalKey, ...array_map(static fn ($r): string => $r->field, $entry->references)] as $field) {
                self::assertArrayHasKey($field, $kind->fields());
            }
            self::assertSame($kind, EntityKind::of(array_values(RandomPlan::make(1, 2, 5, typed: true)->all($kind))[0]
                ?? self::other($kind)));
        }
    }

    /** An object of a kind that random plans have none of, with nothing but what must be said. */
    private static function other(EntityKind $kind): Entity
    {
        $values = $kind === EntityKind::Resource ? ['calendar' => 'c'] : []; // only a material has none
        foreach ($kind->fields() as $name => $field) {
            if ($field->isRequired()) {
                $values[$name] = match ($field->type) {
                    FieldType::Whole, FieldType::Number => 1,
                    FieldType::Choice => $field->choices()[0],
                    FieldType::Moment => '2026-12-01T08:00',
                    default => 'x',
                };
            }
        }

        return $kind->read('o', $values);
    }
}
