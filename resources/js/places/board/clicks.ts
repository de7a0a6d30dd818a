import { shallowRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { toX } from '@/axis/scale';
import type { AxisPoint, AxisView } from '@/rows/table';
import type { Link } from './model';
import { linkAt, type Scene } from './paint';
import { useBoard } from './store';
import type { BoardView } from './view';

/** A click on the axis that drags nothing: on a port it leads to the other project, on a link it opens its editor there. */
export function useAxisClicks(view: BoardView, scene: () => Scene | null, painted: () => AxisView | null) {
    const board = useBoard();
    const route = useRoute();
    const router = useRouter();
    const editor = shallowRef<{ uid: string; x: number; y: number; width: number; height: number } | null>(null);

    function click(point: AxisPoint): void {
        const [s, v] = [scene(), painted()];
        editor.value = null;
        if (!s || !v) return;
        const port = portAt(s, v, point);
        if (port) return void follow(port.far);
        const row = s.rows[point.index];
        if (row?.kind === 'activity') {
            const [x1, x2] = [toX(v.scale, row.activity.start), toX(v.scale, row.activity.finish)];
            if (point.x >= x1 - 2 && point.x <= Math.max(x2, x1 + 4) + 2) return; // the bar itself
        }
        const link = linkAt(v, s, point.x, point.y);
        if (link) editor.value = { uid: link.uid, x: point.x, y: point.y, width: v.width, height: v.height };
    }

    /** The handover whose port lies under the point. */
    function portAt(s: Scene, v: AxisView, point: AxisPoint): { link: Link; far: string } | null {
        const row = s.rows[point.index];
        if (row?.kind !== 'activity') return null;
        for (const link of s.links) {
            if (link.handover !== 1 || (link.from !== row.id && link.to !== row.id)) continue;
            const out = link.from === row.id;
            const finish = out ? link.type === 'FS' || link.type === 'FF' : link.type === 'FF' || link.type === 'SF';
            const far = out ? link.to : link.from;
            const x = toX(v.scale, finish ? row.activity.finish : row.activity.start);
            if (far !== null && Math.abs(point.x - x) <= 6) return { link, far };
        }
        return null;
    }

    /** To an activity on the board, or to one in a project that is opened for that. */
    function follow(uid: string): void {
        if (board.model?.activities.has(uid)) return view.goTo(uid);
        const far = board.model?.far.get(uid);
        if (far) void router.push({ query: { ...route.query, projects: [...board.keys, far.project].join(','), row: uid } });
    }

    return { editor, click };
}
