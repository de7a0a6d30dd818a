<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\User;
use App\Planning\ChangeRequest;
use App\Planning\Planning;
use Illuminate\Support\Facades\DB;
use PHPUnit\Framework\Attributes\DataProvider;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\CoreException;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Owner;
use Reihe\Core\Plan\PlanCheck;

/**
 * Something of the enterprise changes while somebody begins to use it: what is calculated outside the lock is looked up again under it.
 * Each
 * pair is made to meet: the second change is committed at the moment at which the first one has the lock in sight.
 */
final class UnderTheLockTest extends TestCase
{
    private User $ilse;

    protected function setUp(): void
    {
        parent::setUp();
        $this->ilse = $this->person('ilse');
        $this->actingAs($this->ilse);
        $office = (string) DB::table('calendars')->where('key', 'OFFICE')->value('uid');
        $this->change([
            self::made('calendar', 'k', ['key' => 'K', 'name' => 'K', 'week' => array_fill_keys(range(1, 5), '08:00-12:00')]),
            self::made('calendar', 'k2', ['key' => 'K2', 'name' => 'K2', 'week' => array_fill_keys(range(1, 5), '08:00-16:00')]),
            self::made('branch', 'b', ['name' => 'B', 'parent' => $this->branch('Archive')]),
            self::made('codeSet', 's', ['scope' => 'activity', 'name' => 'S']),
            self::made('entry', 'e', ['codeSet' => 's', 'name' => 'E']), self::made('entry', 'e2', ['codeSet' => 's', 'name' => 'E2']),
            self::made('codeSet', 's2', ['scope' => 'activity', 'name' => 'S2']),
            self::made('ownField', 'f', ['scope' => 'activity', 'name' => 'F', 'type' => 'text']),
            self::made('levelScheme', 'l', ['name' => 'L', 'levels' => [['name' => 'One'], ['name' => 'Two']]]),
            self::made('levelCode', 'c', ['scheme' => 'l', 'level' => 1, 'code' => 'A', 'name' => 'A']),
            self::made('resource', 'r', ['key' => 'R', 'calendar' => $office]),
            self::made('project', 'p', ['key' => 'P', 'name' => 'P', 'branch' => $this->branch('Archive'), 'calendar' => $office,
                'start' => '2027-01-04T08:00']),
            self::made('activity', 'a', ['project' => 'p', 'code' => 'A', 'name' => 'A', 'duration' => 4800]),
        ])->assertOk();
    }

    /**
     * What happens to something of the enterprise, and what begins to use it; for every kind that the enterprise has and every
     * reference that leads to it.
     *
     * @return array<string, array{Operation, Operation}>
     */
    private static function pairs(): array
    {
        $update = static fn (string $kind, string $uid, array $after): Operation => Operation::update(EntityKind::from($kind), $uid,
            $after);
        $create = static fn (string $kind, string $uid, array $after): Operation => Operation::create(EntityKind::from($kind), $uid,
            $after);
        $delete = static fn (string $kind, string $uid): Operation => Operation::delete(EntityKind::from($kind), $uid);
        $week = $update('calendar', 'k', ['week' => array_fill_keys(range(1, 5), '08:00-09:00')]);
        $pairs = [];
        $uses = [
            'calendar' => ['project.calendar' => $update('project', 'p', ['calendar' => 'k']),
                'activity.calendar' => $update('activity', 'a', ['calendar' => 'k']), 'calendar.base' => $update('calendar', 'k2',
                    ['base' => 'k']), 'resource.calendar' => $create('resource', 'r9', ['key' => 'R9', 'calendar' => 'k'])],
            'resource' => ['assignment.resource' => $create('assignment', 'w9', ['activity' => 'a', 'resource' => 'r',
                'remainingWork' => 60])],
            'branch' => ['project.branch' => $update('project', 'p', ['branch' => 'b']),
                'branch.parent' => $create('branch', 'b9', ['name' => 'B9', 'parent' => 'b']),
                'codeSet.demandedOn' => $update('codeSet', 's2', ['demandedOn' => 'b'])],
            'codeSet' => ['entry.codeSet' => $create('entry', 'e9', ['codeSet' => 's', 'name' => 'E9'])],
            'entry' => ['coding.entry' => $create('coding', 'x9', ['project' => 'p', 'activity' => 'a', 'entry' => 'e']),
                'entry.parent' => $update('entry', 'e2', ['parent' => 'e'])],
            'ownField' => ['ownValue.field' => $create('ownValue', 'v9', ['project' => 'p', 'activity' => 'a', 'field' => 'f',
                'value' => 'hello'])],
            'levelScheme' => ['project.levelScheme' => $update('project', 'p', ['levelScheme' => 'l']),
                'levelCode.scheme' => $create('levelCode', 'c9', ['scheme' => 'l', 'level' => 1, 'code' => 'B', 'name' => 'B'])],
            'levelCode' => ['levelCode.parent' => $create('levelCode', 'c9', ['scheme' => 'l', 'parent' => 'c', 'level' => 2, 'code' => 'B',
                'name' => 'B'])],
        ];
        $happens = [
            'calendar' => ['changed' => $week, 'deleted' => $delete('calendar', 'k')],
            'branch' => ['deleted' => $delete('branch', 'b'), 'archived' => $update('branch', 'b', ['archived' => true])],
            'codeSet' => ['deleted' => $delete('codeSet', 's'), 'of projects' => $update('codeSet', 's', ['scope' => 'project'])],
            'entry' => ['deleted' => $delete('entry', 'e'), 'moved' => $update('entry', 'e', ['codeSet' => 's2']),
                'retired' => $update('entry', 'e', ['retired' => true])],
            'ownField' => ['a date' => $update('ownField', 'f', ['type' => 'date']), 'deleted' => $delete('ownField', 'f'),
                'of projects' => $update('ownField', 'f', ['scope' => 'project']), 'calculated' => $update('ownField', 'f',
                    ['formula' => '1'])],
            'levelScheme' => ['deleted' => $delete('levelScheme', 'l'), 'without levels' => $update('levelScheme', 'l', ['levels' => []])],
            'levelCode' => ['deleted' => $delete('levelCode', 'c')],
            'resource' => ['deleted' => $delete('resource', 'r'), 'retired' => $update('resource', 'r', ['retired' => true]),
                'a material' => $update('resource', 'r', ['kind' => 'material', 'calendar' => null])],
        ];
        foreach ($happens as $kind => $changes) {
            foreach ($changes as $what => $change) {
                foreach ($uses[$kind] as $use => $operation) {
                    $pairs["{$kind} {$what}, {$use}"] = [$change, $operation];
                }
            }
        }

        return $pairs;
    }

    public function test_every_reference_to_the_enterprise_is_tried(): void
    {
        $references = [];
        foreach (EntityKind::cases() as $kind) {
            foreach ($kind->entry()->references as $reference) {
                if ($reference->to->entry()->owner === Owner::Enterprise) {
                    $references["{$kind->value}.{$reference->field}"] = true;
                }
            }
        }
        $tried = [];
        foreach (array_keys(self::pairs()) as $name) {
            $tried[explode(', ', $name)[1]] = true;
        }
        self::assertSame([], array_diff_key($references, $tried));
    }

    /** @return iterable<string, array{string, bool}> */
    public static function cases(): iterable
    {
        foreach (array_keys(self::pairs()) as $name) {
            yield "{$name}: use comes between" => [$name, false];
            yield "{$name}: change comes between" => [$name, true];
        }
    }

    #[DataProvider('cases')]
    public function test_what_comes_between_counts(string $name, bool $turned): void
    {
        [$first, $second] = self::pairs()[$name];
        [$first, $second] = $turned ? [$second, $first] : [$first, $second];
        $waits = true;
        $done = null;
        DB::connection()->beforeExecuting(function (string $sql) use (&$waits, &$done, $second): void {
            if ($waits && preg_match('/from `enterprise`.*(for update|lock in share mode)/is', $sql) === 1) {
                $waits = false;
                $done = $this->attempt($second);
            }
        });
        $answer = $this->attempt($first);
        self::assertFalse($waits, "nobody asked for the lock: {$answer}");
        self::assertContains(true, [$answer === null, $done === null], "one of them: {$answer} / {$done}");
        // whatever was let in: everything can be read, fits together, and is calculated
        $plan = $this->plan();
        PlanCheck::of($plan);
        $this->assertResultsAreTrue();
        $this->artisan('reihe:recalculate')->assertSuccessful();
        foreach (['board?projects=P', 'portfolio', 'health?projects=P', 'exchange/export?projects=P&format=plan-xml'] as $path) {
            $this->getJson("/api/v1/{$path}")->assertOk();
        }
    }

    /** @return string|null why it was refused */
    private function attempt(Operation $operation): ?string
    {
        try {
            (new Planning($this->ilse))->commit(new ChangeRequest([$operation]));

            return null;
        } catch (CoreException $e) {
            return ($e instanceof InvalidOperation ? "{$e->field} " : '').$e->getMessage();
        }
    }

    /** A value that does not fit its field any more, from whatever time, is a finding and can be mended. */
    public function test_a_value_that_does_not_fit_is_a_finding(): void
    {
        $this->change([self::made('ownValue', 'v', ['project' => 'p', 'activity' => 'a', 'field' => 'f', 'value' => 'hello']),
            self::made('ownField', 'calc', ['scope' => 'activity', 'name' => 'Calc', 'key' => 'CALC', 'type' => 'text',
                'formula' => 'own("F") ~ "!"'])])->assertOk();
        $token = (string) $this->postJson('/api/v1/tokens', ['name' => 't', 'scopes' => ['feed']])->json('token');
        foreach (['date', 'number', 'duration', 'flag', 'choice'] as $type) {
            DB::table('own_fields')->where('uid', 'f')->update(['type' => $type]);
            DB::table('projects')->where('uid', 'p')->increment('input_revision'); // nothing kept knows of it
            $this->artisan('reihe:recalculate')->assertSuccessful();
            $view = rawurlencode((string) json_encode(['sort' => ['own:f'], 'filter' => null]));
            foreach (['board?projects=P', 'board/codes?projects=P', 'board/codes?projects=P&formulas=1',
                "board/arrange?projects=P&view={$view}",
                'health?projects=P', 'exchange/export?projects=P&format=plan-xml', 'exchange/export?projects=P&format=icalendar',
                'exchange/table?projects=P&format=csv&columns=code,own:f,own:calc',
                'exchange/table?projects=P&format=xlsx&columns=code,own:f',
                'portfolio', 'search?q=hello'] as $path) {
                self::assertSame(200, $this->getJson("/api/v1/{$path}")->status(), "{$type} {$path}");
            }
            foreach (['ActivityOwnValues', 'Activities'] as $set) {
                self::assertSame(200, $this->withToken($token)->getJson("/odata/v4/{$set}")->status(), "{$type} {$set}");
            }
            $this->withoutToken();
            $this->actingAs($this->ilse);
            $finding = collect($this->getJson('/api/v1/health?projects=P')->json('projects.0.findings'))
                ->firstWhere('check', 'misfit-values');
            self::assertSame([1, ['a']], [$finding['count'] ?? null, $finding['activities'] ?? null], $type);
            $this->change([self::update('activity', 'a', ['duration' => $type === 'date' ? 960 : 1440 + strlen($type)])])->assertOk();
        }
        $this->change([self::update('ownField', 'f', ['type' => 'text'])])->assertOk(); // the way back
        $this->change([self::update('ownField', 'f', ['type' => 'date'])])->assertStatus(422); // not while a value does not fit
        DB::table('own_fields')->where('uid', 'f')->update(['type' => 'date']);
        $this->change([self::update('ownValue', 'v', ['value' => '2027-03-01T00:00'])])->assertOk(); // or the value is typed anew
        $this->change([self::gone('ownValue', 'v')])->assertOk();
    }
}
