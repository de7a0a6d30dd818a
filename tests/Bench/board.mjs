/** First rows after navigation and frame times while scrolling the board with all projects open, in headless Chromium. */
import { chromium } from '@playwright/test';

const base = process.env.REIHE_URL;
const browser = await chromium.launch({ executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(base);
await page.getByRole('button', { name: 'Ilse Marbach' }).click();
await page.waitForURL('**/portfolio');
const portfolio = await page.evaluate(() => fetch('/api/v1/portfolio').then((r) => r.json()));
const keys = portfolio.projects.map((p) => p.key);
const begin = Date.now();
await page.goto(`${base}/board?projects=${keys.join(',')}`);
await page.locator('.row[role=row]').nth(10).waitFor();
const firstRows = Date.now() - begin;
await page.waitForTimeout(1500);
const frames = await page.evaluate(async () => {
    const scroller = document.querySelector('.scroller');
    const times = [];
    let last = performance.now();
    const until = last + 4000;
    while (last < until) {
        scroller.scrollTop += 90;
        await new Promise((done) => requestAnimationFrame(done));
        const now = performance.now();
        times.push(now - last);
        last = now;
    }
    return times.slice(5).sort((a, b) => a - b);
});
const rows = await page.getByRole('treegrid').getAttribute('aria-rowcount');
console.log(JSON.stringify({ rows: Number(rows) - 1, first_rows_ms: firstRows, frames: frames.length,
    median_frame_ms: Math.round(frames[Math.floor(frames.length / 2)] * 10) / 10,
    p95_frame_ms: Math.round(frames[Math.floor(frames.length * 0.95)] * 10) / 10 }));
await browser.close();
