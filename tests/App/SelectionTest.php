<?php

declare(strict_types=1);

namespace Tests\App;

use App\Access\Reach;
use App\Board\ActivityColumns;
use App\Database\Rows;
use App\Planning\PlanStore;
use App\Portfolio\ProjectColumns;
use App\Portfolio\ProjectRows;
use App\Selection\EnterpriseColumns;
use App\Selection\SqlColumns;
use App\Selection\SqlCondition;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Selection\Column;
use Reihe\Core\Selection\Expression;
use Reihe\Core\Selection\Operator;
use Reihe\Core\Selection\Row;
use Reihe\Core\Selection\ValueKind;
use Reihe\Core\Selection\View;
use Reihe\Core\Time\Instant;

/** One expression object, evaluated in SQL and in memory: the same rows, for any expression. */
final class SelectionTest extends TestCase
{
    private const TODAY = 14_150_000;

    private const TEXTS = ['Ærø', 'ærØ', 'ΣΊΓΜΑ', 'тест', 'Shore', 'a%b_c', "o'quote", '\\', 'x ', ' ', 'ostv', 'TERN'];

    public function test_random_expressions_pass_the_same_projects_in_sql_and_in_memory(): void
    {
        mt_srand(20261126);
        $this->strangeValues();
        [$columns, $rows] = $this->projects();
        $this->compare($columns, $rows, ProjectColumns::FROM, 'p.uid', 1500);
    }

    public function test_random_expressions_pass_the_same_activities_in_sql_and_in_memory(): void
    {
        mt_srand(20261127);
        $this->strangeValues();
        [$plan, $ids] = PlanStore::load([]);
        $columns = new ActivityColumns(new EnterpriseColumns($plan, Reach::of($this->person('ilse'))), $ids);
        $trees = array_values(array_filter(array_keys($columns->columns()), static fn (string $c): bool => str_starts_with($c, 'code:')));
        $this->compare($columns, $columns->rows('1', $trees), ActivityColumns::FROM, 'a.uid', 300);
    }

    /**
     * @param  list<Row>  $rows
     */
    private function compare(SqlColumns $columns, array $rows, string $from, string $uid, int $times): void
    {
        $condition = new SqlCondition($columns, self::TODAY);
        $passed = $refused = 0;
        for ($i = 0; $i < $times; $i++) {
            $written = $this->expression($columns->columns(), 3);
            $expression = Expression::read($written, $columns->columns());
            $memory = array_values(array_map(static fn (Row $r): string => $r->uid, array_filter($rows,
                static fn (Row $r): bool => $expression->matches($r->values, $columns->columns(), self::TODAY))));
            $sql = array_column(Rows::all("SELECT {$uid} FROM {$from} WHERE {$condition->of($expression)}"), 0);
            self::assertEqualsCanonicalizing($memory, $sql, (string) json_encode($written, JSON_UNESCAPED_UNICODE));
            self::assertEquals($expression, Expression::read($expression->toArray(), $columns->columns()), 'written and read again');
            $passed += count($memory);
            $refused += count($rows) - count($memory);
        }
        self::assertGreaterThan($times, $passed, 'expressions that let something pass');
        self::assertGreaterThan($times, $refused);
    }

    /** @return array{ProjectColumns, list<Row>} */
    private function projects(): array
    {
        [$plan, $ids] = PlanStore::load([]);
        $enterprise = new EnterpriseColumns($plan, Reach::of($this->person('ilse')));
        $columns = new ProjectColumns($enterprise, $ids);
        $rows = new ProjectRows(Reach::of($this->person('ilse')), $columns, $plan, $enterprise->dayLengths(), new View(archived: true),
            self::TODAY);

        return [$columns, $rows->arranged()];
    }

    /** Names, leads, dates and codes at the edges. */
    private function strangeValues(): void
    {
        foreach (DB::table('projects')->orderBy('id')->pluck('id') as $i => $id) {
            DB::table('projects')->where('id', $id)->update(['name' => self::TEXTS[$i % count(self::TEXTS)].self::TEXTS[($i * 5 + 3) % 12],
                'lead' => [null, '', 'Åse', 'x '][$i % 4], 'status_date' => $i % 2 ? self::TODAY + $i * 1440 : null,
                'deadline' => $i % 3 ? self::TODAY + ($i - 2) * 5000 : null]);
        }
        DB::table('code_sets')->where('uid', 'codeset-stage')->update(['multiple' => true]);
        $entry = DB::table('code_entries')->where('uid', 'entry-stage-trial')->value('id');
        foreach (DB::table('projects')->where('key', '>', 'L')->pluck('id') as $n => $id) {
            DB::table('codings')->insert(['uid' => "more-{$n}", 'project_id' => $id, 'entry_id' => $entry]);
        }
    }

    /**
     * @param  array<string, Column>  $columns
     * @return array<string, mixed>
     */
    private function expression(array $columns, int $depth): array
    {
        $how = $depth === 0 ? 3 : mt_rand(0, 6);
        if ($how < 2) {
            $parts = [];
            for ($n = mt_rand(0, 3); $n > 0; $n--) {
                $parts[] = $this->expression($columns, $depth - 1);
            }

            return [$how === 0 ? 'all' : 'any' => $parts];
        }
        if ($how === 2) {
            return ['not' => $this->expression($columns, $depth - 1)];
        }
        $column = $columns[array_rand($columns)];
        $operators = $column->kind->operators();
        $operator = $operators[array_rand($operators)];
        $test = ['field' => $column->name, 'is' => $operator->value];
        $like = array_filter($columns, static fn (Column $c): bool => $c->kind === $column->kind && $c->scale === $column->scale);
        if ($operator->compares() && in_array($column->kind, [ValueKind::Moment, ValueKind::Number], true) && mt_rand(0, 2) === 0) {
            return $test + ['other' => array_rand($like)];
        }

        return $operator === Operator::Empty ? $test : $test + ['value' => $this->value($column, $operator)]
            + ($column->kind === ValueKind::Tree && mt_rand(0, 1) === 0 ? ['below' => false] : []);
    }

    private function value(Column $column, Operator $operator): mixed
    {
        return match ($column->kind) {
            ValueKind::Text => self::TEXTS[array_rand(self::TEXTS)],
            ValueKind::Number => [0, 1, -3, 0.5, 0.1, 12.25, 33, 100, 1e6][mt_rand(0, 8)],
            ValueKind::Flag => mt_rand(0, 1) === 1,
            ValueKind::Moment => $operator === Operator::Next || $operator === Operator::Last ? ['1d', '3w', '40w'][mt_rand(0, 2)]
                : Instant::format(self::TODAY + mt_rand(-100, 200) * 720),
            ValueKind::Choice => [$column->words[array_rand($column->words)]],
            ValueKind::Tree => array_map(strval(...), (array) array_rand($column->parents, mt_rand(1, min(2, count($column->parents))))),
        };
    }

    public function test_views_of_the_portfolio_group_by_three_levels_and_sort(): void
    {
        $this->actingAs($this->person('ilse'));
        $ask = fn (array $view) => $this->getJson('/api/v1/portfolio?view='.rawurlencode((string) json_encode($view)));
        $answer = $ask(['group' => ['code:codeset-district', 'code:codeset-stage', 'critical'], 'sort' => ['-finish']])->assertOk();
        $bands = collect($answer->json('bands'))->keyBy('id');
        $build = $bands['entry-district-inner entry-stage-build'];
        self::assertSame([3, []], [$build['count'], $build['projects']], 'below it is another level');
        self::assertSame($build['id'], $bands['entry-district-inner entry-stage-build entry-stage-build-civil']['parent']);
        $deepest = $bands->filter(static fn (array $b): bool => $b['field'] === 'critical' && $b['count'] > 0);
        self::assertSame(6, $deepest->sum('count'));
        self::assertSame(['code:codeset-district', null, 1], [$bands['-']['field'], $bands['-']['name'], $bands['-']['count']]);
        $finishes = array_column($answer->json('projects'), 'finish');
        $sorted = $finishes;
        rsort($sorted);
        self::assertSame($sorted, $finishes);
        // in several bands, counted once above
        $this->change([self::update('codeSet', 'codeset-stage', ['multiple' => true]),
            self::made('coding', 'second', ['project' => 'prj-OSTV', 'entry' => 'entry-stage-build-electrical'])])->assertOk();
        $bands = collect($ask(['group' => ['code:codeset-stage']])->json('bands'))->keyBy('id');
        self::assertSame([['prj-OSTV'], 4], [$bands['entry-stage-build entry-stage-build-civil']['projects'],
            $bands['entry-stage-build']['count']]);
        self::assertContains('prj-OSTV', $bands['entry-stage-build entry-stage-build-electrical']['projects']);
        $ask(['group' => ['nothing']])->assertStatus(422)->assertJsonPath('errors.0.pointer', '/group/0');
        $ask(['filter' => ['all' => [['field' => 'finish', 'is' => 'contains', 'value' => 'x']]]])->assertStatus(422)
            ->assertJsonPath('errors.0.pointer', '/filter/all/0/is');
        $this->getJson('/api/v1/portfolio?view={')->assertStatus(422);
    }

    public function test_activities_of_a_board_are_arranged_with_roll_ups(): void
    {
        $this->actingAs($this->person('ilse'));
        $this->change([self::made('codeSet', 'disc', ['scope' => 'activity', 'name' => 'Discipline']),
            self::made('entry', 'steel', ['codeSet' => 'disc', 'name' => 'Steel']),
            self::made('coding', 'c1', ['project' => 'prj-TERN', 'activity' => 'act-tern-hu-0040', 'entry' => 'steel']),
            self::made('coding', 'c2', ['project' => 'prj-GANN', 'activity' => 'act-gann-hu-0040', 'entry' => 'steel'])])->assertOk();
        $ask = fn (array $view) => $this->getJson('/api/v1/board/arrange?projects=TERN,GANN&view='
            .rawurlencode((string) json_encode($view)));
        $answer = $ask(['group' => ['code:disc', 'project'], 'filter' => ['field' => 'kind', 'is' => 'is',
            'value' => ['task']]])->assertOk();
        $bands = collect($answer->json('bands'))->keyBy('id');
        self::assertSame([2, 'Steel'], [$bands['steel']['count'], $bands['steel']['name']]);
        self::assertSame(['act-gann-hu-0040'], $bands['steel GANN']['projects']);
        $dates = DB::table('activity_dates')->join('activities', 'activities.id', '=', 'activity_id')
            ->whereIn('uid', ['act-tern-hu-0040', 'act-gann-hu-0040'])->get();
        // both on a calendar of twelve hours; a band counts in days of eight
        self::assertSame([$dates->min('start'), $dates->max('finish'), $dates->min('total_float') * 480 / 720],
            [$bands['steel']['start'], $bands['steel']['finish'], $bands['steel']['totalFloat']]);
        $sorted = $ask(['filter' => ['field' => 'code:disc', 'is' => 'is', 'value' => ['steel']], 'sort' => ['-start']])->json('uids');
        self::assertSame(['act-gann-hu-0040', 'act-tern-hu-0040'], $sorted);
        $codes = $this->getJson('/api/v1/board/codes?projects=TERN')->assertOk();
        self::assertContains('c1', $codes->json('codings.uid'));
        self::assertNotContains('c2', $codes->json('codings.uid'));
    }

    /** A name out of reach never shows: not in bands, filters, counts or offered columns. */
    public function test_what_is_out_of_reach_is_in_no_band_filter_or_count(): void
    {
        $this->actingAs($this->somebody('contributor', 'Fleet'));
        $hidden = DB::table('branches')->where('uid', $this->branch('Harbours'))->value('uid');
        foreach ([['group' => ['branch', 'code:codeset-stage'], 'empty' => true], ['group' => ['lead']],
            ['filter' => ['field' => 'branch', 'is' => 'is', 'value' => [$hidden]]],
            ['filter' => ['not' => ['field' => 'branch', 'is' => 'is', 'value' => [$hidden]]]]] as $view) {
            $text = (string) $this->getJson('/api/v1/portfolio?view='.rawurlencode((string) json_encode($view)))->assertOk()->getContent();
            foreach (['Harbours', 'Shore power', 'OSTV', 'Grid and energy', 'branch-harbours'] as $name) {
                self::assertStringNotContainsString($name, $text);
            }
        }
        $uses = $this->getJson('/api/v1/code-sets')->assertOk();
        self::assertSame([1, true], [$uses->json('uses.entry-district-outer'), $uses->json('usedBeyond.entry-district-outer')],
            'Gannet is seen, Lyngholm is not');
    }
}
