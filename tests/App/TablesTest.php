<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Illuminate\Testing\TestResponse;
use PHPUnit\Framework\Attributes\TestWith;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\OwnValue;
use Reihe\Formats\Table\TableReader;

/** Tables out, and in again: merged they change nothing. */
final class TablesTest extends TestCase
{
    private const COLUMNS = 'code,name,duration,start,finish,deadline,predecessors';

    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
    }

    #[TestWith(['xlsx', 'text'])]
    #[TestWith(['ods', 'days'])]
    #[TestWith(['csv', 'text'])]
    public function test_a_table_of_a_project_merged_changes_nothing(string $format, string $durations): void
    {
        foreach (['GRID', 'TERN'] as $key) {
            $columns ??= $this->columns();
            $file = $this->table($format, "projects={$key}&durations={$durations}", $columns)->assertOk();
            $text = $this->sheets((string) $file->getContent(), "a.{$format}")->assertOk()->json('sheets.0.text');
            $answer = $this->paste(['project' => "prj-{$key}", 'text' => $text, 'merge' => 'code'])->assertOk();
            self::assertSame(['new' => 0, 'changed' => 0, 'missing' => 0], array_intersect_key($answer->json('states'),
                ['new' => 0, 'changed' => 0, 'missing' => 0]), json_encode(array_filter($answer->json('rows'),
                    static fn (array $r): bool => $r['state'] !== 'unchanged')) ?: '');
            self::assertGreaterThan(10, $answer->json('states.unchanged'));
            self::assertSame([0, 0], [$answer->json('operations'), $answer->json('dates.differ')]);
            self::assertGreaterThan(10, $answer->json('dates.same'));
        }
    }

    /** All columns that are read again, with own fields of every type and a code set, which some activities have. */
    private function columns(): string
    {
        $values = ['text' => 'a word', 'number' => '12.5', 'date' => '2027-03-01T00:00', 'choice' => 'Good', 'duration' => '960',
            'flag' => 'true'];
        $operations = [self::made('codeSet', 'x-set', ['scope' => 'activity', 'key' => 'WHO', 'name' => 'Contractor']),
            self::made('entry', 'x-yard', ['codeSet' => 'x-set', 'key' => 'YARD', 'name' => 'The yard'])];
        foreach (array_keys($values) as $type) {
            $operations[] = self::made('ownField', "x-{$type}", ['scope' => 'activity', 'key' => strtoupper($type), 'name' => "Of {$type}",
                'type' => $type, 'choices' => $type === 'choice' ? [['name' => 'Good'], ['name' => 'Bad']] : []]);
        }
        $this->change($operations)->assertOk();
        $operations = [];
        foreach (DB::table('activities as a')->join('projects as p', 'p.id', '=', 'a.project_id')->whereIn('p.key', ['GRID', 'TERN'])
            ->get(['a.uid', 'p.uid as project']) as $i => $row) {
            foreach ($i % 3 === 0 ? $values : [] as $type => $value) {
                $operations[] = self::made('ownValue', "v-{$i}-{$type}", ['project' => $row->project, 'activity' => $row->uid,
                    'field' => "x-{$type}", 'value' => $value]);
            }
            $i % 4 !== 0 ?: $operations[] = self::made('coding', "c-{$i}", ['project' => $row->project, 'activity' => $row->uid,
                'entry' => 'x-yard']);
        }
        $this->change($operations)->assertOk();

        return self::COLUMNS.',progress,actualStart,actualFinish,remaining,cost,code:x-set,'
            .implode(',', array_map(static fn (string $type): string => "own:x-{$type}", array_keys($values)));
    }

    public function test_what_a_table_says_of_progress_cost_and_own_fields_comes_in(): void
    {
        $this->columns();
        $code = $this->plan()->activities['act-grid-ca-0050']->code;
        $text = "Code\tDone\tStarted\tCost\tOf choice\n{$code}\t30 %\t2026-11-02\t1 250,50\tBAD\n";
        $answer = $this->paste(['project' => 'prj-GRID', 'text' => $text, 'merge' => 'code', 'dryRun' => false])->assertOk();
        self::assertSame([], array_values(array_filter(array_column($answer->json('rows.0.cells'), 'wrong'))));
        $plan = $this->plan();
        $a = $plan->activities['act-grid-ca-0050'];
        self::assertSame(['2026-11-02T08:00', (int) round($a->duration * 0.7)], [$a->fields()['actualStart'], $a->remaining]);
        self::assertSame(125_050, AssignedWork::on($plan, $a->uid)->cost);
        self::assertContains('Bad', array_map(static fn (OwnValue $v): string => $v->activity === $a->uid && $v->field === 'x-choice'
            ? $v->value : '', $plan->ownValues));
        self::assertSame(1, $this->paste(['project' => 'prj-GRID', 'text' => $text, 'merge' => 'code'])->json('states.unchanged'));
        $this->postJson("/api/v1/changes/{$answer->json('changeSet')}/undo")->assertOk();
        self::assertNull(AssignedWork::on($this->plan(), $a->uid)->cost);
    }

    public function test_rows_are_merged_in_one_step_that_is_undone(): void
    {
        $before = $this->plan();
        $text = "Code\tName\tDuration\tPredecessors\nGRID-CA-0010\tDrums delivered by barge\t12d\t\nNEW-1\tExtra\t2d\tGRID-CA-0010\n";
        $answer = $this->paste(['project' => 'prj-GRID', 'text' => $text, 'merge' => 'code', 'dryRun' => false])->assertOk();
        self::assertSame([1, 1, 0], [$answer->json('states.new'), $answer->json('states.changed'), $answer->json('states.unchanged')]);
        self::assertSame('Drums delivered by barge', $this->plan()->activities['act-grid-ca-0010']->name);
        self::assertGreaterThan(10, $answer->json('states.missing'));
        $this->postJson("/api/v1/changes/{$answer->json('changeSet')}/undo")->assertOk();
        self::assertEquals($before->activities, $this->plan()->activities);
    }

    public function test_columns_rows_and_views(): void
    {
        $all = TableReader::read((string) $this->table('xlsx', 'projects=GRID,OSTV&rows=all&durations=hours',
            'project,path,name,totalFloat,critical,'
            .'progress,calendar,work')->getContent(), 'a.xlsx')[0]->rows;
        self::assertSame(['Project', 'WBS path', 'Name', 'Total float h', 'Critical', 'Progress', 'Calendar', 'Remaining work h'],
            array_slice($all[1]['cells'], 0, 8));
        self::assertSame(['GRID', '', 'Ostvik grid connection'], array_slice($all[2]['cells'], 0, 3));
        self::assertContains('OSTV', array_column(array_column($all, 'cells'), 0));
        $view = $this->postJson('/api/v1/views', ['place' => 'board', 'name' => 'Critical',
            'definition' => ['filter' => ['field' => 'critical',
                'is' => 'is', 'value' => true]]])->assertCreated()->json('uid');
        $some = TableReader::read((string) $this->table('csv', "projects=GRID&view={$view}", 'code,critical')->assertOk()->getContent(),
            'a.csv')[0];
        self::assertSame(['yes'], array_values(array_unique(array_column(array_slice(array_column($some->rows, 'cells'), 1), 1))));
        foreach (['projects=GRID&columns=nothing&format=csv' => 'nothing', 'projects=NONE&columns=code&format=csv' => 'exist',
            'projects=GRID&columns=code&format=doc' => 'format'] as $query => $word) {
            self::assertStringContainsString($word, (string) $this->getJson("/api/v1/exchange/table?{$query}")->assertStatus(422)
                ->json('detail'));
        }
    }

    public function test_a_table_names_nothing_that_is_out_of_reach(): void
    {
        $this->actingAs($this->somebody('viewer', 'Harbours'));
        $text = (string) $this->table('csv', 'projects=OSTV', 'code,predecessors,successors')->assertOk()->getContent();
        self::assertStringContainsString('another project', $text);
        self::assertStringNotContainsString('GRID', $text);
        $this->getJson('/api/v1/exchange/table?projects=GRID&columns=code&format=csv')->assertStatus(422);
    }

    public function test_a_recipe_is_kept_for_tables(): void
    {
        $this->postJson('/api/v1/views', ['place' => 'table', 'name' => 'From the yard', 'definition' => ['headings' => 'a\tb']])
            ->assertCreated();
        $this->postJson('/api/v1/views', ['place' => 'export', 'name' => 'For the yard', 'definition' => ['without' => ['people']]])
            ->assertCreated();
        $this->postJson('/api/v1/views', ['place' => 'kitchen', 'name' => 'None', 'definition' => ['a' => 1]])->assertStatus(422);
        self::assertSame(['For the yard'], $this->getJson('/api/v1/views?place=export')->json('views.*.name'));
        self::assertSame('From the yard', $this->getJson('/api/v1/views?place=table')->json('views.0.name'));
        self::assertSame([], $this->getJson('/api/v1/views?place=board')->json('views'));
    }

    private function table(string $format, string $query, string $columns = self::COLUMNS): TestResponse
    {
        return $this->get("/api/v1/exchange/table?format={$format}&columns={$columns}&{$query}", ['Accept' => 'application/json']);
    }

    private function sheets(string $content, string $name): TestResponse
    {
        return $this->post('/api/v1/exchange/sheets', ['file' => UploadedFile::fake()->createWithContent($name, $content)],
            ['Accept' => 'application/json']);
    }

    /** @param  array<string, mixed>  $wish */
    private function paste(array $wish): TestResponse
    {
        return $this->postJson('/api/v1/compose/paste', $wish + ['dryRun' => true]);
    }
}
