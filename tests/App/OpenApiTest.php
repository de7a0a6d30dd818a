<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Http\UploadedFile;
use Illuminate\Testing\TestResponse;
use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Validator;
use Symfony\Component\Yaml\Yaml;

/** Answers fit docs/openapi.yaml, from which the front end's types are made. */
final class OpenApiTest extends TestCase
{
    public function test_answers_fit_the_description(): void
    {
        $this->assertFits('Session', $this->getJson('/api/v1/session'));
        $this->actingAs($this->person('ilse'));
        $this->assertFits('Session', $this->getJson('/api/v1/session'));
        $this->assertFits('Portfolio', $this->getJson('/api/v1/portfolio'));
        $this->assertFits('Board', $this->getJson('/api/v1/board?projects=GRID,OSTV'));
        $this->assertFits('Reasons', $this->getJson('/api/v1/activities/act-grid-ca-0050/reasons'));
        $this->assertFits('Trace', $this->getJson('/api/v1/activities/act-ostv-cm-0010/trace'));
        $this->assertFits('FloatPaths', $this->getJson('/api/v1/activities/act-ostv-cm-0010/float-paths'));
        $this->assertFits('Portfolio',
            $this->getJson('/api/v1/portfolio?view='.rawurlencode('{"group":["code:codeset-stage"],"empty":true}')));
        $this->assertFits('Health', $this->getJson('/api/v1/health?projects=GRID,OSTV'));
        $this->assertFits('Checks', $this->putJson('/api/v1/health/thresholds', ['checks' => ['long-lags' => ['days' => 3]]]));
        $baselines = $this->getJson('/api/v1/projects/prj-OSTV/baselines');
        $this->assertFits('BaselineList', $baselines);
        $this->assertFits('Comparison', $this->getJson("/api/v1/baselines/{$baselines->json('baselines.0.uid')}/comparison"));
        $this->assertFits('HealthMarks', $this->getJson('/api/v1/health/marks?projects=GRID,OSTV'));
        $this->assertFits('BaselineDates', $this->getJson("/api/v1/baselines/{$baselines->json('baselines.0.uid')}/dates"));
        $this->assertFits('Baseline', $this->postJson('/api/v1/projects/prj-OSTV/baselines', ['name' => 'Second']));
        $this->assertFits('ProgressAnswer',
            $this->postJson('/api/v1/progress?board=OSTV', ['reports' => [['activity' => 'act-ostv-to-0030', 'percent' => 0]]]));
        $this->assertFits('ChangeAnswer',
            $this->postJson('/api/v1/projects/prj-OSTV/status-date?board=OSTV', ['statusDate' => '2026-11-26T12:00']));
        $this->assertFits('CodeSetList', $this->getJson('/api/v1/code-sets'));
        $this->assertFits('CalendarList', $this->getJson('/api/v1/calendars'));
        $this->assertFits('SavedView', $this->postJson('/api/v1/views', ['place' => 'board', 'name' => 'Mine',
            'definition' => ['a' => 1]]));
        $this->assertFits('Composed', $this->postJson('/api/v1/compose/codings', ['rows' => [['GRID', 'Stage', 'Trial'], ['X', '', '']]]));
        $this->assertFits('SearchAnswer', $this->getJson('/api/v1/search?q=tern'));
        $change = $this->change([self::update('activity', 'act-grid-ca-0050', ['duration' => 60 * 480])], board: 'GRID,OSTV');
        $this->assertFits('ChangeAnswer', $change);
        $this->assertFits('ChangeAnswer',
            $this->change([self::update('activity', 'act-grid-ca-0050', ['duration' => 480])], ['dryRun' => true]));
        $this->assertFits('ChangeAnswer', $this->postJson("/api/v1/changes/{$change->json('changeSet')}/undo?board=GRID"));
        $this->assertFits('History', $this->getJson('/api/v1/history?project=prj-GRID'));
        $this->assertFits('History', $this->getJson('/api/v1/history?project=prj-GRID&object=act-grid-ca-0050'));
        $this->assertFits('Steps', $this->getJson('/api/v1/history/steps?projects=GRID'));
        $this->assertFits('Steps', $this->getJson('/api/v1/history/steps'));
        $this->change([self::made('codeSet', 'passing', ['scope' => 'project', 'name' => 'Passing'])])->assertOk();
        $this->change([self::gone('codeSet', 'passing')])->assertOk();
        $this->assertFits('Deleted', new TestResponse(response()->json($this->getJson('/api/v1/history/deleted')->json('deleted.0'))));
        $this->assertFits('SinceColumns', $this->getJson('/api/v1/history/since?projects=GRID&since=2026-01-01'));
        $this->assertFits('ChangeList', $this->getJson('/api/v1/changes'));
        $this->assertFits('Token', $this->postJson('/api/v1/tokens', ['name' => 'x', 'scopes' => ['feed']]));
        $this->assertFits('Token', new TestResponse(response()->json($this->getJson('/api/v1/tokens')->json('tokens.0'))));
        $this->assertFits('Subscription', $this->postJson('/api/v1/subscriptions', ['kind' => 'handovers']));
        $file = (string) $this->get('/api/v1/exchange/export?projects=GRID&format=plan-xml')->getContent();
        $this->assertFits('ImportPreview',
            $this->post('/api/v1/exchange/import',
                ['branch' => $this->branch('Archive'), 'file' => UploadedFile::fake()->createWithContent('a.xml', $file)],
                ['Accept' => 'application/json']));
        $proposed = (string) $this->getJson('/api/v1/changes?state=proposed')->json('changes.0.uid');
        $this->assertFits('ProposalBoard', $this->getJson("/api/v1/changes/{$proposed}/board"));
        $this->assertFits('Problem', $this->change([self::update('activity', 'none', [])]));
        $this->assertFits('Problem', $this->getJson('/api/v1/nowhere'));
    }

    private function assertFits(string $schema, TestResponse $answer): void
    {
        static $document = null;
        $document ??= json_decode((string) json_encode(Yaml::parseFile(base_path('docs/openapi.yaml')), JSON_UNESCAPED_SLASHES));
        $validator = new Validator;
        $validator->resolver()?->registerRaw($document, 'https://reihe.example/openapi');
        $result = $validator->validate(json_decode((string) $answer->getContent()),
            "https://reihe.example/openapi#/components/schemas/{$schema}");
        $error = $result->error();
        self::assertNull($error, $schema.': '.($error === null ? '' : (string) json_encode((new ErrorFormatter)->format($error))));
    }
}
