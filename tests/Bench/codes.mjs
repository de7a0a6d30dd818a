// Codes, templates and fragments over HTTP and in the page, on an app with the small demo.
//   REIHE_URL=… node tests/Bench/codes.mjs
import { chromium } from '@playwright/test';
import { bearer, median, sorted } from '../Load/client.mjs';

const url = process.env.REIHE_URL;
const api = await bearer(url);
const round = (ms) => Math.round(ms);
const create = (kind, uid, after) => ({ verb: 'create', kind, uid, after });
async function made(operations) {
    for (let i = 0; i < operations.length; i += 15_000) {
        const answer = await api('POST', 'changes', { operations: operations.slice(i, i + 15_000) });
        if (answer.status !== 200) throw new Error(JSON.stringify(answer.data).slice(0, 400));
    }
}

// 500 projects coded with 12 code sets
const SETS = 12;
const sets = Array.from({ length: SETS },
    (_, s) => [create('codeSet', `bs${s}`, { scope: 'project', name: `Set ${s}`, weight: 1 + (s % 3) }),
    ...Array.from({ length: 8 }, (_, e) => create('entry', `be${s}-${e}`, { codeSet: `bs${s}`, name: `Entry ${s}.${e}`, weight: e,
        parent: e > 3 ? `be${s}-${e - 4}` : null }))]).flat();
const projects = Array.from({ length: 500 }, (_, p) => create('project', `bp${p}`,
    { key: `B${p}`, name: `Project ${p}`, branch: 'branch-quays',
    calendar: 'cal-office', start: `2027-0${1 + (p % 9)}-11T08:00` }));
const activities = projects.map((p, i) => create('activity', `ba${i}`, { project: p.uid, code: 'A', name: 'Work',
    duration: 480 * (5 + (i % 60)) }));
const codings = projects.flatMap((p, i) => Array.from({ length: SETS }, (_, s) => create('coding', `bc${i}-${s}`, { project: p.uid,
    entry: `be${s}-${(i * (s + 3)) % 8}` })));
await made([...sets, ...projects, ...activities]);
await made(codings);
const view = (v) => `portfolio?view=${encodeURIComponent(JSON.stringify(v))}`;
const filter = { all: [{ field: 'code:bs3', is: 'is', value: ['be3-0', 'be3-1', 'be3-2'] },
    { not: { field: 'code:bs4', is: 'is', value: ['be4-7'] } },
    { field: 'finish', is: 'more', other: 'plannedStart' }] };
async function times(ask) {
    const ms = [];
    for (let i = 0; i < 11; i++) ms.push((await ask(i)).ms);
    return round(median(ms));
}
console.log(JSON.stringify({ projects: 500, code_sets: SETS,
    grouped_by_three_ms: await times(() => api('GET', view({ group: ['code:bs0', 'code:bs1', 'code:bs2'] }))),
    filtered_ms: await times(() => api('GET', view({ group: ['code:bs0', 'code:bs1', 'code:bs2'], filter }))),
    sorted_ms: await times((i) => api('GET', view({ group: ['code:bs0', 'code:bs1', 'code:bs2'], sort: [i % 2 ? '-finish'
        : 'name'] }))) }));

// in the page: from the answer to the rows; sliders of the ranking
const browser = await chromium.launch({ executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox',
    '--disable-gpu'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(url);
await page.getByRole('button', { name: 'Ilse Marbach' }).click();
await page.waitForURL('**/portfolio');
await page.goto(`${url}/${view({ group: ['code:bs0', 'code:bs1', 'code:bs2'] })}`);
await page.getByRole('treegrid').waitFor();
await page.waitForTimeout(1500);
const shown = [];
for (let i = 0; i < 7; i++) {
    const done = page.evaluate(() => new Promise((resolve) => {
        let last = 0;
        const watch = new MutationObserver(() => (last = performance.now()));
        watch.observe(document.querySelector('[role=treegrid]'), { subtree: true, childList: true, characterData: true });
        performance.clearResourceTimings();
        setTimeout(() => {
            watch.disconnect();
            const answer = performance.getEntriesByType('resource').filter((e) => e.name.includes('/portfolio?view')).at(-1);
            resolve(answer ? last - answer.responseEnd : null);
        }, 2000);
    }));
    await page.getByRole('columnheader', { name: 'Finish' }).getByRole('button').click();
    shown.push(await done);
}
await page.goto(`${url}/portfolio?face=ranking`);
await page.getByRole('slider').first().waitFor();
await page.waitForTimeout(1000);
await page.getByRole('slider').nth(3).focus();
const frames = page.evaluate(() => new Promise((resolve) => {
    const gaps = [];
    let last = performance.now();
    const tick = (now) => {
        gaps.push(now - last);
        last = now;
        if (gaps.length < 120) requestAnimationFrame(tick);
        else resolve(gaps.sort((a, b) => a - b));
    };
    requestAnimationFrame(tick);
}));
for (let i = 0; i < 16; i++) await page.keyboard.press(i % 2 ? 'ArrowLeft' : 'ArrowRight', { delay: 60 });
const gaps = await frames;
console.log(JSON.stringify({ page_rows_after_answer_ms: round(median(shown.filter((s) => s !== null && s > 0))),
    slider_frame_median_ms: round(median(gaps)), slider_frame_95_ms: round(gaps[Math.floor(gaps.length * 0.95)]),
        slider_frame_worst_ms: round(gaps.at(-1)) }));
await browser.close();

// 10 000 activity codes at once, and their undo
const scheme = create('levelScheme', 'bscheme', { name: 'Bench', levels: [{ name: 'Part' }], activityCode: [{ kind: 'project-key' },
    { kind: 'literal', text: '-' }, { kind: 'levels' }, { kind: 'literal', text: '-' }, { kind: 'counter', width: 5 }] });
await made([scheme, create('project', 'bbig', { key: 'BIG', name: 'Big', branch: 'branch-quays', calendar: 'cal-office',
    start: '2027-01-11T08:00',
    levelScheme: 'bscheme' }), ...Array.from({ length: 100 }, (_, w) => create('wbs', `bw${w}`,
        { project: 'bbig', code: `W${w}`, name: `Part ${w}` }))]);
await made(Array.from({ length: 10_000 }, (_, i) => create('activity', `bx${i}`,
    { project: 'bbig', wbs: `bw${i % 100}`, position: i, code: `${i}`,
    name: `Work ${i}`, duration: 480 })));
await made(Array.from({ length: 9_900 }, (_, i) => create('link', `bl${i}`, { from: `bx${i}`, to: `bx${i + 100}`, type: 'FS' })));
const codes = await api('POST', 'compose/codes', { project: 'bbig' });
const back = await api('POST', `changes/${codes.data.changeSet}/undo`, {});
console.log(JSON.stringify({ codes_regenerated: codes.data.operations, ms: round(codes.ms), undone_ms: round(back.ms) }));

// a template of 400 activities, a fragment of 50
const of = (project, n) => [...Array.from({ length: 10 }, (_, w) => create('wbs', `${project}w${w}`,
    { project, code: `P${w}`, name: `Part ${w}` })),
    ...Array.from({ length: n }, (_, i) => create('activity', `${project}a${i}`, { project, wbs: `${project}w${i % 10}`, position: i,
        code: `T-${i}`,
        name: `Work ${i}`, duration: 480 })),
    ...Array.from({ length: n - 5 }, (_, i) => create('link', `${project}l${i}`, { from: `${project}a${i}`, to: `${project}a${i + 5}`,
        type: 'FS' }))];
for (const [kept, n] of [['template', 400], ['fragment', 50]]) {
    await made([create('project', `b${kept}`, { key: `B-${kept.toUpperCase()}`, name: kept, branch: 'branch-quays', calendar: 'cal-office',
        start: '2027-01-11T08:00', kept }), ...of(`b${kept}`, n)]);
}
await api('POST', 'fragments/bfragment/versions', { note: 'bench' });
const copies = [];
const inserts = [];
for (let i = 0; i < 7; i++) {
    const copy = await api('POST', 'compose/copy', { projects: [{ uid: 'btemplate', key: `BT${i}`, name: `Copy ${i}` }],
        branch: 'branch-quays',
        start: '2027-05-03T08:00' });
    if (copy.status !== 200) throw new Error(JSON.stringify(copy.data));
    copies.push(copy.ms);
    const insert = await api('POST', 'compose/insert', { fragment: 'bfragment', project: 'prj-TERN', wbs: 'wbs-tern-hu',
        prefix: `F${i}-` });
    if (insert.status !== 200) throw new Error(JSON.stringify(insert.data));
    inserts.push(insert.ms);
}
console.log(JSON.stringify({ copies_of_400_median_ms: round(median(copies)), worst_ms: round(sorted(copies).at(-1)),
    fragments_of_50_median_ms: round(median(inserts)), fragments_worst_ms: round(sorted(inserts).at(-1)) }));
