import { defineConfig } from '@playwright/test';

/** Browser tests run against an app that bin/test has started with fresh demo data; its address is in REIHE_URL. */
export default defineConfig({
    testDir: 'tests/browser',
    outputDir: 'test-results',
    timeout: 150_000,
    expect: { timeout: 20_000 },
    workers: 1,
    retries: 1, // three lanes share the machine; what passes only then is told as flaky
    reporter: [['list']],
    use: {
        actionTimeout: 20_000,
        baseURL: process.env.REIHE_URL ?? 'http://127.0.0.1:8800',
        viewport: { width: 1280, height: 800 },
        locale: 'en-GB',
        timezoneId: 'UTC',
        launchOptions: {
            executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
            args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking',
                '--disable-component-update', '--disable-sync'],
        },
    },
});
