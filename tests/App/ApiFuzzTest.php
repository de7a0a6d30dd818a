<?php

declare(strict_types=1);

namespace Tests\App;

use App\OData\Model;
use Illuminate\Log\Events\MessageLogged;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Event;
use Reihe\Core\Plan\EntityKind;
use Symfony\Component\Yaml\Yaml;

/**
 * Requests of any shape end in an answer or in a problem document, never in an error of the server: every route of
 * docs/openapi.yaml with arrays for scalars, wrong types, extremes and odd texts; every field of every kind of object.
 */
final class ApiFuzzTest extends TestCase
{
    private const TEXTS = ['', ' ', '0', '-1', '99999999999999999999', "a\0b", "\u{FFFE}", 'é', '🚢', '../x', "'", '%', 'null',
        '2026-02-30T25:61', '9999-12-31', 'GRID'];

    private int $cases = 0;

    private int $turn = 0;

    /** @var list<string> */
    private array $logged = [];

    protected function setUp(): void
    {
        parent::setUp();
        config(['app.debug' => false]);
        Event::listen(MessageLogged::class, function (MessageLogged $m): void {
            $this->logged[] = $m->message;
        });
        $this->actingAs($this->person('ilse'));
    }

    public function test_every_route_takes_every_shape(): void
    {
        foreach ($this->paths() as $path => $methods) {
            foreach ($methods as $method => $operation) {
                if (in_array($method, ['get', 'post', 'patch', 'put', 'delete'], true)
                    && ! ($path === '/session' && $method === 'delete')) {
                    $this->shapes($path, $method, $operation);
                }
            }
        }
        self::assertSame([], $this->logged);
        self::assertGreaterThan(900, $this->cases);
    }

    public function test_every_field_of_every_kind_takes_every_value(): void
    {
        $uids = ['calendar' => 'cal-office', 'project' => 'prj-GRID', 'wbs' => 'wbs-grid-ca', 'branch' => $this->branch('Quays'),
            'codeSet' => 'codeset-stage', 'entry' => 'entry-stage-build', 'coding' => 'coding-grid-stage',
            'assignment' => 'work-act-grid-ca-0050',
            'activity' => 'act-grid-ca-0050', 'link' => (string) DB::table('links')->where('handover', 1)->value('uid')];
        $this->change([['verb' => 'create', 'kind' => 'remark', 'uid' => 'rem-1',
            'after' => ['project' => $uids['project'], 'activity' => $uids['activity'], 'text' => 'x']]])->assertOk();
        $uids['remark'] = 'rem-1';
        $uids += ['ownField' => 'own', 'ownValue' => 'value', 'levelScheme' => 'scheme', 'levelCode' => 'code', 'openEnd' => 'end',
            'foreign' => 'foreign',
            'insertion' => 'put', 'resource' => 'res'];
        $this->change([self::made('resource', 'res', ['key' => 'RES', 'calendar' => 'cal-office']),
            self::made('ownField', 'own', ['scope' => 'project', 'name' => 'Own']),
            self::made('ownValue', 'value', ['project' => 'prj-GRID', 'field' => 'own', 'value' => 'x']),
            self::made('levelScheme', 'scheme', ['name' => 'Levels']),
            self::made('levelCode', 'code', ['scheme' => 'scheme', 'level' => 1, 'code' => 'A', 'name' => 'A']),
            self::made('foreign', 'foreign', ['project' => 'prj-GRID', 'format' => 'xml', 'content' => '<x/>']),
            self::made('openEnd', 'end', ['activity' => $uids['activity'], 'side' => 'successor']),
            self::made('insertion', 'put', ['project' => 'prj-GRID', 'fragment' => 'f', 'name' => 'F', 'version' => 1])])->assertOk();
        $ids = DB::table('projects')->pluck('id')->all();
        $plan = \App\Planning\PlanStore::load($ids)[0];
        foreach (EntityKind::cases() as $kind) {
            $fields = $plan->find($kind, $uids[$kind->value])?->fields() ?? [];
            foreach ([...array_keys($fields), 'nonsense'] as $field) {
                foreach ($this->some($this->values()) as $value) {
                    $this->ask('post', 'changes',
                        ['operations' => [['verb' => 'update', 'kind' => $kind->value, 'uid' => $uids[$kind->value],
                            'after' => [$field => $value]]], 'dryRun' => true]);
                }
                $this->ask('post', 'changes',
                    ['operations' => [['verb' => 'create', 'kind' => $kind->value, 'uid' => 'new',
                        'after' => array_diff_key($fields, [$field => 0])]], 'dryRun' => true]);
                $this->ask('post', 'changes',
                    ['operations' => [['verb' => 'update', 'kind' => $kind->value, 'uid' => $uids[$kind->value],
                        'before' => [$field => ['odd' => []]], 'after' => [$field => 'x']]], 'dryRun' => true]);
            }
        }
        self::assertSame([], $this->logged);
        self::assertGreaterThan(600, $this->cases);
    }

    public function test_feeds_take_every_filter(): void
    {
        $token = $this->person('ilse')->createToken('t', ['feed'])->plainTextToken;
        $this->app['auth']->forgetGuards();
        $tries = ['$filter' => ['null eq Deadline', 'contains(Name,\'x\') and true eq Critical', 'true eq Critical', 'Name eq null', 'not',
            '((((', 'Start gt 5', 'Start gt 2026-01-01', 'contains(null,null)', 'length(Name) gt 1e999', 'year(Start) eq 2026',
            'year(Name) eq 1',
            str_repeat('(', 3000).'true'.str_repeat(')', 3000), str_repeat('not ', 5000).'true',
            'Name in ('.implode(',', array_fill(0, 3000, "'x'")).')', "'x' eq 'x'", '1 eq 1',
            'Duration eq duration\'P99999999999999999999W\'', 'Key eq \'é\''],
            '$expand' => [str_repeat('Activities($expand=Project($expand=', 12).str_repeat('))', 12), 'Activities,Activities', 'Nothing',
                'Activities(', 'Activities($top=-1)', 'Activities($filter=null eq Deadline)'],
            '$orderby' => ['', 'Name desc asc', 'Nothing', 'Name,Name', '1'], '$top' => ['-1', '99999999999', 'x', '0'],
            '$skip' => ['-1', '999999999', ''], '$select' => ['*', 'Nothing', ',,,'], '$count' => ['yes', 'true'],
            '$format' => ['xml', 'json']];
        foreach ([...array_keys(Model::sets()), 'Nothing', 'Projects(\'x\')', 'Projects(\'\'\'\')', '$batch', 'Projects/$count'] as $set) {
            $this->travel(1)->minutes(); // only so many questions a minute

            foreach ($tries as $option => $texts) {
                foreach ($texts as $text) {
                    $this->app['auth']->forgetGuards();
                    $answer = $this->withToken($token)->get("/odata/v4/{$set}?".http_build_query([$option => $text]));
                    self::assertLessThan(502, $answer->status(), "{$set} {$option}={$text}: {$answer->getContent()}");
                    self::assertNotSame(500, $answer->status(), "{$set} {$option}=".mb_substr($text, 0, 80).": {$answer->getContent()}");
                    $this->cases++;
                }
            }
            self::assertContains($this->withToken($token)->get("/odata/v4/{$set}?\$filter[]=x&a[b]=c")->status(), [400, 404], $set);
        }
        self::assertSame([], $this->logged);
    }

    /** @param  array<string, mixed>  $operation */
    private function shapes(string $path, string $method, array $operation): void
    {
        $plain = preg_replace('/\{[^}]+\}/', 'x', ltrim($path, '/'));
        foreach (str_contains($path, '{') ? $this->some(self::TEXTS) : [] as $text) {
            $this->ask($method, (string) preg_replace('/\{[^}]+\}/', rawurlencode($text), ltrim($path, '/')));
        }
        foreach ($operation['parameters'] ?? [] as $parameter) {
            $name = $parameter['name'] ?? basename((string) ($parameter['$ref'] ?? ''));
            foreach ($this->some(self::TEXTS) as $text) {
                $this->ask($method, "{$plain}?".http_build_query([$name => $text]));
            }
            foreach (["{$name}[]=", "{$name}[a][b]=c", "{$name}=%FF%FE", "{$name}=".str_repeat('x', 5000)] as $query) {
                $this->ask($method, "{$plain}?{$query}");
            }
        }
        if ($method === 'get') {
            return;
        }
        $schema = $operation['requestBody']['content']['application/json']['schema']
            ?? $operation['requestBody']['content']['multipart/form-data']['schema'] ?? ['properties' => []];
        $names = array_keys($schema['properties'] ?? []);
        foreach ([[], ['x' => 'y'], [[[]]], array_fill_keys($names, []), array_fill_keys($names, null), array_fill_keys($names, 'x'),
            array_fill_keys($names, PHP_INT_MAX)] as $body) {
            $this->ask($method, $plain, $body);
        }
        foreach ($names as $name) {
            foreach ($this->some($this->values()) as $i => $value) {
                $this->ask($method, $plain, [$name => $value] + array_fill_keys($names, 'x'));
                $i % 2 > 0 ?: $this->ask($method, $plain, [$name => [$value]]);
            }
        }
        foreach (['', '{', '"x"', '[1', "\xFF\xFE", str_repeat('[', 600), 'null', '{"a":1e999}'] as $raw) {
            $this->raw($method, (string) $plain, $raw);
        }
    }

    /**
     * Every field meets a quarter of the odd values, the next field the next, so that every operation and every kind meets all;
     * with REIHE_SWEEP=1 every field meets all.
     *
     * @template T
     *
     * @param  list<T>  $values
     * @return list<T>
     */
    private function some(array $values): array
    {
        $turn = $this->turn++ % 4;

        return getenv('REIHE_SWEEP') === '1' ? $values : array_values(array_filter($values,
            static fn (int $i): bool => $i % 4 === $turn, ARRAY_FILTER_USE_KEY));
    }

    /** @return list<mixed> */
    private function values(): array
    {
        return [null, true, false, 0, -1, 0.5, 1e308, PHP_INT_MAX, PHP_INT_MIN, [], ['a' => 'b'], [[['x']]], '2026-12-01T08:00',
            str_repeat('x', 300), "a\0b", '🚢', '9999-12-31', '-1', '', ' ', 'é', 'Ⅷ', "\u{202E}", '0', '1e3', 'true', [''], [null], ['é'],
            [['']], ['' => ''], ['uid' => '']];
    }

    /** @param  array<array-key, mixed>  $body */
    private function ask(string $method, string $path, array $body = []): void
    {
        DB::beginTransaction();
        $answer = $this->json(strtoupper($method), "/api/v1/{$path}", $body);
        DB::rollBack();
        $this->judge($answer, "{$method} {$path} ".mb_substr((string) json_encode($body, JSON_PARTIAL_OUTPUT_ON_ERROR), 0, 300));
    }

    private function raw(string $method, string $path, string $body): void
    {
        DB::beginTransaction();
        $answer = $this->call(strtoupper($method), "/api/v1/{$path}",
            server: $this->transformHeadersToServerVars(['Content-Type' => 'application/json', 'Accept' => 'application/json']),
            content: $body);
        DB::rollBack();
        $this->judge($answer, "{$method} {$path} raw ".mb_substr($body, 0, 50));
    }

    private function judge(\Illuminate\Testing\TestResponse $answer, string $what): void
    {
        $this->cases++;
        self::assertLessThan(500, $answer->status(), "{$what}: {$answer->getContent()}");
        if ($answer->status() >= 400) {
            self::assertSame('application/problem+json', $answer->headers->get('Content-Type'), $what);
            self::assertIsString($answer->json('detail'), $what);
        }
        // dates that a new calendar would give are no field's fault
        if ($answer->status() === 422 && $answer->json('type') === 'urn:reihe:problem:invalid'
            && ! str_contains((string) $answer->json('detail'), 'a date falls outside')) {
            self::assertMatchesRegularExpression('#^/.#', (string) ($answer->json('errors.0.pointer') ?? "/{$answer->json('field')}"),
                "{$what} names no field: {$answer->getContent()}");
        }
    }

    /** @return array<string, array<string, array<string, mixed>>> */
    private function paths(): array
    {
        /** @var array{paths: array<string, array<string, array<string, mixed>>>} $document */
        $document = Yaml::parseFile(base_path('docs/openapi.yaml'));

        return $document['paths'];
    }
}
