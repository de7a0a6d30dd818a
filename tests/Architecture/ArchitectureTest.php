<?php

declare(strict_types=1);

namespace Tests\Architecture;

use App\Planning\Results;
use App\Planning\Tables\Table;
use PHPUnit\Framework\TestCase;
use RecursiveDirectoryIterator;
use RecursiveIteratorIterator;
use Reihe\Core\Plan\EntityKind;

/** The floors of the house: imports go down only, and the core is pure. */
final class ArchitectureTest extends TestCase
{
    /** Functions that read a clock, the environment, files or the network. */
    private const IMPURE = ['time', 'microtime', 'hrtime', 'date', 'mktime', 'strtotime', 'getenv', 'fopen', 'file', 'file_get_contents',
        'file_put_contents', 'is_file', 'fwrite', 'echo', 'print', 'printf',
        'curl_init', 'fsockopen', 'rand', 'mt_rand', 'random_int', 'config', 'app', 'env', 'now', 'session', 'request', 'global',
        'date_default_timezone_get', 'setlocale', 'error_log'];

    public function test_the_core_uses_nothing_but_itself_the_parser_of_formulas_and_chance_from_a_seed(): void
    {
        $this->assertOnlyUses('core/src',
            '/^(Reihe\\\\Core\\\\|Symfony\\\\Component\\\\ExpressionLanguage\\\\|Random\\\\(Randomizer|Engine\\\\Xoshiro256StarStar)$)/');
    }

    public function test_formats_use_the_core_and_the_libraries_of_calendars_and_tables_only(): void
    {
        $this->assertOnlyUses('formats/src', '/^(Reihe\\\\(Core|Formats)|Sabre\\\\VObject|PhpOffice\\\\PhpSpreadsheet)\\\\/');
    }

    public function test_the_core_reads_no_clock_no_file_no_global(): void
    {
        $checked = 0;
        foreach ($this->files('core/src') as $file => $tokens) {
            foreach ($tokens as $i => $token) {
                if (! $token->is([T_STRING, T_ECHO, T_PRINT, T_GLOBAL, T_VARIABLE])) {
                    continue;
                }
                $before = $tokens[$i - 1] ?? null;
                $called = ($tokens[$i + 1]->text ?? '') === '(' && ! in_array($before?->text, ['->', '?->', '::', 'function', 'new'], true);
                self::assertFalse(($called || ! $token->is(T_STRING)) && in_array(strtolower($token->text), self::IMPURE, true),
                    "{$file}: {$token->text} on line {$token->line}");
                self::assertNotContains($token->text,
                    ['$_SERVER', '$_GET', '$_POST', '$_ENV', '$GLOBALS', '$_COOKIE', '$_SESSION', '$_FILES', '$_REQUEST'],
                    "{$file} on line {$token->line}");
                $checked++;
            }
        }
        self::assertGreaterThan(1000, $checked);
    }

    /** Rooms of the application, the lowest first: each uses those before it only, so that no two lean on each other. */
    private const ROOMS = ['Database', 'Models', 'Access', 'Planning', 'Baselines', 'Resources', 'Demo', 'History', 'Selection', 'Board',
        'Exchange',
        'Health', 'Drafts', 'Levelling', 'Portfolio', 'Compose', 'OData', 'Feeds', 'Problems', 'Jobs', 'Console', 'Http', 'Providers'];

    public function test_rooms_of_the_application_lean_one_way(): void
    {
        $order = array_flip(self::ROOMS);
        $wrong = [];
        foreach ($this->files('app') as $file => $tokens) {
            [, $room] = explode('/', $file);
            self::assertArrayHasKey($room, $order);
            foreach ($tokens as $token) {
                if ($token->is(T_NAME_QUALIFIED) && preg_match('/^App\\\\(\w+)\\\\/', $token->text, $m) === 1
                    && $order[$m[1]] > $order[$room]) {
                    $wrong[] = "{$file} uses {$token->text}";
                }
            }
        }
        self::assertSame([], $wrong);
    }

    public function test_only_planning_writes_plan_data(): void
    {
        $writers = [];
        foreach ($this->files('app') as $file => $tokens) {
            $text = implode('', array_map(static fn (\PhpToken $t): string => $t->text, $tokens));
            if (preg_match('/table\(\'('.implode('|', self::planTables()).')\'\)(?:(?!;).)*->(insert|update|upsert|increment|delete)\(/s',
                $text) === 1
                || preg_match("/table\((?!')(?:(?!;).)*->(insert|update|upsert|delete)\(/s", $text) === 1) {
                $writers[] = $file;
            }
        }
        self::assertContains('app/Planning/PlanWriter.php', $writers);
        self::assertSame([], array_filter($writers, static fn (string $file): bool => preg_match('#^app/(Planning|Database)/#',
            $file) !== 1));
    }

    public function test_every_table_belongs_to_a_floor(): void
    {
        // what is no plan data: who may do what, records beside the plan, the framework's own
        $others = ['users', 'grants', 'access_history', 'personal_access_tokens', 'sessions', 'password_reset_tokens', 'cache',
            'cache_locks', 'jobs', 'failed_jobs', 'background_jobs', 'migrations',
            'baselines', 'baseline_rows', 'settings', 'views', 'fragment_versions',
            'change_sets', 'change_set_projects', 'date_moves', 'visits', 'drafts', 'told_before', 'notices', 'branch_remarks',
            'first_views',
            'waivers', 'project_health', 'feed_states', 'subscriptions', 'owners', 'attempts'];
        $made = [];
        foreach (glob(dirname(__DIR__, 2).'/database/migrations/*.php') ?: [] as $file) {
            preg_match_all("/^ +'(\w+)' => <<</m", (string) file_get_contents($file), $m);
            $made = [...$made, ...$m[1]];
        }
        self::assertGreaterThan(20, count($made));
        self::assertSame([], array_values(array_diff($made, self::planTables(), $others)),
            'a new table is plan data (of a kind, or beside one) or something that is named here');
        self::assertSame([], array_values(array_diff(array_map(static fn (EntityKind $kind): string => Table::of($kind)->name(),
            EntityKind::cases()), $made)));
    }

    /**
     * The floors of the front end: words, times, API and looks know nothing above them; the axis draws without Vue; no place knows
     * another.
     */
    public function test_the_front_end_imports_downwards_only(): void
    {
        $below = ['words' => ['time', 'api'], 'time' => [], 'api' => [], 'ui' => ['words', 'time', 'api'], 'axis' => ['time', 'ui'],
            'rows' => ['axis', 'ui', 'words', 'time'],
            'codes' => ['api', 'ui', 'words', 'time'], 'chart' => ['api', 'ui', 'words', 'time'],
            'selection' => ['codes', 'api', 'ui', 'words', 'time'], 'copying' => ['codes', 'api', 'ui', 'words', 'time'],
            'progress' => ['api', 'ui', 'words', 'time'], 'remarks' => ['api', 'ui', 'words', 'time'],
            'frame' => ['api', 'session', 'ui', 'words', 'time']];
        $root = dirname(__DIR__, 2).'/resources/js';
        $checked = 0;
        foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator($root)) as $file) {
            if (! $file instanceof \SplFileInfo || ! in_array($file->getExtension(), ['ts', 'vue'], true)) {
                continue;
            }
            $path = substr($file->getPathname(), strlen($root) + 1);
            [$floor, $place] = [...explode('/', $path), ''];
            preg_match_all("/(?:from|import\() ?'(@\/[^']+|\.\.\/[^']+|vue)'/", (string) file_get_contents($file->getPathname()), $m);
            foreach ($m[1] as $import) {
                $target = str_starts_with($import, '@/') ? substr($import, 2)
                    : (str_starts_with($import, '../') ? self::resolved(dirname($path), $import) : $import);
                [$to, $toPlace] = [...explode('/', $target), ''];
                $checked++;
                if ($floor === 'places') {
                    self::assertFalse($to === 'places' && $toPlace !== $place, "{$path} imports {$import}");
                } elseif (isset($below[$floor])) {
                    self::assertTrue($to === $floor || ($to === 'vue' && $floor !== 'axis') || in_array($to, $below[$floor], true),
                        "{$path} imports {$import}");
                }
            }
        }
        self::assertGreaterThan(150, $checked);
    }

    /** Lines are to have 140 characters at most. Some of earlier days are longer; their number may only fall. */
    public function test_no_line_is_longer_than_140_characters(): void
    {
        $long = [];
        foreach (['core', 'formats', 'app', 'tests', 'database', 'resources/js'] as $folder) {
            foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator(dirname(__DIR__, 2)."/{$folder}")) as $file) {
                if ($file instanceof \SplFileInfo && in_array($file->getExtension(), ['php', 'ts', 'vue', 'mjs'], true)
                    && $file->getFilename() !== 'schema.ts') {
                    foreach (explode("\n", (string) file_get_contents($file->getPathname())) as $i => $line) {
                        if (mb_strlen($line) > 140) {
                            $long[] = "{$folder}/…/{$file->getFilename()}:".($i + 1);
                        }
                    }
                }
            }
        }
        self::assertSame([], $long);
    }

    /** @return list<string> tables that only the door to plan data writes */
    private static function planTables(): array
    {
        return array_values(array_unique([...array_map(static fn (EntityKind $kind): string => Table::of($kind)->name(),
            EntityKind::cases()), ...array_column(Results::TABLES, 0),
            'enterprise', 'plan_changes', 'measures', 'outside_dates', 'external_identities', 'agreements']));
    }

    private static function resolved(string $folder, string $import): string
    {
        $parts = explode('/', $folder);
        foreach (explode('/', $import) as $step) {
            $step === '..' ? array_pop($parts) : $parts[] = $step;
        }

        return implode('/', $parts);
    }

    private function assertOnlyUses(string $folder, string $allowed): void
    {
        $names = 0;
        foreach ($this->files($folder) as $file => $tokens) {
            foreach ($tokens as $i => $token) {
                if (! $token->is([T_NAME_QUALIFIED, T_NAME_FULLY_QUALIFIED]) || $tokens[max(0, $i - 1)]->is(T_NAMESPACE)) {
                    continue;
                }
                $name = ltrim($token->text, '\\');
                $names++;
                self::assertTrue(! str_contains($name, '\\') || preg_match($allowed, $name) === 1,
                    "{$file} on line {$token->line} uses {$name}");
            }
        }
        self::assertGreaterThan(10, $names);
    }

    /** @return iterable<string, list<\PhpToken>> path => tokens without white space and comments */
    private function files(string $folder): iterable
    {
        $root = dirname(__DIR__, 2);
        foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator("{$root}/{$folder}")) as $file) {
            if ($file instanceof \SplFileInfo && $file->getExtension() === 'php') {
                yield substr($file->getPathname(),
                    strlen($root) + 1) => array_values(array_filter(\PhpToken::tokenize((string) file_get_contents($file->getPathname())),
                        static fn (\PhpToken $t): bool => ! $t->isIgnorable()));
            }
        }
    }
}
