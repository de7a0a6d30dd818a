/**
 * The board with all projects open, in headless Chromium: first rows after navigation, frames while scrolling, zooming and dragging, an
 * edit until it shows, the live ripple of a drag, a paste of 1 000 rows until its preview, switching to a draft, and the memory of the tab
 * before and after scripted work (minutes: BENCH_MINUTES, usually 2).
 */
import { chromium } from '@playwright/test';

const base = process.env.REIHE_URL;
const minutes = Number(process.env.BENCH_MINUTES ?? 2);
const browser = await chromium.launch({ executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking',
        '--enable-precise-memory-info', '--js-flags=--expose-gc'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.addInitScript(() => localStorage.setItem('reihe.tour', '5'));
await page.goto(base);
await page.getByRole('button', { name: 'Ilse Marbach' }).click();
await page.waitForURL('**/portfolio');
const portfolio = await page.evaluate(() => fetch('/api/v1/portfolio').then((r) => r.json()));
const keys = portfolio.projects.map((p) => p.key);
const rows = () => page.locator('.row[role=row]').nth(10).waitFor();
const say = (figures) => console.log(JSON.stringify(figures));

let begin = Date.now();
await page.goto(`${base}/board?projects=${keys.join(',')}`);
await rows();
const first = Date.now() - begin;
await page.waitForTimeout(1500);
say({ rows: Number(await page.getByRole('treegrid').getAttribute('aria-rowcount')) - 1, first_rows_ms: first });

/** Frames of four seconds in which the page does something at each of them. */
const frames = (what, step) => page.evaluate(async ([name, body]) => {
    const act = new Function('n', body);
    const times = [];
    let last = performance.now();
    const until = last + 4000;
    for (let n = 0; last < until; n++) {
        act(n);
        await new Promise((done) => requestAnimationFrame(done));
        const now = performance.now();
        times.push(now - last);
        last = now;
    }
    const sorted = times.slice(5).sort((a, b) => a - b);
    const at = (share) => Math.round(sorted[Math.floor((sorted.length - 1) * share)] * 10) / 10;
    return { [`${name}_frames`]: sorted.length, median_ms: at(0.5), p95_ms: at(0.95), worst_ms: at(1) };
}, [what, step]);
const canvas = "document.querySelector('.axis canvas')";
say(await frames('scroll', "document.querySelector('.scroller').scrollTop += 90"));
say(await frames('zoom', `${canvas}.dispatchEvent(new WheelEvent('wheel', { bubbles: true, cancelable: true, ctrlKey: true,
    clientX: 900, clientY: 400, deltaY: (n % 80 < 40 ? -18 : 18) }))`));

// a bar in sight is dragged to and fro
await page.evaluate(() => (document.querySelector('.scroller').scrollTop = 0));
await page.getByRole('treegrid').press('0');
const task = await page.evaluate(async () => {
    const key = new URL(location.href).searchParams.get('projects').split(',')[0];
    const board = await fetch(`/api/v1/board?projects=${key}`).then((r) => r.json());
    const at = board.activities.uid.findIndex((_, i) => board.activities.kind[i] === 'task' && board.activities.actualStart[i] === null);
    return { code: board.activities.code[at], uid: board.activities.uid[at], key };
});
await page.getByRole('treegrid').press('f');
await page.locator('.find input').waitFor();
await page.keyboard.type(task.code);
await page.waitForTimeout(600);
await page.keyboard.press('Enter');
await page.getByRole('treegrid').press('B');
await page.getByRole('treegrid').press('-');
await page.getByRole('treegrid').press('-');
await page.waitForTimeout(600);
const place = await page.evaluate((uid) => {
    const row = document.getElementById(`row-${uid}`).getBoundingClientRect();
    const axis = document.querySelector('.axis canvas').getBoundingClientRect();
    return { x: axis.left + axis.width / 2, y: row.top + row.height / 2 };
}, task.uid);
const pointer = (name, dx) => `${canvas}.dispatchEvent(new PointerEvent('${name}', { bubbles: true, pointerId: 1, button: 0,
    clientX: ${place.x} + ${dx}, clientY: ${place.y} }))`;
await page.evaluate(() => (document.querySelector('.axis canvas').setPointerCapture = () => undefined));
await page.evaluate(pointer('pointerdown', '0'));
say(await frames('drag', pointer('pointermove', '(n % 60 < 30 ? n % 30 : 30 - n % 30) * 3')));
begin = Date.now();
await page.evaluate(pointer('pointermove', '57'));
await page.waitForResponse((r) => r.url().includes('/changes') && r.request().method() === 'POST');
say({ live_ripple_ms_with_120_ms_rest: Date.now() - begin });
await page.keyboard.press('Escape');
await page.evaluate(pointer('pointerup', '57'));

// an edit until its row shows it
const edits = [];
for (let n = 0; n < 8; n++) {
    const days = page.locator(`#row-${task.uid} [role=gridcell]`).nth(2);
    await days.dblclick();
    await page.keyboard.type(`${11 + n}d`);
    begin = Date.now();
    await page.keyboard.press('Enter');
    await page.waitForFunction(([uid, text]) => document.getElementById(`row-${uid}`)?.querySelectorAll('[role=gridcell]')[2]?.textContent
        .trim() === text, [task.uid, String(11 + n)], { polling: 'raf' });
    edits.push(Date.now() - begin);
}
edits.sort((a, b) => a - b);
say({ edit_shows_median_ms: edits[4], worst_of_8_ms: edits.at(-1) });

// 1 000 rows pasted, until what was understood of them stands there
const text = ['Name\tDuration\tPredecessors', ...Array.from({ length: 1000 }, (_, i) => `Row ${i + 1}\t${1 + (i % 9)}d\t${i || ''}`)]
    .join('\n');
begin = Date.now();
await page.evaluate((pasted) => {
    const data = new DataTransfer();
    data.setData('text/plain', pasted);
    document.querySelector('[role=treegrid]').dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }));
}, text);
await page.locator('.paste table tbody tr').nth(10).waitFor();
say({ paste_1000_rows_preview_ms: Date.now() - begin });
await page.keyboard.press('Escape');
await page.getByRole('button', { name: 'Cancel' }).click({ timeout: 2000 }).catch(() => undefined);

// a draft with one change in it is switched to, with the project that it changes
const token = await page.evaluate(async (uid) => {
    const xsrf = decodeURIComponent(/XSRF-TOKEN=([^;]+)/.exec(document.cookie)[1]);
    const post = (path, body) => fetch(`/api/v1/${path}`, { method: 'POST', body: JSON.stringify(body), headers: {
        Accept: 'application/json', 'Content-Type': 'application/json', 'X-XSRF-TOKEN': xsrf } }).then((r) => r.json());
    const draft = await post('drafts', { name: 'Bench' });
    await post(`changes?draft=${draft.uid}`, { operations: [{ verb: 'update', kind: 'activity', uid, after: { duration: 480 * 33 } }] });
    return draft.uid;
}, task.uid);
await page.goto(`${base}/board?projects=${keys.slice(0, 6).join(',')}`);
await rows();
await page.waitForTimeout(800);
await page.getByRole('button', { name: 'drafts' }).click();
const name = page.locator('[data-test=drafts] .name').filter({ hasText: 'Bench' }).first();
await name.waitFor();
begin = Date.now();
await name.click();
await page.getByText('Draft “Bench”.').waitFor();
say({ switch_to_draft_ms: Date.now() - begin, projects: 6, draft: token !== '' });

// memory of the tab: scripted work, then what is left after cleaning up
await page.goto(`${base}/board?projects=${keys.join(',')}`);
await rows();
await page.waitForTimeout(2000);
const heap = () => page.evaluate(() => { globalThis.gc?.(); return Math.round(performance.memory.usedJSHeapSize / 1e6); });
const heaps = [await heap()];
for (let m = 0; m < minutes; m++) {
    const until = Date.now() + 60_000;
    while (Date.now() < until) {
        await page.evaluate(() => (document.querySelector('.scroller').scrollTop += 2500));
        await page.getByRole('treegrid').press('ArrowDown');
        await page.getByRole('treegrid').press('i');
        await page.waitForTimeout(150);
        await page.getByRole('treegrid').press('+');
        await page.getByRole('treegrid').press('-');
        await page.evaluate(() => { if (Math.random() < 0.1) document.querySelector('.scroller').scrollTop = 0; });
    }
    heaps.push(await heap());
}
say({ heap_mb_after_each_minute: heaps });
await browser.close();
