// Figures of exchange on a running app (REIHE_URL) with a large demo: the OData feed beside a plain dump of the same table, and a file
// with everything previewed and applied.
import { execFileSync } from 'node:child_process';

const base = process.env.REIHE_URL;
let jar = '';
async function call(path, options = {}) {
    const xsrf = decodeURIComponent(/XSRF-TOKEN=([^;]+)/.exec(jar)?.[1] ?? '');
    const response = await fetch(base + path, { ...options, headers: { Accept: 'application/json', Origin: base, cookie: jar,
        'X-XSRF-TOKEN': xsrf,
        ...options.headers } });
    for (const set of response.headers.getSetCookie()) {
        const pair = set.split(';')[0];
        jar = [...jar.split('; ').filter((c) => c && c.split('=')[0] !== pair.split('=')[0]), pair].join('; ');
    }
    return response;
}
const json = async (path, body, method = 'POST') => (await call(`/api/v1/${path}`, { method, body: JSON.stringify(body),
    headers: { 'Content-Type': 'application/json' } })).json();
await call('/sanctum/csrf-cookie');
await json('session', { email: 'ilse@varnsund.example', password: 'varnsund' });
const { token } = await json('tokens', { name: 'bench', scopes: ['feed'] });

async function feed(path, prefer = '') {
    const t = performance.now();
    const response = await fetch(path.startsWith('http') ? path : `${base}/odata/v4/${path}`, { headers: { Authorization: `Bearer ${token}`,
        Accept: 'application/json', ...(prefer ? { Prefer: prefer } : {}) } });
    if (!response.ok) throw new Error(`${path}: ${await response.text()}`);
    return [await response.json(), performance.now() - t];
}
const median = (list) => list.sort((a, b) => a - b)[list.length >> 1];
async function several(path, times = 5) {
    const all = [];
    for (let i = 0; i < times; i++) all.push((await feed(path))[1]);
    return Math.round(median(all));
}
async function everything(first, prefer) {
    const t = performance.now();
    let [rows, next, last] = [0, first, null];
    while (next) {
        [last] = await feed(next, prefer);
        rows += last.value.length;
        next = last['@odata.nextLink'];
    }
    return [rows, Math.round(performance.now() - t), last];
}
function dump() {
    if (!process.env.DB_SOCKET) return null;
    const t = performance.now();
    execFileSync('mariadb', ['--no-defaults', '-uroot', `--socket=${process.env.DB_SOCKET}`, '-N', 'reihe', '-e',
        'SELECT a.uid, a.code, a.name, a.duration, d.* FROM activities a JOIN activity_dates d ON d.activity_id = a.id'],
        { maxBuffer: 1e9 });
    return Math.round(performance.now() - t);
}
await feed('Projects?$top=1');
const page = await several('Activities?$select=Code,Start,Finish&$top=1000');
const [rows, whole] = await everything('Activities');
const plain = dump();
const apply = await several('Activities?$apply=groupby((Project/Key,Kind),aggregate(DurationHours with sum as Hours,$count as Number))');
const [, , last] = await everything('Activities?$select=Code,Name,Start,Finish,TotalFloatHours,Progress', 'odata.track-changes');
let delta = last['@odata.deltaLink'];
const [{ value: [open] }] = await feed("Activities?$filter=Kind eq 'task' and ActualStart eq null&$orderby=Start desc&$top=1&$select=Id");
const deltas = [];
for (let i = 0; i < 5; i++) {
    const answer = await json('changes',
        { operations: [{ verb: 'update', kind: 'activity', uid: open.Id, after: { duration: 480 * (7 + i) } }] });
    if (answer.changeSet === undefined) throw new Error(JSON.stringify(answer).slice(0, 300));
    const [change, ms] = await feed(delta);
    if (change.value.length === 0) throw new Error('the edit did not arrive');
    deltas.push(ms);
    delta = change['@odata.deltaLink'];
}
console.log(`OData, ${rows} activities: a page of 1000 with three properties ${page} ms, all with all properties ${whole} ms`
    + `${plain === null ? '' : ` (plain dump of the table ${plain} ms, ${(whole / plain).toFixed(1)} times)`}, `
    + `sums by project and kind ${apply} ms, `
    + `what one edit changed ${Math.round(median(deltas))} ms`);

// a file with everything, as a new copy
const { projects } = await (await call('/api/v1/portfolio')).json();
const keys = projects.map((p) => p.key).join(',');
let t = performance.now();
const file = await (await call(`/api/v1/exchange/export?projects=${keys}&format=plan-xml`, { headers: { Accept: '*/*' } })).text();
const written = performance.now() - t;
const branch = (await (await call('/api/v1/portfolio')).json()).branches.find((b) => b.mayPlan).uid;
const wait = async (job) => {
    for (;;) {
        const now = await (await call(`/api/v1/jobs/${job.uid}`)).json();
        if (['done', 'failed', 'cancelled'].includes(now.state)) return now;
        await new Promise((resolve) => setTimeout(resolve, 100));
    }
};
async function previewed(text, update) {
    const form = new FormData();
    form.set('file', new Blob([text]), 'bench.plan.xml');
    form.set('branch', branch);
    form.set('update', update);
    t = performance.now();
    let preview = await (await call('/api/v1/exchange/import', { method: 'POST', body: form })).json();
    if (preview.what) {
        const end = await wait(preview);
        if (end.state !== 'done') throw new Error(JSON.stringify(end.problem));
        preview = end.result;
    }
    return [preview, performance.now() - t];
}
async function applied(preview) {
    t = performance.now();
    const answer = await json(`changes/${preview.changeSet}/apply`, {});
    const end = answer.what ? await wait(answer) : answer;
    return [end.state ?? 'done', performance.now() - t];
}
const s = (ms) => `${(ms / 1000).toFixed(1)} s`;
// again with a tenth of the durations changed
let count = 0;
const changed = file.replace(/ duration="([1-9]\d*)"/g, (text, minutes) => (count++ % 10 ? text : ` duration="${Number(minutes) + 60}"`));
const [update, looked] = await previewed(changed, '1');
const all = Object.values(update.update.states).reduce((a, b) => a + b);
console.log(`the same projects with ${update.update.states.changed} rows changed of ${all}: `
    + `previewed ${s(looked)}, applied ${s((await applied(update))[1])}`);
const [copy, seen] = await previewed(file, '0');
const [state, took] = await applied(copy);
console.log(`plan XML of ${(file.length / 1e6).toFixed(1)} MB as a copy: written ${s(written)}, previewed ${s(seen)}, `
    + `applied ${s(took)} (${state})`);
