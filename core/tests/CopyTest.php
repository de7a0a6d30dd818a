<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Copying\Copy;
use Reihe\Core\Copying\CopyWish;
use Reihe\Core\Plan\CopyPart;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Plan;

/** A copy has what its parts say and nothing that happened: field by field, as the catalogue says it of each. */
final class CopyTest extends TestCase
{
    /** @return iterable<string, array{list<string>|null}> */
    public static function wishes(): iterable
    {
        yield 'all' => [null];
        foreach (CopyPart::wishes() as $part) {
            yield "without {$part}" => [array_values(array_diff(CopyPart::wishes(), [$part]))];
        }
        yield 'the structure' => [[]];
    }

    /** @param  list<string>|null  $parts */
    #[DataProvider('wishes')]
    public function test_every_field_comes_along_or_does_not_as_it_says(?array $parts): void
    {
        $wish = new CopyWish(['p0' => ['key' => 'P0', 'name' => 'Again']], 'b', 'stem', null, Kept::Here, $parts);
        $compared = $left = 0;
        for ($seed = 1; $seed <= 6; $seed++) {
            $plan = self::plan($seed);
            $copy = Copy::of($plan, $wish);
            $from = array_flip($copy->made);
            foreach ($copy->operations as $o) {
                $original = $plan->find($o->kind, (string) ($from[$o->uid] ?? ''))?->fields();
                if ($original === null || $o->kind === EntityKind::Project) {
                    continue; // an open end of a link
                }
                self::assertTrue($wish->takes($o->kind->entry()->part), $o->kind->value);
                $made = $o->kind->complete($o->after ?? []);
                foreach ($o->kind->fields() as $name => $field) {
                    $value = $original[$name];
                    if ($field->stamp !== null || ($name === 'remainingWork' && $wish->takes($field->part))) {
                        continue; // filled in; what was done is to be done again
                    }
                    if ($name === 'checklist') {
                        self::assertIsArray($value);
                        $value = array_map(static fn (array $item): array => ['done' => false] + $item, $value);
                    }
                    $expected = match (true) {
                        ! $wish->takes($field->part) => $field->empty(),
                        is_string($value) && $field->to !== null && isset($copy->made[$value]) => $copy->made[$value],
                        default => $value,
                    };
                    $left += $expected !== $original[$name] && $field->to === null ? 1 : 0;
                    self::assertEquals($expected, $made[$name], "{$o->kind->value}.{$name}");
                    $compared++;
                }
            }
            $counts = array_count_values(array_map(static fn ($o): string => $o->kind->value, $copy->operations));
            self::assertSame(in_array('activities', $parts ?? ['activities'], true) ? count(array_filter($plan->activities,
                static fn ($a): bool => $a->project === 'p0')) : 0, $counts['activity'] ?? 0);
        }
        self::assertGreaterThan(in_array('activities', $parts ?? ['activities'], true) ? 1000 : 10, $compared);
        self::assertSame(in_array('activities', $parts ?? ['activities'], true), $left > 10);
    }

    public function test_work_is_to_be_done_again_and_retired_codes_stay_behind(): void
    {
        $plan = self::plan(3);
        $copy = Copy::of($plan, new CopyWish(['p0' => ['key' => 'P0', 'name' => 'Again']], 'b', 'stem'));
        $works = $codes = 0;
        foreach ($copy->operations as $o) {
            $original = $plan->find($o->kind, (string) (array_flip($copy->made)[$o->uid] ?? ''))?->fields() ?? [];
            if ($o->kind === EntityKind::Assignment && ($original['actualWork'] ?? 0) > 0) {
                self::assertSame($original['actualWork'] + ($original['remainingWork'] ?? 0), $o->after['remainingWork'] ?? null);
                $works++;
            } elseif ($o->kind === EntityKind::Coding) {
                self::assertFalse($plan->entries[$original['entry']]->retired);
                $codes++;
            }
        }
        self::assertGreaterThan(0, min($works, $codes));
        $all = array_filter($plan->codings, static fn ($c): bool => $c->project === 'p0');
        $retired = array_filter($all, static fn ($c): bool => $plan->entries[$c->entry]->retired);
        self::assertNotSame([], $retired);
        self::assertCount(count($all) - count($retired), array_filter($copy->operations, static fn ($o): bool => $o->kind
            === EntityKind::Coding));
    }

    /** Random, with suspended work, a checklist, remarks, and every other entry retired. */
    private static function plan(int $seed): Plan
    {
        $plan = RandomPlan::make($seed, 2, 10, typed: true);
        $objects = [];
        foreach (EntityKind::cases() as $kind) {
            $objects[$kind->value] = $plan->all($kind);
        }
        foreach (array_keys($plan->entries) as $n => $uid) {
            $objects['entry'][$uid] = EntityKind::Entry->read((string) $uid, ['retired' => $n % 2 === 0] + $plan->entries[$uid]->fields());
        }
        foreach ($plan->activities as $uid => $a) {
            if ($a->isStarted() && ! $a->isFinished()) {
                $objects['activity'][$uid] = EntityKind::Activity->read($uid, ['suspend' => $a->fields()['actualStart'],
                    'resume' => '2027-01-04T08:00', 'physicalPercent' => null,
                    'checklist' => [['name' => 'One', 'weight' => 1.0, 'done' => true]]] + $a->fields());
            }
            $objects['remark']["r{$uid}"] = EntityKind::Remark->read("r{$uid}", ['project' => $a->project, 'activity' => $uid,
                'text' => "about {$a->code}",
                'author' => 'Noor', 'todo' => true]);
        }

        return Plan::from($objects, $plan->stubs);
    }
}
