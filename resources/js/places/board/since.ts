import { useQuery } from '@tanstack/vue-query';
import { computed, type Ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, type ProposalBoard, type SinceColumns } from '@/api/client';
import { BRIEFLY } from '@/api/queries';
import { formatShort, type Instant } from '@/time/instant';
import { fieldName } from '@/words/conflictText';
import type { Model } from './model';
import { useBoard } from './store';

/** What of an activity is another than it was. */
export interface Changed { made: boolean; start: Instant | null; finish: Instant | null; fields: string[]; by: string }

/** Activities that changed, by uid; one whose dates only went there and back did not. */
export function changedSince(model: Model, columns: SinceColumns): Map<string, Changed> {
    const changed = new Map<string, Changed>();
    columns.uid.forEach((uid, i) => {
        const a = model.activities.get(uid);
        if (!a) return;
        const [start, finish] = [columns.start[i] ?? null, columns.finish[i] ?? null];
        const fields = columns.fields[i]!.split(',').filter((f) => f !== '');
        const moved = start !== null && (start !== a.start || finish !== a.finish);
        if (columns.made[i] !== 1 && fields.length === 0 && !moved) return;
        changed.set(uid, { made: columns.made[i] === 1, start: moved ? start : null, finish: moved ? finish : null, fields,
            by: columns.by[i]! });
    });
    return changed;
}

/** The same beside the current baselines; of projects that have none nothing is known. */
export function changedSinceBaseline(model: Model): Map<string, Changed> {
    const changed = new Map<string, Changed>();
    const based = new Set([...model.variances.keys()].map((uid) => model.activities.get(uid)?.project ?? uid));
    for (const a of model.activities.values()) {
        const v = model.variances.get(a.uid);
        if (!based.has(a.project) || (v && v.start === a.start && v.finish === a.finish)) continue;
        changed.set(a.uid, { made: !v, start: v?.start ?? null, finish: v?.finish ?? null, fields: [], by: '' });
    }
    return changed;
}

/** What a proposal would change, row by row, beside what is there now. */
export function changedByProposal(model: Model, answer: ProposalBoard): Map<string, Changed> {
    const changed = new Map<string, Changed>();
    const of = (uid: string): Changed => {
        const known = changed.get(uid) ?? { made: false, start: null, finish: null, fields: [], by: '' };
        changed.set(uid, known);
        return known;
    };
    for (const v of model.variances.values()) {
        if (v.startVariance !== 0 || v.finishVariance !== 0) Object.assign(of(v.uid), { start: v.start, finish: v.finish });
    }
    for (const item of answer.items) {
        if (!item.tried || item.row === null) continue;
        const row = of(item.row);
        if (item.row === item.uid) {
            row.made ||= item.verb === 'create';
            row.fields.push(...item.fields.map((f) => f.field));
        } else row.fields.push(item.kind);
    }
    return changed;
}

/** What changed on the board since a moment, a change set, the last visit or the baseline; null when nobody asks. */
export function useSince(since: Ref<string>) {
    const { t, te } = useI18n();
    const board = useBoard();
    const asks = computed(() => since.value !== '' && since.value !== 'baseline' && board.proposal === null && board.keys.length > 0);
    const answer = useQuery({ queryKey: ['since', since, computed(() => board.board), computed(() => board.version)], enabled: asks,
        retry: false, gcTime: BRIEFLY, queryFn: () => ask(http.GET('/history/since',
            { params: { query: { projects: board.board, since: since.value } } })),
        placeholderData: (before: SinceColumns | undefined) => before });
    const changed = computed<Map<string, Changed> | null>(() => {
        if (board.model && board.proposed) return changedByProposal(board.model, board.proposed);
        if (!board.model || since.value === '' || board.proposal !== null) return null;
        if (since.value === 'baseline') return changedSinceBaseline(board.model);
        return answer.data.value ? changedSince(board.model, answer.data.value) : null;
    });
    const removed = computed(() => (since.value !== '' && asks.value ? (answer.data.value?.removed ?? []) : [])
        .reduce((sum, n) => sum + n, 0));
    /** in words: new, which fields, where it was, and who */
    const sayChanged = (c: Changed) => [c.made ? t('since.made') : '',
        c.made ? '' : c.fields.map((f) => (te(`history.kinds.${f}`) ? t(`history.kinds.${f}`) : fieldName(f, t, te))).join(', '),
        c.start === null || c.made ? '' : t('since.was', { start: formatShort(c.start), finish: formatShort(c.finish ?? c.start) }), c.by]
        .filter((s) => s !== '').join(' · ');
    return { changed, removed, sayChanged, error: answer.error };
}
