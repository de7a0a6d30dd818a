import { describe, expect, it } from 'vitest';
import { nextTick, reactive } from 'vue';
import { useCellEditor } from './cellEditor';
import { useColumnPlaces } from './columnPlaces';
import type { Column } from './table';

interface Thing { id: string; name: string; days: string; fixed: string }
const column = (key: keyof Thing, width = 100): Column<Thing> => ({ key, title: key, width, text: (r) => r[key],
    ...(key === 'fixed' ? {} : { edit: (r: Thing) => (r.name === 'closed' ? null : r[key]) }) });

function editor(save: (row: Thing, column: string, text: string) => Promise<boolean> = () => Promise.resolve(true)) {
    const rows: Thing[] = [{ id: '1', name: 'one', days: '5', fixed: 'x' }, { id: '2', name: 'closed', days: '1', fixed: 'y' }];
    const props = reactive({ rows, columns: [column('name'), column('fixed'), column('days')],
        understand: (_: Thing, __: string, text: string) => ({ text, wrong: text === 'bad' }), save });
    const log: string[] = [];
    const made = useCellEditor(props, (id) => {
        const i = rows.findIndex((r) => r.id === id);
        return i < 0 ? undefined : i;
    }, (id, at) => log.push(`begin ${id} ${at}`), () => log.push('leave'));
    const press = (key: string, shiftKey = false) => {
        const e = { key, shiftKey, stopped: false, prevented: false, stopPropagation() { this.stopped = true; },
            preventDefault() { this.prevented = true; } };
        made.key(e as unknown as KeyboardEvent);
        return e;
    };
    return { ...made, rows, log, press };
}

describe('typing over a cell', () => {
    it('begins with what it is, and only where it can be edited', async () => {
        const e = editor();
        await e.begin('1', 'name');
        expect([e.editing.value, e.log]).toEqual([{ id: '1', column: 'name', text: 'one' }, ['begin 1 0']]);
        expect([e.isIn('1', 'name'), e.isIn('1', 'days'), e.isIn('2', 'name')]).toEqual([true, false, false]);
        e.press('Escape');
        for (const [id, key] of [['1', 'fixed'], ['2', 'name'], ['3', 'name'], ['1', 'nothing']] as const) {
            await e.begin(id, key);
            expect(e.editing.value).toBeNull();
        }
    });
    it('saves what changed once, with the row as it was when typing began', async () => {
        const saved: unknown[] = [];
        const e = editor((row, key, text) => {
            saved.push([row.name, key, text]);
            return Promise.resolve(true);
        });
        await e.begin('1', 'name');
        e.editing.value!.text = 'two';
        e.rows[0] = { ...e.rows[0]!, name: 'somebody else’s' };
        e.press('Enter');
        e.commit();
        expect([saved, e.editing.value]).toEqual([[['one', 'name', 'two']], null]);
        await e.begin('1', 'days');
        e.press('Enter'); // as it was
        await e.begin('1', 'days');
        e.editing.value!.text = '9';
        e.press('Escape');
        expect(saved).toHaveLength(1);
    });
    it('brings back what could not be saved, unless one types elsewhere or the row is gone', async () => {
        let answer: (saved: boolean) => void = () => undefined;
        const e = editor(() => new Promise((resolve) => (answer = resolve)));
        const refuse = async () => {
            answer(false);
            for (let i = 0; i < 4; i++) await nextTick();
        };
        const type = async (text: string) => {
            await e.begin('1', 'name');
            e.editing.value!.text = text;
            e.commit();
        };
        await type('bad');
        await refuse();
        expect(e.editing.value).toEqual({ id: '1', column: 'name', text: 'bad' });
        expect(e.hint.value).toEqual({ text: 'bad', wrong: true });
        e.press('Escape');
        await type('again');
        await e.begin('1', 'days');
        await refuse();
        expect(e.editing.value).toEqual({ id: '1', column: 'days', text: '5' });
        e.press('Escape');
        await type('gone');
        e.rows.length = 0;
        await refuse();
        expect(e.editing.value).toBeNull();
    });
    it('goes on to the next cell that can be typed, forwards and back, and leaves at the ends', async () => {
        const e = editor();
        await e.begin('1', 'name');
        expect(e.press('Tab').prevented).toBe(true);
        await nextTick();
        expect(e.editing.value?.column).toBe('days');
        e.press('Tab', true);
        await nextTick();
        expect(e.editing.value?.column).toBe('name');
        e.press('Tab', true);
        await nextTick();
        expect(e.editing.value).toBeNull();
        await e.begin('1', 'name');
        const other = e.press('x');
        expect([other.stopped, other.prevented, e.editing.value?.text]).toEqual([true, false, 'one']);
    });
});

describe('columns', () => {
    const places = (frozen: number | undefined, widths: number[], given: Record<string, number> = {}) => useColumnPlaces({ frozen,
        widths: given, columns: widths.map((w, i) => ({ key: `c${i}`, title: '', width: w, text: () => '' })) }, () => undefined);
    it('take their widths, or those that somebody gave them', () => {
        expect(places(undefined, [100, 50]).leftWidth.value).toBe(156);
        expect(places(undefined, [100, 50], { c1: 80 }).leftWidth.value).toBe(186);
        expect(places(1, [400, 400, 400]).leftWidth.value).toBe(700);
        expect(places(1, [100, 100]).leftWidth.value).toBe(206);
    });
    it('are chosen as a block from where one began', () => {
        const p = places(undefined, [1, 1, 1, 1]);
        p.go(2);
        expect([p.block.value, p.inBlock(2)]).toEqual([[2, 2], false]);
        p.go(0, true);
        expect([p.block.value, [0, 1, 2, 3].map(p.inBlock)]).toEqual([[0, 2], [true, true, true, false]]);
        p.go(9);
        expect(p.block.value).toEqual([3, 3]);
        p.go(-1);
        expect(p.column.value).toBe(0);
    });
    it('move along under those that stay, as far as there are some, and so that the current one shows', async () => {
        const p = places(1, [200, 300, 300, 300]); // 1106 in 700
        const wheel = (deltaX: number, deltaY = 0, shiftKey = false) => {
            let prevented = false;
            p.slide({ deltaX, deltaY, shiftKey, preventDefault: () => (prevented = true) } as unknown as WheelEvent);
            return prevented;
        };
        expect([wheel(0, 100), p.moved(1)]).toEqual([false, undefined]);
        expect([wheel(100), p.moved(0), p.moved(1), p.isFrozen(0)]).toEqual([true, undefined, 'translateX(-100px)', true]);
        wheel(0, 9999, true);
        expect(p.moved(3)).toBe('translateX(-406px)');
        wheel(-9999);
        expect([p.moved(3), p.isFrozen(0)]).toEqual([undefined, false]);
        p.go(3);
        await nextTick();
        expect(p.moved(3)).toBe('translateX(-406px)');
        p.go(1);
        await nextTick();
        expect(p.moved(3)).toBeUndefined();
        expect(places(0, [100, 100]).moved(1)).toBeUndefined();
    });
});
