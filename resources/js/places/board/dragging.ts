import { ref, shallowRef } from 'vue';
import { useI18n } from 'vue-i18n';
import type { Ripple } from '@/api/client';
import { toInstant } from '@/axis/scale';
import type { AxisPoint } from '@/rows/table';
import { formatShort } from '@/time/instant';
import { DragSession } from './drag';
import type { Row } from './model';
import * as operations from './operations';
import { type Drag, hit } from './paint';
import { useBoard } from './store';
import type { BoardView } from './view';

/** Milliseconds that a bar must rest before its ripple is asked for. */
const RESTS = 120;

/** The pointer on the time axis: panning, moving and pulling bars with their ripple, drawing links. */
export function useDragging(view: BoardView, click: (point: AxisPoint) => void) {
    const { t } = useI18n();
    const board = useBoard();
    const { rows, scale, selected, calendars } = view;
    const drag = shallowRef<Drag | null>(null);
    const hover = ref(-1);
    const preview = shallowRef<{ headline: string; ripple: Ripple | null } | null>(null);
    let session: DragSession | null = null;
    let asked = 0;
    let pressed: AxisPoint | null = null;

    function down(point: AxisPoint): void {
        pressed = point;
        const row = rows.value[point.index];
        const part = hit({ scale: scale.value }, row, point.x);
        if (!row) return;
        selected.value = new Set([row.id]);
        if (part === null || row.kind !== 'activity') session = DragSession.pan(scale.value, point);
        else if (view.mayPlan(row)) session = DragSession.begin(row.activity, part, point, calendars.value!.of(row.activity), scale.value);
    }

    function move(point: AxisPoint): void {
        if (!session) return look(point);
        if (session.what === 'pan') return void (scale.value = session.panned(point));
        drag.value = session.move(point, rows.value, scale.value);
        if (drag.value && drag.value.what !== 'link') foresee(session);
    }

    function look(point: AxisPoint): void {
        const row = rows.value[point.index];
        const part = hit({ scale: scale.value }, row, point.x);
        const near = part !== null || (row?.kind === 'activity' && hover.value === point.index && nearBar(row, point.x));
        hover.value = near ? point.index : -1;
        const cursors = { end: 'ew-resize', body: 'grab', 'start-dot': 'crosshair', 'finish-dot': 'crosshair' };
        (point.event.target as HTMLElement).style.cursor = part === null ? 'default' : cursors[part];
    }

    function nearBar(row: Row & { kind: 'activity' }, x: number): boolean {
        const at = toInstant(scale.value, x);
        return at > row.activity.start - 26 * scale.value.perPixel && at < row.activity.finish + 26 * scale.value.perPixel;
    }

    /** What it would do, asked for when the bar rests; an older answer is not shown over a newer one. */
    function foresee(of: DragSession): void {
        const operation = of.operation();
        if (!operation) return;
        const headline = of.headline(t);
        preview.value = { headline, ripple: preview.value?.ripple ?? null };
        const ticket = ++asked;
        window.setTimeout(async () => {
            if (ticket !== asked || !session) return;
            const ripple = await board.dryRun([operation]);
            if (ticket === asked && session) preview.value = { headline, ripple };
        }, RESTS);
    }

    async function up(point: AxisPoint): Promise<void> {
        const ended = session;
        session = null;
        if (pressed && Math.hypot(point.x - pressed.x, point.y - pressed.y) < 4) {
            cancel();
            return click(point);
        }
        if (!ended || ended.what === 'pan') return;
        const state = drag.value;
        cancel();
        if (!state) return;
        if (state.what === 'link') return connect(state.index, point.index, state.fromFinish, state.toFinish);
        const operation = ended.operation();
        if (operation) await board.commit([operation], ended.headline(t),
            ended.what === 'move' ? t('ripple.held', { date: formatShort(ended.start) }) : null);
    }

    async function connect(from: number, to: number, fromFinish: boolean, toFinish: boolean): Promise<void> {
        const [giver, taker] = [rows.value[from], rows.value[to]];
        if (giver?.kind !== 'activity' || taker?.kind !== 'activity' || giver.id === taker.id) return;
        const type = operations.linkType(fromFinish, toFinish);
        await board.commit([operations.createLink(giver.id, taker.id, type)],
            t('edit.linkOne', { from: giver.activity.name, to: taker.activity.name, type }));
    }

    function cancel(): void {
        session = null;
        drag.value = null;
        preview.value = null;
        asked++;
    }

    return { drag, hover, preview, down, move, up, cancel };
}
