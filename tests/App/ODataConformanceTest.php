<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Routing\Middleware\ThrottleRequests;
use Illuminate\Support\Facades\DB;
use Illuminate\Testing\TestResponse;
use PHPUnit\Framework\Attributes\DataProvider;
use Reihe\Core\Time\Zone;

/**
 * Conformance with OData Version 4.01 (OASIS Standard, 23 April 2020): Part 1 Protocol, Part 2 URL Conventions, JSON Format 4.01, and
 * the Extension for Data Aggregation 4.0. Each test names its section. Filters are compared with the same question asked in PHP
 * of all rows.
 */
final class ODataConformanceTest extends TestCase
{
    private string $token;

    protected function setUp(): void
    {
        parent::setUp();
        $this->token = $this->person('wen')->createToken('t', ['feed'])->plainTextToken;
    }

    /** @return array<string, array{string, callable(array<string, mixed>): bool}> */
    public static function filters(): array
    {
        $hours = static fn (array $a): float => (float) $a['DurationHours'];
        $list = [
            // URL Conventions 5.1.1.1, logical operators; nulls as in 5.1.1.1.1 to 5.1.1.1.9
            ['Kind eq \'task\'', static fn (array $a): bool => $a['Kind'] === 'task'],
            ['Kind ne \'task\'', static fn (array $a): bool => $a['Kind'] !== 'task'],
            ['Kind eq \'Task\'', static fn (): bool => false],
            ['Kind eq \'task \'', static fn (): bool => false],
            ['WbsCode eq null', static fn (array $a): bool => $a['WbsCode'] === null],
            ['WbsCode ne null', static fn (array $a): bool => $a['WbsCode'] !== null],
            ['WbsCode ne \'x\'', static fn (): bool => true],
            ['null eq null', static fn (): bool => true],
            ['null ne Deadline', static fn (array $a): bool => $a['Deadline'] !== null],
            ['Deadline gt null', static fn (): bool => false],
            ['not (Deadline gt 2026-01-01T00:00:00Z)', static fn (array $a): bool => $a['Deadline'] === null],
            ['TotalFloatHours gt 0', static fn (array $a): bool => $a['TotalFloatHours'] !== null && $a['TotalFloatHours'] > 0],
            ['not (TotalFloatHours gt 0)', static fn (array $a): bool => ! ($a['TotalFloatHours'] !== null && $a['TotalFloatHours'] > 0)],
            ['contains(Source,\'x\')', static fn (array $a): bool => str_contains((string) $a['Source'], 'x')],
            ['not contains(Source,\'x\')', static fn (array $a): bool => $a['Source'] !== null && ! str_contains($a['Source'], 'x')],
            ['Critical and not NearCritical or Estimate', static fn (array $a): bool => ($a['Critical'] && ! $a['NearCritical'])
                || $a['Estimate']],
            ['Critical eq true and (NearCritical eq false or Estimate eq true)', static fn (array $a): bool => $a['Critical']
                && (! $a['NearCritical'] || $a['Estimate'])],
            ['not Critical eq true', static fn (array $a): bool => ! $a['Critical']],
            ['Kind in (\'task\',\'hammock\')', static fn (array $a): bool => in_array($a['Kind'], ['task', 'hammock'], true)],
            ['WbsCode in (null,\'none\')', static fn (array $a): bool => $a['WbsCode'] === null],
            // 5.1.1.2, arithmetic operators
            ['DurationHours add 8 gt 100', static fn (array $a): bool => $hours($a) + 8 > 100],
            ['DurationHours sub TotalFloatHours lt 0', static fn (array $a): bool => $a['TotalFloatHours'] !== null
                && $hours($a) < $a['TotalFloatHours']],
            ['DurationHours mul 2 div 4 ge 40', static fn (array $a): bool => $hours($a) * 2 / 4 >= 40],
            ['-DurationHours lt -100', static fn (array $a): bool => $hours($a) > 100],
            ['1 add 2 mul 3 eq 7', static fn (): bool => true],
            ['7 div 2 eq 3 and 7 divby 2 eq 3.5 and 7 mod 4 eq 3', static fn (): bool => true],
            ['Finish sub Start gt duration\'P10D\'',
                static fn (array $a): bool => strtotime($a['Finish']) - strtotime($a['Start']) > 864000],
            ['Start add duration\'P10D\' lt Finish',
                static fn (array $a): bool => strtotime($a['Finish']) - strtotime($a['Start']) > 864000],
            ['Duration gt \'PT100H\'', static fn (array $a): bool => $hours($a) > 100],
            ['Duration ge duration\'PT0.5S\'', static fn (array $a): bool => $hours($a) > 0],
            // 5.1.1.5, string and collection functions; 5.1.1.7, string functions
            ['concat(concat(Code,\' \'),Name) eq \'GRID-CA-0010 Cable drums delivered\'', static fn (array $a): bool => $a['Code'].' '
                .$a['Name'] === 'GRID-CA-0010 Cable drums delivered'],
            ['contains(Name,\'able\')', static fn (array $a): bool => str_contains($a['Name'], 'able')],
            ['contains(Name,\'ABLE\')', static fn (): bool => false],
            ['contains(Name,\'\')', static fn (): bool => true],
            ['startswith(Code,\'GRID\')', static fn (array $a): bool => str_starts_with($a['Code'], 'GRID')],
            ['endswith(Code,\'0\')', static fn (array $a): bool => str_ends_with($a['Code'], '0')],
            ['endswith(Code,\'_\')', static fn (): bool => false],
            ['contains(Name,\'%\')', static fn (array $a): bool => str_contains($a['Name'], '%')],
            ['indexof(Code,\'-\') eq 4', static fn (array $a): bool => strpos($a['Code'], '-') === 4],
            ['indexof(Code,\'?\') eq -1', static fn (): bool => true],
            ['length(Name) gt 20', static fn (array $a): bool => mb_strlen($a['Name']) > 20],
            ['substring(Code,5) eq \'CA-0010\'', static fn (array $a): bool => mb_substr($a['Code'], 5) === 'CA-0010'],
            ['substring(Code,5,2) eq \'CA\'', static fn (array $a): bool => mb_substr($a['Code'], 5, 2) === 'CA'],
            ['matchesPattern(Code,\'^GRID-[A-C]\')', static fn (array $a): bool => preg_match('/^GRID-[A-C]/', $a['Code']) === 1],
            ['tolower(Code) eq \'grid-ca-0010\'', static fn (array $a): bool => $a['Code'] === 'GRID-CA-0010'],
            ['toupper(Kind) eq \'TASK\'', static fn (array $a): bool => $a['Kind'] === 'task'],
            ['trim(concat(concat(\'  \',Kind),\'  \')) eq Kind', static fn (): bool => true],
            // 5.1.1.8, date and time functions
            ['year(Start) eq 2026 and month(Start) ge 6', static fn (array $a): bool => str_starts_with($a['Start'], '2026')
                && (int) substr($a['Start'], 5, 2) >= 6],
            ['day(Finish) eq 1', static fn (array $a): bool => substr($a['Finish'], 8, 2) === '01'],
            ['hour(Start) eq 8 and minute(Start) eq 0 and second(Start) eq 0', static fn (array $a): bool => substr($a['Start'], 11, 8)
                === '08:00:00'],
            ['date(Start) eq 2026-11-25', static fn (array $a): bool => str_starts_with($a['Start'], '2026-11-25')],
            ['date(Start) ge 2026-11-25 and time(Finish) lt 12:00:00', static fn (array $a): bool => $a['Start'] >= '2026-11-25'
                && substr($a['Finish'], 11, 8) < '12:00:00'],
            ['Start gt now()', static fn (array $a): bool => strtotime($a['Start']) > strtotime('2026-11-25 12:00 UTC')],
            ['Start gt mindatetime() and Finish lt maxdatetime()', static fn (): bool => true],
            ['totalseconds(Duration) gt 360000', static fn (array $a): bool => $hours($a) > 100],
            ['Start ge 1900-01-01T00:00:00Z', static fn (): bool => true],
            // 5.1.1.9, arithmetic functions; 5.1.1.11.3 (4.01), case
            ['floor(DurationHours divby 7) eq 1', static fn (array $a): bool => floor($hours($a) / 7) === 1.0],
            ['ceiling(DurationHours divby 7) eq 2', static fn (array $a): bool => ceil($hours($a) / 7) === 2.0],
            ['round(2.5) eq 3 and round(-2.5) eq -3', static fn (): bool => true],
            ['case(Critical:1,true:0) eq 1', static fn (array $a): bool => $a['Critical']],
            // 5.1.1.13 and 5.1.1.14, lambda operators and paths
            ['Successors/any()', static fn (array $a): bool => $a['#successors'] !== []],
            ['not Successors/any()', static fn (array $a): bool => $a['#successors'] === []],
            ['Successors/any(s:s/LagHours gt 0)', static fn (array $a): bool => array_filter($a['#successors'],
                static fn (array $l): bool => $l['LagHours'] > 0) !== []],
            ['Successors/all(s:s/Type eq \'FS\')', static fn (array $a): bool => array_filter($a['#successors'],
                static fn (array $l): bool => $l['Type'] !== 'FS') === []],
            ['Successors/$count ge 2', static fn (array $a): bool => count($a['#successors']) >= 2],
            ['Successors/$count($filter=Type eq \'SS\') eq 1', static fn (array $a): bool => count(array_filter($a['#successors'],
                static fn (array $l): bool => $l['Type'] === 'SS')) === 1],
            ['Project/Key eq \'GRID\'', static fn (array $a): bool => $a['ProjectKey'] === 'GRID'],
            ['$it/Project/Key eq \'GRID\'', static fn (array $a): bool => $a['ProjectKey'] === 'GRID'],
            ['Project/BranchOfProject/Name eq \'Grid and energy\'', static fn (array $a): bool => $a['ProjectKey'] === 'GRID'],
            ['Project/Activities/any(x:x/Critical and x/Kind eq \'finish-milestone\' and x/Code ne Code)',
                static fn (array $a): bool => true],
            // 5.1.1.16, precedence; names of operators in any case (Protocol 4.01, section 11.2.1)
            ['DurationHours GT 40 AND Critical EQ true', static fn (array $a): bool => $hours($a) > 40
                && $a['Critical']],
            ['(((Critical)))', static fn (array $a): bool => $a['Critical']],
        ];

        return array_combine(array_column($list, 0), $list);
    }

    public function test_filters_select_what_the_same_question_selects(): void
    {
        $links = [];
        foreach ($this->feed('Links')->json('value') as $link) {
            $links[$link['PredecessorId']][] = $link;
        }
        $all = array_map(static fn (array $a): array => $a + ['#successors' => $links[$a['Id']] ?? []],
            $this->feed('Activities')->assertOk()->json('value'));
        self::assertCount(145, $all);
        foreach (self::filters() as [$filter, $question]) {
            if (str_contains($filter, 'x/Code ne Code')) { // about the rest of the same project
                $question = static fn (array $a): bool => array_filter($all,
                    static fn (array $x): bool => $x['ProjectId'] === $a['ProjectId']
                    && $x['Critical'] && $x['Kind'] === 'finish-milestone' && $x['Code'] !== $a['Code']) !== [];
            }
            $expected = array_column(array_filter($all, $question), 'Id');
            $found = $this->feed('Activities?$select=Id&$filter='.rawurlencode($filter))->assertOk()->json('value');
            sort($expected);
            self::assertSame($expected, array_column($found, 'Id'), $filter);
            self::assertSame((string) count($expected), $this->feed('Activities/$count?$filter='.rawurlencode($filter))->getContent());
        }
    }

    /** URL Conventions 5.1.1.1.1: strings are compared exactly; functions of case are asked for. */
    public function test_strings_compare_exactly(): void
    {
        $this->actingAs($this->person('ilse'));
        $names = ['e', 'E', 'é', 'É', 'e ', ' e', 'ß', 'ss', '%', '_', '\\', "it's", 'ı', 'I'];
        foreach ($names as $i => $name) {
            $this->change([self::made('activity', "exact-{$i}", ['project' => 'prj-GRID', 'code' => "EXACT-{$i}", 'name' => $name,
                'duration' => 480])])->assertOk();
        }
        $this->flushSession();
        $ask = fn (string $filter): array => array_column($this->feed('Activities?$select=Name&$filter='.rawurlencode(
            "startswith(Code,'EXACT-') and ({$filter})"))->assertOk()->json('value'), 'Name');
        foreach ($names as $name) {
            $literal = str_replace("'", "''", $name);
            self::assertSame([$name], $ask("Name eq '{$literal}'"));
            self::assertCount(count($names) - 1, $ask("Name ne '{$literal}'"));
            self::assertSame([$name], $ask("Name in ('{$literal}')"));
            self::assertSame([$name], $ask("startswith(Name,'{$literal}') and length(Name) eq ".mb_strlen($name)));
            self::assertSame([$name], $ask("endswith(Name,'{$literal}') and length(Name) eq ".mb_strlen($name)));
            self::assertContains($name, $ask("contains(Name,'{$literal}')"));
            self::assertSame([$name], array_column($this->feed('Activities?$apply='
                .rawurlencode("filter(startswith(Code,'EXACT-') and Name"
                ." eq '{$literal}')/groupby((Name))"))->assertOk()->json('value'), 'Name'));
        }
        self::assertCount(count($names), $this->feed('Activities?$apply='.rawurlencode("filter(startswith(Code,'EXACT-'))/groupby((Name))"))
            ->json('value'), 'groups are as exact');
        self::assertEqualsCanonicalizing(['e', 'E'], $ask("tolower(Name) eq 'e'"));
    }

    /** URL Conventions 5.1.1.1: what is not there or does not fit is an error that names place and reason, never another result. */
    #[DataProvider('refused')]
    public function test_what_cannot_be_answered_is_refused(string $path, int $status, string $word): void
    {
        $answer = $this->feed($path);
        self::assertSame($status, $answer->status(), (string) $answer->getContent());
        self::assertStringContainsString($word, (string) $answer->json('error.message'));
        self::assertSame((string) $status, $answer->json('error.code'));
    }

    /** @return list<array{string, int, string}> */
    public static function refused(): array
    {
        $f = static fn (string $filter): string => 'Activities?$filter='.rawurlencode($filter);

        return [
            [$f('Name'), 400, 'condition'], [$f('Name eq 5'), 400, 'Edm.String'], [$f("Start eq 'x'"), 400, 'Edm.DateTimeOffset'],
            [$f('Critical gt 5'), 400, 'Edm.Boolean'], [$f("Name add 5 eq 'x'"), 400, 'add'], [$f('length(5) eq 1'), 400, 'Edm.String'],
            [$f("contains(Name) eq 'x'"), 400, 'contains takes 2 values'], [$f('substring(Name) eq null'), 400, '2 or 3'],
            [$f('Nope/Key eq 5'), 400, 'Nope'], [$f('Project/Nope eq 5'), 400, 'Nope'], [$f('Project eq null'), 400, '“/” is expected'],
            [$f('Successors/Type eq \'FS\''), 400, 'any'], [$f('Successors/any(s:s/Type)'), 400, 'condition'],
            [$f('Successors/any(s:s/Successor/Successors/any(s:true))'), 400, 'in use'], [$f('1 div 0 eq 1'), 400, 'divided by 0'],
            [$f("isof('Edm.String')"), 501, 'isof'], [$f("cast(Name,'Edm.Int32') eq 1"), 501, 'cast'],
            [$f("Name has 'x'"), 501, 'has'], [$f('geo.length(Name) gt 1'), 400, 'position'], [$f('nope(Name)'), 400, 'nope'],
            [$f("matchesPattern(Name,'(')"), 400, 'regular expression'], [$f('matchesPattern(Name,Code)'), 400, 'in quotes'],
            // what a database could try for ages
            [$f("matchesPattern(Name,'(a+)+$')"), 400, 'repeated'], [$f("matchesPattern(Name,'(a|aa)*b')"), 400, 'repeated'],
            [$f("matchesPattern(Name,'.*.*.*x')"), 400, 'repetitions'],
            [$f("matchesPattern(Name,'(*LIMIT_MATCH=9)x')"), 400, '(*'], [$f("matchesPattern(Name,'(?=x)')"), 400, '(?'],
            [$f("matchesPattern(Name,'(a)\\1')"), 400, 'not taken'],
            [$f("matchesPattern(Name,'".str_repeat('(a|a)', 20)."b')"), 400, 'alternatives'],
            [$f("matchesPattern(Name,'".str_repeat('a?', 30).str_repeat('a', 30)."')"), 400, 'optional'],
            [$f("matchesPattern(Name,'".str_repeat('a', 300)."')"), 400, 'at most 200'],
            [$f(str_repeat('-', 1600).'1 eq 1'), 400, 'signs'], [$f(str_repeat('not ', 1600).'true'), 400, 'signs'],
            [$f(str_repeat('-(', 800).'1'.str_repeat(')', 800).' eq 1'), 400, 'each other'], [$f('@x eq 1'), 400, '@x'],
            [$f(str_repeat('(', 100).'true'.str_repeat(')', 100)), 400, 'parentheses'],
            [$f(implode(' or ', array_fill(0, 500, 'Critical'))), 400, 'operations'],
            [$f('Start gt 2026-02-30T00:00:00Z'), 400, 'calendar'], [$f("Name eq 'open"), 400, 'position 9'], [$f('#'), 400, 'position 1'],
            [$f('Critical eq true Critical'), 400, 'position 18'], [$f(''), 400, 'missing'], [$f('Code in ()'), 400, 'not expected'],
            ['Activities?$orderby=Nope', 400, 'Nope'], ['Activities?$orderby=Code%20up', 400, 'position'],
            ['Activities?$select=Project', 400, '$expand'], ['Activities?$expand=Project/Key', 501, 'expanded'],
            ['Activities?$expand=Project($levels=2)', 501, '$levels'], ['Activities?$expand=Project($select=Key;$select=Name)', 400,
                'twice'],
            ['Activities?$expand=Project($expand=Activities($expand=Project($expand=Activities)))', 400, 'deep'],
            ['Activities?$top=1&top=2', 400, '$top'], ['Activities?$skiptoken=abc', 400, '$skiptoken'],
            ['Activities?$deltatoken=abc', 410, 'again'], ['Activities?$count=maybe', 400, '$count'], ['Activities?$format=atom', 406,
                'JSON'],
            ['Activities?$apply=topcount(1,Code)', 501, 'topcount'], ['Activities?$apply=groupby((rollup(Code,Name)))', 501, 'rollup'],
            ['Activities?$apply=groupby((Code),topcount(1,Code))', 501, 'topcount'],
            ['Activities?$apply=aggregate(Name%20with%20sum%20as%20N)',
                400, 'sum'], ['Activities?$apply=aggregate(Cost%20with%20median%20as%20N)', 501, 'median'],
            ['Activities?$apply=aggregate(Cost%20with%20sum%20as%20Name)', 400, 'taken'],
            ['Activities?$apply=aggregate($count%20as%20N)&$orderby=Code', 400, 'Code'], ['Activities?$search=%22open', 400, 'phrase'],
            ['Activities?$compute=DurationHours%20mul%202%20as%20D', 501, '$compute'], ['Activities?$index=1', 501, '$index'],
            ['Nope', 404, 'Nope'], ["Activities('nope')", 404, 'no such'], ["Activities('act-grid-ca-0050')/Nope", 404, 'Nope'],
            ["Activities('act-grid-ca-0050')/Name/Name", 404, 'Nothing'], ["Activities('act-grid-ca-0050')/\$ref", 501, '$ref'],
            ['$all', 501, '$all'], ['$crossjoin(Activities)', 501, '$crossjoin'], ["Activities('act-grid-ca-0050')?\$filter=true", 400,
                '$filter'],
        ];
    }

    /** Protocol 9.4 and JSON Format 21.1: every error has the protocol's form, also those that the framework makes. */
    public function test_errors_have_the_form_of_the_protocol(): void
    {
        foreach ([$this->withToken('wrong')->get('/odata/v4/Projects'), $this->withToken($this->token)->post('/odata/v4/Projects'),
            $this->withToken($this->token)->delete("/odata/v4/Activities('act-grid-ca-0050')"),
            $this->withToken($this->token)->post('/odata/v4/$batch'), $this->get('/odata/v4/Projects/$nope/$nope'),
            $this->withToken($this->person('wen')->createToken('t', ['read'])->plainTextToken)
                ->get('/odata/v4/Projects')] as $i => $answer) {
            self::assertSame([401, 405, 405, 501, 501, 403][$i], $answer->status());
            self::assertSame((string) $answer->status(), $answer->json('error.code'));
            self::assertIsString($answer->json('error.message'));
            self::assertSame('4.01', $answer->headers->get('OData-Version'));
        }
        $this->assertDatabaseHas('activities', ['uid' => 'act-grid-ca-0050']);
        DB::statement('DROP TEMPORARY TABLE IF EXISTS remarks');
        DB::statement('CREATE TEMPORARY TABLE remarks (nothing INT)'); // hides the table: a fault of the server
        config()->set('app.debug', true);
        $this->feed('Remarks')->assertStatus(500)->assertJsonPath('error.message', 'Something went wrong on the server.');
        DB::statement('DROP TEMPORARY TABLE remarks');
        for ($i = 0; $i < 600 && ($status = $this->feed('Projects?$top=1')->status()) === 200; $i++) {
        }
        $answer = $this->feed('Projects');
        self::assertSame([429, '429'], [$answer->status(), $answer->json('error.code')]);
        self::assertGreaterThan(0, (int) $answer->headers->get('Retry-After'));
    }

    /** URL Conventions 4.3 to 4.8: keys in three spellings, properties, raw values, relations, counts. */
    public function test_paths(): void
    {
        foreach (["Activities('act-grid-ca-0050')", "Activities(Id='act-grid-ca-0050')", 'Activities/act-grid-ca-0050',
            "Projects('prj-GRID')/Activities('act-grid-ca-0050')"] as $path) {
            $this->feed("{$path}?\$select=Code")->assertOk()->assertJsonPath('Code', 'GRID-CA-0050');
            $this->feed("{$path}/Code")->assertOk()->assertJsonPath('value', 'GRID-CA-0050');
            self::assertSame('GRID-CA-0050', $this->feed("{$path}/Code/\$value")->assertOk()->getContent());
            $this->feed("{$path}/Project")->assertOk()->assertJsonPath('Key', 'GRID');
            self::assertSame('GRID', $this->feed("{$path}/Project/Key/\$value")->getContent());
        }
        $all = array_column($this->feed("Activities?\$filter=ProjectKey eq 'GRID'")->json('value'), 'Id');
        self::assertSame($all, array_column($this->feed("Projects('prj-GRID')/Activities")->json('value'), 'Id'));
        self::assertSame((string) count($all), $this->feed("Projects('prj-GRID')/Activities/\$count")->getContent());
        $this->feed("Projects('prj-GRID')/Activities?\$filter=Critical&\$top=1&\$count=true")->assertOk()->assertJsonCount(1, 'value');
        $this->feed("Projects('none')/Activities")->assertStatus(404);
        self::assertSame('', $this->feed("Activities('act-grid-ca-0050')/Deadline")->assertStatus(204)->getContent());
        $this->feed("Branches('".$this->branch('Varnsund Ferries')."')/Parent")->assertStatus(204);
        $this->feed("Activities('it''s')")->assertStatus(404)->assertJsonPath('error.message', 'There is no such Activity.');
    }

    /** Protocol 11.2.6.7 and 11.2.6.2: server-driven paging and the wish for a page size; nothing is told twice or missed. */
    public function test_pages_stay_in_place_while_others_write(): void
    {
        $this->someDeadlines();
        foreach (['Deadline desc,ProjectKey,length(Name) desc' => [7, 144, 145, 146], 'Deadline,ProjectKey' => [7, 144],
            'ProjectKey,Deadline desc' => [7], 'ActualStart desc,Deadline desc' => [11]] as $orders => $sizes) {
            foreach ($sizes as $size) {
                $this->inPages('$orderby='.rawurlencode($orders), $size);
            }
        }
        $order = '$orderby='.rawurlencode('Deadline desc,ProjectKey,length(Name) desc');
        $whole = array_column($this->feed("Activities?\$select=Id&{$order}")->json('value'), 'Id');
        // with $skip and $top, which count over all pages; the wish need not be repeated
        $answer = $this->withHeader('Prefer', 'maxpagesize=10')->feed("Activities?\$select=Id&{$order}&\$skip=5&\$top=23&\$count=true");
        $this->flushHeaders();
        $ids = array_column($answer->json('value'), 'Id');
        while (($next = self::link($answer, 'nextLink')) !== null) {
            self::assertSame(145, $answer->json()['@odata.count']);
            $answer = $this->feed($next);
            $ids = [...$ids, ...array_column($answer->json('value'), 'Id')];
        }
        self::assertSame(array_slice($whole, 5, 23), $ids);
        // what was read already goes away, something comes in before the place: the rest is told as it is
        $first = $this->withHeader('Prefer', 'maxpagesize=10')->feed('Activities?$select=Id&$orderby=Code');
        $this->flushHeaders();
        $this->actingAs($this->person('ilse'));
        $this->change([self::gone('activity', $first->json('value.0.Id')), self::made('activity', 'before', ['project' => 'prj-CREW',
            'code' => '0', 'name' => 'Before', 'duration' => 60])])->assertOk();
        $this->flushSession();
        $rest = array_column($this->feed((string) self::link($first, 'nextLink'))->json('value'), 'Id');
        $expected = array_column($this->feed('Activities?$select=Id&$orderby=Code')->json('value'), 'Id');
        self::assertSame(array_slice($expected, 10, 10), array_slice($rest, 0, 10));
    }

    /** All pages of so many rows are the whole, in its order. */
    private function inPages(string $order, int $size): void
    {
        $whole = array_column($this->feed("Activities?\$select=Id&{$order}")->json('value'), 'Id');
        self::assertCount(145, $whole);
        $ids = [];
        $next = "Activities?\$select=Id&{$order}";
        while ($next !== null) {
            $answer = $this->withHeader('Prefer', "odata.maxpagesize={$size}")->feed($next)->assertOk();
            self::assertLessThanOrEqual($size, count($answer->json('value')));
            $ids = [...$ids, ...array_column($answer->json('value'), 'Id')];
            $next = self::link($answer, 'nextLink');
        }
        self::assertSame($whole, $ids, "{$order}, {$size} rows at a time");
        self::assertStringContainsString('maxpagesize', (string) $answer->headers->get('Preference-Applied'));
        $this->flushHeaders();
    }

    /** Some activities have a deadline, several of them the same; most have none. */
    private function someDeadlines(): void
    {
        $this->actingAs($this->person('ilse'));
        $uids = DB::table('activities')->orderBy('uid')->limit(24)->pluck('uid');
        $this->change($uids->map(static fn (string $uid, int $n): array => self::update('activity', $uid,
            ['deadline' => sprintf('2027-02-%02dT17:00', 1 + $n % 9)]))->all())->assertOk();
        $this->flushSession();
    }

    /** URL Conventions 5.1.6: null comes first, last when descending. */
    public function test_null_is_below_everything(): void
    {
        $this->someDeadlines();
        $ascending = array_column($this->feed('Activities?$select=Deadline&$orderby=Deadline')->json('value'), 'Deadline');
        $sorted = $ascending;
        usort($sorted, static fn (?string $a, ?string $b): int => $a <=> $b);
        self::assertSame($sorted, $ascending);
        self::assertNull($ascending[0]);
        self::assertNotNull(end($ascending));
        self::assertSame(array_reverse($sorted), array_column($this->feed('Activities?$select=Deadline&$orderby=Deadline desc')
            ->json('value'),
            'Deadline'));
    }

    /** URL Conventions 5.1.1.8.9 and ABNF dateTimeOffsetValue: offsets count; dates are those of the enterprise's clock. */
    public function test_moments_have_the_offset_of_the_enterprise(): void
    {
        $this->app->instance(Zone::class, new Zone('Europe/Berlin'));
        $rows = $this->feed('Activities?$select=Id,Start')->json('value');
        $summer = $winter = null;
        foreach ($rows as $row) {
            $offset = substr($row['Start'], 19);
            self::assertSame((new \DateTimeImmutable(substr($row['Start'], 0, 19), new \DateTimeZone('Europe/Berlin')))->format('P'),
                $offset);
            $offset === '+02:00' ? $summer = $row : $winter = $row;
        }
        self::assertNotNull($summer);
        self::assertNotNull($winter);
        foreach ([$summer, $winter] as $row) {
            $utc = gmdate('Y-m-d\TH:i:s\Z', (int) strtotime($row['Start']));
            foreach ([$row['Start'], $utc, gmdate('Y-m-d\TH:i:s', (int) strtotime($row['Start']) - 12600).'-03:30'] as $literal) {
                $found = array_column($this->feed('Activities?$select=Id&$filter='.rawurlencode("Start eq {$literal}"))->json('value'),
                    'Id');
                self::assertContains($row['Id'], $found, $literal);
            }
            // a plus that a form wrote as a blank
            $found = array_column($this->feed('Activities?$select=Id&$filter=Start+eq+'.$row['Start'])->json('value'), 'Id');
            self::assertContains($row['Id'], $found);
        }
        self::assertNotContains($summer['Id'], array_column($this->feed('Activities?$filter='.rawurlencode('Start eq '
            .substr($summer['Start'],
                0, 19).'Z'))->json('value'), 'Id'));
    }

    /** Extension for Data Aggregation 4.0, sections 3.1 to 3.3: compared with the sums of all rows. */
    public function test_aggregation(): void
    {
        $all = $this->feed('Activities')->json('value');
        $groups = [];
        foreach ($all as $a) {
            if ($a['Kind'] === 'task') {
                $groups[$a['ProjectKey']][] = $a;
            }
        }
        $result = $this->feed('Activities?$apply='
            .rawurlencode("filter(Kind eq 'task')/groupby((Project/Key),aggregate(DurationHours with sum"
            .' as Total,DurationHours with average as Mean,Start with min as First,Finish with max as Last,'
            .'Name with countdistinct as Names,'
            .'$count as N))').'&$orderby=Total%20desc&$count=true')->assertOk();
        self::assertSame(count($groups), $result->json()['@odata.count']);
        self::assertSame('#Decimal', $result->json('value.0')['Total@odata.type']);
        $totals = array_column($result->json('value'), 'Total');
        $sorted = $totals;
        rsort($sorted);
        self::assertSame($sorted, $totals);
        foreach ($result->json('value') as $row) {
            $group = $groups[$row['Project']['Key']];
            self::assertEqualsWithDelta(array_sum(array_column($group, 'DurationHours')), $row['Total'], 0.001);
            self::assertEqualsWithDelta($row['Total'] / count($group), $row['Mean'], 0.001);
            self::assertSame([min(array_column($group, 'Start')), max(array_column($group, 'Finish')), count($group)],
                [$row['First'], $row['Last'], $row['N']]);
            self::assertSame(count(array_unique(array_column($group, 'Name'))), $row['Names']);
        }
        $one = $this->feed('Activities?$apply='.rawurlencode('aggregate(DurationHours with sum as Total,$count as N)'))->assertOk();
        self::assertEqualsWithDelta(array_sum(array_column($all, 'DurationHours')), $one->json('value.0.Total'), 0.001);
        self::assertSame(145, $one->json('value.0.N'));
        $kinds = $this->feed('Activities?$apply='.rawurlencode('groupby((Kind))'))->json('value.*.Kind');
        self::assertEqualsCanonicalizing(array_values(array_unique(array_column($all, 'Kind'))), $kinds);
        // after $apply come $filter and paging, over what it made
        $big = $this->feed('Activities?$apply='
            .rawurlencode('groupby((Kind),aggregate($count as N))/filter(N gt 5)/aggregate(N with sum as S)'));
        self::assertSame(array_sum(array_filter(array_count_values(array_column($all, 'Kind')), static fn (int $n): bool => $n > 5)),
            $big->json('value.0.S'));
        $pages = [];
        $next = 'Activities?$apply='.rawurlencode('groupby((WbsName,Kind),aggregate($count as N))').'&$filter=N%20gt%200&$orderby=N';
        while ($next !== null) {
            $answer = $this->withHeader('Prefer', 'maxpagesize=3')->feed($next)->assertOk();
            $pages = [...$pages, ...$answer->json('value')];
            $next = self::link($answer, 'nextLink');
        }
        self::assertSame(145, array_sum(array_column($pages, 'N')));
        self::assertCount(count(array_unique(array_map(static fn (array $a): string => "{$a['WbsName']}|{$a['Kind']}", $all))), $pages);
    }

    /** URL Conventions 5.1.7. */
    public function test_search(): void
    {
        $all = $this->feed('Activities')->json('value');
        $text = static fn (array $a): string => mb_strtolower(implode("\n", array_filter($a, is_string(...))));
        foreach (['cable' => static fn (string $t): bool => str_contains($t, 'cable'),
            'CABLE drums' => static fn (string $t): bool => str_contains($t, 'cable') && str_contains($t, 'drums'),
            '"cable drums"' => static fn (string $t): bool => str_contains($t, 'cable drums'),
            'cable AND NOT drums' => static fn (string $t): bool => str_contains($t, 'cable') && ! str_contains($t, 'drums'),
            '(cable OR crew) NOT drums' => static fn (string $t): bool => (str_contains($t, 'cable') || str_contains($t, 'crew'))
                && ! str_contains($t, 'drums'), '50%' => static fn (string $t): bool => false] as $search => $question) {
            $expected = array_column(array_filter($all, static fn (array $a): bool => $question(mb_strtolower(implode("\n", [$a['Code'],
                $a['Name'], $a['WbsCode'], $a['WbsName'], $a['Kind'], $a['ProjectKey'], $a['Source'], $a['Constraint'],
                $a['SecondConstraint'], $a['ProgressBy']])))), 'Id');
            sort($expected);
            self::assertSame($expected, array_column($this->feed('Activities?$search='.rawurlencode($search))->json('value'), 'Id'),
                $search);
        }
    }

    /** Protocol 11.3 and JSON Format 15: what is new, changed and gone since; over many steps the client has what there is. */
    public function test_changes_lead_to_what_there_is(): void
    {
        $query = 'Activities?$select=Id,Code,Start,Progress&$filter='.rawurlencode("DurationHours lt 200 and ProjectKey ne 'LYNG'");
        $have = [];
        $link = $query;
        $this->withHeader('Prefer', 'odata.track-changes,odata.maxpagesize=20');
        while ($link !== null) {
            $answer = $this->feed($link)->assertOk();
            foreach ($answer->json('value') as $row) {
                $have[$row['Id']] = $row;
            }
            $delta = self::link($answer, 'deltaLink');
            $link = self::link($answer, 'nextLink');
        }
        self::assertStringContainsString('track-changes', (string) $answer->headers->get('Preference-Applied'));
        $this->flushHeaders();
        $this->feed((string) $delta)->assertOk()->assertJsonPath('value', []);
        self::assertSame($delta, self::link($this->feed((string) $delta), 'deltaLink'), 'nothing new: the same link goes on');
        $steps = [
            [self::update('activity', 'act-grid-ca-0010', ['name' => 'Unseen'])],
            [self::update('activity', 'act-grid-ca-0050', ['duration' => 30 * 480])],
            [self::update('activity', 'act-grid-ca-0050', ['duration' => 480])],
            [self::made('activity', 'new', ['project' => 'prj-GRID', 'code' => 'NEW', 'name' => 'New', 'duration' => 480])],
            [self::update('activity', 'new', ['code' => 'NEWER'])],
            [self::gone('activity', 'new')],
            [self::gone('project', 'prj-CREW')],
        ];
        $told = [];
        foreach ($steps as $step) {
            $this->actingAs($this->person('ilse'));
            $this->change($step)->assertOk();
            $this->flushSession();
            $again = $delta;
            do {
                $answer = $this->withHeader('Prefer', 'odata.maxpagesize=4')->feed((string) $delta)->assertOk();
                foreach ($answer->json('value') as $row) {
                    if (isset($row['@odata.removed'])) {
                        $told[] = $row['@odata.removed']['reason'];
                        unset($have[$row['Id']]);
                    } else {
                        $have[$row['Id']] = $row;
                    }
                }
                $delta = self::link($answer, 'deltaLink') ?? self::link($answer, 'nextLink');
            } while (self::link($answer, 'deltaLink') === null);
            $this->flushHeaders();
            $now = array_column($this->feed($query)->json('value'), null, 'Id');
            ksort($have);
            self::assertSame($now, $have, json_encode($step) ?: '');
        }
        self::assertContains('changed', $told, 'went out of the filter');
        self::assertContains('deleted', $told);
        // the last link may be asked for again, as after a lost answer; another person's is not told
        $this->feed((string) $again)->assertOk();
        $this->feed((string) $delta)->assertOk();
        $this->token = $this->person('ilse')->createToken('t', ['feed'])->plainTextToken;
        $this->feed((string) $delta)->assertStatus(410);
        self::assertLessThan(8, DB::table('feed_states')->count(), 'what nobody asks for again is not kept');
    }

    /** Protocol 11.3: a right that ended takes its rows along. */
    public function test_changes_follow_rights(): void
    {
        $user = $this->somebody('viewer', 'Harbours');
        $this->token = $user->createToken('t', ['feed'])->plainTextToken;
        $delta = (string) self::link($this->withHeader('Prefer', 'track-changes')->feed('Projects?$select=Key'), 'deltaLink');
        DB::table('grants')->where('user_id', $user->id)->update(['branch_id' => $this->branchId('Grid and energy')]);
        $this->flushHeaders();
        $rows = $this->feed($delta)->json('value');
        self::assertSame(['GRID'], array_column($rows, 'Key'));
        self::assertCount(2, array_filter($rows, static fn (array $r): bool => isset($r['@odata.removed'])));
    }

    /** Protocol 8.2.1 and 8.2.5, JSON Format 3: formats, levels of metadata, versions, exact numbers. */
    public function test_what_the_client_wants(): void
    {
        $ask = fn (array $headers, string $path = "Activities('act-grid-ca-0050')"): TestResponse => $this->withHeaders($headers)
            ->feed($path);
        $minimal = $ask([])->assertHeader('OData-Version', '4.01')->json();
        self::assertArrayHasKey('@odata.context', $minimal);
        self::assertStringEndsWith('$metadata#Activities/$entity', $minimal['@odata.context']);
        self::assertArrayNotHasKey('@odata.context', $ask(['Accept' => 'application/json;odata.metadata=none'])->json());
        $full = $ask(['Accept' => 'application/json;odata.metadata=full'])->json();
        self::assertSame(['#Reihe.Activity', "Activities('act-grid-ca-0050')", '#Decimal'],
            [$full['@odata.type'], $full['@odata.id'], $full['DurationHours@odata.type']]);
        self::assertSame("Activities('act-grid-ca-0050')/Project", $full['Project@odata.navigationLink']);
        self::assertIsString($ask(['Accept' => 'application/json;IEEE754Compatible=true'])->json('DurationHours'));
        $ask(['OData-MaxVersion' => '4.0'])->assertHeader('OData-Version', '4.0');
        $ask(['OData-MaxVersion' => '3.0'])->assertStatus(400);
        $ask(['Accept' => 'application/atom+xml', 'OData-MaxVersion' => '4.01'])->assertStatus(406);
        $this->flushHeaders();
        $tag = (string) $ask([])->headers->get('ETag');
        self::assertSame('', $ask(['If-None-Match' => $tag])->assertStatus(304)->getContent());
        $ask(['If-None-Match' => 'W/"other"'])->assertOk();
        $this->flushHeaders();
        // names without $ and in any case (Protocol 11.2.1), aliases (URL Conventions 5.3)
        self::assertSame([['Key' => 'GRID']], $this->feed("Projects?Filter=Key eq @k&\$Select=Key&@k='GRID'")->json('value'));
        $this->feed('$metadata')->assertOk()->assertHeader('Content-Type', 'application/xml');
        $this->feed('$metadata?$format=json')->assertOk()->assertHeader('Content-Type', 'application/json');
    }

    /** Protocol 11.2.5.2: relations with options of their own, compared with the same asked one by one. */
    public function test_expand(): void
    {
        $nested = '$select=Code;$filter=Critical eq true;$orderby=Start desc,Code;$skip=1;$top=2;$count=true';
        foreach ($this->feed('Projects?$select=Key&$expand='.rawurlencode("Activities({$nested})"))->assertOk()
            ->json('value') as $project) {
            $alone = $this->feed('Activities?'.str_replace(';', '&', str_replace('Critical eq true',
                "Critical eq true and ProjectKey eq '{$project['Key']}'", $nested)))->assertOk()->json();
            self::assertSame([$alone['value'], $alone['@odata.count']], [$project['Activities'], $project['Activities@odata.count']]);
        }
        $star = $this->feed('Handovers?$expand=*&$top=1')->assertOk()->json('value.0');
        self::assertSame($star['GiverProject']['Id'], $star['GiverProjectId']);
        self::assertSame($star['Taker']['Id'], $star['TakerId']);
    }

    /** Every relation leads there and back; every property of every set can be selected, ordered and filtered by. */
    public function test_all_sets_all_properties_all_relations(): void
    {
        $this->withoutMiddleware(ThrottleRequests::class);
        foreach (\App\OData\Model::sets() as $set) {
            $all = $this->feed("{$set->name}?\$count=true")->assertOk();
            self::assertSame($all->json()['@odata.count'], count($all->json('value')), $set->name);
            $ids = array_column($all->json('value'), 'Id');
            self::assertSame($ids, array_values(array_unique($ids)), "{$set->name}: keys are unique");
            foreach ($set->properties as $name => $p) {
                $null = (int) $this->feed("{$set->name}/\$count?\$filter={$name} eq null")->assertOk()->getContent();
                $rest = (int) $this->feed("{$set->name}/\$count?\$filter={$name} ne null")->assertOk()->getContent();
                self::assertSame(count($ids), $null + $rest, "{$set->name}/{$name}");
                self::assertTrue($p->nullable || $null === 0, "{$set->name}/{$name} may be null");
                $this->feed("{$set->name}?\$select={$name}&\$orderby={$name} desc&\$top=3")->assertOk();
                $this->feed("{$set->name}?\$apply=groupby(({$name}),aggregate(\$count as Number_))")->assertOk();
            }
            foreach ($set->navigations as $name => $n) {
                $rows = $this->feed("{$set->name}?\$expand={$name}")->assertOk()->json('value');
                $back = \App\OData\Model::set($n->target)->navigations[$n->partner];
                self::assertSame([$set->name, $n->theirs, $n->ours, ! $n->many], [$back->target, $back->ours, $back->theirs, $back->many],
                    "{$set->name}/{$name} and back");
                foreach ($rows as $row) {
                    foreach ($n->many ? $row[$name] : array_filter([$row[$name]]) as $related) {
                        self::assertSame($row[$n->ours], $related[$n->theirs], "{$set->name}/{$name}");
                    }
                }
            }
        }
    }

    private static function link(TestResponse $answer, string $which): ?string
    {
        $link = $answer->json()["@odata.{$which}"] ?? null;

        return is_string($link) ? explode('/odata/v4/', $link)[1] : null;
    }

    private function feed(string $path): TestResponse
    {
        return $this->withToken($this->token)->get("/odata/v4/{$path}");
    }
}
