<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Plan;

/** Copies, templates and fragments: what comes along and what does not, dates, codes, handovers, versions, and who may. */
final class CopyingTest extends TestCase
{
    /**
     * @param  array<string, string>  $projects  uid => key
     * @param  array<string, mixed>  $more
     */
    private function copy(array $projects, array $more = []): \Illuminate\Testing\TestResponse
    {
        return $this->postJson('/api/v1/compose/copy', $more + ['branch' => $this->branch('Vessel conversions'),
            'projects' => array_map(static fn (string $uid, string $key): array => ['uid' => $uid, 'key' => $key, 'name' => "Copy {$key}"],
                array_keys($projects), array_values($projects))]);
    }

    /** What is told to be there is what a copy has with it, and has not without it. */
    public function test_what_may_be_left_out_is_counted(): void
    {
        $this->actingAs($this->person('ilse'));
        $this->change([self::made('remark', 'r', ['project' => 'prj-GRID', 'text' => 'x']),
            self::update('activity', 'act-grid-ca-0050', ['deadline' => '2027-03-01T17:00', 'constraints' => [['kind' => 'start-no-earlier',
                'date' => '2027-01-11T08:00']]])])->assertOk();
        $counts = $this->postJson('/api/v1/compose/parts', ['projects' => ['prj-GRID']])->assertOk()->json('parts');
        $plan = $this->plan();
        $of = static fn (array $all): int => count(array_filter($all, static fn ($o): bool => $o->project === 'prj-GRID'));
        self::assertSame([$of($plan->activities), $of($plan->codings), $of($plan->remarks), $of($plan->ownValues)],
            [$counts['activities'], $counts['codes'], $counts['remarks'], $counts['ownValues']]);
        self::assertGreaterThan(0, $counts['constraints']);
        self::assertGreaterThan(0, $counts['deadlines']);
        self::assertSame(DB::table('baselines')->where('project_uid', 'prj-GRID')->count(), $counts['baselines']);
        $rows = $this->postJson('/api/v1/compose/parts', ['projects' => ['prj-GRID'], 'activities' => ['act-grid-ca-0050']])->json('parts');
        self::assertSame([1, 1, 0], [$rows['activities'], $rows['constraints'], $rows['remarks']]);
        // a copy without a part has nothing of it
        foreach (['codes', 'remarks', 'constraints', 'deadlines'] as $n => $part) {
            $copied = $this->copy(['prj-GRID' => "WITHOUT{$n}"], ['parts' => array_values(array_diff(\Reihe\Core\Plan\CopyPart::wishes(),
                [$part]))])->assertOk()->json('projects');
            $left = $this->postJson('/api/v1/compose/parts', ['projects' => $copied])->json('parts');
            self::assertSame(0, $left[$part], $part);
            self::assertSame($counts['activities'], $left['activities']);
        }
    }

    /** @return array<string, \Reihe\Core\Plan\Activity> code => activity */
    private static function activities(Plan $plan, string $project): array
    {
        $list = [];
        foreach ($plan->activities as $a) {
            if ($a->project === $project) {
                $list[$a->code] = $a;
            }
        }

        return $list;
    }

    public function test_a_copy_has_everything_but_progress_and_its_undo_leaves_nothing(): void
    {
        $this->actingAs($this->person('ilse'));
        $before = $this->plan();
        $body = ['changeSet' => 'copy-1'];
        $answer = $this->copy(['prj-TERN' => 'PLOV'], $body)->assertOk();
        $again = $this->copy(['prj-TERN' => 'PLOV'], $body)->assertOk();
        self::assertSame($answer->json('projects'), $again->json('projects'), 'sent twice, made once');
        $plan = $this->plan();
        $uid = $answer->json('projects.0');
        [$was, $is] = [self::activities($plan, 'prj-TERN'), self::activities($plan, $uid)];
        self::assertSame(array_map(static fn (string $c): string => str_replace('TERN', 'PLOV', $c), array_keys($was)), array_keys($is));
        foreach ($was as $code => $a) {
            $copy = $is[str_replace('TERN', 'PLOV', $code)];
            self::assertSame([$a->name, $a->kind, $a->duration, $a->estimate, $a->calendar], [$copy->name, $copy->kind, $copy->duration,
                $copy->estimate, $copy->calendar]);
            self::assertNull($copy->actualStart);
            self::assertNull($copy->remaining);
        }
        self::assertNull($plan->projects[$uid]->statusDate);
        self::assertSame('prj-TERN', $plan->projects[$uid]->madeFrom);
        $links = static fn (string $project): array => array_values(array_filter($plan->links,
            static fn ($l): bool => $plan->projectOf($l->from)
            === $project && $plan->projectOf($l->to) === $project));
        self::assertCount(count($links('prj-TERN')), $links($uid));
        $work = static fn (string $project): int => (int) array_sum(array_map(
            static fn ($s): int => ($plan->activities[$s->activity]->project
            === $project) ? (int) $s->actualWork + (int) $s->remainingWork : 0, $plan->assignments));
        self::assertSame($work('prj-TERN'), $work($uid));
        self::assertGreaterThan(0, $work($uid));
        $ends = array_filter($plan->openEnds, static fn ($e): bool => $plan->activities[$e->activity]->project === $uid);
        self::assertEqualsCanonicalizing(['OSTV/OSTV-CM-0050', 'LYNG/LYNG-CM-0050', 'GANN/GANN-HU-0020', 'CREW/CREW-VE-0010',
            'GANN/GANN-TR-0060'], array_values(array_map(static fn ($e): string => $e->label, $ends)));
        self::assertSame(5, $answer->json('openEnds'));
        $this->assertResultsAreTrue();
        $this->postJson('/api/v1/changes/copy-1/undo')->assertOk();
        $this->assertSamePlan($before, $this->plan());
    }

    public function test_dates_move_with_the_start_by_working_time(): void
    {
        $this->actingAs($this->person('ilse'));
        $this->change([self::update('project', 'prj-CREW', ['start' => '2026-11-16T08:00', 'deadline' => '2027-03-26T17:00']),
            self::update('activity', 'act-crew-ve-0030', ['constraints' => [['kind' => 'finish-no-later', 'date' => '2026-11-20T17:00']],
                'deadline' => '2026-11-23T17:00']),
            self::update('activity', 'act-crew-ro-0040',
                ['constraints' => [['kind' => 'start-no-earlier', 'date' => '2026-11-23T08:00']]])])
            ->assertOk();
        // from a Monday to a Thursday: the Friday after becomes the Wednesday after the weekend, the Monday the Thursday
        $uid = $this->copy(['prj-CREW' => 'CREB'], ['start' => '2027-02-04T08:00'])->assertOk()->json('projects.0');
        $plan = $this->plan();
        $is = array_map(static fn ($a): array => $a->fields(), self::activities($plan, $uid));
        self::assertSame('2027-02-04T08:00', $plan->projects[$uid]->fields()['start']);
        self::assertSame('2027-02-10T17:00', $is['CREB-VE-0030']['constraints'][0]['date']);
        self::assertSame('2027-02-11T17:00', $is['CREB-VE-0030']['deadline']);
        self::assertSame('2027-02-11T08:00', $is['CREB-RO-0040']['constraints'][0]['date']);
        // 19 weeks without Christmas, New Year and half of Christmas Eve: 92.5 days, of which 92 end on Friday 11 June
        self::assertSame('2027-06-14T12:00', $plan->projects[$uid]->fields()['deadline']);
    }

    public function test_what_is_left_out_is_left_out(): void
    {
        $this->actingAs($this->person('ilse'));
        $this->change([self::made('remark', 'r', ['project' => 'prj-CREW', 'activity' => 'act-crew-ro-0040', 'text' => 'x'])])->assertOk();
        $uid = $this->copy(['prj-CREW' => 'BARE'], ['parts' => ['activities'], 'handovers' => 'drop'])->assertOk()->json('projects.0');
        $plan = $this->plan();
        $own = static fn (string $list): int => count(array_filter($plan->{$list}, static fn ($o): bool => ($o->project
            ?? $plan->activities[$o->activity]->project) === $uid));
        self::assertSame([0, 0, 0, 0], [$own('codings'), $own('assignments'), $own('remarks'), $own('openEnds')]);
        self::assertSame([], array_filter($plan->activities, static fn ($a): bool => $a->project === $uid && $a->constraints !== []));
        $empty = $this->copy(['prj-CREW' => 'WBS'], ['parts' => []])->assertOk()->json('projects.0');
        self::assertSame([], self::activities($this->plan(), $empty));
        self::assertNotSame([], array_filter($this->plan()->wbs, static fn ($w): bool => $w->project === $empty));
    }

    public function test_a_programme_keeps_its_handovers_and_is_tied_to_the_same_givers(): void
    {
        $this->actingAs($this->person('ilse'));
        $template = $this->copy(['prj-TERN' => 'TV', 'prj-CREW' => 'TC'], ['kept' => 'template'])->assertOk();
        [$vessel, $crew] = $template->json('projects');
        $plan = $this->plan();
        self::assertSame([Kept::Template, null], [$plan->projects[$vessel]->kept, $plan->projects[$crew]->statusDate]);
        $between = array_filter($plan->links, static fn ($l): bool => $plan->projectOf($l->from) === $vessel
            && $plan->projectOf($l->to) === $crew);
        self::assertCount(1, $between);
        // what it took from outside was left open; copies of the template take it from there again
        $made = $this->copy([$vessel => 'EIDR', $crew => 'CREE'], ['handovers' => 'tie', 'start' => '2027-03-01T08:00'])->assertOk();
        $plan = $this->plan();
        $from = array_map(static fn ($l): string => $plan->label($l->from), array_filter($plan->links,
            static fn ($l): bool => $plan->projectOf($l->to) === $made->json('projects.0')
                && $plan->projectOf($l->from) !== $made->json('projects.0')));
        self::assertEqualsCanonicalizing(['OSTV/OSTV-CM-0050', 'LYNG/LYNG-CM-0050'], array_values($from));
        $this->assertResultsAreTrue();
        // or from another project, whose codes begin with its key
        $other = $this->copy([$vessel => 'SKUA'], ['handovers' => 'tie', 'giverKeys' => ['LYNG' => 'OSTV', 'OSTV' => 'GRID']])->assertOk();
        $plan = $this->plan();
        $from = array_filter($plan->links, static fn ($l): bool => $plan->projectOf($l->to) === $other->json('projects.0')
            && $plan->projectOf($l->from) !== $other->json('projects.0'));
        self::assertSame(['OSTV/OSTV-CM-0050'], array_values(array_map(static fn ($l): string => $plan->label($l->from), $from)));
        self::assertContains('OSTV/OSTV-CM-0050', array_map(static fn ($e): string => $e->label, array_filter($plan->openEnds,
            static fn ($e): bool => $plan->projectOf($e->activity) === $other->json('projects.0'))), 'GRID has no such activity');
        // independent afterwards
        $this->change([self::update('project', $vessel, ['name' => 'Changed'])])->assertOk();
        self::assertSame('Copy EIDR', $this->plan()->projects[$made->json('projects.0')]->name);
    }

    public function test_templates_are_not_in_the_portfolio_search_or_feed_and_take_no_progress(): void
    {
        $this->actingAs($this->person('ilse'));
        $uid = $this->copy(['prj-TERN' => 'TPL'], ['kept' => 'template'])->assertOk()->json('projects.0');
        self::assertNotContains('TPL', array_column($this->getJson('/api/v1/portfolio')->json('projects'), 'key'));
        self::assertSame([], $this->getJson('/api/v1/search?q=TPL')->json('projects'));
        $token = $this->person('ilse')->createToken('t', ['feed'])->plainTextToken;
        self::assertStringNotContainsString('TPL', (string) $this->withToken($token)->get('/odata/Activities')->getContent());
        $this->actingAs($this->person('ilse'));
        self::assertContains($uid, array_column($this->getJson('/api/v1/sources')->json('sources'), 'uid'));
        $activity = self::activities($this->plan(), $uid)['TPL-HU-0010']->uid;
        $this->change([self::update('project', $uid, ['statusDate' => '2026-11-25T12:00'])])->assertStatus(422);
        $this->change([self::update('activity', $activity, ['actualStart' => '2026-11-20T08:00'])])->assertStatus(422);
        $this->change([self::update('project', $uid, ['kept' => 'here'])])->assertStatus(422);
        $this->change([self::made('link', 'l', ['from' => $activity, 'to' => 'act-ostv-cm-0010', 'type' => 'FS'])])->assertStatus(422);
        $this->change([self::update('activity', $activity, ['duration' => 999])])->assertOk();
    }

    /** Whoever makes projects on a branch uses what the branches above keep for that, and sees no more of them. */
    public function test_templates_of_branches_above_are_there_to_copy_from_and_tell_nothing_else(): void
    {
        $this->actingAs($this->person('ilse'));
        $uid = $this->copy(['prj-TERN' => 'TPL'], ['kept' => 'template',
            'branch' => $this->branch('Varnsund Ferries')])->json('projects.0');
        $other = $this->copy(['prj-OSTV' => 'TPH'], ['kept' => 'template', 'branch' => $this->branch('Harbours')])->json('projects.0');
        $this->actingAs($this->somebody('planner', 'Vessel conversions'));
        $source = collect($this->getJson('/api/v1/sources')->json('sources'))->keyBy('uid')->all();
        self::assertSame([null, null, false], [$source[$uid]['branch'], $source[$uid]['branchName'], $source[$uid]['mayOpen']]);
        self::assertArrayNotHasKey($other, $source);
        $this->getJson('/api/v1/board?projects=TPL')->assertOk()->assertJsonPath('projects', []);
        $this->copy([$other => 'NOPE'])->assertStatus(404);
        $this->copy(['prj-OSTV' => 'NOPE'])->assertStatus(404);
        $made = $this->copy([$uid => 'EIDR'])->assertOk()->json('projects.0');
        $ends = array_filter($this->plan()->openEnds, fn ($e): bool => $this->plan()->activities[$e->activity]->project === $made);
        self::assertNotSame([], $ends);
        // what a copy of a visible project is linked with out of reach has no name
        $copy = $this->copy(['prj-TERN' => 'TER2'])->assertOk()->json('projects.0');
        $labels = array_map(static fn ($e): string => $e->label, array_filter($this->plan()->openEnds,
            fn ($e): bool => $this->plan()->activities[$e->activity]->project === $copy));
        self::assertEqualsCanonicalizing(['', '', '', 'GANN/GANN-HU-0020', 'GANN/GANN-TR-0060'], array_values($labels));
        $this->copy([$uid => 'X'], ['branch' => $this->branch('Shore power')])->assertStatus(422);
    }

    public function test_the_current_baseline_comes_along_when_asked(): void
    {
        $this->actingAs($this->person('ilse'));
        $uid = $this->copy(['prj-TERN' => 'BASE'], ['baselines' => true])->assertOk()->json('projects.0');
        $rows = DB::table('baseline_rows as r')->join('baselines as b', 'b.id', '=', 'r.baseline_id')->where('b.project_uid', $uid)
            ->where('r.kind', 'activity')->pluck('r.code')->all();
        self::assertContains('BASE-HU-0010', $rows);
        self::assertCount(count(self::activities($this->plan(), 'prj-TERN')), $rows);
        self::assertSame(0, DB::table('baselines')->where('project_uid', $this->copy(['prj-TERN' => 'NONE'])->json('projects.0'))->count());
    }

    private function fragment(): string
    {
        return $this->postJson('/api/v1/compose/fragment', ['project' => 'prj-TERN', 'wbs' => ['wbs-tern-tr'], 'key' => 'TRIAL',
            'name' => 'Sea trials', 'branch' => $this->branch('Fleet')])->assertOk()->json('projects.0');
    }

    public function test_a_fragment_is_made_of_rows_and_put_in_several_times(): void
    {
        $this->actingAs($this->person('ilse'));
        $uid = $this->fragment();
        $plan = $this->plan();
        self::assertSame(Kept::Fragment, $plan->projects[$uid]->kept);
        self::assertCount(6, self::activities($plan, $uid));
        $details = $this->getJson("/api/v1/fragments/{$uid}")->assertOk();
        self::assertSame([1, false], [$details->json('versions.0.number'), $details->json('changed')]);
        $open = collect($details->json('openEnds'));
        self::assertContains('TERN/TERN-PR-0050', $open->pluck('label')->all());
        $before = $this->plan();
        $tie = $open->firstWhere('label', 'TERN/TERN-PR-0050')['uid'];
        $body = ['fragment' => $uid, 'project' => 'prj-GANN', 'wbs' => 'wbs-gann-hu', 'prefix' => 'GANN-T{n}-', 'times' => 3,
            'ties' => [$tie => 'act-gann-hu-0070'], 'changeSet' => 'insert-1'];
        $tried = $this->postJson('/api/v1/compose/insert', $body + ['dryRun' => true])->assertOk();
        self::assertContains('GANN-T2-TR-0030', $tried->json('codes'), 'the key gives way to the prefix');
        $this->assertSamePlan($before, $this->plan());
        $this->postJson('/api/v1/compose/insert', $body)->assertOk();
        $plan = $this->plan();
        $made = self::activities($plan, 'prj-GANN');
        self::assertCount(count(self::activities($before, 'prj-GANN')) + 18, $made);
        self::assertCount(3, $plan->insertions);
        self::assertCount(3, array_filter($plan->links, static fn ($l): bool => $l->from === 'act-gann-hu-0070'
            && str_starts_with($plan->activities[$l->to]->code, 'GANN-T')));
        self::assertSame('wbs-gann-hu', $plan->wbs[$made['GANN-T1-TR-0010']->wbs]->parent);
        $this->assertResultsAreTrue();
        self::assertSame([3], [count($this->getJson("/api/v1/fragments/{$uid}")->json('uses'))]);
        $this->postJson('/api/v1/changes/insert-1/undo')->assertOk();
        $this->assertSamePlan($before, $this->plan());
        $this->postJson('/api/v1/compose/insert', ['fragment' => $uid, 'project' => 'prj-GANN', 'wbs' => 'wbs-tern-hu'])->assertStatus(422);
        $this->postJson('/api/v1/compose/insert', ['fragment' => $uid, 'project' => 'prj-GANN', 'version' => 9])->assertStatus(422);
    }

    public function test_a_newer_version_changes_what_the_project_left_alone(): void
    {
        $this->actingAs($this->person('ilse'));
        $uid = $this->fragment();
        $of = array_map(static fn ($a): string => $a->uid, self::activities($this->plan(), $uid));
        $this->postJson('/api/v1/compose/insert', ['fragment' => $uid, 'project' => 'prj-GANN', 'prefix' => 'G-',
            'changeSet' => 'i'])->assertOk();
        $insertion = array_key_first($this->plan()->insertions);
        $here = self::activities($this->plan(), 'prj-GANN');
        // the project changes one and deletes another; the fragment changes three, adds one, deletes one
        $this->change([self::update('activity', $here['G-TR-0010']->uid, ['duration' => 3 * 480, 'name' => 'Ours']),
            self::gone('activity', $here['G-TR-0050']->uid)])->assertOk();
        $wbs = $this->plan()->activities[$of['TRIAL-TR-0020']]->wbs;
        $this->change([self::update('activity', $of['TRIAL-TR-0010'], ['duration' => 9 * 480]),
            self::update('activity', $of['TRIAL-TR-0020'], ['name' => 'Charging', 'duration' => 2 * 480]),
            self::update('activity', $of['TRIAL-TR-0050'], ['duration' => 480]), self::gone('activity', $of['TRIAL-TR-0040']),
            self::made('activity', 'new-in-fragment', ['project' => $uid, 'wbs' => $wbs, 'code' => 'TRIAL-TR-0070', 'name' => 'Noise',
                'duration' => 480]),
            self::made('link', 'new-link', ['from' => $of['TRIAL-TR-0020'], 'to' => 'new-in-fragment', 'type' => 'FS'])])->assertOk();
        self::assertTrue($this->getJson("/api/v1/fragments/{$uid}")->json('changed'));
        $this->postJson("/api/v1/fragments/{$uid}/versions", ['note' => 'Noise'])->assertCreated()->assertJsonPath('number', 2);
        $before = $this->plan();
        $tried = $this->postJson('/api/v1/compose/fragment-update', ['insertion' => $insertion, 'dryRun' => true])->assertOk();
        self::assertSame([['activity GANN/G-TR-0010', 'duration']], array_map(static fn (array $c): array => [$c['label'], $c['field']],
            $tried->json('conflicts')));
        $this->assertSamePlan($before, $this->plan());
        $this->postJson('/api/v1/compose/fragment-update', ['insertion' => $insertion, 'changeSet' => 'u'])->assertOk();
        $now = self::activities($this->plan(), 'prj-GANN');
        self::assertSame(['Ours', 3 * 480], [$now['G-TR-0010']->name, $now['G-TR-0010']->duration], 'the project’s own stays');
        self::assertSame(['Charging', 2 * 480], [$now['G-TR-0020']->name, $now['G-TR-0020']->duration]);
        self::assertArrayNotHasKey('G-TR-0040', $now);
        self::assertContains('Noise', array_map(static fn ($a): string => $a->name, $now));
        self::assertSame(2, $this->plan()->insertions[$insertion]->version);
        $this->assertResultsAreTrue();
        $this->postJson('/api/v1/compose/fragment-update', ['insertion' => $insertion])->assertOk()->assertJsonPath('operations', 0);
        $this->postJson('/api/v1/changes/u/undo')->assertOk();
        $this->assertSamePlan($before, $this->plan());
    }

    public function test_a_fragment_belongs_to_a_project_only_as_one(): void
    {
        $this->actingAs($this->person('ilse'));
        $uid = $this->fragment();
        $this->change([self::update('project', $uid, ['home' => 'prj-TERN'])])->assertOk();
        self::assertSame('prj-TERN', collect($this->getJson('/api/v1/sources')->json('sources'))->firstWhere('uid', $uid)['home']);
        $this->change([self::update('project', 'prj-GRID', ['home' => 'prj-TERN'])])->assertStatus(422);
    }

    public function test_rows_are_there_once_more_with_their_links_and_codes_and_undo_takes_them_away(): void
    {
        $this->actingAs($this->person('ilse'));
        $before = $this->everything();
        $answer = $this->postJson('/api/v1/compose/duplicate', ['from' => 'prj-TERN', 'wbs' => ['wbs-tern-el'], 'to' => 'prj-TERN',
            'after' => 'wbs-tern-el'])->assertOk();
        $plan = $this->plan();
        $top = $plan->wbs[$answer->json('top.0')];
        $old = array_filter($plan->activities, static fn ($a): bool => $a->wbs === 'wbs-tern-el');
        $new = array_filter($plan->activities, static fn ($a): bool => $a->wbs === $top->uid);
        self::assertSame(array_map(static fn ($a): string => $a->name, array_values($old)), array_column(array_map(
            static fn ($a): array => ['name' => $a->name, 'at' => $a->position], array_values($new)), 'name'));
        self::assertSame(array_map(static fn ($a): string => "{$a->code}-2", array_values($old)),
            array_map(static fn ($a): string => $a->code, array_values($new)));
        $inner = static fn (array $of): int => count(array_filter($plan->links,
            static fn ($l): bool => isset($of[$l->from], $of[$l->to])));
        self::assertSame($inner($old), $inner($new));
        self::assertGreaterThan(0, $inner($new));
        $links = array_filter($plan->links, static fn ($l): bool => isset($new[$l->from]) !== isset($new[$l->to]));
        self::assertSame([], $links, 'no links to anything else');
        self::assertGreaterThan($plan->wbs['wbs-tern-el']->position, $top->position);
        $next = min(array_map(static fn ($w): float => $w->position, array_filter($plan->wbs, static fn ($w): bool => $w->parent === null
            && $w->project === 'prj-TERN' && $w->uid !== $top->uid && $w->position > $plan->wbs['wbs-tern-el']->position)) ?: [INF]);
        self::assertLessThan($next, $top->position);
        foreach ($new as $a) {
            self::assertNull($a->actualStart);
        }
        $this->postJson("/api/v1/changes/{$answer->json('changeSet')}/undo")->assertOk();
        self::assertEquals($before, $this->everything());
    }

    public function test_rows_copied_into_another_project_take_its_key_into_their_codes(): void
    {
        $this->actingAs($this->person('ilse'));
        $code = (string) DB::table('activities')->where('uid', 'act-grid-ca-0050')->value('code');
        $answer = $this->postJson('/api/v1/compose/duplicate', ['from' => 'prj-GRID', 'activities' => ['act-grid-ca-0050'],
            'to' => 'prj-OSTV'])->assertOk();
        $made = $this->plan()->activities[$answer->json('top.0')];
        self::assertSame(['prj-OSTV', 'OSTV'.substr($code, 4)], [$made->project, $made->code]);
        $this->postJson('/api/v1/compose/duplicate', ['from' => 'prj-GRID', 'activities' => [], 'to' => 'prj-OSTV'])->assertStatus(422);
        $this->postJson('/api/v1/compose/duplicate', ['from' => 'prj-GRID', 'activities' => ['act-grid-ca-0050'], 'to' => 'prj-OSTV',
            'parent' => 'wbs-tern-el'])->assertStatus(422);
        $this->assertResultsAreTrue();
    }
}
