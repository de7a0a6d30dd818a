<?php

declare(strict_types=1);

// What a run of the tests reads: one class from another file, and a list of the classes of the core that it needed.
$root = dirname(__DIR__, 2);
require_once "{$root}/vendor/autoload.php";
[$mutant, $file] = explode('=', (string) getenv('REIHE_MUTANT'), 2) + ['', ''];
$seen = (string) getenv('REIHE_SEEN');
spl_autoload_register(static function (string $class) use ($mutant, $file, $seen): void {
    $seen === '' || ! str_starts_with($class, 'Reihe\\Core\\') || str_contains($class, '\\Tests\\')
        || file_put_contents($seen, "{$class}\n", FILE_APPEND);
    $class !== $mutant || require $file;
}, prepend: true);
