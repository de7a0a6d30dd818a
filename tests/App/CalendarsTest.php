<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\EntityKind;

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
}
