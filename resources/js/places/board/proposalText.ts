import type { ProposalBoard } from '@/api/client';
import { fieldName, valueText } from '@/words/conflictText';

type Item = ProposalBoard['items'][number];
type Translate = (key: string, values?: Record<string, unknown>) => string;

/** Fields of an item with both values, as a person reads them. */
export function fieldTexts(item: Item, t: Translate, known: (key: string) => boolean, perDay: number | null): string[] {
    return item.fields.filter((f) => f.field !== 'position').map((f) => t('history.change', { field: fieldName(f.field, t, known),
        before: valueText(f.field, f.before, t, perDay), after: valueText(f.field, f.after, t, perDay) }));
}

/** What an item is, in a few words. */
export const itemText = (item: Item, t: Translate, known: (key: string) => boolean): string => t(`history.${item.verb}`,
    { kind: known(`history.kinds.${item.kind}`) ? t(`history.kinds.${item.kind}`) : item.kind, label: item.label ?? '' });

/** What a proposal does to each row, for its cell: what is tried of it. */
export function rowTexts(answer: ProposalBoard, t: Translate, known: (key: string) => boolean,
    perDay: (row: string) => number | null): Map<string, string> {
    const texts = new Map<string, string[]>();
    for (const item of answer.items) {
        if (!item.tried || item.row === null) continue;
        const said = item.verb === 'update' && item.row === item.uid ? fieldTexts(item, t, known, perDay(item.row))
            : [itemText(item, t, known), ...fieldTexts(item, t, known, perDay(item.row))];
        texts.set(item.row, [...(texts.get(item.row) ?? []), ...said]);
    }
    return new Map([...texts].map(([row, all]) => [row, all.join(' · ')]));
}
