import { codeFields } from './codeFields';
import { type BoardField, type FieldContext } from './field';
import { linkFields } from './linkFields';
import { planFields } from './planFields';
import { progressFields } from './progressFields';
import { resourceFields } from './resourceFields';

export { absolute, type BoardField, type FieldContext, nameOf, perDayOf, type Wish } from './field';
export { shareOf } from './progressFields';

/** Columns that often go together. */
export const PRESETS = {
    plan: ['code', 'name', 'days', 'start', 'finish', 'float'],
    progress: ['code', 'name', 'done', 'actualStart', 'actualFinish'],
    baseline: ['code', 'name', 'startVariance', 'finishVariance', 'durationVariance'],
    float: ['code', 'name', 'lateFinish', 'float', 'freeFloat', 'interfering', 'levelDelay'],
    links: ['code', 'name', 'predecessors', 'successors'],
    work: ['code', 'name', 'days', 'resources', 'remainingWork'],
    codes: ['code', 'name'],
} as const;
export type Preset = keyof typeof PRESETS;

/** Names are narrower where more has to stand beside them. */
const NAME_WIDTH: Record<string, number> = { progress: 146, baseline: 160, float: 138, links: 150, work: 146 };

/** Every column that the board has, by key. */
export function allFields(context: FieldContext): Map<string, BoardField> {
    const list = [...planFields(context), ...progressFields(context), ...linkFields(context), ...resourceFields(context),
        ...codeFields(context)];
    return new Map(list.map((f) => [f.key, f]));
}

/** What columns a look asks for: those that somebody chose, else those of a preset. */
export function columnKeys(preset: string, chosen: readonly string[], all: ReadonlyMap<string, BoardField>): string[] {
    const keys = chosen.length > 0 ? chosen : preset === 'codes'
        ? [...PRESETS.codes, ...[...all.keys()].filter((k) => k.startsWith('code:') || k.startsWith('own:'))]
        : PRESETS[preset as Preset] ?? PRESETS.plan;
    return keys.filter((k) => all.has(k));
}

export function boardColumns(preset: string, chosen: readonly string[], all: ReadonlyMap<string, BoardField>): BoardField[] {
    return columnKeys(preset, chosen, all).map((key) => {
        const field = all.get(key)!;
        return key === 'name' && chosen.length === 0 && NAME_WIDTH[preset] ? { ...field, width: NAME_WIDTH[preset], fits: undefined }
            : field;
    });
}

/** Columns of a trace: why each step lies where it lies. */
export function traceColumns(context: FieldContext, all: ReadonlyMap<string, BoardField>): BoardField[] {
    const { t, why } = context;
    return [all.get('code')!, { ...all.get('name')!, width: 160, fits: undefined, tree: false },
        { key: 'why', title: t('board.columns.why'), width: 252,
        text: (r) => (r.kind === 'activity' ? (why?.(r.id) ?? '') : ''), tone: () => 'faint', long: true }];
}
