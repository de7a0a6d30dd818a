<script setup lang="ts">
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import type { ImportPreview } from '@/api/client';
import { fieldName, valueText } from '@/words/conflictText';

type Update = NonNullable<ImportPreview['update']>;
type Change = Update['changes'][number];

/** What a file changes of what is here: what is new, changed, missing or changed on both sides, each change with before and after. */
const props = defineProps<{ update: Update; several: boolean }>();
const fileWins = defineModel<boolean>('fileWins', { required: true });
const deleteMissing = defineModel<boolean>('deleteMissing', { required: true });
const left = defineModel<ReadonlySet<number>>('left', { required: true }); // positions of changes that are not taken
const { t, te, n } = useI18n();

const STATES = ['new', 'changed', 'conflicting', 'missing', 'unchanged'] as const;
const objects = computed(() => {
    const list = new Map<number, Change[]>();
    for (const c of props.update.changes) list.set(c.at, [...(list.get(c.at) ?? []), c]);
    return [...list];
});
const kind = (of: string) => (te(`history.kinds.${of}`) ? t(`history.kinds.${of}`) : of);
const field = (of: string | null) => (of === null ? '' : fieldName(of, t, te));
const value = (of: string, v: unknown) => valueText(of, v, t);
function toggle(at: number): void {
    const next = new Set(left.value);
    if (!next.delete(at)) next.add(at);
    left.value = next;
}
</script>

<template>
    <div data-test="update" class="update">
        <p class="tabular states"><span v-for="s in STATES" :key="s" :class="{ none: update.states[s] === 0, [s]: true }">{{
            t(`exchange.states.${s}`, { n: n(update.states[s]) }) }}</span></p>
        <div v-if="objects.length" class="list"><table>
            <thead><tr><th /><th>{{ t('exchange.changed') }}</th><th>{{ t('exchange.field') }}</th><th>{{ t('exchange.before') }}</th>
                <th>{{ t('exchange.after') }}</th></tr></thead>
            <tbody v-for="[at, changes] in objects" :key="at" :class="{ out: left.has(at) }">
                <tr v-for="(c, i) in changes" :key="c.field">
                    <td><input v-if="i === 0 && several" type="checkbox" :checked="!left.has(at)"
                        :aria-label="t('exchange.take', { key: c.label })" @change="toggle(at)"></td>
                    <td>{{ i === 0 ? `${kind(c.kind)} ${c.label}` : '' }}</td><td>{{ field(c.field) }}</td>
                    <td class="faint">{{ value(c.field, c.before) }}</td><td>{{ value(c.field, c.after) }}</td>
                </tr>
            </tbody>
        </table></div>
        <template v-if="update.conflicts.length">
            <h3>{{ t('exchange.conflicts') }}</h3>
            <div class="list"><table>
                <thead><tr><th /><th>{{ t('exchange.field') }}</th><th>{{ t('exchange.last') }}</th><th>{{ t('exchange.ours') }}</th>
                    <th>{{ t('exchange.theirs') }}</th></tr></thead>
                <tbody><tr v-for="(c, i) in update.conflicts" :key="i">
                    <td>{{ kind(c.kind) }} {{ c.label }}</td>
                    <td v-if="c.field === null" colspan="4">{{ t('exchange.deletedHere') }}</td>
                    <template v-else><td>{{ field(c.field) }}</td><td class="faint">{{ value(c.field, c.last) }}</td>
                        <td :class="{ loses: fileWins }">{{ value(c.field, c.before) }}</td>
                        <td :class="{ loses: !fileWins }">{{ value(c.field, c.after) }}</td></template>
                </tr></tbody>
            </table></div>
            <label class="check"><input v-model="fileWins" type="checkbox"> {{ t('exchange.fileWins') }}</label>
        </template>
        <details v-if="update.missing.length">
            <summary>{{ t('exchange.missing', { n: n(update.states.missing) }, update.states.missing) }}</summary>
            <ul><li v-for="(m, i) in update.missing" :key="i">{{ kind(m.kind) }} {{ m.label }}</li></ul>
        </details>
        <label v-if="update.missing.length" class="check"><input v-model="deleteMissing" type="checkbox">
            {{ t('exchange.deleteMissing') }}</label>
    </div>
</template>

<style scoped>
.update { display: flex; flex-direction: column; gap: 8px; }
p { margin: 0; }
.states { display: flex; gap: 16px; flex-wrap: wrap; }
.states .none { color: var(--faint); }
.conflicting:not(.none) { color: var(--brick); }
.list { max-height: 260px; overflow: auto; }
table { width: 100%; border-collapse: collapse; }
th { text-align: left; font-weight: 400; color: var(--faint); font-size: 13px; }
td, th { padding: 2px 10px 2px 0; vertical-align: top; overflow-wrap: break-word; }
.out td, .loses { color: var(--faint); text-decoration: line-through; }
input[type=checkbox] { accent-color: var(--petrol); }
ul { margin: 4px 0; padding-left: 18px; max-height: 180px; overflow: auto; }
</style>
