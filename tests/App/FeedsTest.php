<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Support\Facades\DB;
use Illuminate\Testing\TestResponse;
use PHPUnit\Framework\Attributes\TestWith;
use Reihe\Formats\Tests\Readers;

/** Subscriptions: iCalendar (RFC 5545, RFC 7986) and Atom (RFC 4287), read by programs of others. */
final class FeedsTest extends TestCase
{
    #[TestWith(['project', 'prj-GRID', 16])]
    #[TestWith(['entry', 'entry-STAGE-BUILD', null])]
    #[TestWith(['person', 'Ilse Marbach', null])]
    #[TestWith(['handovers', null, null])]
    #[TestWith(['handovers', 'prj-TERN', null])]
    public function test_calendars_are_read_alike_by_four_readers(string $kind, ?string $about, ?int $count): void
    {
        if ($kind === 'entry') {
            $about = DB::table('code_entries as e')->join('codings as c', 'c.entry_id', '=', 'e.id')->whereNull('c.activity_id')
                ->value('e.uid');
        }
        if ($kind === 'person') {
            DB::table('projects')->where('uid', 'prj-GRID')->update(['lead' => $about]);
        }
        $text = (string) $this->fetch($this->subscribe($kind, $about))->assertOk()
            ->assertHeader('Content-Type', 'text/calendar; charset=utf-8')->getContent();
        self::assertSame([], array_filter(explode("\r\n", $text), static fn (string $line): bool => strlen($line) > 75),
            'RFC 5545, 3.1: lines');
        $first = null;
        foreach (Readers::ICALENDAR as $reader) {
            $events = array_map(static fn (array $e): array => array_diff_key($e, ['faults' => 1]), Readers::read($reader, $text));
            $first ??= $events;
            self::assertEquals($first, $events, $reader);
        }
        self::assertNotEmpty($first);
        $count === null ?: self::assertCount($count, $first);
        self::assertSame([], (new \Sabre\VObject\Reader)::read($text)->validate());
        foreach ($first as $event) {
            self::assertSame('VEVENT', $event['kind']);
            self::assertLessThan($event['end'], $event['start'], 'DTEND is the day after the last (RFC 5545, 3.6.1)');
        }
        if ($kind === 'project') {
            $days = [];
            foreach ($first as $event) {
                $days[substr((string) $event['uid'], 0, -6)] = [$event['start'], $event['end']];
            }
            $dates = DB::table('activities as a')->join('activity_dates as d', 'd.activity_id', '=', 'a.id')->where('a.uid',
                'act-grid-ca-0050')
                ->first(['d.start', 'd.finish']);
            $day = static fn (int $at): string => gmdate('Y-m-d', 946_684_800 + $at * 60);
            self::assertSame([$day($dates->start), $day($dates->finish - 1 + 1440)], $days['act-grid-ca-0050']);
        }
    }

    #[TestWith(['changes', null])]
    #[TestWith(['changes', 'prj-GRID'])]
    #[TestWith(['risks', null])]
    #[TestWith(['baselines', null])]
    public function test_news_are_valid_atom(string $kind, ?string $about): void
    {
        $this->actingAs($this->person('ilse'));
        $this->change([self::update('activity', 'act-grid-ca-0050', ['name' => 'A <b>bold</b> & “quoted” name'])])->assertOk();
        $text = (string) $this->fetch($this->subscribe($kind, $about))->assertOk()
            ->assertHeader('Content-Type', 'application/atom+xml; charset=utf-8')->getContent();
        $feed = Readers::json('atom.mjs', $text);
        self::assertSame('atom', $feed['format']);
        $entries = $feed['feed']['entries'] ?? [];
        self::assertNotEmpty($entries);
        // RFC 4287: 4.1.1 a feed has an author or each entry one, 4.1.2 entries have id, title, updated; 4.2.6 ids differ
        $ids = array_column($entries, 'id');
        self::assertSame($ids, array_values(array_unique($ids)));
        foreach ([$feed['feed'], ...$entries] as $one) {
            self::assertMatchesRegularExpression('/^urn:reihe:/', $one['id']);
            self::assertNotSame('', $one['title']['value'] ?? $one['title']);
            self::assertMatchesRegularExpression('/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ$/', $one['updated']);
            self::assertNotSame('', $one['authors'][0]['name']);
            self::assertContains('alternate', array_column($one['links'], 'rel'));
        }
        self::assertSame(max(array_column($entries, 'updated')), $feed['feed']['updated']);
        self::assertContains('self', array_column($feed['feed']['links'], 'rel'));
        $numbers = ['risks' => DB::table('handover_dates')->whereIn('state', ['at-risk', 'late'])->count(),
            'baselines' => DB::table('baselines')->count()];
        isset($numbers[$kind]) && self::assertCount($numbers[$kind], $entries);
    }

    /** RFC 9110, section 13.1.2. */
    public function test_what_is_as_it_was_is_not_sent_again(): void
    {
        foreach (['project' => 'prj-GRID', 'changes' => null] as $kind => $about) {
            $address = $this->subscribe($kind, $about);
            $tag = (string) $this->fetch($address)->headers->get('ETag');
            self::assertNotSame('', $tag);
            $this->travel(2)->hours();
            self::assertSame('', $this->withHeader('If-None-Match', $tag)->fetch($address)->assertStatus(304)->getContent());
            $this->flushHeaders();
            $this->actingAs($this->person('ilse'));
            $this->change([self::update('activity', 'act-grid-ca-0050', ['name' => "Another {$kind}"])])->assertOk();
            $this->withHeader('If-None-Match', $tag)->fetch($address)->assertOk();
            $this->flushHeaders();
        }
    }

    public function test_an_address_shows_what_its_owner_sees_until_it_is_revoked(): void
    {
        $viewer = $this->somebody('viewer', 'Harbours');
        $this->actingAs($viewer);
        $this->postJson('/api/v1/subscriptions', ['kind' => 'project', 'about' => 'prj-GRID'])->assertStatus(422);
        $this->postJson('/api/v1/subscriptions', ['kind' => 'project'])->assertStatus(422);
        $this->postJson('/api/v1/subscriptions', ['kind' => 'nothing'])->assertStatus(422);
        $address = $this->subscribe('changes', null, $viewer);
        self::assertStringNotContainsString('GRID', (string) $this->fetch($address)->getContent());
        $mine = $this->actingAs($viewer)->getJson('/api/v1/subscriptions')->json('subscriptions.0');
        self::assertIsString($mine['lastUsed']);
        self::assertSame('127.0.0.1', $mine['lastUsedFrom']);
        self::assertStringNotContainsString(substr($address, -20, 10), json_encode($mine) ?: '');
        self::assertSame(0, DB::table('subscriptions')->where('secret', 'like', '%'.substr(basename($address), 0, 40).'%')->count());
        $this->fetch(str_replace('.atom', '.ics', $address))->assertStatus(404);
        $this->actingAs($this->person('ilse'))->deleteJson("/api/v1/subscriptions/{$mine['id']}")->assertStatus(404);
        $this->fetch($address)->assertOk();
        $viewer->update(['active' => false]);
        $this->fetch($address)->assertStatus(404);
        $viewer->update(['active' => true]);
        $this->actingAs($viewer)->deleteJson("/api/v1/subscriptions/{$mine['id']}")->assertStatus(204);
        $this->fetch($address)->assertStatus(404);
        $this->fetch('/feeds/'.str_repeat('a', 40).'.ics')->assertStatus(404);
        $this->fetch('/feeds/..%2f..%2f.env.ics')->assertStatus(404);
    }

    public function test_tokens_are_limited_to_a_branch_and_to_sets_and_expire(): void
    {
        $this->actingAs($this->person('ilse'));
        $ask = fn (array $more): TestResponse => $this->postJson('/api/v1/tokens', $more + ['name' => 'Report', 'scopes' => ['feed']]);
        $ask(['branch' => 'none'])->assertStatus(422);
        $ask(['sets' => ['Nothing']])->assertStatus(422);
        $ask(['expires' => '2026-11-25'])->assertStatus(422);
        $ask(['scopes' => ['feed', 'write'], 'branch' => $this->branch('Harbours')])->assertStatus(422);
        $made = $ask(['branch' => $this->branch('Harbours'), 'sets' => ['Projects', 'Activities'], 'expires' => '2026-11-30'])
            ->assertStatus(201)->json();
        self::assertSame(['Harbours', ['Projects', 'Activities'], null], [$made['branch'], $made['sets'], $made['lastUsed']]);
        $this->flushSession();
        $this->app['auth']->forgetGuards();
        $feed = fn (string $path): TestResponse => $this->withToken($made['token'])->get("/odata/v4/{$path}");
        self::assertSame(['LYNG', 'OSTV'], array_column($feed('Projects?$orderby=Key')->assertOk()->json('value'), 'Key'));
        self::assertSame(['Projects', 'Activities'], array_column($feed('')->json('value'), 'name'));
        $feed('Links')->assertStatus(403);
        $feed('Projects?$expand=Baselines')->assertStatus(403);
        $feed('Activities?$filter=Successors/any()')->assertStatus(403);
        $feed('Activities?$filter=Calendar/Key%20eq%20%27x%27')->assertStatus(403);
        $feed("Projects('prj-GRID')")->assertStatus(404);
        $feed("Activities('act-grid-ca-0050')/Successors")->assertStatus(404);
        $this->travelTo('2026-11-30 23:00:00');
        $feed('Projects')->assertOk();
        $this->travelTo('2026-12-01 00:00:01');
        $feed('Projects')->assertStatus(401)->assertJsonPath('error.message', 'This token has expired.');
        $this->travelTo('2026-11-26 12:00:00');
        $listed = $this->actingAs($this->person('ilse'))->getJson('/api/v1/tokens')->json('tokens.0');
        self::assertSame('127.0.0.1', $listed['lastUsedFrom']);
        self::assertArrayNotHasKey('token', $listed);
        // the branch goes: the token goes too, it does not become wider
        DB::table('personal_access_tokens')->update(['branch_id' => DB::table('branches')->insertGetId(['uid' => 'gone', 'name' => 'Gone',
            'position' => 9, 'path' => '9999/', 'parent_id' => $this->branchId('Varnsund Ferries')])]);
        DB::table('branches')->where('uid', 'gone')->delete();
        $this->flushSession();
        $this->app['auth']->forgetGuards();
        $feed('Projects')->assertStatus(401);
    }

    private function subscribe(string $kind, ?string $about, ?\App\Models\User $user = null): string
    {
        $address = $this->actingAs($user ?? $this->person('ilse'))->postJson('/api/v1/subscriptions', ['kind' => $kind, 'about' => $about])
            ->assertStatus(201)->json('address');
        self::assertIsString($address);

        return (string) parse_url($address, PHP_URL_PATH);
    }

    /** As whoever has the address, without a session. */
    private function fetch(string $address): TestResponse
    {
        $this->flushSession();
        $this->app['auth']->forgetGuards();

        return $this->get($address);
    }
}
