<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\TestCase;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\Operation;
use Reihe\Core\Copying\Duplicate;
use Reihe\Core\Copying\Extract;
use Reihe\Core\Copying\FragmentDocument;
use Reihe\Core\Copying\FragmentUpdate;
use Reihe\Core\Copying\Insert;
use Reihe\Core\Copying\InsertWish;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\Coding;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\OpenEnd;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\Remark;
use Reihe\Core\Plan\WbsElement;

/**
 * Fragments put into a project and brought up to date there, and rows once more: what stands where, how it is called, what it is tied
 * to. The fragment `f` has an element with one activity, one beside it, a link between them and an open end before the first.
 */
final class FragmentTest extends TestCase
{
    private const WORK = ['project' => 'f', 'duration' => 480];

    /**
     * @param  list<\Reihe\Core\Plan\Entity>  $more
     */
    private static function fragment(array $more = [], array $first = [], array $second = []): Plan
    {
        return Plan::of([Calendar::weekly('c', 'C', '08:00-16:00'),
            Project::read('f', ['key' => 'FR', 'name' => 'Crane', 'kept' => 'fragment', 'calendar' => 'c', 'start' => Made::MONDAY]),
            WbsElement::read('fw', ['project' => 'f', 'code' => 'A', 'name' => 'Mount', 'position' => 1.0]),
            Activity::read('f1', $first + self::WORK + ['code' => 'FR-10', 'name' => 'Lift', 'wbs' => 'fw', 'position' => 1.0]),
            Activity::read('f2', $second + self::WORK + ['code' => '20', 'name' => 'Test', 'position' => 2.0]),
            \Reihe\Core\Plan\Link::read('fl', ['from' => 'f1', 'to' => 'f2', 'lag' => 60]),
            OpenEnd::read('fo', ['activity' => 'f1', 'side' => 'predecessor', 'type' => 'SS', 'lag' => 120, 'label' => 'X/1']), ...$more]);
    }

    /** @param  list<\Reihe\Core\Plan\Entity>  $more */
    private static function target(array $more = []): Plan
    {
        $at = ['project' => 'p', 'duration' => 480];

        return Plan::of([Calendar::weekly('c', 'C', '08:00-16:00'),
            Project::read('p', ['key' => 'P', 'name' => 'P', 'calendar' => 'c', 'start' => Made::MONDAY]),
            Project::read('q', ['key' => 'Q', 'name' => 'Q', 'calendar' => 'c', 'start' => Made::MONDAY]),
            WbsElement::read('w', ['project' => 'p', 'code' => 'W', 'name' => 'W', 'position' => 5.0]),
            WbsElement::read('v', ['project' => 'q', 'code' => 'V', 'name' => 'V', 'position' => 50.0]),
            Activity::read('a', $at + ['code' => 'P-1', 'name' => 'A', 'wbs' => 'w', 'position' => 3.0]),
            Activity::read('b', $at + ['code' => 'N1-10', 'name' => 'B', 'position' => 7.0]),
            Activity::read('z', ['project' => 'q', 'code' => 'N2-10', 'name' => 'Z', 'duration' => 1, 'position' => 90.0]), ...$more]);
    }

    private static function put(Plan $plan, ?string $wbs = 'w', string $prefix = 'N{n}-', int $times = 1, array $ties = []): Plan
    {
        $put = Insert::of($plan, self::fragment(), 'f', new InsertWish('p', $wbs, $prefix, 'stem', 3, $times, $ties));

        return ChangeSet::apply($plan, $put->operations)->plan;
    }

    /** @return list<string> code, element and position of what is in the project, in order */
    private static function rows(Plan $plan, string $project = 'p'): array
    {
        $rows = [];
        foreach ([...$plan->wbs, ...$plan->activities] as $o) {
            if ($o->project === $project) {
                $above = $o instanceof WbsElement ? $o->parent : $o->wbs;
                $rows[] = "{$o->code} in ".($above === null ? '-' : $plan->wbs[$above]->code).' at '.round($o->position, 3);
            }
        }
        sort($rows);

        return $rows;
    }

    public function test_it_goes_below_the_last_row_and_its_codes_are_free(): void
    {
        self::assertSame(['A in W at 4', 'A in W at 6', 'N1-10 in - at 7', 'N1-10-2 in A at 1', 'N1-20 in W at 5', 'N2-10 in A at 1',
            'N2-20 in W at 7', 'P-1 in W at 3', 'W in - at 5'], self::rows(self::put(self::target(), times: 2)));
        // at the top it comes after elements and activities alike
        $rows = self::rows(self::put(self::target(), null, 'X.'));
        self::assertSame(['A in - at 8', 'X.10 in A at 1', 'X.20 in - at 9'], array_values(array_diff($rows, self::rows(self::target()))));
        // without a prefix the rest of a code stays, and a code that is nothing but the key
        $bare = Insert::of(self::target(), self::fragment(first: ['code' => 'FR']), 'f', new InsertWish('p', 'w', '', 's', 1));
        self::assertSame(['FR', '20'], array_column(array_column(array_filter($bare->operations,
            static fn (Operation $o): bool => $o->kind === EntityKind::Activity), 'after'), 'code'));
    }

    /** What stands on rows and links comes along, with what answers it; what is said of the fragment itself says nothing of the project. */
    public function test_remarks_and_codes_come_along_with_what_they_are_about(): void
    {
        $about = ['own' => [], 'wbs' => ['wbs' => 'fw'], 'activity' => ['activity' => 'f1'], 'link' => ['link' => 'fl']];
        $more = [CodeSet::read('s', ['scope' => 'project', 'key' => 'S', 'name' => 'S']),
            CodeEntry::read('e', ['codeSet' => 's', 'key' => 'E', 'name' => 'E']),
            Coding::read('k', ['project' => 'f', 'entry' => 'e'])];
        foreach ($about as $name => $on) {
            $more[] = Remark::read("r-{$name}", ['project' => 'f', 'text' => $name] + $on);
            $more[] = Remark::read("a-{$name}", ['project' => 'f', 'text' => "to {$name}", 'answers' => "r-{$name}"] + $on);
        }
        $shared = array_slice($more, 0, 2);
        $put = Insert::of(self::target($shared), self::fragment($more), 'f', new InsertWish('p', 'w', 'N-', 'stem', 3));
        $plan = ChangeSet::apply(self::target($shared), $put->operations)->plan;
        $said = array_map(static fn (Remark $r): string => $r->text.' '.$plan->callName(EntityKind::Remark, $r->uid)
            .($r->answers === null ? '' : ' answers '.$plan->remarks[$r->answers]->text), array_values($plan->remarks));
        sort($said);
        self::assertSame(['activity on P/N-10', 'link on P/N-10 FS P/N-20', 'to activity on P/N-10 answers activity',
            'to link on P/N-10 FS P/N-20 answers link', 'to wbs on P A Mount answers wbs', 'wbs on P A Mount'], $said);
        self::assertSame([], $plan->codings);
        $pairs = array_column(array_values($plan->insertions)[0]->pairs, 'made', 'of');
        self::assertSame([], array_intersect(['f', 'k', 'r-own', 'a-own'], array_keys($pairs)));
        self::assertContains($pairs['r-link'], array_keys($plan->remarks));
        // a newer version with one more of each brings those of its rows alone
        $newer = self::fragment([...$more, Remark::read('late', ['project' => 'f', 'activity' => 'f2', 'text' => 'late']),
            Remark::read('late-own', ['project' => 'f', 'text' => 'late own'])]);
        $update = FragmentUpdate::of($plan, array_values($plan->insertions)[0], self::fragment($more), $newer, 4);
        $late = ChangeSet::apply($plan, $update->operations)->plan;
        self::assertSame(['late'], array_values(array_diff(array_column($late->remarks, 'text'), array_column($plan->remarks, 'text'))));
        // rows by themselves have the same
        $part = Extract::of(self::fragment($more), 'f', ['fw'], ['f2']);
        self::assertSame(['r-wbs', 'a-wbs', 'r-activity', 'a-activity', 'r-link', 'a-link'], array_map(strval(...),
            array_keys($part->remarks)));
    }

    public function test_each_time_is_recorded_with_what_became_of_what(): void
    {
        $after = self::put(self::target(), times: 2);
        self::assertCount(2, $after->insertions);
        $uids = [];
        foreach (array_values($after->insertions) as $n => $insertion) {
            self::assertSame(['p', 'f', 'Crane', 3, 'N'.($n + 1).'-'], [$insertion->project, $insertion->fragment, $insertion->name,
                $insertion->version, $insertion->prefix]);
            $made = array_column(array_map(static fn ($p): array => [$p->of, $p->made], $insertion->pairs), 1, 0);
            ksort($made);
            self::assertSame(['f1', 'f2', 'fl', 'fo', 'fw'], array_keys($made));
            self::assertSame([$made['f1'], $made['f2'], 60], [$after->links[$made['fl']]->from, $after->links[$made['fl']]->to,
                $after->links[$made['fl']]->lag]);
            self::assertSame($made['f1'], $after->openEnds[$made['fo']]->activity);
            self::assertSame('Lift', $after->activities[$made['f1']]->name);
            $uids = [...$uids, ...array_values($made)];
        }
        self::assertCount(10, array_unique($uids));
    }

    public function test_open_ends_and_activities_are_tied_to_what_is_named(): void
    {
        $links = static fn (array $ties): array => array_map(static fn ($l): array => [$l->from, $l->to, $l->type->value, $l->lag],
            array_values(array_filter(self::put(self::target(), ties: $ties)->links, static fn ($l): bool => $l->lag !== 60)));
        $made = array_column(array_map(static fn ($p): array => [$p->of, $p->made],
            array_values(self::put(self::target())->insertions)[0]->pairs), 1, 0);
        self::assertSame([], $links([]));
        self::assertSame([['a', $made['f1'], 'SS', 120]], $links(['fo' => 'a']));
        self::assertCount(0, self::put(self::target(), ties: ['fo' => 'a'])->openEnds);
        self::assertSame([[$made['f2'], 'z', 'FS', 0]], $links(['f2 successor' => 'z']));
        self::assertSame([['b', $made['f2'], 'FS', 0]], $links(['f2 predecessor' => 'b']));
        self::assertSame([], $links(['unknown successor' => 'z', 'f2' => 'z']));
        // also an open end on the other side
        $open = self::fragment([OpenEnd::read('fs', ['activity' => 'f2', 'side' => 'successor', 'type' => 'FF', 'lag' => -30])]);
        $put = Insert::of(self::target(), $open, 'f', new InsertWish('p', 'w', 'N', 's', 1, 1, ['fs' => 'b']));
        $tied = array_values(array_filter(ChangeSet::apply(self::target(), $put->operations)->plan->links,
            static fn ($l): bool => $l->type->value === 'FF'));
        self::assertSame(['b', -30], [$tied[0]->to, $tied[0]->lag]);
    }

    public function test_it_goes_nowhere_else(): void
    {
        foreach ([['v', []], ['nothing', []], [null, ['fo' => 'nobody']]] as [$wbs, $ties]) {
            try {
                self::put(self::target(), $wbs, 'N', 1, $ties);
                self::fail("{$wbs} was taken");
            } catch (InvalidField $e) {
                self::assertSame($ties === [] ? 'wbs' : 'ties', $e->field);
            }
        }
    }

    /**
     * The project as it was or changed, the fragment as it was or changed: what the project has in the end, and what is asked.
     *
     * @return array{Plan, FragmentUpdate, array<string, string>}
     */
    private static function updated(Plan $newer, array $mine = [], array $gone = [], array $more = [], int $version = 4): array
    {
        $put = self::put(self::target());
        $insertion = array_values($put->insertions)[0];
        $made = array_column(array_map(static fn ($p): array => [$p->of, $p->made], $insertion->pairs), 1, 0);
        $operations = [...array_map(static fn (string $of): Operation => Operation::delete(match (true) {
            $of === 'fl' => EntityKind::Link,
            $of === 'fo' => EntityKind::OpenEnd,
            default => EntityKind::Activity,
        }, $made[$of]), $gone), ...array_map(static fn (string $of, array $after): Operation => Operation::update($of === 'fw'
            ? EntityKind::Wbs
            : EntityKind::Activity, $made[$of], $after), array_keys($mine), $mine)];
        foreach ($more as $uid => $under) {
            $operations[] = Operation::create(EntityKind::Activity, $uid, ['project' => 'p', 'code' => $uid, 'name' => $uid,
                'duration' => 60,
                'wbs' => $made[$under]]);
        }
        $now = $operations === [] ? $put : ChangeSet::apply($put, $operations)->plan;
        $update = FragmentUpdate::of($now, $now->insertions[$insertion->uid] ?? $insertion, self::fragment(), $newer, $version);

        return [$update->operations === [] ? $now : ChangeSet::apply($now, $update->operations)->plan, $update, $made];
    }

    public function test_a_newer_version_changes_what_the_project_left_as_it_was(): void
    {
        $theirs = ['name' => 'Lift and turn', 'duration' => 960];
        foreach ([[[], ['Lift and turn', 960], []], [['name' => 'Mine'], ['Mine', 960], [['name', 'Mine', 'Lift and turn']]],
            [['name' => 'Lift and turn'], ['Lift and turn', 960], []], [['estimate' => true], ['Lift and turn', 960], []],
            [['name' => 'Mine', 'duration' => 5], ['Mine', 5], [['name', 'Mine', 'Lift and turn'], ['duration', 5, 960]]]] as [$mine, $then,
                $asked]) {
            [$plan, $update, $made] = self::updated(self::fragment(first: $theirs), ['f1' => $mine]);
            self::assertSame($then, [$plan->activities[$made['f1']]->name, $plan->activities[$made['f1']]->duration]);
            $conflicts = array_map(static fn (array $c): array => [$c['field'], $c['yours'], $c['theirs']], $update->conflicts);
            self::assertEqualsCanonicalizing($asked, $conflicts);
            self::assertSame($mine['estimate'] ?? false, $plan->activities[$made['f1']]->estimate);
            self::assertSame(4, array_values($plan->insertions)[0]->version);
            // where it stands and how it is called is the project's
            self::assertSame(['N1-10-2', 'p'], [$plan->activities[$made['f1']]->code, $plan->activities[$made['f1']]->project]);
        }
        [$plan, $update, $made] = self::updated(self::fragment(first: $theirs), gone: ['f1']);
        self::assertSame([false, []], [isset($plan->activities[$made['f1']]), $update->conflicts]);
        self::assertSame([], self::updated(self::fragment(), version: 3)[1]->operations);
        self::assertCount(1, self::updated(self::fragment(), version: 4)[1]->operations);
        // what belongs to the place is not told
        self::assertCount(1, self::updated(self::fragment(first: ['code' => 'FR-99', 'position' => 9.0],
            second: ['wbs' => 'fw']))[1]->operations);
    }

    public function test_what_is_new_comes_along_with_what_it_hangs_on(): void
    {
        $more = [Activity::read('f3', self::WORK + ['code' => 'FR-30', 'name' => 'Paint', 'wbs' => 'fw', 'position' => 2.0]),
            \Reihe\Core\Plan\Link::read('fn', ['from' => 'f1', 'to' => 'f3']), \Reihe\Core\Plan\Link::read('fm',
                ['from' => 'f2', 'to' => 'f3'])];
        [$plan, $update, $made] = self::updated(self::fragment($more));
        $new = array_values(array_filter($plan->activities, static fn (Activity $a): bool => $a->name === 'Paint'));
        self::assertSame([[$made['fw'], 'p']], array_map(static fn (Activity $a): array => [$a->wbs, $a->project], $new));
        self::assertCount(2, array_filter($plan->links, static fn ($l): bool => $l->to === $new[0]->uid));
        self::assertCount(8, array_values($plan->insertions)[0]->pairs);
        self::assertSame([], $update->conflicts);
        // a second look finds nothing to do
        self::assertSame([], FragmentUpdate::of($plan, array_values($plan->insertions)[0], self::fragment($more), self::fragment($more),
            4)->operations);
        // a link to what the project took away does not come
        [$plan] = self::updated(self::fragment($more), gone: ['f1']);
        self::assertSame(1, count(array_filter($plan->links, static fn ($l): bool => ($plan->activities[$l->to]->name ?? '') === 'Paint')));
    }

    public function test_what_is_gone_goes_unless_the_project_changed_it(): void
    {
        $all = self::fragment();
        $without = Plan::of([...$all->calendars, ...$all->projects, $all->activities['f2']]);
        [$plan, $update, $made] = self::updated($without);
        self::assertSame([false, false, false, true], [isset($plan->activities[$made['f1']]), isset($plan->wbs[$made['fw']]),
            isset($plan->links[$made['fl']]), isset($plan->activities[$made['f2']])]);
        self::assertSame([], $update->conflicts);
        self::assertSame(['f2'], array_column(array_map(static fn ($p): array => [$p->of], array_values($plan->insertions)[0]->pairs), 0));
        // changed here, or with something of the project below it: it stays, and that is said
        [$plan, $update, $made] = self::updated($without, ['f1' => ['name' => 'Mine']]);
        self::assertSame([true, true], [isset($plan->activities[$made['f1']]), isset($plan->wbs[$made['fw']])]);
        self::assertCount(2, $update->conflicts);
        self::assertSame([null, null], array_column($update->conflicts, 'field'));
        [$plan, $update, $made] = self::updated($without, more: ['own' => 'fw']);
        self::assertSame([false, true], [isset($plan->activities[$made['f1']]), isset($plan->wbs[$made['fw']])]);
        self::assertCount(1, $update->conflicts);
        // moved elsewhere in the project is not changed
        [$plan, , $made] = self::updated($without, ['f1' => ['wbs' => 'w', 'position' => 1.0, 'code' => 'OWN']]);
        self::assertFalse(isset($plan->activities[$made['f1']]));
        // taken away already
        [, $update] = self::updated($without, gone: ['f1']);
        self::assertSame([], $update->conflicts);
    }

    public function test_a_version_is_what_it_was_beside_what_the_enterprise_has_now(): void
    {
        $document = FragmentDocument::of(self::fragment(), 'f');
        self::assertCount(5, $document['objects']);
        self::assertEquals(self::fragment(), FragmentDocument::plan($document, 'f', Plan::of([Calendar::weekly('c', 'C', '08:00-16:00')])));
        // its calendar is gone: another one measures it; an activity without its own calendar has that of the project
        $other = Plan::of([Calendar::weekly('d', 'D', '08:00-12:00')]);
        $with = FragmentDocument::of(self::fragment(first: ['calendar' => 'c']), 'f');
        $plan = FragmentDocument::plan($with, 'f', $other);
        self::assertSame(['d', null], [$plan->projects['f']->calendar, $plan->activities['f1']->calendar]);
        // a link or an open end without its activity is left out
        $document['objects'] = array_values(array_filter($document['objects'], static fn (array $o): bool => $o[1] !== 'f1'));
        $plan = FragmentDocument::plan($document, 'f', $other);
        self::assertSame([1, 0, 0], [count($plan->activities), count($plan->links), count($plan->openEnds)]);
        $this->expectException(InvalidField::class);
        FragmentDocument::plan(['objects' => [['activity', 'x', 'no fields']]] + $document, 'f', $other);
    }

    public function test_rows_once_more_stand_after_the_given_one_in_order(): void
    {
        $plan = self::put(self::target());
        $made = array_column(array_map(static fn ($p): array => [$p->of, $p->made], array_values($plan->insertions)[0]->pairs), 1, 0);
        $rows = static function (string $to, ?string $parent, ?string $after) use ($plan, $made): array {
            $d = Duplicate::of($plan, 'p', [$made['fw']], ['a', 'b'], $to, $parent, $after, 'again');
            $now = ChangeSet::apply($plan, $d->operations)->plan;
            $top = array_map(static fn (string $uid): string => $now->wbs[$uid]->name ?? $now->activities[$uid]->name, $d->top);

            return [$top, array_values(array_diff(self::rows($now, $to), self::rows($plan, $to)))];
        };
        // below W: a at 3, A at 4, N1-20 at 5; three come after a, between 3 and 4
        self::assertSame([['A', 'Mount', 'B'], ['A in W at 3.5', 'N1-10-2-2 in A at 1', 'N1-10-3 in W at 3.75', 'P-1-2 in W at 3.25']],
            $rows('p', 'w', 'a'));
        self::assertSame([['A', 'Mount', 'B'], ['A in - at 9', 'N1-10-2-2 in A at 1', 'N1-10-3 in - at 10', 'P-1-2 in - at 8']],
            $rows('p', null, null));
        self::assertSame([['A', 'Mount', 'B'], ['A in W at 7', 'N1-10-2-2 in A at 1', 'N1-10-3 in W at 8', 'P-1-2 in W at 6']],
            $rows('p', 'w', 'unknown'));
        // in another project its key takes the place of the old one; below an element that holds nothing they begin at one
        self::assertSame([['A', 'Mount', 'B'], ['A in V at 2', 'N1-10 in V at 3', 'N1-10-2 in A at 1', 'Q-1 in V at 1']],
            $rows('q', 'v', null));
        $this->expectException(InvalidField::class);
        Duplicate::of($plan, 'p', [], ['a'], 'q', 'w', null, 'again');
    }

    public function test_links_among_the_rows_come_along_and_no_others(): void
    {
        $plan = self::put(self::target(), ties: ['fo' => 'a', 'f2 successor' => 'b']);
        $made = array_column(array_map(static fn ($p): array => [$p->of, $p->made], array_values($plan->insertions)[0]->pairs), 1, 0);
        $links = static fn (array $wbs, array $activities): int => count(array_filter(Duplicate::of($plan, 'p', $wbs, $activities, 'p',
            null,
            null, 'again')->operations, static fn (Operation $o): bool => $o->kind === EntityKind::Link));
        self::assertSame([0, 1, 2, 3, 3], [$links([], ['a']), $links([$made['fw']], [$made['f2']]),
            $links([$made['fw']], ['a', $made['f2']]),
            $links([$made['fw']], ['a', 'b', $made['f2']]), $links(['w'], ['b'])]);
    }
}
