// The same thing asked for several times at one moment: exactly one may win where only one can, nobody gets a 500.
//   node tests/Load/same.mjs URL
import { session } from './client.mjs';

const url = process.argv[2];
const call = await session(url);
const tag = Date.now().toString(36).toUpperCase();
const branch = (await call('GET', '/api/v1/portfolio')).data.branches.find((b) => b.name === 'Archive').uid;
const times = (n, make) => Promise.all(Array.from({ length: n }, (_, i) => make(i)));
let bad = 0;
function judge(name, answers, winners) {
    const statuses = answers.map((a) => a.status);
    const won = statuses.filter((s) => s < 300).length;
    const fine = statuses.every((s) => s < 500) && (winners === null || won === winners);
    if (!fine) bad++;
    console.log(`${fine ? 'fine  ' : 'BROKEN'} ${name}: ${Object.entries(statuses.reduce(
        (c, s) => ({ ...c, [s]: (c[s] ?? 0) + 1 }), {})).map(([s, n]) => `${n} × ${s}`).join(', ')}`);
}
const change = (operations, more = {}) => call('POST', '/api/v1/changes', { operations, ...more });
const project = (uid, key) => ({ verb: 'create', kind: 'project', uid,
    after: { key, name: key, branch, calendar: 'cal-office', start: '2026-12-01' } });

judge('one project key', await times(8, (i) => change([project(`p-${tag}-${i}`, `K${tag}`)])), 1);
judge('one uid', await times(8, (i) => change([project(`u-${tag}`, `U${tag}${i}`)])), 1);
judge('one change set, sent again', await times(8, () => change([project(`s-${tag}`, `S${tag}`)], { changeSet: `cs-${tag}` })), 8);
const make = (kind, uid, after) => change([{ verb: 'create', kind, uid, after }]);
const place = (uid, name) => make('branch', uid, { parent: branch, name });
judge('one code set', await times(6, (i) => make('codeSet', `set-${tag}-${i}`, { key: `SET-${tag}`, name: `Set ${tag}`,
    scope: 'project' })), 1);
judge('one branch', await times(6, () => place(`branch-${tag}`, `Branch ${tag}`)), 1);
judge('one calendar key', await times(6, (i) =>
    change([{ verb: 'create', kind: 'calendar', uid: `c-${tag}-${i}`,
    after: { key: `CAL-${tag}`, name: 'x', week: { 1: '08:00-12:00' } } }])), 1);
judge('one activity code', await times(8, (i) =>
    change([{ verb: 'create', kind: 'activity', uid: `a-${tag}-${i}`, after: { project: 'prj-GRID', code: `A-${tag}`, duration: 480 } }])),
    1);
const plan = `<plan xmlns="urn:reihe:plan:1"><calendar key="OFF${tag}"><day weekday="1" hours="08:00-12:00"/></calendar>
    <project key="F${tag}" name="F" calendar="OFF${tag}" start="2026-12-01"><activity code="A" duration="60"/></project></plan>`;
function file() {
    const form = new FormData();
    form.set('branch', branch);
    form.set('file', new Blob([plan]), 'f.xml');
    return form;
}
const proposal = (await call('POST', '/api/v1/exchange/import', file())).data.changeSet;
judge('one proposal applied', await times(6, () => call('POST', `/api/v1/changes/${proposal}/apply`)), 1);
judge('one change set undone', await times(6, () => call('POST', `/api/v1/changes/${proposal}/undo`)), 1);
judge('baselines', await times(8, (i) => call('POST', '/api/v1/projects/prj-GRID/baselines', { name: `B${i}`, current: true })), 8);
const current = (await call('GET', '/api/v1/projects/prj-GRID/baselines')).data.baselines.filter((b) => b.current).length;
judge(`… one of them current (${current})`, [{ status: current === 1 ? 200 : 500 }], 1);
const fresh = `short-${tag}`;
judge('a branch to be deleted', [await place(fresh, `Short ${tag}`)], 1);
judge('a branch deleted while taken', await Promise
    .all([change([{ verb: 'delete', kind: 'branch', uid: fresh }]),
    ...Array.from({ length: 5 }, (_, i) => change(
    [{ ...project(`b-${tag}-${i}`, `B${tag}${i}`), after: { ...project('', `B${tag}${i}`).after, branch: fresh } }]))]), null);
judge('a calendar deleted while taken', await Promise
    .all([change([{ verb: 'delete', kind: 'calendar', uid: `c-${tag}-0` }]),
    ...Array.from({ length: 5 }, (_, i) => change(
    [{ verb: 'update', kind: 'activity', uid: 'act-grid-st-0030', after: { calendar: `c-${tag}-${i}` } }]))]), null);
judge('a project deleted while worked on', await Promise
    .all([change([{ verb: 'delete', kind: 'project', uid: `s-${tag}` }]),
    ...Array.from({ length: 6 }, (_, i) => change(
    [{ verb: 'create', kind: 'activity', uid: `w-${tag}-${i}`, after: { project: `s-${tag}`, code: `W${i}`, duration: 480 } }]))]), null);
judge('failed sign-ins side by side', (await times(30,
    () => call('POST', '/api/v1/session', { email: `nobody-${tag}@example.org`, password: 'x' })))
    .map((a) => ({ status: a.status === 422 ? 200 : a.status })), 5);
process.exit(bad > 0 ? 1 : 0);
