<?php

declare(strict_types=1);

// Do the tests of the core notice small faults? Each fault is put in alone; the tests that use its class run until one fails.
//   php tests/Mutation/run.php core/src/Calendar [core/src/Formula …] [--most=60] [--seed=1]     at most so many faults of each room
// Prints those that lived, with their lines, and the share that was killed. Not part of bin/test: a survivor costs a run of the whole
// suite.

use Random\Engine\Mt19937;
use Random\Randomizer;
use Tests\Mutation\Mutants;

require __DIR__.'/../../vendor/autoload.php';
chdir(dirname(__DIR__, 2));
$options = ['most' => 60, 'seed' => 1];
$rooms = [];
foreach (array_slice($argv, 1) as $argument) {
    preg_match('/^--(most|seed)=(\d+)$/', $argument, $m) === 1 ? $options[$m[1]] = (int) $m[2] : $rooms[] = rtrim($argument, '/');
}
$rooms !== [] || exit("which rooms? e.g. core/src/Calendar\n");
$work = sys_get_temp_dir().'/mutants-'.getmypid();
mkdir($work);
register_shutdown_function(static fn () => exec('rm -rf '.escapeshellarg($work)));

/** @return array{bool, float} passed, seconds */
$tests = static function (string $file, array $environment, int $limit = 120): array {
    $set = implode(' ', array_map(static fn (string $k, string $v): string => $k.'='.escapeshellarg($v), array_keys($environment),
        $environment));
    $begun = microtime(true);
    exec("{$set} timeout {$limit} php -d pcov.enabled=0 -d opcache.enable_cli=0 -d memory_limit=1G vendor/bin/phpunit --no-configuration "
        .'--bootstrap tests/Mutation/bootstrap.php --stop-on-defect --no-progress --do-not-cache-result '.escapeshellarg($file).' 2>&1',
        $output, $status);

    return [$status === 0, microtime(true) - $begun];
};

// which tests use which class, the quickest first
$uses = [];
foreach (new RegexIterator(new RecursiveIteratorIterator(new RecursiveDirectoryIterator('core/tests')), '/Test\.php$/') as $file) {
    @unlink("{$work}/seen");
    [$passed, $seconds] = $tests((string) $file, ['REIHE_SEEN' => "{$work}/seen"]);
    $passed || exit("{$file} fails as it is\n");
    foreach (array_unique(file("{$work}/seen", FILE_IGNORE_NEW_LINES) ?: []) as $class) {
        $uses[$class][(string) $file] = $seconds;
    }
}
foreach ($uses as &$files) {
    asort($files);
}
unset($files);

foreach ($rooms as $room) {
    $mutants = [];
    $paths = is_dir($room) ? new RegexIterator(new RecursiveIteratorIterator(new RecursiveDirectoryIterator($room)), '/\.php$/') : [$room];
    foreach ($paths as $path) {
        foreach (Mutants::of((string) file_get_contents((string) $path)) as $mutant) {
            $mutants[] = ['path' => (string) $path] + $mutant;
        }
    }
    $all = count($mutants);
    if ($all > $options['most']) {
        $keys = (new Randomizer(new Mt19937($options['seed'])))->pickArrayKeys($mutants, $options['most']);
        $mutants = array_intersect_key($mutants, array_flip($keys));
    }
    $killed = 0;
    foreach ($mutants as $mutant) {
        $class = 'Reihe\\Core\\'.strtr(substr($mutant['path'], strlen('core/src/'), -4), '/', '\\');
        file_put_contents("{$work}/mutant.php", $mutant['text']);
        $lives = true;
        foreach ($uses[$class] ?? [] as $file => $seconds) {
            if (! $tests($file, ['REIHE_MUTANT' => "{$class}={$work}/mutant.php"], (int) (10 * $seconds)
                + 10)[0]) { // an endless loop is noticed too
                $lives = false;
                break;
            }
        }
        $killed += $lives ? 0 : 1;
        $lives && print "lives: {$mutant['path']}:{$mutant['line']} {$mutant['what']}\n";
    }
    printf("%s: %d of %d faults killed (%d %%), of %d that there are\n", $room, $killed, count($mutants),
        100 * $killed / max(1, count($mutants)), $all);
}
