<?php

declare(strict_types=1);

namespace Tests\App;

use App\Planning\PlanStore;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\EntityKind;

/** Code sets that say who may do what, retired entries, merging, tables; archives; what moving does to access; saved views. */
final class CodesTest extends TestCase
{
    public function test_a_set_says_who_codes_with_it_and_who_changes_its_entries(): void
    {
        $this->actingAs($this->person('ilse'));
        $this->change([self::update('codeSet', 'codeset-stage',
            ['assignedBy' => 'approver', 'addedBy' => 'approver', 'editedBy' => 'planner'])])->assertOk();
        $code = self::made('coding', 'c', ['project' => 'prj-CREW', 'entry' => 'entry-district-inner']);
        $stage = self::update('coding', 'coding-crew-stage', ['entry' => 'entry-stage-trial']);
        $add = self::made('entry', 'new', ['codeSet' => 'codeset-stage', 'name' => 'New']);
        $rename = self::update('entry', 'entry-stage-trial', ['name' => 'Trials']);
        foreach (['contributor' => [403, 403, 403, 403], 'planner' => [200, 403, 403, 200], 'approver' => [200, 200, 200,
            200]] as $role => $expected) {
            foreach ([$code, $stage, $add, $rename] as $i => $operation) {
                $this->actingAs($this->somebody($role));
                DB::beginTransaction();
                self::assertSame($expected[$i], $this->change([$operation])->status(), "{$role} {$i}");
                DB::rollBack();
            }
        }
        // a set for everybody
        $this->actingAs($this->person('ilse'));
        $this->change([self::update('codeSet', 'codeset-stage', ['assignedBy' => 'contributor'])])->assertOk();
        $this->actingAs($this->somebody('contributor'));
        $this->change([$stage])->assertOk();
        $this->change([$code])->assertStatus(403);
        // an entry from one set into another needs both
        $this->actingAs($this->somebody('planner'));
        $this->change([self::update('entry', 'entry-stage-trial', ['codeSet' => 'codeset-district'])])->assertStatus(403);
    }

    public function test_keys_are_as_short_as_the_set_asks(): void
    {
        $this->actingAs($this->person('ilse'));
        $this->change([self::made('codeSet', 's', ['scope' => 'project', 'name' => 'Berth', 'keyLength' => 3]),
            self::made('entry', 'a', ['codeSet' => 's', 'name' => 'Northern quay']),
            self::made('entry', 'b', ['codeSet' => 's', 'name' => 'Northern pier'])])->assertOk();
        self::assertSame(['NOR', 'NO2'], [DB::table('code_entries')->where('uid', 'a')->value('key'),
            DB::table('code_entries')->where('uid', 'b')->value('key')]);
        $this->change([self::made('entry', 'c', ['codeSet' => 's', 'name' => 'X', 'key' => 'FOUR'])])->assertStatus(422)
            ->assertJsonPath('field', 'key');
        $this->change([self::update('codeSet', 's', ['keyLength' => 2])])->assertStatus(422)->assertJsonPath('kind', 'entry');
    }

    public function test_several_entries_where_the_set_allows_it_and_not_back_while_used(): void
    {
        $this->actingAs($this->person('ilse'));
        $second = self::made('coding', 'second', ['project' => 'prj-CREW', 'entry' => 'entry-stage-trial']);
        $this->change([$second])->assertStatus(422)->assertJsonPath('field', 'entry');
        $this->change([self::update('codeSet', 'codeset-stage', ['multiple' => true]), $second])->assertOk();
        $this->change([self::made('coding', 'third', ['project' => 'prj-CREW', 'entry' => 'entry-stage-trial'])])->assertStatus(422);
        $this->change([self::update('codeSet', 'codeset-stage', ['multiple' => false])])->assertStatus(422)
            ->assertJsonPath('kind', 'coding');
        $this->change([self::update('codeSet', 'codeset-stage', ['scope' => 'activity'])])->assertStatus(422);
        $this->change([self::gone('coding', 'second'), self::update('codeSet', 'codeset-stage', ['multiple' => false])])->assertOk();
    }

    public function test_what_is_retired_stays_and_is_not_assigned(): void
    {
        $this->actingAs($this->person('ilse'));
        $this->change([self::update('entry', 'entry-stage-build', ['retired' => true])])->assertOk();
        $this->change([self::made('coding', 'c', ['project' => 'prj-CREW', 'entry' => 'entry-stage-build'])])->assertStatus(422)
            ->assertJsonFragment(['detail' => 'Stage: Build is retired']);
        $codes = collect($this->getJson('/api/v1/portfolio')->json('projects'))->firstWhere('key', 'GRID')['codes'];
        self::assertContains('entry-stage-build', array_column($codes, 'entry'));
        $uid = $this->change([self::gone('coding', 'coding-grid-stage')])->assertOk()->json('changeSet');
        $this->postJson("/api/v1/changes/{$uid}/undo")->assertOk();
    }

    public function test_entries_and_branches_are_merged_and_the_undo_is_exact(): void
    {
        $this->actingAs($this->person('ilse'));
        $this->change([self::made('branch', 'tugs', ['parent' => $this->branch('Archive'), 'name' => 'Tugs']),
            self::update('codeSet', 'codeset-stage', ['multiple' => true]),
            self::made('coding', 'both', ['project' => 'prj-GRID', 'entry' => 'entry-stage-trial'])])->assertOk();
        $before = $this->plan();
        $merge = fn (string $kind, string $from, string $into) => $this->postJson('/api/v1/compose/merge',
            ['kind' => $kind, 'from' => $from, 'into' => $into]);
        $merge('entry', 'entry-stage-build', 'entry-stage-build-civil')->assertStatus(422);
        $merge('entry', 'entry-stage-build', 'entry-district-inner')->assertStatus(422);
        $entries = $merge('entry', 'entry-stage-build', 'entry-stage-trial')->assertOk();
        $after = $this->plan();
        self::assertArrayNotHasKey('entry-stage-build', $after->entries);
        self::assertSame('entry-stage-trial', $after->entries['entry-stage-build-civil']->parent);
        self::assertSame(['both'], array_keys(array_filter($after->codings, static fn ($c): bool => $c->project === 'prj-GRID'
            && $after->entries[$c->entry]->codeSet === 'codeset-stage')), 'coded with both before, with one now');
        self::assertSame('entry-stage-trial', $after->codings['coding-crew-stage']->entry);
        $branches = $merge('branch', $this->branch('Vessel conversions'), $this->branch('Dry dock'))->assertOk();
        self::assertSame($this->branch('Dry dock'), $this->plan()->projects['prj-TERN']->branch);
        foreach ([$branches, $entries] as $answer) {
            $this->postJson("/api/v1/changes/{$answer->json('changeSet')}/undo")->assertOk();
        }
        $this->assertSamePlan($before, $this->plan());
        $this->assertResultsAreTrue();
        // whoever may not plan everything that is coded with it cannot merge it away
        $this->actingAs($this->somebody('administrator', 'Fleet'));
        $merge('entry', 'entry-stage-build', 'entry-stage-trial')->assertStatus(422);
    }

    public function test_a_key_that_is_taken_away_follows_the_name_as_when_it_was_made(): void
    {
        $this->actingAs($this->person('ilse'));
        $made = ['codeSet' => ['scope' => 'project', 'name' => 'New set'], 'entry' => ['codeSet' => 'codeset-district',
            'name' => 'New entry'],
            'levelScheme' => ['name' => 'New levels']];
        foreach ($made as $kind => $fields) {
            $this->change([self::made($kind, 'one', $fields), self::made($kind, 'two', ['name' => 'Ås harbour'] + $fields)])->assertOk();
            $key = fn (string $uid): string => (string) PlanStore::load([])[0]->find(EntityKind::from($kind), $uid)->fields()['key'];
            $taken = $key('two');
            $this->change([self::update($kind, 'one', ['name' => 'Ås: harbour', 'key' => null])])->assertOk();
            self::assertSame([1, 1], [preg_match('/^AS-HARBOU?R?$|^AS-HARBOUR$/', $taken), preg_match('/^AS-HARBOUR?-2$/', $key('one'))],
                $kind);
            $this->change([self::update($kind, 'two', ['key' => null])])->assertOk();
            self::assertSame($taken, $key('two'), 'its own is not taken');
        }
        $this->change([self::update('calendar', 'cal-office', ['key' => null])])->assertUnprocessable();
    }

    public function test_codes_from_a_table_are_understood_row_by_row(): void
    {
        $this->actingAs($this->person('ilse'));
        $rows = [['GRID', 'district', 'Outer fjord'], ['OSTV', 'Stage', 'Build / Electrical'], ['TERN', 'STAGE', 'build-electrical'],
            ['LYNG', 'Stage', 'Quay trial'], ['GANN', 'Stage', 'Quay trial'], ['CREW', 'Stage', ''], ['NONE', 'Stage', 'Trial'],
            ['GRID', 'Colour', 'Red'], ['GRID', 'District', 'North coast']];
        $before = $this->plan();
        $tried = $this->postJson('/api/v1/compose/codings', ['rows' => $rows, 'dryRun' => true])->assertOk();
        self::assertSame(['changed', 'changed', 'same', 'wrong', 'wrong', 'changed', 'wrong', 'wrong', 'wrong'],
            array_column($tried->json('rows'), 'state'));
        $this->assertSamePlan($before, $this->plan());
        $body = ['rows' => $rows, 'make' => true, 'changeSet' => 'table-1'];
        $done = $this->postJson('/api/v1/compose/codings', $body)->assertOk();
        self::assertSame(['new', 'changed'], [$done->json('rows.3.state'), $done->json('rows.4.state')]);
        $this->postJson('/api/v1/compose/codings', $body)->assertOk()->assertJsonPath('changeSet', null);
        $after = $this->plan();
        $of = static fn (string $project): array => array_values(array_map(static fn ($c): string => $after->entries[$c->entry]->name,
            array_filter($after->codings, static fn ($c): bool => $c->project === $project)));
        self::assertEqualsCanonicalizing(['Outer fjord', 'Build'], $of('prj-GRID'));
        self::assertEqualsCanonicalizing(['Quay trial', 'Outer fjord'], $of('prj-GANN'));
        self::assertSame([], $of('prj-CREW'));
        $this->postJson('/api/v1/changes/table-1/undo')->assertOk();
        $this->assertSamePlan($before, $this->plan());
        // an activity by its code alone, and what is out of reach is not there
        $this->change([self::made('codeSet', 'craft', ['scope' => 'activity', 'name' => 'Craft'])])->assertOk();
        $rows = [['TERN-TR-0020', 'Craft', 'Trials'], ['GRID/GRID-ST-0030', 'Craft', 'Trials']];
        $this->actingAs($this->somebody('planner', 'Fleet'));
        $answer = $this->postJson('/api/v1/compose/codings', ['rows' => $rows, 'make' => true])->assertOk();
        self::assertSame(['new', 'wrong'], array_column($answer->json('rows'), 'state'));
    }

    public function test_a_whole_set_from_a_table(): void
    {
        $this->actingAs($this->person('ilse'));
        $rows = [['key' => 'TRIAL', 'name' => 'Trials', 'weight' => '2,5'], ['key' => 'SEA', 'name' => 'Sea', 'parent' => 'trial'],
            ['key' => 'sea', 'name' => 'Again'], ['key' => 'X', 'parent' => 'nowhere'], ['name' => 'Without a key', 'retired' => 'yes']];
        $answer = $this->postJson('/api/v1/compose/entries', ['set' => 'codeset-stage', 'rows' => $rows])->assertOk();
        self::assertSame(['changed', 'new', 'wrong', 'wrong', 'new'], array_column($answer->json('rows'), 'state'));
        $entries = array_column(array_map(static fn ($e): array => $e->fields(), $this->plan()->entries), null, 'key');
        self::assertSame(['Trials', 2.5], [$entries['TRIAL']['name'], $entries['TRIAL']['weight']]);
        self::assertSame('entry-stage-trial', $entries['SEA']['parent']);
        self::assertTrue($entries['WITHOUT-A-KEY']['retired']);
        $again = $this->postJson('/api/v1/compose/entries', ['set' => 'codeset-stage', 'rows' => array_slice($rows, 0, 2)]);
        self::assertSame(['same', 'same'], array_column($again->json('rows'), 'state'));
    }

    public function test_what_is_archived_is_not_shown_and_not_edited_until_it_is_brought_back(): void
    {
        $this->actingAs($this->person('ilse'));
        $edit = self::update('activity', 'act-tern-tr-0020', ['name' => 'x']);
        $shown = fn (string $view): array => array_column($this->getJson("/api/v1/portfolio{$view}")->json('projects'), 'key');
        $early = $this->change([$edit])->json('changeSet');
        $fleet = self::update('branch', $this->branch('Fleet'), ['archived' => true]);
        $this->change([$fleet, self::update('project', 'prj-CREW', ['archived' => true])])->assertOk();
        self::assertSame(['GRID', 'LYNG', 'OSTV'], $shown(''));
        self::assertSame(6, count($shown('?view='.rawurlencode('{"archived":true}'))));
        foreach ([$edit, self::update('project', 'prj-CREW', ['name' => 'x']), self::gone('activity', 'act-crew-ro-0010'),
            self::made('branch', 'b', ['parent' => $this->branch('Dry dock'), 'name' => 'B']),
            self::update('branch', $this->branch('Dry dock'), ['name' => 'x']),
            self::made('project', 'p', ['key' => 'P', 'name' => 'P', 'branch' => $this->branch('Dry dock'), 'calendar' => 'cal-office',
                'start' => '2026-12-01T08:00']),
            self::made('remark', 'r', ['project' => 'prj-TERN', 'activity' => 'act-tern-tr-0020', 'text' => 'x'])] as $operation) {
            self::assertStringContainsString('archived', (string) $this->change([$operation])->assertStatus(422)->json('detail'));
        }
        $this->postJson("/api/v1/changes/{$early}/undo")->assertStatus(422);
        $this->postJson('/api/v1/progress', ['reports' => [['activity' => 'act-tern-tr-0020', 'percent' => 5]]])->assertStatus(422);
        self::assertFalse(collect($this->getJson('/api/v1/board?projects=TERN')->json('projects'))->first()['mayPlan']);
        // what waits for it goes on being calculated
        $this->change([self::update('activity', 'act-ostv-cm-0010', ['duration' => 60 * 480])])->assertOk();
        $this->assertResultsAreTrue();
        $this->change([self::update('branch', $this->branch('Fleet'), ['archived' => false]),
            self::update('project', 'prj-CREW', ['archived' => false])])->assertOk();
        $this->postJson("/api/v1/changes/{$early}/undo")->assertOk();
    }

    public function test_moving_tells_first_who_gains_and_who_loses_access(): void
    {
        $this->actingAs($this->person('ilse'));
        $people = fn (string $kind, string $uid, string $to): array => collect($this->getJson("/api/v1/access/shift?kind={$kind}&uid={$uid}"
            ."&to={$this->branch($to)}")->assertOk()->json('people'))->keyBy('name')->all();
        $shift = $people('project', 'prj-TERN', 'Shore power');
        self::assertSame(['planner', null], [$shift['Aino Rautio']['was'], $shift['Aino Rautio']['will']]);
        self::assertSame([null, 'planner'], [$shift['Teodor Lindqvist']['was'], $shift['Teodor Lindqvist']['will']]);
        self::assertArrayNotHasKey('Ilse Brandt', $shift);
        self::assertEquals($shift, $people('merge', $this->branch('Vessel conversions'), 'Shore power'), 'what hangs there moves');
        self::assertSame([], $people('branch', $this->branch('Dry dock'), 'Vessel conversions'));
        // roles on the branch itself come along
        $shift = $people('branch', $this->branch('Fleet'), 'Harbours');
        self::assertArrayNotHasKey('Aino Rautio', $shift);
        self::assertSame('planner', $shift['Teodor Lindqvist']['will']);
    }

    public function test_the_filter_of_a_view_serves_feeds_and_exports(): void
    {
        $make = fn (string $place, array $filter): string => $this->postJson('/api/v1/views', ['place' => $place, 'name' => 'F',
            'shared' => true,
            'definition' => ['filter' => $filter, 'colour' => 'project']])->json('uid');
        $this->actingAs($this->person('ilse'));
        $inner = $make('portfolio', ['field' => 'code:codeset-district', 'is' => 'is', 'value' => ['entry-district-inner']]);
        $docked = $make('board', ['all' => [['field' => 'name', 'is' => 'begins', 'value' => 'Dock:'], ['field' => 'project', 'is' => 'is',
            'value' => 'TERN']]]);
        $xml = (string) $this->get("/api/v1/exchange/export?view={$inner}&format=plan-xml")->assertOk()->getContent();
        self::assertSame(['GRID', 'OSTV', 'TERN'], array_map(strval(...), (array) simplexml_load_string(str_replace('xmlns=', 'ns=', $xml))
            ?->xpath('//project/@key')));
        $this->getJson('/api/v1/exchange/export?view=nothing&format=plan-xml')->assertStatus(422);
        $token = $this->person('aino')->createToken('t', ['feed'])->plainTextToken;
        $this->app['auth']->forgetGuards();
        $feed = fn (string $path) => $this->withToken($token)->getJson("/odata/v4/{$path}");
        self::assertSame(['TERN'], $feed("Projects?view={$inner}&\$select=Key")->json('value.*.Key'), 'what Aino sees of it');
        self::assertSame(['TERN'], $feed("Projects?view={$docked}&\$select=Key")->json('value.*.Key'));
        self::assertSame(4, count($feed("Activities?view={$docked}")->json('value')));
        self::assertSame('4', $feed("Activities/\$count?view={$docked}")->getContent());
        $feed("Links?view={$docked}")->assertStatus(400);
        $feed('Projects?view=nothing')->assertStatus(400);
    }

    public function test_views_are_private_or_shared_and_belong_to_their_author(): void
    {
        $make = fn (bool $shared) => $this->postJson('/api/v1/views', ['place' => 'portfolio', 'name' => ' Mine ', 'shared' => $shared,
            'definition' => ['group' => ['branch']]])->assertCreated()->json('uid');
        $seen = fn (): array => array_column($this->getJson('/api/v1/views?place=portfolio')->json('views'), 'uid');
        $this->actingAs($this->person('ilse'));
        [$private, $shared] = [$make(false), $make(true)];
        self::assertEqualsCanonicalizing([$private, $shared], $seen());
        $this->actingAs($this->person('aino'));
        self::assertSame([$shared], $seen());
        $this->patchJson("/api/v1/views/{$shared}", ['name' => 'x'])->assertStatus(403);
        $this->patchJson("/api/v1/views/{$private}", ['name' => 'x'])->assertStatus(404);
        $this->deleteJson("/api/v1/views/{$private}")->assertStatus(404);
        $this->actingAs($this->person('ilse'));
        $this->patchJson("/api/v1/views/{$shared}", ['name' => 'Ours', 'shared' => false, 'definition' => ['sort' => ['-finish']]])
            ->assertOk()->assertJsonPath('name', 'Ours')->assertJsonPath('definition.sort.0', '-finish');
        $this->deleteJson("/api/v1/views/{$shared}")->assertNoContent();
        self::assertSame([$private], $seen());
        $this->postJson('/api/v1/views', ['place' => 'kitchen', 'name' => 'x', 'definition' => ['a' => 1]])->assertStatus(422);
        $this->postJson('/api/v1/views', ['place' => 'board', 'name' => 'x', 'definition' => ['a' => str_repeat('x', 9000)]])
            ->assertStatus(422);
    }

    public function test_a_place_opens_with_one_view_for_each_person_as_long_as_they_see_it(): void
    {
        $this->actingAs($this->person('ilse'));
        $made = fn (string $name): string => (string) $this->postJson('/api/v1/views', ['place' => 'board', 'name' => $name,
            'shared' => true, 'definition' => ['colour' => 'status']])->assertCreated()->json('uid');
        [$one, $two] = [$made('One'), $made('Two')];
        $first = fn (): array => array_column(array_filter($this->getJson('/api/v1/views?place=board')->json('views'),
            static fn (array $v): bool => $v['first']), 'name');
        foreach ([$one, $two, $two] as $uid) {
            $this->putJson("/api/v1/views/{$uid}/first", ['first' => true])->assertOk();
        }
        self::assertSame(['Two'], $first());
        $this->actingAs($this->person('wen'));
        self::assertSame([], $first());
        $this->putJson("/api/v1/views/{$one}/first", ['first' => true])->assertOk();
        self::assertSame(['One'], $first());
        $this->putJson("/api/v1/views/{$one}/first", ['first' => false])->assertOk();
        self::assertSame([], $first());
        $this->actingAs($this->person('ilse'));
        $this->patchJson("/api/v1/views/{$one}", ['shared' => false])->assertOk();
        $this->actingAs($this->person('wen'));
        $this->putJson("/api/v1/views/{$one}/first", ['first' => true])->assertStatus(404);
    }

    public function test_formulas_give_values_that_follow_every_change_and_cannot_be_typed(): void
    {
        $this->actingAs($this->person('ilse'));
        $this->change([self::made('ownField', 'own-new', ['scope' => 'activity', 'name' => 'Double', 'type' => 'duration',
            'formula' => 'duration * 2'])])->assertOk();
        $value = function (string $query = '&formulas=1'): ?string {
            $own = $this->getJson('/api/v1/board/codes?projects=GRID'.$query)->assertOk()->json('own');
            foreach ($own['activity'] as $i => $activity) {
                if ($activity === 'act-grid-ca-0050' && $own['field'][$i] === 'own-new') {
                    self::assertNull($own['uid'][$i]);

                    return $own['value'][$i];
                }
            }

            return null;
        };
        $this->change([self::update('activity', 'act-grid-ca-0050', ['duration' => 5 * 480])])->assertOk();
        self::assertSame([(string) (10 * 480), null], [$value(), $value('')]);
        $this->change([self::update('activity', 'act-grid-ca-0050', ['duration' => 7 * 480])])->assertOk();
        self::assertSame((string) (14 * 480), $value());
        $this->change([self::made('ownValue', 'own-value', ['project' => 'prj-GRID', 'activity' => 'act-grid-ca-0050', 'field' => 'own-new',
            'value' => '480'])])->assertStatus(422);
        $wrong = $this->change([self::update('ownField', 'own-new', ['formula' => 'duration + durration'])])->assertStatus(422);
        self::assertStringContainsString('position 12', (string) $wrong->json('detail'));
        foreach (['totalFloat < 1', 'start'] as $other) { // of another kind than the field holds: no value
            $this->change([self::update('ownField', 'own-new', ['formula' => $other === 'start' ? '"text"' : $other])])->assertOk();
            self::assertNull($value());
        }
    }

    /** A day that no plan has is no value, at every door that shows one; so is a duration that no number holds. */
    public function test_what_a_formula_gives_beyond_the_range_is_no_value(): void
    {
        $this->actingAs($this->person('ilse'));
        $token = $this->person('ilse')->createToken('t', ['feed'])->plainTextToken;
        foreach (['date' => ['finish + 40000', 'start - 400000', 'finish + 1e300'], 'duration' => ['1e300 * 1e300', '-1e18'],
            'number' => ['1e308 * 10', '-1e308 * 10']] as $type => $formulas) {
            foreach ($formulas as $i => $formula) {
                $uid = "own-{$type}-{$i}";
                $this->change([self::made('ownField', $uid, ['scope' => 'activity', 'name' => "{$type} {$i}", 'type' => $type,
                    'formula' => $formula])])->assertOk();
                $own = $this->getJson('/api/v1/board/codes?projects=GRID&formulas=1')->assertOk()->json('own');
                $values = array_filter(array_intersect_key($own['value'], array_flip(array_keys($own['field'], $uid, true))));
                self::assertSame([], array_filter($values, static fn (string $v): bool => preg_match('/inf|nan/i', $v) === 1), $formula);
                self::assertTrue($type !== 'date' || $values === [], $formula);
                foreach (['board?projects=GRID', 'portfolio', 'health?projects=GRID',
                    'board/arrange?projects=GRID&view='.rawurlencode('{"sort":["-own:'.$uid.'"]}'),
                    "exchange/table?projects=GRID&format=csv&columns=code,own:{$uid}",
                    "exchange/table?projects=GRID&format=xlsx&columns=code,own:{$uid}"] as $path) {
                    self::assertSame(200, $this->get("/api/v1/{$path}")->status(), "{$formula}: {$path}");
                }
            }
        }
        $token = $this->person('ilse')->createToken('t', ['feed'])->plainTextToken;
        $this->flushSession();
        foreach (['$filter=Number gt 1&$top=5', '$top=500'] as $query) {
            $this->withToken($token)->get("/odata/v4/ActivityOwnValues?{$query}")->assertOk();
        }
    }
}
