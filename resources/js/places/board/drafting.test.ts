import { afterEach, describe, expect, it, vi } from 'vitest';
import { ref } from 'vue';
import type { BoardData, Ripple } from '@/api/client';
import { useDrafting } from './drafting';
import type { Step } from './steps';

vi.hoisted(() => { // addresses of the page, as in a browser
    const Plain = Request;
    globalThis.Request = class extends Plain {
        constructor(input: RequestInfo | URL, init?: RequestInit) {
            super(typeof input === 'string' ? new URL(input, 'http://localhost') : input, init);
        }
    };
});

/** A server that answers what it is told to, by method and path; what it is not told to answer is away. */
function ground(answers: Record<string, unknown>) {
    const asked: string[] = [];
    vi.stubGlobal('fetch', async (request: Request) => {
        const what = `${request.method} ${new URL(request.url).pathname.replace('/api/v1', '')}`;
        asked.push(what);
        if (!(what in answers)) throw new TypeError('away');
        return new Response(JSON.stringify(answers[what]), { status: 200, headers: { 'Content-Type': 'application/json' } });
    });
    vi.stubGlobal('document', { cookie: 'XSRF-TOKEN=x' });
    const log: string[] = [];
    const of = { board: ref('GRID'), undoable: ref<Step[]>([]), redoable: ref<Step[]>([]), busy: ref(0), error: ref<string | null>(null),
        inTurn: <T>(work: () => Promise<T>) => work(),
        show: (_: BoardData, __: Ripple, headline: string, note: string) => void log.push(`shown ${headline}, ${note}`),
        reopen: (uid: string) => Promise.resolve(void log.push(`reopened ${uid}`)) };
    return { of, log, asked, ...useDrafting(of) };
}
const step = (uid: string) => ({ uid, headline: uid.toUpperCase(), author: 'x' });
const draft = (steps: string[], undone = 0, more = {}) => ({ uid: 'd', name: 'D', shared: true, revision: 1, steps: steps.map(step), undone,
    ...more }) as never;
afterEach(() => void vi.unstubAllGlobals());

describe('a draft', () => {
    it('has its own way back and forth, and a change ends what could be done again', () => {
        const g = ground({});
        g.takeDraft(draft(['a', 'b'], 2));
        expect([g.of.undoable.value.map((s) => s.headline), g.of.redoable.value.length]).toEqual([['A', 'B'], 2]);
        g.added('c', 'C');
        expect([g.of.undoable.value.map((s) => s.changeSets), g.of.redoable.value.length, g.draft.value!.undone,
            g.draft.value!.steps.map((s) => s.uid)]).toEqual([[['a'], ['b'], ['c']], 0, 0, ['a', 'b', 'c']]);
    });
    it('keeps nothing of a change when there is none', () => {
        const g = ground({});
        g.added('c', 'C');
        expect([g.of.undoable.value, g.draft.value]).toEqual([[], null]);
    });
    it('turns its last step and shows what it says; a failure is said', async () => {
        const g = ground({ 'POST /drafts/d/undo': { board: {}, comparison: {}, draft: draft(['a'], 1) } });
        await g.turnDraft('undo', 'none');
        expect(g.asked).toEqual([]);
        g.takeDraft(draft(['a', 'b']));
        await g.turnDraft('undo', 'undone');
        expect([g.log, g.of.undoable.value.length, g.of.redoable.value.length, g.of.busy.value]).toEqual([['shown B, undone'], 1, 1, 0]);
        await g.turnDraft('redo', 'again');
        expect([g.of.error.value !== null, g.of.busy.value, g.log.length]).toEqual([true, 0, 1]);
    });
    it('follows others when it is shared: the steps decide whether the board is read anew', async () => {
        const same = ground({ 'GET /drafts/d': draft(['a'], 0, { name: 'Renamed' }) });
        same.takeDraft(draft(['a']));
        await same.followDraft();
        expect([same.draft.value!.name, same.log]).toEqual(['Renamed', []]);
        for (const other of [draft(['a', 'b']), draft(['b']), draft(['a'], 1), draft([])]) {
            const g = ground({ 'GET /drafts/d': other });
            g.takeDraft(draft(['a']));
            await g.followDraft();
            expect(g.log).toEqual(['reopened d']);
        }
        const own = ground({ 'GET /drafts/d': draft(['a', 'b']) });
        own.takeDraft(draft(['a'], 0, { shared: false }));
        await own.followDraft();
        expect([own.asked, own.log]).toEqual([[], []]);
        const away = ground({});
        away.takeDraft(draft(['a']));
        await away.followDraft();
        expect([away.log, away.of.error.value]).toEqual([[], null]);
    });
    it('that was brought up to date is opened again', async () => {
        const g = ground({ 'POST /drafts/d/rebase': {} });
        g.of.error.value = 'clash';
        await g.rebase('d', 'mine');
        expect([g.of.error.value, g.log]).toEqual([null, ['reopened d']]);
        const away = ground({});
        await away.rebase('d', 'theirs');
        expect([away.of.error.value !== null, away.log]).toEqual([true, []]);
    });
});
