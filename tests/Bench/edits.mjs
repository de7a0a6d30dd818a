// Edits of a large portfolio over HTTP, request to response with everything written; why and trace of activities; many at once.
//   REIHE_URL=… node tests/Bench/edits.mjs [edits alone]
import { bearer, median, sorted } from '../Load/client.mjs';

const api = await bearer(process.env.REIHE_URL);
const only = process.argv[2] === 'alone';
const edit = (uid, duration, board) => api('POST', `changes?board=${board}`,
    { operations: [{ verb: 'update', kind: 'activity', uid, after: { duration } }] });
const round = (ms) => Math.round(ms);

const portfolio = (await api('GET', 'portfolio')).data.projects.filter((p) => /^V\d+$/.test(p.key));
const tasks = new Map();
for (const project of portfolio.slice(0, 24)) {
    const { activities } = (await api('GET', `board?projects=${project.key}`)).data;
    tasks.set(project.key, activities.uid.filter((_, i) => activities.kind[i] === 'task' && activities.actualStart[i] === null));
}
const keys = [...tasks.keys()].filter((key) => tasks.get(key).length > 10);
const pick = (n) => [keys[n % keys.length], tasks.get(keys[n % keys.length])[(n * 7) % tasks.get(keys[n % keys.length]).length]];

const first = await edit(pick(3)[1], 480 * 3, pick(3)[0]);
const edits = [];
const moved = [];
for (let n = 0; n < 50; n++) {
    const [key, uid] = pick(n);
    const answer = await edit(uid, 480 * (2 + (n % 9)), key);
    if (answer.status !== 200) throw new Error(JSON.stringify(answer.data));
    edits.push(answer.ms);
    moved.push(answer.data.ripple.movedActivities);
}
const why = [];
const traces = [];
for (let n = 0; n < 25; n++) {
    why.push((await api('GET', `activities/${pick(n)[1]}/reasons`)).ms);
    traces.push((await api('GET', `activities/${pick(n)[1]}/trace`)).ms);
}
console.log(JSON.stringify({ first_edit_ms: round(first.ms), edit_median_ms: round(median(edits)),
    edit_worst_of_50_ms: round(sorted(edits).at(-1)), most_moved: sorted(moved).at(-1),
    reasons_median_ms: round(median(why)), trace_median_ms: round(median(traces)), trace_worst_ms: round(sorted(traces).at(-1)) }));
if (only) process.exit(0);

const begun = performance.now();
const twenty = await Promise.all(keys.slice(0, 20).map((key, n) => edit(tasks.get(key)[n % 5], 480 * (3 + (n % 7)), key)));
console.log(JSON.stringify({ parallel_edits: twenty.length, answers: twenty.filter((a) => a.status === 200).length,
    last_answer_ms: round(performance.now() - begun) }));

const busy = [];
const opened = [];
let over = false;
const planner = async (n) => {
    for (let i = 0; !over; i++) busy.push((await edit(pick(n * 5 + i)[1], 480 * (2 + ((n + i) % 9)), pick(n * 5 + i)[0])).ms);
};
const reader = async () => {
    for (let i = 0; !over; i++) {
        opened.push((await api('GET', `board?projects=${keys[i % keys.length]}`)).ms);
        await new Promise((done) => setTimeout(done, 300));
    }
};
const all = [0, 1, 2, 3].map(planner).concat(reader());
await new Promise((done) => setTimeout(done, 15_000));
over = true;
await Promise.all(all);
console.log(JSON.stringify({ planners: 4, edits: busy.length, edit_median_ms: round(median(busy)),
    edit_worst_ms: round(sorted(busy).at(-1)), opening_meanwhile_median_ms: round(median(opened)),
    opening_meanwhile_worst_ms: round(sorted(opened).at(-1)) }));
