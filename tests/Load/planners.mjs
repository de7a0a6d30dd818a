// Several planners edit linked projects at once, without pause, over one or more web servers, and nothing may get lost:
//   node tests/Load/planners.mjs SECONDS PLANNERS URL [URL…]
// Counters (the cost of shared activities) are raised by whoever saw their value; every success must be in the sum at the
// end. Other edits move dates through all projects, make, delete and undo. Prints figures; exit status 1 when an update was
// lost, a clash was not told as one, or a server answered 500. Whether results are stale is asked with reihe:recalculate.

import { bearer } from './client.mjs';

const [seconds, planners, ...servers] = [Number(process.argv[2] ?? 60), Number(process.argv[3] ?? 8), ...process.argv.slice(4)];
if (servers.length === 0) throw new Error('node tests/Load/planners.mjs SECONDS PLANNERS URL [URL…]');

const call = await bearer(servers[0]);
const counts = {};
const times = [];
let raised = 0;
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
const keys = portfolio.projects.map((p) => p.key).slice(0, 12);
const board = async (url) => (await api(url, 'GET', `board?projects=${keys.join(',')}`)).data;
const costs = (data) => new Map(data.efforts.uid.map((uid, i) => [uid, data.efforts.cost[i]]));

const first = await board(servers[0]);
const open = first.activities.uid.filter((_, i) => first.activities.kind[i] === 'task' && first.activities.actualStart[i] === null);
const shared = open.slice(0, 3);
const before = costs(first);
const start = shared.reduce((sum, uid) => sum + (before.get(uid) ?? 0), 0);
const pick = (list) => list[Math.floor(Math.random() * list.length)];

async function planner(n) {
    const url = servers[n % servers.length];
    const until = Date.now() + seconds * 1000;
    const mine = [];
    for (let round = 0; Date.now() < until; round++) {
        const dice = Math.random();
        if (dice < 0.35) {
            const uid = pick(shared);
            const known = costs(await board(url)).get(uid) ?? null;
            const { status, data } = await api(url, 'POST', 'changes',
                { operations: [{ verb: 'update', kind: 'activity', uid, before: { cost: known }, after: { cost: (known ?? 0) + 1 } }] });
            if (status === 200 && data.changeSet !== null) raised++; // null: somebody else wrote the same number, which merges
        } else if (dice < 0.65) {
            await api(url, 'POST', 'changes',
                { operations: [{ verb: 'update', kind: 'activity', uid: pick(open),
                after: { duration: 480 * (1 + Math.floor(Math.random() * 30)) } }] });
        } else if (dice < 0.75) {
            const project = pick(first.projects).uid;
            const uid = `load-${n}-${round}-${Date.now()}`;
            const { status, data } = await api(url, 'POST', 'changes',
                { operations: [{ verb: 'create', kind: 'activity', uid,
                after: { project, code: `L${n % 3}-${round % 5}`, duration: 480 } }] });
            if (status === 200) mine.push(data.changeSet);
        } else if (dice < 0.85 && mine.length > 0) {
            await api(url, 'POST', `changes/${mine.pop()}/undo`, {});
        } else if (dice < 0.92) {
            await api(url, 'POST', 'changes',
                { operations: [{ verb: 'update', kind: 'calendar', uid: 'cal-office',
                after: { exceptions: [{ date: '05-01', periods: '', name: 'May Day' },
                ...(Math.random() < 0.5 ? [{ date: '2027-02-0' + (1 + Math.floor(Math.random() * 9)), periods: '', name: 'closed' }]
                : [])] } }] });
        } else {
            await api(url, 'GET', `activities/${pick(open)}/reasons`);
        }
    }
}

const begun = Date.now();
await Promise.all(Array.from({ length: planners }, (_, n) => planner(n)));
const after = costs(await board(servers[0]));
const end = shared.reduce((sum, uid) => sum + (after.get(uid) ?? 0), 0);
times.sort((a, b) => a - b);
console.log(JSON.stringify({ seconds: Math.round((Date.now() - begun) / 1000), planners, servers: servers.length, answers: counts, raised,
    lost: raised - (end - start), failed,
    median_ms: Math.round(times[Math.floor(times.length / 2)] ?? 0), worst_ms: Math.round(times.at(-1) ?? 0) }));
process.exit(raised === end - start && failed === 0 && raised > 0 ? 0 : 1);
