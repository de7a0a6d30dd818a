<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;

/** Calendars as the Library shows them: whole, with who uses them within reach, and what one may do. */
final class CalendarsTest extends TestCase
{
    /** @return array<string, array<string, mixed>> by uid */
    private function calendars(): array
    {
        return array_column($this->getJson('/api/v1/calendars')->assertOk()->json('calendars'), null, 'uid');
    }

    public function test_they_are_told_as_they_are(): void
    {
        $this->actingAs($this->person('ilse'));
        $told = $this->calendars();
        $plan = $this->plan();
        self::assertSame(array_map(strval(...), array_keys($plan->calendars)), array_keys($told));
        foreach ($told as $uid => $calendar) {
            foreach (EntityKind::Calendar->fields() as $name => $_) {
                self::assertEquals($plan->calendars[$uid]->fields()[$name], $name === 'week' && $calendar[$name] === [] ? []
                    : $calendar[$name], "{$uid} {$name}");
            }
            $using = [];
            foreach ($plan->projects as $p) {
                $own = array_filter($plan->activities, static fn ($a): bool => $a->project === $p->uid && $a->calendar === $uid);
                ($p->calendar === $uid || $own !== []) && $using[] = $p->key;
            }
            sort($using);
            self::assertSame([$using, false, true], [$calendar['projects'], $calendar['beyond'], $calendar['mayChange']], $uid);
        }
        self::assertTrue($this->getJson('/api/v1/calendars')->json('mayAdd'));
    }

    public function test_what_is_out_of_reach_is_not_named(): void
    {
        $this->actingAs($this->somebody('viewer', 'Quays'));
        $seen = DB::table('projects')->where('branch_id', $this->branchId('Quays'))->pluck('key')->all();
        $beyond = 0;
        foreach ($this->calendars() as $calendar) {
            self::assertSame([], array_diff($calendar['projects'], $seen));
            self::assertFalse($calendar['mayChange']);
            $beyond += (int) $calendar['beyond'];
        }
        self::assertGreaterThan(0, $beyond);
        self::assertFalse($this->getJson('/api/v1/calendars')->json('mayAdd'));
    }

    public function test_one_that_is_used_or_derived_from_stays(): void
    {
        $this->actingAs($this->person('ilse'));
        foreach ($this->calendars() as $uid => $calendar) {
            $derived = array_filter($this->calendars(), static fn (array $c): bool => $c['base'] === $uid);
            $answer = $this->change([self::gone('calendar', (string) $uid)], ['dryRun' => true]);
            self::assertSame($calendar['projects'] === [] && $derived === [] ? 200 : 422, $answer->status(), (string) $uid);
        }
    }

    /** As the editor tells it: fields that differ, against what was seen when typing began. */
    public function test_two_people_change_one_calendar(): void
    {
        $this->actingAs($this->person('ilse'));
        $seen = $this->calendars()['cal-office'];
        $other = $this->somebody('administrator');
        $day = static fn (string $date, string $name): array => ['date' => $date, 'periods' => '', 'name' => $name];
        $tell = fn (array $after): \Illuminate\Testing\TestResponse => $this->change([self::update('calendar', 'cal-office', $after)
            + ['before' => array_intersect_key($seen, $after)]]);
        $tell(['exceptions' => [...$seen['exceptions'], $day('2027-03-26', 'Good Friday')], 'name' => 'Theirs'])->assertOk();
        $this->actingAs($other);
        // other fields and other days stay; the same field is asked
        $tell(['exceptions' => [...$seen['exceptions'], $day('2027-03-29', 'Easter Monday')], 'minutesPerDay' => 450])->assertOk();
        $tell(['name' => 'Mine'])->assertStatus(409)->assertJsonPath('conflicts.0.theirs', 'Theirs');
        $now = $this->calendars()['cal-office'];
        self::assertSame(['Theirs', 450, $seen['week']], [$now['name'], $now['minutesPerDay'], $now['week']]);
        self::assertSame(['2027-03-26', '2027-03-29'], array_values(array_diff(array_column($now['exceptions'], 'date'),
            array_column($seen['exceptions'], 'date'))));
        // the same twice changes nothing more
        $tell(['name' => 'Theirs'])->assertOk()->assertJsonPath('changeSet', null);
        $this->assertResultsAreTrue();
    }

    /** Everything that refers to one refers to the other then, with one step back. */
    public function test_one_takes_the_place_of_another(): void
    {
        $this->actingAs($this->person('ilse'));
        $uses = static function (Plan $plan, string $calendar): array {
            $found = [];
            foreach (EntityKind::cases() as $kind) {
                foreach ($kind->entry()->references as $r) {
                    foreach ($r->to === EntityKind::Calendar ? $plan->all($kind) : [] as $uid => $object) {
                        $object->fields()[$r->field] === $calendar && $found[] = "{$kind->value} {$uid} {$r->field}";
                    }
                }
            }
            sort($found);

            return $found;
        };
        $derived = ['key' => 'D', 'name' => 'D', 'base' => 'cal-dock', 'week' => []];
        $this->change([self::made('calendar', 'cal-derived', $derived)])->assertOk();
        $before = $this->plan();
        $moved = [...$uses($before, 'cal-dock'), ...$uses($before, 'cal-office')];
        sort($moved);
        self::assertGreaterThan(5, count($uses($before, 'cal-dock')));
        $answer = $this->postJson('/api/v1/compose/merge', ['kind' => 'calendar', 'from' => 'cal-dock', 'into' => 'cal-office'])
            ->assertOk();
        self::assertSame($moved, $uses($this->plan(), 'cal-office'));
        self::assertArrayNotHasKey('cal-dock', $this->plan()->calendars);
        $this->postJson('/api/v1/changes/'.$answer->json('changeSet').'/undo')->assertOk();
        self::assertEquals($before, $this->plan());
        // not into what derives from it, nor into itself, nor where others use it unseen
        foreach (['cal-derived', 'cal-dock', 'none'] as $into) {
            $this->postJson('/api/v1/compose/merge', ['kind' => 'calendar', 'from' => 'cal-dock', 'into' => $into])->assertUnprocessable();
        }
        $this->actingAs($this->somebody('administrator', 'Quays'));
        $this->postJson('/api/v1/compose/merge', ['kind' => 'calendar', 'from' => 'cal-dock', 'into' => 'cal-office'])
            ->assertUnprocessable()->assertJsonFragment(['This calendar is also used in projects that you have no access to.']);
    }

    /** It stays where it is used, goes along with copies and files, and is not given to anything any more. */
    public function test_what_is_retired_is_not_given_any_more(): void
    {
        $this->actingAs($this->person('ilse'));
        $retired = $this->plan()->projects['prj-TERN']->calendar;
        $this->change([self::update('calendar', $retired, ['retired' => true])])->assertOk();
        $this->change([self::made('calendar', 'cal-new', ['key' => 'NEW', 'name' => 'New', 'week' => [1 => '08:00-16:00']])])->assertOk();
        foreach ([['project', 'prj-TERN'], ['activity', 'act-grid-ca-0050']] as [$kind, $uid]) {
            $this->change([self::update($kind, $uid, ['calendar' => 'cal-new'])])->assertOk();
            $this->change([self::update($kind, $uid, ['calendar' => $retired])])->assertUnprocessable();
        }
        $this->change([self::update('calendar', 'cal-new', ['base' => $retired])])->assertUnprocessable();
        // undo leads back to it, and copies of what uses it have it
        $step = $this->change([self::update('project', 'prj-OSTV', ['calendar' => 'cal-new'])])->assertOk()->json('changeSet');
        $this->postJson("/api/v1/changes/{$step}/undo")->assertOk();
        $this->change([self::update('calendar', $retired, ['retired' => false])])->assertOk();
        $this->change([self::update('project', 'prj-TERN', ['calendar' => $retired])])->assertOk();
        $this->change([self::update('calendar', $retired, ['retired' => true])])->assertOk();
        $this->postJson('/api/v1/compose/copy', ['branch' => $this->branch('Vessel conversions'),
            'projects' => [['uid' => 'prj-TERN', 'key' => 'AGAIN', 'name' => 'Again']]])->assertOk();
        self::assertContains($retired, array_map(static fn ($p): string => $p->calendar,
            array_filter($this->plan()->projects, static fn ($p): bool => $p->key === 'AGAIN')));
    }
}
