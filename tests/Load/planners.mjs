// Several planners edit linked projects at once, without pause, over one or more web servers, and nothing may get lost:
//   node tests/Load/planners.mjs SECONDS PLANNERS URL [URL…]
// Counters (the cost of an assignment on shared activities) are raised by whoever saw their value; every success must be in the sum
// at the end. Other edits move dates through all projects, make, delete and undo. Prints figures; exit status 1 when an update was
// lost, a clash was not told as one, a server answered 500, or a kind of edit never changed anything: then the trial says nothing.
// Whether results are stale is asked with reihe:recalculate.

import { bearer } from './client.mjs';

const [seconds, planners, ...servers] = [Number(process.argv[2] ?? 60), Number(process.argv[3] ?? 8), ...process.argv.slice(4)];
if (servers.length === 0) throw new Error('node tests/Load/planners.mjs SECONDS PLANNERS URL [URL…]');

const call = await bearer(servers[0]);
const counts = {};
const times = [];
/** successes of each kind of edit: the trial tried nothing where one stays at 0 */
const done = { raised: 0, moved: 0, made: 0, undone: 0, calendar: 0 };
let failed = 0;

async function api(url, method, path, body) {
    const { status, data, ms } = await call(method, path, body, url);
    if (method === 'POST') times.push(ms);
    counts[status] = (counts[status] ?? 0) + 1;
    if (status >= 500) {
        failed++;
        console.error(status, path, JSON.stringify(body).slice(0, 300), JSON.stringify(data));
    }
    return { status, data };
}

// what was written at one server may take a moment to the other
for (const url of servers) while ((await call('GET', 'session', undefined, url)).status !== 200) await new Promise((done) =>
    setTimeout(done, 100));
const portfolio = (await api(servers[0], 'GET', 'portfolio')).data;
const keys = portfolio.projects.filter((p) => p.kept === undefined || p.kept === 'here').map((p) => p.key).slice(0, 12);
const board = async (url) => (await api(url, 'GET', `board?projects=${keys.join(',')}`)).data;

const first = await board(servers[0]);
const here = new Set(first.projects.filter((p) => p.mayPlan).map((p) => p.uid));
const open = first.activities.uid.filter((_, i) => first.activities.kind[i] === 'task' && first.activities.actualStart[i] === null
    && here.has(first.activities.project[i]));
// the work of three activities that have some: its cost is the counter
const counters = [];
for (const activity of open) {
    const { objects } = (await api(servers[0], 'GET', `activities/${activity}/objects/assignment`)).data;
    if (objects.length > 0) counters.push({ activity, uid: objects[0].uid });
    if (counters.length === 3) break;
}
async function cost(url, { activity, uid }) {
    const { data } = await api(url, 'GET', `activities/${activity}/objects/assignment`);
    return data.objects.find((o) => o.uid === uid).fields.cost;
}
const sum = async () => (await Promise.all(counters.map((counter) => cost(servers[0], counter)))).reduce((all, n) => all + n, 0);
const start = await sum();
const pick = (list) => list[Math.floor(Math.random() * list.length)];

async function planner(n) {
    const url = servers[n % servers.length];
    const until = Date.now() + seconds * 1000;
    const mine = [];
    for (let round = 0; Date.now() < until; round++) {
        const dice = Math.random();
        if (dice < 0.35) {
            const counter = pick(counters);
            const known = await cost(url, counter);
            const { status, data } = await api(url, 'POST', 'changes', { operations: [{ verb: 'update', kind: 'assignment',
                uid: counter.uid, before: { cost: known }, after: { cost: (known ?? 0) + 1 } }] });
            if (status === 200 && data.changeSet !== null) done.raised++; // null: somebody else wrote the same number, which merges
        } else if (dice < 0.65) {
            const { status, data } = await api(url, 'POST', 'changes',
                { operations: [{ verb: 'update', kind: 'activity', uid: pick(open),
                after: { duration: 480 * (1 + Math.floor(Math.random() * 30)) } }] });
            if (status === 200 && data.ripple.movedActivities > 0) done.moved++;
        } else if (dice < 0.75) {
            const project = pick([...here]);
            const uid = `load-${n}-${round}-${Date.now()}`;
            const { status, data } = await api(url, 'POST', 'changes',
                { operations: [{ verb: 'create', kind: 'activity', uid,
                after: { project, code: `L${n % 3}-${round % 5}`, duration: 480 } }] });
            if (status === 200) done.made += mine.push(data.changeSet) > 0 ? 1 : 0;
        } else if (dice < 0.85 && mine.length > 0) {
            done.undone += (await api(url, 'POST', `changes/${mine.pop()}/undo`, {})).status === 200 ? 1 : 0;
        } else if (dice < 0.92) {
            done.calendar += (await api(url, 'POST', 'changes',
                { operations: [{ verb: 'update', kind: 'calendar', uid: 'cal-office',
                after: { exceptions: [{ date: '05-01', periods: '', name: 'May Day' },
                ...(Math.random() < 0.5 ? [{ date: '2027-02-0' + (1 + Math.floor(Math.random() * 9)), periods: '', name: 'closed' }]
                : [])] } }] })).status === 200 ? 1 : 0;
        } else {
            await api(url, 'GET', `activities/${pick(open)}/reasons`);
        }
    }
}

const begun = Date.now();
await Promise.all(Array.from({ length: planners }, (_, n) => planner(n)));
const raised = await sum() - start;
const idle = Object.keys(done).filter((what) => done[what] === 0);
times.sort((a, b) => a - b);
console.log(JSON.stringify({ seconds: Math.round((Date.now() - begun) / 1000), planners, servers: servers.length, answers: counts,
    done, idle, lost: done.raised - raised, failed,
    median_ms: Math.round(times[Math.floor(times.length / 2)] ?? 0), worst_ms: Math.round(times.at(-1) ?? 0) }));
process.exit(done.raised === raised && failed === 0 && idle.length === 0 ? 0 : 1);
