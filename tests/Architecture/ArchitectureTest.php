<?php

declare(strict_types=1);

namespace Tests\Architecture;

use PHPUnit\Framework\TestCase;
use RecursiveDirectoryIterator;
use RecursiveIteratorIterator;

/** The floors of the house: imports go down only, and the core is pure. */
final class ArchitectureTest extends TestCase
{
    /** Functions that read a clock, the environment, files or the network. */
    private const IMPURE = ['time', 'microtime', 'hrtime', 'date', 'mktime', 'strtotime', 'getenv', 'fopen', 'file', 'file_get_contents', 'file_put_contents', 'is_file', 'fwrite', 'echo', 'print', 'printf',
        'curl_init', 'fsockopen', 'rand', 'mt_rand', 'random_int', 'config', 'app', 'env', 'now', 'session', 'request', 'global', 'date_default_timezone_get', 'setlocale', 'error_log'];

    public function test_the_core_uses_nothing_but_itself(): void
    {
        $this->assertOnlyUses('core/src', '/^Reihe\\\\Core\\\\/');
    }

    public function test_formats_use_the_core_and_the_calendar_library_only(): void
    {
        $this->assertOnlyUses('formats/src', '/^(Reihe\\\\(Core|Formats)|Sabre\\\\VObject)\\\\/');
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
                self::assertFalse(($called || ! $token->is(T_STRING)) && in_array(strtolower($token->text), self::IMPURE, true), "{$file}: {$token->text} on line {$token->line}");
                self::assertNotContains($token->text, ['$_SERVER', '$_GET', '$_POST', '$_ENV', '$GLOBALS', '$_COOKIE', '$_SESSION', '$_FILES', '$_REQUEST'], "{$file} on line {$token->line}");
                $checked++;
            }
        }
        self::assertGreaterThan(1000, $checked);
    }

    public function test_only_planning_writes_plan_data(): void
    {
        $writers = [];
        foreach ($this->files('app') as $file => $tokens) {
            $text = implode('', array_map(static fn (\PhpToken $t): string => $t->text, $tokens));
            if (preg_match("/table\('(projects|activities|links|wbs_elements|calendars|enterprise|plan_changes|efforts|agreements|[a-z]+_dates|project_codes)'\)(?:(?!;).)*->(insert|update|upsert|increment|delete)\(/s", $text) === 1
                || preg_match("/table\((?!')(?:(?!;).)*->(insert|update|upsert|delete)\(/s", $text) === 1) {
                $writers[] = $file;
            }
        }
        self::assertContains('app/Planning/PlanWriter.php', $writers);
        self::assertSame([], array_filter($writers, static fn (string $file): bool => ! str_starts_with($file, 'app/Planning/')));
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
                self::assertTrue(! str_contains($name, '\\') || preg_match($allowed, $name) === 1, "{$file} on line {$token->line} uses {$name}");
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
                yield substr($file->getPathname(), strlen($root) + 1) => array_values(array_filter(\PhpToken::tokenize((string) file_get_contents($file->getPathname())), static fn (\PhpToken $t): bool => ! $t->isIgnorable()));
            }
        }
    }
}
