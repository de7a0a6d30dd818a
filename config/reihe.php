<?php

declare(strict_types=1);

return [
    // Demo users are shown on the sign-in page while this is on; bin/start sets it together with the demo data.
    'demo' => (bool) env('REIHE_DEMO', false),
    // Largest request that is not a file, in MB.
    'body_limit' => (int) env('REIHE_BODY_LIMIT', 8),
    // Largest file that can be imported, in MiB.
    'import_limit' => (int) env('REIHE_IMPORT_LIMIT', 32),
    // Files up to this size, in KiB, are previewed while one waits; larger ones in the background.
    'inline_import' => (int) env('REIHE_INLINE_IMPORT', 1024),
    // Proposals up to this many operations are applied while one waits; larger ones in the background.
    'inline_operations' => (int) env('REIHE_INLINE_OPERATIONS', 3000),
    // The enterprise's time zone, a name of the IANA database: what wall-clock dates are for other systems.
    // longest statements of the database, in seconds
    'read_seconds' => (int) env('REIHE_READ_SECONDS', 30),
    'write_seconds' => (int) env('REIHE_WRITE_SECONDS', 110),
    'time_zone' => (string) env('REIHE_TIME_ZONE', 'UTC'),
    // The enterprise's currency, ISO 4217.
    'currency' => (string) env('REIHE_CURRENCY', 'EUR'),
];
