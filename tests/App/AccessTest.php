<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\Branch;
use Illuminate\Http\UploadedFile;
use Illuminate\Routing\Route;
use Illuminate\Support\Facades\Route as Router;

/** Every route against every kind of caller. */
final class AccessTest extends TestCase
{
    /** method, path, does a viewer get through (else 403), body */
    private function table(): array
    {
        $root = Branch::query()->where('name', 'Fleet')->valueOrFail('id');
        $set = \App\Models\CodeSet::query()->valueOrFail('id');
        $change = ['operations' => [self::update('activity', 'act-grid-ca-0050', ['name' => 'x'])]];
        $proposal = \App\Models\ChangeSet::query()->create(['uid' => 'proposal', 'author_id' => $this->person('ilse')->id, 'source' => 'import', 'state' => 'proposed', 'operations' => $change['operations'], 'ripple' => [], 'created_at' => now()])->uid;

        $baseline = (string) \Illuminate\Support\Facades\DB::table('baselines')->value('uid');

        return [
            ['GET', 'portfolio', true, []],
            ['GET', 'board?projects=GRID', true, []],
            ['GET', 'activities/act-grid-ca-0050/reasons', true, []],
            ['GET', 'activities/act-grid-ca-0050/trace', true, []],
            ['GET', 'activities/act-grid-ca-0050/float-paths', true, []],
            ['GET', 'links/lnk-1/float-paths', true, []],
            ['GET', 'projects/prj-GRID/baselines', true, []],
            ['GET', "baselines/{$baseline}/comparison", true, []],
            ['GET', 'health?projects=GRID', true, []],
            ['GET', 'health/thresholds', true, []],
            ['GET', 'search?q=tern', true, []],
            ['GET', 'changes', true, []],
            ['GET', 'exchange/export?projects=GRID&format=plan-xml', true, []],
            ['GET', 'tokens', true, []],
            ['POST', 'tokens', true, ['name' => 'x', 'scopes' => ['feed']]],
            ['DELETE', 'tokens/999', true, []],
            ['POST', 'branches', false, ['parent' => $root, 'name' => 'New']],
            ['PATCH', "branches/{$root}", false, ['name' => 'New']],
            ['DELETE', "branches/{$root}", false, []],
            ['POST', 'code-sets', false, ['name' => 'New']],
            ['POST', "code-sets/{$set}/values", false, ['name' => 'New']],
            ['POST', 'changes', false, $change],
            ['POST', "changes/{$proposal}/undo", false, []],
            ['POST', "changes/{$proposal}/apply", false, []],
            ['POST', "changes/{$proposal}/reject", false, []],
            ['POST', 'progress', false, ['reports' => [['activity' => 'act-grid-ca-0050', 'percent' => 50]]]],
            ['POST', 'projects/prj-GRID/status-date', false, ['statusDate' => '2026-11-26T12:00']],
            ['POST', 'projects/prj-GRID/baselines', false, ['name' => 'New']],
            ['PATCH', "baselines/{$baseline}", false, ['name' => 'New']],
            ['DELETE', "baselines/{$baseline}", false, []],
            ['PUT', 'health/thresholds', false, ['checks' => []]],
            ['POST', 'exchange/import', false, ['branch' => $root, 'file' => UploadedFile::fake()->createWithContent('a.xml', '<plan/>')]],
            ['DELETE', 'session', true, []],
        ];
    }

    public function test_the_table_covers_every_route(): void
    {
        $open = ['GET session', 'POST session'];
        $shape = static fn (string $method, string $path): string => $method.' '.preg_replace(['/\?.*/', '#(?<=activities/|links/|projects/|baselines/|branches/|code-sets/|tokens/|changes/)[^/]+#'], ['', '*'], $path);
        $covered = array_map(static fn (array $row): string => $shape($row[0], $row[1]), $this->table());
        $routes = collect(Router::getRoutes()->getRoutes())->filter(static fn (Route $r): bool => str_starts_with($r->uri(), 'api/v1/'))
            ->map(static fn (Route $r): string => $r->methods()[0].' '.preg_replace('/\{[^}]+\}/', '*', substr($r->uri(), 7)))->values()->all();
        self::assertEqualsCanonicalizing($routes, [...$open, ...$covered]);
    }

    public function test_guests_get_nowhere(): void
    {
        foreach ($this->table() as [$method, $path, , $body]) {
            $this->json($method, "/api/v1/{$path}", $body)->assertStatus(401);
        }
        $this->get('/odata/v4/Projects')->assertStatus(401)->assertHeader('WWW-Authenticate');
    }

    public function test_a_viewer_reads_everything_and_writes_nothing(): void
    {
        foreach ($this->table() as [$method, $path, $allowed, $body]) {
            $this->actingAs($this->person('wen'));
            $answer = $this->json($method, "/api/v1/{$path}", $body);
            self::assertSame($allowed ? 'through' : 'refused', $answer->status() === 403 ? 'refused' : ($answer->status() < 500 ? 'through' : 'broken'), "{$method} {$path}: {$answer->status()}");
        }
    }

    public function test_tokens_do_what_they_are_made_for(): void
    {
        $viewer = $this->person('wen');
        $admin = $this->person('ilse');
        $this->flushHeaders();
        foreach ($this->table() as [$method, $path, , $body]) {
            foreach ([[$admin, ['feed']], [$admin, ['read']], [$viewer, ['write']]] as [$user, $scopes]) {
                $this->app['auth']->forgetGuards();
                $token = $user->createToken('t', $scopes)->plainTextToken;
                $answer = $this->withToken($token)->json($method, "/api/v1/{$path}", $body);
                $reads = $method === 'GET' && ! str_starts_with($path, 'tokens') && $scopes !== ['feed'];
                self::assertSame($reads ? 200 : 403, $answer->status(), "{$method} {$path} with a token for ".implode(',', $scopes)." of {$user->name}");
            }
        }
        $write = $admin->createToken('t', ['write'])->plainTextToken;
        $this->app['auth']->forgetGuards();
        $this->withToken($write)->postJson('/api/v1/changes', ['operations' => [self::update('activity', 'act-grid-ca-0050', ['name' => 'x'])]])->assertOk();
    }

    public function test_nothing_outside_the_users_branches_is_visible(): void
    {
        $this->actingAs($this->somebody('planner', 'Harbours'));
        self::assertSame(['LYNG', 'OSTV'], $this->getJson('/api/v1/portfolio')->json('projects.*.key'));
        self::assertEqualsCanonicalizing(['Harbours', 'Shore power', 'Quays'], $this->getJson('/api/v1/portfolio')->json('branches.*.name'));
        $board = $this->getJson('/api/v1/board?projects=GRID,OSTV')->assertOk();
        self::assertSame(['OSTV'], $board->json('projects.*.key'));
        self::assertSame([], $board->json('far.uid'));
        self::assertStringNotContainsString('act-grid', (string) $board->getContent());
        $this->getJson('/api/v1/activities/act-grid-ca-0050/reasons')->assertStatus(404);
        self::assertSame([], $this->getJson('/api/v1/search?q=grid')->json('projects'));
        self::assertSame([], $this->getJson('/api/v1/search?q=TERN')->json('activities'));
        $this->getJson('/api/v1/exchange/export?projects=GRID&format=plan-xml')->assertStatus(422);
        $file = (string) $this->get('/api/v1/exchange/export?projects=OSTV&format=plan-xml')->assertOk()->getContent();
        self::assertStringNotContainsString('GRID/', $file);
        self::assertStringContainsString('ELSEWHERE/1', $file);

        $ripple = $this->change([self::update('activity', 'act-ostv-to-0030', ['duration' => 90 * 480])], board: 'OSTV')->assertOk();
        self::assertSame(['OSTV'], $ripple->json('ripple.projects.*.key'));
        self::assertGreaterThan(0, $ripple->json('ripple.hidden.activities'));
        self::assertStringNotContainsString('TERN', (string) $ripple->getContent());
        self::assertStringNotContainsString('tern', (string) $ripple->getContent());
        foreach (['reasons', 'trace', 'float-paths'] as $what) {
            $answer = $this->getJson("/api/v1/activities/act-ostv-cm-0010/{$what}")->assertOk();
            self::assertDoesNotMatchRegularExpression('/grid|tern|energised|sea trial/i', (string) $answer->getContent(), $what);
        }
        $inner = (string) \Illuminate\Support\Facades\DB::table('links')->join('projects', 'projects.id', '=', 'to_project_id')->where('key', 'GRID')->value('links.uid');
        $this->getJson("/api/v1/links/{$inner}/float-paths")->assertStatus(404);
        $handover = (string) \Illuminate\Support\Facades\DB::table('links')->join('projects', 'projects.id', '=', 'to_project_id')->where('key', 'OSTV')->where('handover', 1)->value('links.uid');
        $chains = $this->getJson("/api/v1/links/{$handover}/float-paths")->assertOk();
        self::assertNull($chains->json('paths.0.activities.0.uid'));
        $this->getJson('/api/v1/activities/act-grid-ca-0050/trace')->assertStatus(404);
        $this->getJson('/api/v1/projects/prj-GRID/baselines')->assertStatus(404);
        $this->getJson('/api/v1/baselines/'.\Illuminate\Support\Facades\DB::table('baselines')->where('project_uid', 'prj-GRID')->value('uid').'/comparison')->assertStatus(404);
        $health = $this->getJson('/api/v1/health?projects=GRID,OSTV')->assertOk();
        self::assertSame(['OSTV'], $health->json('projects.*.key'));
        self::assertDoesNotMatchRegularExpression('/act-(grid|tern|gann|crew)/', (string) $health->getContent());
        $this->postJson('/api/v1/progress', ['reports' => [['activity' => 'act-grid-ca-0050', 'percent' => 50]]])->assertStatus(422);
    }

    public function test_editing_another_project_or_linking_to_an_unseen_one_is_refused(): void
    {
        $this->actingAs($this->somebody('planner', 'Harbours'));
        $this->change([self::update('activity', 'act-tern-tr-0030', ['name' => 'x'])])->assertStatus(403);
        $this->change([['verb' => 'create', 'kind' => 'link', 'uid' => 'new', 'after' => ['from' => 'act-ostv-to-0030', 'to' => 'act-tern-pr-0050']]])->assertStatus(403);
        $this->change([['verb' => 'create', 'kind' => 'link', 'uid' => 'new', 'after' => ['from' => 'act-tern-pr-0050', 'to' => 'act-ostv-cm-0060']]])->assertStatus(403);
        $this->change([self::update('project', 'prj-OSTV', ['branch' => (string) Branch::query()->where('name', 'Fleet')->value('id')])])->assertStatus(403);
        $loop = $this->change([['verb' => 'create', 'kind' => 'link', 'uid' => 'new', 'after' => ['from' => 'act-ostv-cm-0060', 'to' => 'act-ostv-cm-0010']]])->assertStatus(422);
        self::assertContains('OSTV/OSTV-CM-0060', $loop->json('chain'));
    }

    public function test_a_person_without_grants_sees_nothing(): void
    {
        $this->actingAs($this->somebody(null));
        self::assertSame([[], []], [$this->getJson('/api/v1/portfolio')->json('projects'), $this->getJson('/api/v1/portfolio')->json('branches')]);
        self::assertSame([], $this->getJson('/api/v1/changes')->json('changes'));
    }

    public function test_sign_in_is_throttled_after_failures_and_protected_against_forgery(): void
    {
        $this->getJson('/api/v1/session')->assertOk()->assertJsonPath('user', null);
        for ($i = 0; $i < 5; $i++) {
            $this->postJson('/api/v1/session', ['email' => 'wen@varnsund.example', 'password' => 'wrong'])->assertStatus(422);
        }
        $this->postJson('/api/v1/session', ['email' => 'wen@varnsund.example', 'password' => 'varnsund'])->assertStatus(429);
        $this->postJson('/api/v1/session', ['email' => 'aino@varnsund.example', 'password' => 'varnsund'])->assertOk()->assertJsonPath('user.name', 'Aino Rautio');
        self::assertContains(\Laravel\Sanctum\Http\Middleware\EnsureFrontendRequestsAreStateful::class, app(\Illuminate\Contracts\Http\Kernel::class)->getMiddlewareGroups()['api']);
    }

    public function test_every_answer_carries_security_headers(): void
    {
        foreach (['/api/v1/session', '/sign-in'] as $path) {
            $answer = $this->withoutVite()->get($path);
            self::assertStringContainsString("default-src 'self'", (string) $answer->headers->get('Content-Security-Policy'));
            $answer->assertHeader('X-Content-Type-Options', 'nosniff')->assertHeader('X-Frame-Options', 'DENY');
        }
    }

    public function test_tokens_are_stored_hashed(): void
    {
        $this->actingAs($this->person('wen'));
        $plain = (string) $this->postJson('/api/v1/tokens', ['name' => 'x', 'scopes' => ['feed']])->assertCreated()->json('token');
        self::assertStringNotContainsString('token":', (string) $this->getJson('/api/v1/tokens')->getContent());
        $this->assertDatabaseHas('personal_access_tokens', ['token' => hash('sha256', explode('|', $plain)[1])]);
    }
}
