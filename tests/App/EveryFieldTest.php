<?php

declare(strict_types=1);

namespace Tests\App;

use App\Planning\News;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use PHPUnit\Framework\Attributes\DataProvider;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Fields;
use Reihe\Core\Plan\FieldType;
use Reihe\Core\Plan\Owner;
use Reihe\Core\Plan\Plan;
use Reihe\Formats\Format;

/**
 * What holds for every field of every kind that somebody may write: it is stored and read back, the same change twice is one,
 * whoever saw another value is told both, and undo and redo lead to exactly the plans before and after, whoever undoes.
 */
final class EveryFieldTest extends TestCase
{
    use EveryObject;

    /** what is not edited here: it comes with files from outside, see OutsideProjectsTest */
    private const FROM_OUTSIDE = ['project.kept', 'activity.outsideStart', 'activity.outsideFinish', 'activity.source', 'activity.asOf'];

    /** belongs to fragments, see CopyingTest */
    private const OF_FRAGMENTS = ['project.home'];

    /** @return iterable<string, array{string}> */
    public static function kinds(): iterable
    {
        foreach (array_keys(self::VALUES) as $kind) {
            yield $kind => [$kind];
        }
    }

    /** @return iterable<string, array{string, mixed, array<string, mixed>}> field => uid, value, what must change with it */
    private static function fieldsOf(string $kind): iterable
    {
        foreach (self::VALUES[$kind] as $uid => $values) {
            foreach ($values as $field => $given) {
                $pair = is_array($given) && array_keys($given) === [0, 1] && is_array($given[1]) && ! array_is_list($given[1])
                    && (! is_array($given[0]) || array_is_list($given[0]));
                yield $field => $pair ? [$uid, $given[0], $given[1]] : [$uid, $given, []];
            }
        }
    }

    public function test_every_field_that_may_be_written_has_its_row(): void
    {
        $all = $rows = [];
        foreach (EntityKind::cases() as $kind) {
            foreach ($kind->fields() as $name => $field) {
                $field->stamp !== null ?: $all[] = "{$kind->value}.{$name}";
            }
            foreach (self::fieldsOf($kind->value) as $name => $row) {
                $rows[] = "{$kind->value}.{$name}";
            }
        }
        self::assertEqualsCanonicalizing($all, [...$rows, ...self::FROM_OUTSIDE, ...self::OF_FRAGMENTS]);
    }

    #[DataProvider('kinds')]
    public function test_it_is_kept_compared_and_taken_back(string $kind): void
    {
        $this->objects();
        foreach (self::fieldsOf($kind) as $field => [$uid, $value, $more]) {
            $this->keptComparedAndTakenBack($kind, $uid, $field, $value, $more);
        }
        $this->assertResultsAreTrue();
    }

    /** @param  array<string, mixed>  $more */
    private function keptComparedAndTakenBack(string $kind, string $uid, string $field, mixed $value, array $more): void
    {
        $this->actingAs($this->person('ilse'));
        $first = "first-{$field}";
        $before = $this->plan();
        $was = $this->value($before, $kind, $uid, $field);
        $operation = self::update($kind, $uid, [$field => $value] + $more) + ['before' => [$field => $was]];

        $answer = $this->change([$operation], ['changeSet' => $first]);
        self::assertSame(200, $answer->status(), "{$kind}.{$field}: {$answer->getContent()}");
        self::assertSame($first, $answer->json('changeSet'));
        $after = $this->plan();
        self::assertEquals($this->normal($kind, $field, $value), $this->value($after, $kind, $uid, $field));
        self::assertNotEquals($was, $this->value($after, $kind, $uid, $field));
        $this->assertSamePlan($before, $this->without($after, $before, $kind, $uid, [$field, ...array_keys($more)]));
        $this->assertNewsOf($kind, $uid, $field, $first);

        // an answer that never came: sent again it is the same change set; from somebody else it is nothing new
        $revisions = $this->revisions();
        $this->change([$operation], ['changeSet' => $first])->assertOk()->assertJsonPath('changeSet', $first)
            ->assertJsonPath('applied', $answer->json('applied'));
        $this->actingAs($this->somebody('administrator'));
        $this->change([$operation])->assertOk()->assertJsonPath('changeSet', null);
        self::assertSame($revisions, $this->revisions());

        // somebody who still sees the old value and wants a third one is told both
        $third = $this->third($kind, $field, $value);
        if ($third !== null) {
            $conflict = $this->change([['after' => [$field => $third]] + $operation])->assertStatus(409)->json('conflicts.0');
            self::assertEquals([$field, $was, $third, $this->value($after, $kind, $uid, $field)],
                [$conflict['field'], $conflict['seen'], $conflict['yours'], $conflict['theirs']]);
        }

        $undo = $this->postJson("/api/v1/changes/{$first}/undo")->assertOk()->json('changeSet');
        $this->assertSamePlan($before, $this->plan());
        $again = $this->postJson("/api/v1/changes/{$undo}/undo")->assertOk()->json('changeSet');
        $this->assertSamePlan($after, $this->plan());
        $this->postJson("/api/v1/changes/{$first}/undo")->assertStatus(409);
        $this->postJson("/api/v1/changes/{$again}/undo")->assertOk();
        $this->assertSamePlan($before, $this->plan());
    }

    /** An undo keeps what somebody else has written since, and says so where it would have to take it. */
    #[DataProvider('kinds')]
    public function test_undo_does_not_take_what_somebody_else_wrote(string $kind): void
    {
        $this->objects();
        $compared = [];
        $other = $this->somebody('administrator');
        foreach (self::fieldsOf($kind) as $field => [$uid, $value, $more]) {
            $type = $this->type($kind, $field)->value;
            $third = $more === [] && ! isset($compared[$type]) ? $this->third($kind, $field, $value) : null;
            if ($third === null) {
                continue; // one of a type is enough: they are compared by it
            }
            $compared[$type] = $field;
            $this->actingAs($this->person('ilse'));
            $made = $this->change([self::update($kind, $uid, [$field => $value])])->assertOk()->json('changeSet');
            $this->actingAs($other);
            $this->change([self::update($kind, $uid, [$field => $third])])->assertOk();
            $theirs = $this->plan();
            $this->actingAs($this->person('ilse'));
            $conflict = $this->postJson("/api/v1/changes/{$made}/undo")->assertStatus(409)->json('conflicts.0');
            self::assertEquals([$field, $this->value($theirs, $kind, $uid, $field)], [$conflict['field'], $conflict['theirs']]);
            $this->assertSamePlan($theirs, $this->plan());
        }
        self::assertSame($kind === 'coding', $compared === [], 'a coding has nothing but references');
    }

    public function test_what_comes_from_outside_is_not_typed(): void
    {
        $this->objects();
        $before = $this->plan();
        $said = [];
        foreach ([['project.kept' => 'outside'], ['activity.source' => 'x'], ['activity.asOf' => '2027-01-04T08:00'],
            ['activity.outsideStart' => '2027-01-04T08:00', 'activity.outsideFinish' => '2027-01-05T08:00']] as $fields) {
            $kind = strtok((string) array_key_first($fields), '.');
            $after = array_combine(array_map(static fn (string $f): string => explode('.', $f)[1], array_keys($fields)), $fields);
            $answer = $this->change([self::update($kind, $kind === 'project' ? 'prj-GRID' : self::TASK, $after)])->assertStatus(422);
            self::assertStringContainsString('outside', (string) $answer->json('detail'));
            self::assertContains($answer->json('field') ?? basename($answer->json('errors.0.pointer')), array_keys($after));
            array_push($said, ...array_keys($fields));
        }
        self::assertEqualsCanonicalizing(self::FROM_OUTSIDE, $said);
        $this->assertSamePlan($before, $this->plan());
    }

    /** Numbers come back to the last digit, so that an undo finds what it left. */
    public function test_numbers_are_kept_exactly(): void
    {
        $this->objects();
        $tried = 0;
        foreach (EntityKind::cases() as $kind) {
            foreach ($kind->fields() as $name => $field) {
                $given = iterator_to_array(self::fieldsOf($kind->value))[$name] ?? null;
                if ($field->type !== FieldType::Number || $given === null || $given[2] !== []) {
                    continue;
                }
                $before = $this->plan();
                $number = $given[1] + 1 / 3 + 1e-12;
                $made = $this->change([self::update($kind->value, $given[0], [$name => $number])])->assertOk()->json('changeSet');
                self::assertSame($number, $this->value($this->plan(), $kind->value, $given[0], $name), "{$kind->value} {$name}");
                $undo = $this->postJson("/api/v1/changes/{$made}/undo")->assertOk()->json('changeSet');
                $this->postJson("/api/v1/changes/{$undo}/undo")->assertOk();
                self::assertSame($number, $this->value($this->plan(), $kind->value, $given[0], $name), "{$kind->value} {$name}");
                $this->change([self::update($kind->value, $given[0], [$name => $this->value($before, $kind->value, $given[0], $name)])]);
                $tried++;
            }
        }
        self::assertGreaterThan(5, $tried);
    }

    /** What a subset refers to goes along: objects of every kind, one project or two, each format. */
    public function test_any_subset_of_the_projects_goes_out_and_is_read_again(): void
    {
        $this->objects();
        $this->change([self::update('project', 'prj-GRID', ['levelScheme' => 'scheme-free']),
            self::made('levelCode', 'lc-below', ['scheme' => 'scheme-free', 'parent' => 'lc-top', 'level' => 2, 'code' => 'B',
                'name' => 'B']),
            self::made('ownField', 'own-text', ['scope' => 'project', 'name' => 'Text']),
            self::made('ownValue', 'own-of-project', ['project' => 'prj-GRID', 'field' => 'own-text', 'value' => 'x'])])->assertOk();
        foreach (['GRID', 'CREW', 'GRID,CREW', 'TERN'] as $projects) {
            foreach (Format::plans() as $format) {
                $file = $this->get("/api/v1/exchange/export?projects={$projects}&format={$format->value}");
                self::assertSame(200, $file->status(), "{$projects} {$format->value} {$file->getContent()}");
                $preview = $this->post('/api/v1/exchange/import', ['branch' => 'branch-archive',
                    'file' => UploadedFile::fake()->createWithContent("f.{$format->suffix()}", (string) $file->getContent())],
                    ['Accept' => 'application/json']);
                self::assertSame($format->isRead() ? 201 : 422, $preview->status(),
                    "{$projects} {$format->value} {$preview->getContent()}");
                $format->isRead() ?: self::assertStringContainsString('a graph is not read', (string) $preview->json('detail'));
            }
        }
    }

    private function type(string $kind, string $field): FieldType
    {
        return EntityKind::from($kind)->fields()[$field]->type;
    }

    private function value(Plan $plan, string $kind, string $uid, string $field): mixed
    {
        return $plan->find(EntityKind::from($kind), $uid)?->fields()[$field] ?? null;
    }

    /** As the written form gives it back. */
    private function normal(string $kind, string $field, mixed $value): mixed
    {
        $described = EntityKind::from($kind)->fields()[$field];

        return $described->type->written($described->read(new Fields([$field => $value])));
    }

    /** A value unlike the one given and the one before; null where none is made up that is sure to be allowed. */
    private function third(string $kind, string $field, mixed $value): mixed
    {
        return match ($this->type($kind, $field)) {
            FieldType::Text, FieldType::Title, FieldType::Code => $field === 'key' ? 'THIRD-3' : 'Third',
            FieldType::Number => $value + 1.25,
            FieldType::Whole => $field === 'colour' ? 7 : $value + 5,
            default => null,
        };
    }

    /**
     * @param  list<string>  $fields
     */
    private function without(Plan $after, Plan $before, string $kind, string $uid, array $fields): Plan
    {
        $objects = [];
        foreach (EntityKind::cases() as $of) {
            $objects[$of->value] = $after->all($of);
        }
        $put = array_intersect_key($before->find(EntityKind::from($kind), $uid)?->fields() ?? [], array_flip($fields));
        $objects[$kind][$uid] = EntityKind::from($kind)->read($uid, $put + $objects[$kind][$uid]->fields());

        return Plan::from($objects, $after->stubs);
    }

    private function assertNewsOf(string $kind, string $uid, string $field, string $changeSet): void
    {
        $found = DB::table('plan_changes')->join('change_sets', 'change_sets.id', '=', 'plan_changes.change_set_id')
            ->where(['change_sets.uid' => $changeSet, 'kind' => $kind, 'plan_changes.uid' => $uid, 'field' => $field])
            ->pluck('project_uid')->all();
        self::assertNotSame([], $found);
        $enterprise = EntityKind::from($kind)->entry()->owner === Owner::Enterprise;
        self::assertSame($enterprise, $found === [News::ENTERPRISE]);
    }

    /** @return array<string, int> */
    private function revisions(): array
    {
        return DB::table('projects')->orderBy('uid')->pluck('revision', 'uid')->all()
            + ['' => DB::table('enterprise')->value('revision')];
    }
}
