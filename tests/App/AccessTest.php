<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\BackgroundJob;
use App\Models\ChangeSet;
use Illuminate\Http\UploadedFile;
use Illuminate\Routing\Route;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Route as Router;
use Illuminate\Testing\TestResponse;
use PHPUnit\Framework\Attributes\TestWith;
use Reihe\Core\Plan\Role;

/** Every route against every kind of caller. */
final class AccessTest extends TestCase
{
    /** Objects of one place: in the branch of the caller, in another one, or nowhere. */
    private const PLACES = ['own', 'other', 'absent'];

    /**
     * method, path, role needed on the branch (null: any user; `root`: administrator of the root, where what it changes belongs), body;
     * `P` stands for a project, `A` for an activity, `L` for a link,
     * `B` for a branch, `U` for a user, `S` for a baseline, `C` for a change set, `K` for a project key, `J` for a job
     *
     * @return list<array{string, string, string|null, array<string, mixed>}>
     */
    private function table(): array
    {
        return [
            ['GET', 'portfolio', null, []],
            ['GET', 'project-key?name=Quay', null, []],
            ['GET', 'board?projects=K', null, []],
            ['POST', 'board/news', null, ['projects' => ['K'], 'since' => []]],
            ['GET', 'board/arrange?projects=K&view={}', null, []],
            ['GET', 'board/codes?projects=K', null, []],
            ['GET', 'board/assignments?projects=K', null, []],
            ['GET', 'activities/A/objects/openEnd', 'viewer', []],
            ['GET', 'remarks/activity/A', 'viewer', []],
            ['POST', 'compose/parts', 'viewer', ['projects' => ['P']]],
            ['GET', 'remarks/project/P', 'viewer', []],
            ['GET', 'remarks/branch/B', 'viewer', []],
            ['GET', 'branches/B/people', 'viewer', []],
            ['PUT', 'branches/B/remarks/remark-of-branch', 'planner', ['text' => 'x']],
            ['PATCH', 'branches/B/remarks/said-of-branch', 'planner', ['done' => true]],
            ['GET', 'todos', null, []],
            ['GET', 'activities/A/identities', 'viewer', []],
            ['GET', 'activities/A/reasons', 'viewer', []],
            ['POST', 'changes', 'planner', ['operations' => [['verb' => 'create', 'kind' => 'remark', 'uid' => 'remark-1',
                'after' => ['project' => 'P', 'activity' => 'A', 'text' => 'x']]]]],
            ['POST', 'changes', 'planner', ['operations' => [self::made('assignment', 'new', ['activity' => 'A', 'cost' => 5])]]],
            ['GET', 'activities/A/trace', 'viewer', []],
            ['GET', 'activities/A/float-paths', 'viewer', []],
            ['GET', 'links/L/float-paths', 'viewer', []],
            ['GET', 'projects/P/baselines', 'viewer', []],
            ['GET', 'baselines/S/comparison', 'viewer', []],
            ['GET', 'baselines/S/dates', 'viewer', []],
            ['GET', 'health?projects=K', null, []],
            ['GET', 'health/marks?projects=K', null, []],
            ['GET', 'health/thresholds', null, []],
            ['POST', 'health/waivers', 'planner', ['project' => 'P', 'check' => 'long-durations', 'activities' => ['A'], 'reason' => 'x']],
            ['GET', 'search?q=K', null, []],
            ['GET', 'views?place=portfolio', null, []],
            ['POST', 'views', null, ['place' => 'portfolio', 'name' => 'New', 'definition' => ['group' => ['branch']]]],
            ['PATCH', 'views/J', null, ['name' => 'New']],
            ['PUT', 'views/J/first', null, ['first' => true]],
            ['DELETE', 'views/J', null, []],
            ['GET', 'access/shift?kind=branch&uid=B&to=B', 'administrator', []],
            ['GET', 'access/shift?kind=project&uid=P&to=B', 'planner', []],
            ['GET', 'access/shift?kind=merge&uid=B&to=B', 'planner', []],
            ['GET', 'code-sets', null, []],
            ['GET', 'owners', null, []],
            ['GET', 'calendars', null, []],
            ['GET', 'resources', null, []],
            ['GET', 'resources/res-access/assignments', null, []],
            ['GET', 'resources/res-access/load?from=2026-12-01&to=2026-12-31', null, []],
            ['GET', 'load?from=2026-12-01&to=2026-12-31', null, []],
            ['POST', 'ways-out', null, ['resource' => 'res-access', 'from' => '2026-12-07', 'to' => '2026-12-13']],
            ['POST', 'levelling', 'planner', ['projects' => ['P'], 'tries' => 1]],
            ['PUT', 'owners/codeSet/codeset-stage', 'root', ['branch' => 'B']],
            ['POST', 'compose/merge', 'root', ['kind' => 'entry', 'from' => 'entry-stage-design-concept',
                'into' => 'entry-stage-trial', 'dryRun' => true]],
            ['POST', 'compose/codings', 'planner', ['rows' => [['K', 'Stage', 'Trial']], 'dryRun' => true]],
            ['POST', 'compose/resources', 'planner', ['rows' => [['key' => 'NEW', 'name' => 'New']], 'dryRun' => true]],
            ['POST', 'compose/entries', 'planner', ['set' => 'codeset-stage', 'rows' => [['key' => 'NEW']], 'dryRun' => true]],
            ['GET', 'level-schemes', null, []],
            ['POST', 'projects/P/codes', 'viewer', ['scheme' => ['activityCode' => [['kind' => 'project-key'], ['kind' => 'counter']]]]],
            ['GET', 'projects/P/outline?format=text', 'viewer', []],
            ['POST', 'compose/codes', 'planner', ['project' => 'P', 'dryRun' => true,
                'scheme' => ['activityCode' => [['kind' => 'project-key'], ['kind' => 'counter']]]]],
            ['POST', 'compose/levels', 'planner', ['project' => 'P', 'rows' => [['code' => 'TERN-HU-0010', 'levels' => ['NEW']]],
                'dryRun' => true]],
            ['POST', 'compose/paste', 'planner', ['project' => 'P', 'text' => "Name\nNew", 'dryRun' => true]],
            ['POST', 'compose/duplicate', 'planner', ['from' => 'P', 'activities' => ['A'], 'to' => 'P', 'dryRun' => true]],
            ['POST', 'compose/outline', 'planner', ['project' => 'P', 'format' => 'text', 'text' => 'New', 'dryRun' => true]],
            ['GET', 'sources', null, []],
            ['POST', 'compose/copy', 'planner', ['projects' => [['uid' => 'P', 'key' => 'NEW', 'name' => 'New']], 'branch' => 'B',
                'dryRun' => true]],
            ['POST', 'compose/fragment', 'planner', ['project' => 'P', 'activities' => ['A'], 'key' => 'NEW', 'name' => 'New',
                'branch' => 'B',
                'dryRun' => true]],
            ['POST', 'compose/insert', null, ['fragment' => 'J', 'project' => 'P']],
            ['POST', 'compose/fragment-update', null, ['insertion' => 'J']],
            ['GET', 'fragments/J', null, []],
            ['POST', 'fragments/J/versions', null, []],
            ['POST', 'ranking/judge', null, ['count' => 2, 'judgements' => [[0, 1, 3]]]],

            ['GET', 'history?project=P', 'viewer', []],
            ['GET', 'history?project=P&object=A', 'viewer', []],
            ['GET', 'history/steps?projects=K', null, []],
            ['GET', 'history/steps', null, []],
            ['GET', 'history/deleted', null, []],
            ['GET', 'history/since?projects=K&since=visit', null, []],
            ['GET', 'notices', null, []],
            ['POST', 'handovers/J/proposal', null, ['agreed' => '2027-03-01T12:00']],
            ['POST', 'notices/read', null, ['upTo' => 1]],
            ['GET', 'projects/P/people', 'viewer', []],
            ['GET', 'drafts', null, []],
            ['POST', 'drafts', null, ['name' => 'New']],
            ['GET', 'drafts/J', null, []],
            ['GET', 'drafts/J/board?projects=K', null, []],
            ['PATCH', 'drafts/J', null, ['name' => 'New']],
            ['DELETE', 'drafts/J', null, []],
            ['POST', 'drafts/J/undo', null, []],
            ['POST', 'drafts/J/redo', null, []],
            ['POST', 'drafts/J/rebase', null, ['keep' => 'mine']],
            ['POST', 'drafts/J/propose', null, []],
            ['GET', 'changes', null, []],
            ['GET', 'changes/C', 'viewer', []],
            ['GET', 'exchange/export?projects=K&format=plan-xml', 'viewer', []],
            ['GET', 'jobs', null, []],
            ['GET', 'jobs/J', null, []],
            ['POST', 'jobs/J/cancel', null, []],
            ['GET', 'tokens', null, []],
            ['POST', 'tokens', null, ['name' => 'x', 'scopes' => ['feed']]],
            ['DELETE', 'tokens/999', null, []],
            ['GET', 'exchange/table?projects=K&format=csv&columns=code,name,start', 'viewer', []],
            ['POST', 'exchange/sheets', null, ['file' => UploadedFile::fake()->createWithContent('a.csv', "Code,Name\nA,B")]],
            ['GET', 'odata/$metadata', null, []],
            ['GET', 'odata/Projects', null, []],
            ['GET', 'subscriptions', null, []],
            ['POST', 'subscriptions', null, ['kind' => 'handovers']],
            ['DELETE', 'subscriptions/999', null, []],
            ['POST', 'changes', 'planner', ['operations' => [self::made('branch', 'new', ['parent' => 'B', 'name' => 'New'])]]],
            ['POST', 'changes', 'planner', ['operations' => [self::update('branch', 'B', ['name' => 'New'])]]],
            ['POST', 'changes', 'administrator', ['operations' => [self::update('branch', 'B', ['parent' => 'branch-fleet'])]]],
            ['POST', 'changes', 'planner', ['operations' => [self::gone('branch', 'B')]]],
            ['POST', 'changes', 'planner', ['operations' => [self::made('codeSet', 'new', ['scope' => 'project', 'name' => 'New'])]]],
            ['POST', 'changes', 'planner', ['operations' => [self::made('entry', 'new', ['codeSet' => 'codeset-stage', 'name' => 'New'])]]],
            ['POST', 'changes', 'root', ['operations' => [self::update('codeSet', 'codeset-stage', ['name' => 'New'])]]],
            ['POST', 'changes', 'root', ['operations' => [self::gone('entry', 'entry-stage-design-detail')]]],
            ['POST', 'changes', 'planner', ['operations' => [self::made('coding', 'new', ['project' => 'P',
                'entry' => 'entry-stage-trial']), self::gone('coding', 'new')]]],
            ['POST', 'changes', 'planner', ['operations' => [self::update('activity', 'A', ['name' => 'x'])]]],
            ['POST', 'changes', 'planner', ['operations' => [self::update('activity', 'A', ['name' => 'x'])], 'dryRun' => true]],
            ['POST', 'changes', 'planner', ['operations' => [['verb' => 'delete', 'kind' => 'activity', 'uid' => 'A']], 'dryRun' => true]],
            ['POST', 'changes', 'planner', ['operations' => [['verb' => 'update', 'kind' => 'activity', 'uid' => 'A',
                'before' => ['name' => 'guess'], 'after' => ['name' => 'x']]]]],
            ['POST', 'changes', 'planner', ['operations' => [self::update('activity', 'A', ['deadline' => 'never'])]]],
            ['POST', 'changes', 'planner', ['operations' => [self::update('project', 'P', ['name' => 'x'])]]],
            ['POST', 'changes', 'planner', ['operations' => [self::update('link', 'L', ['lag' => 480])]]],
            ['POST', 'changes', 'planner', ['operations' => [['verb' => 'create', 'kind' => 'wbs', 'uid' => 'new',
                'after' => ['project' => 'P', 'code' => 'X']]]]],
            ['POST', 'changes', 'planner', ['operations' => [['verb' => 'create', 'kind' => 'activity', 'uid' => 'new',
                'after' => ['project' => 'P', 'code' => 'TERN-HU-0010', 'duration' => 480]]]]],
            ['POST', 'changes', 'planner', ['operations' => [['verb' => 'create', 'kind' => 'project', 'uid' => 'new',
                'after' => ['key' => 'NEW', 'name' => 'New', 'branch' => 'B', 'calendar' => 'cal-office', 'start' => '2026-12-01']]]]],
            ['GET', 'changes/C/preview', 'approver', []],
            ['GET', 'changes/C/board', 'approver', []],
            ['POST', 'changes/C/undo', 'approver', []],
            ['POST', 'changes/C/apply', 'approver', []],
            ['POST', 'changes/C/decide', 'approver', ['accept' => [0]]],
            ['POST', 'changes/C/reject', 'approver', []],
            ['POST', 'progress', 'contributor', ['reports' => [['activity' => 'A', 'percent' => 0]]]],
            ['POST', 'progress', 'contributor', ['reports' => [['activity' => 'A', 'percent' => 0]], 'dryRun' => true]],
            ['POST', 'projects/P/status-date', 'planner', ['statusDate' => '2026-11-26T12:00']],
            ['POST', 'status-date', 'planner', ['projects' => ['P'], 'statusDate' => '2026-11-26T12:00']],
            ['POST', 'status-date', 'planner', ['projects' => ['P'], 'statusDate' => '2026-11-26T12:00', 'dryRun' => true]],
            ['POST', 'projects/P/baselines', 'planner', ['name' => 'New']],
            ['PATCH', 'baselines/S', 'planner', ['name' => 'New']],
            ['DELETE', 'baselines/S', 'planner', []],
            ['PUT', 'health/thresholds', 'root', ['checks' => []]],
            ['POST', 'exchange/import', 'planner',
                ['branch' => 'B', 'file' => UploadedFile::fake()->createWithContent('a.xml', '<plan xmlns="urn:reihe:plan:1"/>')]],
            ['POST', 'session/password', null, ['current' => 'x', 'password' => 'y']],
            ['GET', 'users', 'administrator', []],
            ['POST', 'users', 'administrator', ['name' => 'New', 'email' => 'new@example.org']],
            ['PATCH', 'users/U', 'administrator', ['name' => 'New']],
            ['POST', 'users/U/password', 'administrator', []],
            ['PUT', 'users/U/roles', 'administrator', ['branch' => 'B', 'role' => 'viewer']],
            ['DELETE', 'session', null, []],
        ];
    }

    /** @return array<string, array<string, string>> letter => place => what stands for it */
    private function letters(): array
    {
        $link = static fn (string $key): string => (string) DB::table('links')->join('projects as t', 't.id', '=', 'to_project_id')
            ->where('t.key', $key)->where('handover', 0)->orderBy('links.id')->value('links.uid');
        $baseline = static fn (string $key): string => (string) DB::table('baselines')->where('project_uid', "prj-{$key}")->value('uid');
        foreach (['job-of-somebody', 'job-of-another'] as $job) {
            BackgroundJob::query()->create(['uid' => $job, 'user_id' => $this->person('chidi')->id, 'what' => 'preview',
                'title' => 'x.xml', 'input' => [], 'created_at' => now()]);
        }
        DB::table('branch_remarks')->insert(['uid' => 'said-of-branch', 'branch' => $this->branch('Dry dock'), 'text' => 'x',
            'author' => 'x',
            'written' => 0, 'todo' => true]);
        DB::table('resources')->insert(['uid' => 'res-access', 'key' => 'ACC', 'name' => '', 'kind' => 'crew', 'units' => 100,
            'capacity' => '[]', 'rates' => '[]', 'unit' => '', 'calendar_id' => DB::table('calendars')->min('id')]);
        $changes = [];
        foreach (['own' => 'tern', 'other' => 'grid'] as $place => $project) {
            $changes[$place] = ChangeSet::query()
                ->create(['uid' => "change-{$project}", 'author_id' => $this->person('ilse')->id, 'source' => 'import',
                    'state' => 'proposed', 'ripple' => [], 'created_at' => now(),
                    'operations' => [self::update('activity', $project === 'tern' ? 'act-tern-hu-0010' : 'act-grid-pe-0010',
                        ['name' => 'proposed'])]]);
            DB::table('change_set_projects')->insert(['change_set_id' => $changes[$place]->id,
                'project_uid' => 'prj-'.strtoupper($project), 'revision' => 1]);
        }

        return [
            'A' => ['own' => 'act-tern-pr-0060', 'other' => 'act-grid-pe-0010', 'absent' => 'act-none'],
            'P' => ['own' => 'prj-TERN', 'other' => 'prj-GRID', 'absent' => 'prj-NONE'],
            'K' => ['own' => 'TERN', 'other' => 'GRID', 'absent' => 'NONE'],
            'L' => ['own' => $link('TERN'), 'other' => $link('GRID'), 'absent' => 'lnk-none'],
            'S' => ['own' => $baseline('TERN'), 'other' => $baseline('GRID'), 'absent' => 'base-none'],
            'B' => ['own' => $this->branch('Dry dock'), 'other' => $this->branch('Grid and energy'), 'absent' => 'branch-none'],
            'U' => ['own' => (string) $this->person('noor')->id, 'other' => '987653', 'absent' => '987654'],
            'J' => ['own' => 'job-of-somebody', 'other' => 'job-of-another', 'absent' => 'job-none'], // of other people, so nowhere
            'C' => ['own' => 'change-tern', 'other' => 'change-grid', 'absent' => 'change-none'],
        ];
    }

    public function test_the_table_covers_every_route(): void
    {
        $open = ['GET session', 'POST session'];
        $shape = static fn (string $method, string $path): string => $method.' '.preg_replace(['/\?.*/',
            '#(?<=activities/|links/|projects/|baselines/|tokens/|changes/|users/|jobs/|views/|fragments/|drafts/|handovers/'
                .'|subscriptions/|resources/|odata/(?!\$))[^/]+#',
            '#(?<=/objects/)[^/]+#', '#(?<=owners/|^remarks/)[^/]+/[^/]+#', '#^branches/[^/]+#', '#(?<=/remarks/)[^/]+$#'],
            ['', '*', '*', '*/*', 'branches/*', '*'], $path);
        $covered = array_unique(array_map(static fn (array $row): string => $shape($row[0], $row[1]), $this->table()));
        $routes = collect(Router::getRoutes()->getRoutes())->filter(static fn (Route $r): bool => str_starts_with($r->uri(), 'api/v1/'))
            ->map(static fn (Route $r): string => $r->methods()[0].' '.preg_replace('/\{[^}]+\}/', '*', substr($r->uri(), 7)))->values()
            ->all();
        self::assertEqualsCanonicalizing($routes, [...$open, ...$covered]);
    }

    public function test_guests_get_nowhere(): void
    {
        $letters = $this->letters();
        foreach ($this->table() as [$method, $path, , $body]) {
            $this->send($method, $path, $body, $letters, 'own')->assertStatus(401);
        }
        $this->get('/odata/v4/Projects')->assertStatus(401)->assertHeader('WWW-Authenticate');
    }

    /** Who may do what on their own branch, and that what lies elsewhere answers to the letter like what is nowhere. */
    #[TestWith([null])]
    #[TestWith(['viewer'])]
    #[TestWith(['contributor'])]
    #[TestWith(['planner'])]
    #[TestWith(['approver'])]
    #[TestWith(['administrator'])]
    public function test_every_route_for_every_role(?string $role): void
    {
        $user = $this->somebody($role, 'Fleet');
        $letters = $this->letters();
        foreach ($this->table() as [$method, $path, $needed, $body]) {
            $said = [];
            foreach (self::PLACES as $place) {
                DB::beginTransaction();
                $this->actingAs($user);
                $answer = $this->send($method, $path, $body, $letters, $place);
                DB::rollBack();
                $said[$place] = $this->without($letters, $answer);
                if ($place === 'own') {
                    $isAllowed = $needed === null || ($needed !== 'root' && $role !== null && Role::from($role)
                        ->reaches(Role::from($needed)));
                    $refusals = $role === null ? [403, 404, 422] : [403];
                    $what = "{$method} {$path} ".json_encode($body).' as '.($role
                        ?? 'nobody').": {$answer->status()} {$answer->getContent()}";
                    self::assertSame($isAllowed, ! in_array($answer->status(), $refusals, true)
                        || ($isAllowed && $answer->status() !== 403), $what);
                    self::assertLessThan(500, $answer->status(), $what);
                }
            }
            self::assertSame($said['absent'], $said['other'], "{$method} {$path} ".json_encode($body)." as {$role}");
        }
    }

    /** What belongs to the root is changed by who administers the root. */
    public function test_what_belongs_to_all_is_changed_from_the_root(): void
    {
        $letters = $this->letters();
        foreach (array_filter($this->table(), static fn (array $row): bool => $row[2] === 'root') as [$method, $path, , $body]) {
            foreach (['administrator' => false, 'approver' => true] as $role => $isRefused) {
                DB::beginTransaction();
                $this->actingAs($this->somebody($role));
                self::assertSame($isRefused, $this->send($method, $path, $body, $letters, 'own')->status() === 403, "{$path} {$role}");
                DB::rollBack();
            }
        }
    }

    /**
     * @param  array<string, mixed>  $body
     * @param  array<string, array<string, string>>  $letters
     * @return TestResponse<\Symfony\Component\HttpFoundation\Response>
     */
    private function send(string $method, string $path, array $body, array $letters, string $place): TestResponse
    {
        $path = (string) preg_replace_callback('/\b[A-Z]\b/', static fn (array $m): string => $letters[$m[0]][$place], $path);
        array_walk_recursive($body, static function (mixed &$value) use ($letters, $place): void {
            $value = is_string($value) && isset($letters[$value]) ? $letters[$value][$place] : $value;
        });

        return $this->json($method, "/api/v1/{$path}", $body);
    }

    /**
     * An answer without what the caller said.
     *
     * @param  array<string, array<string, string>>  $letters
     * @param  TestResponse<\Symfony\Component\HttpFoundation\Response>  $answer
     */
    private function without(array $letters, TestResponse $answer): string
    {
        $text = (string) $answer->getContent();
        foreach ($letters as $letter => $places) {
            $text = str_replace(['"'.$places['other'].'"', '"'.$places['absent'].'"'], "\"{$letter}\"", $text);
        }

        // tokens and moments are new each time
        return $answer->status().' '.preg_replace(['/"(token|password|address)":"[^"]*"/', '/"id":\d+/', '/\d{4}-\d\d-\d\dT[\d:+]+/',
            '/"(changeSet|uid)":"[0-9A-Z]{26}"/'], '', $text);
    }

    public function test_tokens_do_what_they_are_made_for(): void
    {
        $viewer = $this->person('wen');
        $admin = $this->person('ilse');
        $letters = $this->letters();
        $this->flushHeaders();
        foreach ($this->table() as [$method, $path, , $body]) {
            foreach ([[$admin, ['feed']], [$admin, ['read']], [$viewer, ['write']]] as [$user, $scopes]) {
                $looks = $path === 'exchange/sheets' && $scopes === ['write']; // it only says what is in a file
                $this->app['auth']->forgetGuards();
                $token = $user->createToken('t', $scopes)->plainTextToken;
                $answer = $this->withToken($token)->send($method, $path, $body, $letters, 'own');
                $reads = ($method === 'GET' || in_array($path, ['board/news', 'compose/parts'], true))
                    && preg_match('#^(tokens|users|odata|subscriptions)#', $path) === 0 && $scopes !== ['feed'];
                self::assertContains($answer->status(),
                    [...($reads || $looks ? [200, 204] : [403]),
                        ...(in_array($path, ['changes/C/board', 'changes/C/preview'], true) || str_starts_with($path, 'access/')
                            ? [403] : []),
                        ...(preg_match('#^(jobs|fragments|drafts|handovers)/|insert$|update$#', $path) === 1 && $scopes !== ['feed']
                            ? [404] : [])],
                    "{$method} {$path} with a token for ".implode(',', $scopes)." of {$user->name}");
            }
        }
        $write = $admin->createToken('t', ['write'])->plainTextToken;
        $this->app['auth']->forgetGuards();
        $this->withToken($write)->postJson('/api/v1/changes',
            ['operations' => [self::update('activity', 'act-grid-ca-0050', ['name' => 'x'])]])->assertOk();
    }

    public function test_nothing_outside_the_users_branches_is_visible(): void
    {
        $this->actingAs($this->somebody('planner', 'Harbours'));
        self::assertSame(['LYNG', 'OSTV'], $this->getJson('/api/v1/portfolio')->json('projects.*.key'));
        self::assertEqualsCanonicalizing(['Harbours', 'Shore power', 'Quays'],
            $this->getJson('/api/v1/portfolio')->json('branches.*.name'));
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
        $inner = (string) DB::table('links')->join('projects', 'projects.id', '=', 'to_project_id')->where('key', 'GRID')
            ->value('links.uid');
        $this->getJson("/api/v1/links/{$inner}/float-paths")->assertStatus(404);
        $handover = (string) DB::table('links')->join('projects', 'projects.id', '=', 'to_project_id')->where('key', 'OSTV')
            ->where('handover', 1)->value('links.uid');
        $chains = $this->getJson("/api/v1/links/{$handover}/float-paths")->assertOk();
        self::assertNull($chains->json('paths.0.activities.0.uid'));
        $this->getJson('/api/v1/activities/act-grid-ca-0050/trace')->assertStatus(404);
        $this->getJson('/api/v1/projects/prj-GRID/baselines')->assertStatus(404);
        $this->getJson('/api/v1/baselines/'.DB::table('baselines')->where('project_uid', 'prj-GRID')->value('uid').'/comparison')
            ->assertStatus(404);
        $health = $this->getJson('/api/v1/health?projects=GRID,OSTV')->assertOk();
        self::assertSame(['OSTV'], $health->json('projects.*.key'));
        self::assertDoesNotMatchRegularExpression('/act-(grid|tern|gann|crew)/', (string) $health->getContent());
        $this->postJson('/api/v1/progress', ['reports' => [['activity' => 'act-grid-ca-0050', 'percent' => 50]]])->assertStatus(422);
    }

    public function test_editing_another_project_or_linking_to_an_unseen_one_is_refused(): void
    {
        $this->actingAs($this->somebody('planner', 'Harbours'));
        foreach ([
            [self::update('activity', 'act-tern-tr-0030', ['name' => 'x']), 'uid'],
            [['verb' => 'create', 'kind' => 'link', 'uid' => 'new', 'after' => ['from' => 'act-ostv-to-0030', 'to' => 'act-tern-pr-0050']],
                'to'],
            [['verb' => 'create', 'kind' => 'link', 'uid' => 'new', 'after' => ['from' => 'act-tern-pr-0050', 'to' => 'act-ostv-cm-0060']],
                'from'],
            [self::update('project', 'prj-OSTV', ['branch' => $this->branch('Fleet')]), 'branch'],
        ] as [$operation, $field]) {
            $this->change([$operation])->assertStatus(422)->assertJsonPath('errors.0.pointer', "/operations/0/after/{$field}");
        }
        // what one's own deletion would take along elsewhere
        $this->change([['verb' => 'delete', 'kind' => 'activity', 'uid' => 'act-ostv-cm-0050']])->assertStatus(403);
        $loop = $this->change([['verb' => 'create', 'kind' => 'link', 'uid' => 'new',
            'after' => ['from' => 'act-ostv-cm-0060', 'to' => 'act-ostv-cm-0010']]])->assertStatus(422);
        self::assertContains('OSTV/OSTV-CM-0060', $loop->json('chain'));
    }

    public function test_a_person_without_grants_sees_nothing(): void
    {
        $this->actingAs($this->somebody(null));
        self::assertSame([[], []], [$this->getJson('/api/v1/portfolio')->json('projects'),
            $this->getJson('/api/v1/portfolio')->json('branches')]);
        self::assertSame([], $this->getJson('/api/v1/changes')->json('changes'));
    }

    public function test_sign_in_is_throttled_after_failures_and_protected_against_forgery(): void
    {
        $this->getJson('/api/v1/session')->assertOk()->assertJsonPath('user', null);
        for ($i = 0; $i < 5; $i++) {
            $this->postJson('/api/v1/session', ['email' => 'wen@varnsund.example', 'password' => 'wrong'])->assertStatus(422);
        }
        $this->postJson('/api/v1/session', ['email' => 'wen@varnsund.example', 'password' => 'varnsund'])->assertStatus(429);
        $this->postJson('/api/v1/session', ['email' => 'aino@varnsund.example', 'password' => 'varnsund'])->assertOk()
            ->assertJsonPath('user.name', 'Aino Rautio');
        self::assertContains(\Laravel\Sanctum\Http\Middleware\EnsureFrontendRequestsAreStateful::class,
            app(\Illuminate\Contracts\Http\Kernel::class)->getMiddlewareGroups()['api']);
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

    /** Private answers stay in no cache; addresses that lead nowhere say so; a browser that says nowhere where it comes from can work. */
    public function test_answers_are_kept_nowhere_and_unknown_addresses_are_not_found(): void
    {
        foreach (['' => 200, 'portfolio' => 200, 'board' => 200, 'proposals/x' => 200, 'exchange' => 200, 'library' => 200,
            'sign-in' => 200,
            'nowhere' => 404, 'portfolio/x' => 404, 'board.php' => 404, '.env' => 404, 'proposals' => 404] as $path => $status) {
            self::assertSame($status, $this->withoutVite()->get("/{$path}")->status(), $path);
        }
        $wen = $this->person('wen');
        $this->actingAs($wen);
        foreach (['/api/v1/portfolio', '/api/v1/exchange/export?projects=GRID&format=csv',
            '/api/v1/exchange/table?projects=GRID&format=csv',
            '/api/v1/board?projects=GRID', '/api/v1/users', '/api/v1/nothing'] as $path) {
            self::assertStringContainsString('no-store', (string) $this->get($path)->headers->get('Cache-Control'), $path);
        }
        $asked = static function (array $headers, array $cookies = []): bool {
            $request = \Illuminate\Http\Request::create('/api/v1/portfolio', cookies: $cookies);
            foreach ($headers as $name => $value) {
                $request->headers->set($name, $value);
            }

            return \App\Http\Middleware\OwnPages::fromFrontend($request);
        };
        $cookie = [config()->string('session.cookie') => 'x'];
        self::assertTrue($asked([], $cookie));
        self::assertTrue($asked(['Referer' => 'http://127.0.0.1/board']));
        self::assertFalse($asked([])); // nobody's session
        self::assertFalse($asked(['Origin' => 'https://evil.example'], $cookie));
        self::assertFalse($asked(['Referer' => 'https://evil.example/'], $cookie));
        self::assertFalse($asked(['Authorization' => 'Bearer x'], $cookie));
        self::assertInstanceOf(\App\Http\Middleware\OwnPages::class,
            app(\Laravel\Sanctum\Http\Middleware\EnsureFrontendRequestsAreStateful::class));
    }
}
