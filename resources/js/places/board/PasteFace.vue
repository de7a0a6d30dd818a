<script setup lang="ts">
import { NButton, NCheckbox, NInput, NSelect } from 'naive-ui';
import { refDebounced } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { leaves } from '@/ui/escape';
import { useKept } from '@/ui/kept';
import { ask, http, messageOf, type Pasted } from '@/api/client';
import { rippleParts } from '@/words/rippleText';
import type { useBoardLook } from './look';
import TableSource, { type Recipe } from './TableSource.vue';
import type { Row } from './model';
import { useBoard } from './store';
import { vWhy } from '@/ui/why';

/** A table or list from elsewhere: what was understood, cell by cell, and what it would do, before it becomes rows. */
const props = defineProps<{ text: string; at: Row; codes: ReturnType<typeof useBoardLook> }>();
const emit = defineEmits<{ close: []; over: [text: string]; made: [uids: string[]] }>();
const { t } = useI18n();
const board = useBoard();
const SHOWN = 300;
const MEANINGS = ['ignore', 'row', 'code', 'name', 'outline', 'duration', 'start', 'finish', 'deadline', 'predecessors', 'successors',
    'progress', 'remaining', 'actualStart', 'actualFinish', 'cost', 'remark'] as const;

const typed = useKept('paste', '');
if (props.text !== '') typed.value = props.text;
watch(() => props.text, (now) => now !== '' && (typed.value = now));
const settled = refDebounced(typed, 250);
const columns = ref<string[] | null>(null);
const heading = ref<boolean | null>(null);
const unit = ref<'d' | 'h' | 'w'>('d');
/** how numbers are written; as they look where nothing is said */
const numbers = ref<'point' | 'comma' | null>(null);
const hold = ref(false);
const merge = ref<'code' | 'name' | null>(null);
const deleteMissing = ref(false);
const seen = ref<Pasted | null>(null);
const error = ref('');


const wbs = computed(() => (props.at.kind === 'wbs' ? props.at.id : props.at.kind === 'activity' ? props.at.activity.wbs : null));
const place = computed(() => [props.at.project.key, wbs.value ? board.model?.wbs.get(wbs.value)?.name : null].filter(Boolean).join(' › '));
const meanings = computed(() => [...MEANINGS.map((value) => ({ value, label: t(`paste.meaning.${value}`) })),
    ...props.codes.sets.value.filter((s) => s.scope === 'activity').map((s) => ({ value: `code:${s.uid}`, label: s.name! })),
    ...props.codes.ownFields.value.filter((f) => !f.formula).map((f) => ({ value: `own:${f.uid}`, label: f.name! }))]);
const body = computed(() => ({ project: props.at.project.uid, wbs: wbs.value, after: props.at.kind === 'activity' ? props.at.id : null,
    text: settled.value, columns: columns.value, heading: heading.value, unit: unit.value, numbers: numbers.value, hold: hold.value,
    merge: merge.value, deleteMissing: merge.value !== null && deleteMissing.value }));
const recipe = computed<Recipe>(() => ({ columns: columns.value ?? seen.value?.columns ?? [], unit: unit.value,
    numbers: numbers.value, hold: hold.value, merge: merge.value }));
function use(r: Recipe): void {
    [columns.value, unit.value, hold.value, merge.value, numbers.value] = [r.columns, r.unit, r.hold, r.merge, r.numbers ?? null];
}
const stated = computed(() => seen.value === null ? '' : merge.value === null ? t('paste.would', seen.value.rows.length)
    : (['new', 'changed', 'unchanged', 'missing'] as const).map((s) => t(`paste.states.${s}`, { n: seen.value!.states[s] })).join(' · '));
const why = computed(() => {
    const count = new Map<string, number>();
    for (const r of seen.value?.dates?.rows ?? []) count.set(r.why, (count.get(r.why) ?? 0) + 1);
    return [...count].map(([w, many]) => `${many}: ${t(`paste.why.${w}`)}`);
});
/** How a date of the file compares with the computed one, both by the day. */
const differs = (r: NonNullable<Pasted['dates']>['rows'][number]): string =>
    t('paste.differs', { theirs: (r.start ?? r.finish ?? '').slice(0, 10), ours: r.ours.slice(0, 10) });
const rippled = computed(() => (seen.value ? rippleParts(seen.value.ripple, t).map((p) => p.text).join(' · ') : ''));

let last = 0;
watch(body, async (now) => {
    const mine = ++last;
    error.value = '';
    if (now.text.trim() === '') return void (seen.value = null);
    try {
        const answer = await ask(http.POST('/compose/paste', { body: { ...now, dryRun: true } }));
        if (mine === last) seen.value = answer;
    } catch (e) {
        if (mine !== last) return;
        error.value = messageOf(e);
        seen.value = seen.value && columns.value ? seen.value : null;
    }
}, { immediate: true });
watch(typed, () => (columns.value = heading.value = null));

function mean(at: number, meaning: string): void {
    columns.value = (columns.value ?? seen.value!.columns).map((m, i) => (i === at ? meaning : m === meaning && m !== 'ignore' ? 'ignore'
        : m));
}
/** Esc keeps what was typed for the next time; this does not. */
function forget(): void {
    typed.value = '';
    emit('close');
}
async function apply(): Promise<void> {
    const rows = () => [...board.model!.wbs.keys(), ...board.model!.activities.keys()];
    const before = new Set(rows());
    if (await board.compose(t('paste.done', { n: seen.value!.rows.length, place: place.value }), (params, changeSet) =>
        ask(http.POST('/compose/paste', { params, body: { ...body.value, changeSet } })))) {
        emit('made', rows().filter((uid) => !before.has(uid)));
        forget();
    }
}
</script>

<template>
    <section class="paste" :aria-label="t('paste.title')" @keydown.esc="leaves($event) && emit('close')">
        <div class="top">
            <b>{{ t('paste.into', { place }) }}</b>
            <label>{{ t('paste.unit') }} <NSelect v-model:value="unit" size="tiny" class="unit" :aria-label="t('paste.unit')"
                :options="(['d', 'h', 'w'] as const).map((value) => ({ value, label: t(`paste.units.${value}`) }))" /></label>
            <label>{{ t('paste.numbers') }} <NSelect :value="numbers ?? 'told'" size="tiny" class="unit written"
                :aria-label="t('paste.numbers')"
                :options="(['told', 'point', 'comma'] as const).map((value) => ({ value, label: value === 'told' && seen?.numbers
                    ? t('paste.numbersTold', { how: t(`paste.written.${seen.numbers}`) }) : t(`paste.written.${value}`) }))"
                @update:value="(v: 'told' | 'point' | 'comma') => (numbers = v === 'told' ? null : v)" /></label>
            <NCheckbox :checked="seen?.heading ?? false" :disabled="!seen" @update:checked="(v) => (heading = v)">{{ t('paste.heading') }}
            </NCheckbox>
            <NCheckbox v-model:checked="hold">{{ t('paste.hold') }}</NCheckbox>
            <NSelect :value="merge ?? 'none'" size="tiny" class="merge" :aria-label="t('paste.merge')"
                :options="(['none', 'code', 'name'] as const).map((value) => ({ value, label: t(`paste.merges.${value}`) }))"
                @update:value="(v: 'none' | 'code' | 'name') => (merge = v === 'none' ? null : v)" />
            <NCheckbox v-if="merge !== null" v-model:checked="deleteMissing">{{ t('paste.deleteMissing') }}</NCheckbox>
            <span class="grow" />
            <NButton v-why="(!seen || seen.rows.length === 0 || error !== '') && (error || t('why.understood'))" type="primary"
                size="small" :disabled="!seen || seen.rows.length === 0 || error !== ''" @click="apply">{{
                merge === null ? t('paste.apply', seen?.rows.length ?? 0) : t('paste.mergeApply') }}</NButton>
            <NButton v-if="typed.trim() !== ''" size="small" @click="emit('over', typed)">{{ t('paste.over') }}</NButton>
            <NButton size="small" @click="forget">{{ t('health.cancel') }}</NButton>
        </div>
        <TableSource :headings="seen?.headings ?? []" :recipe="recipe" @text="(text) => (typed = text)" @use="use"
            @failed="(text) => (error = text)" />
        <p v-if="error" class="error" role="alert">{{ error }}</p>
        <p v-if="seen" class="ripple" role="status">{{ stated }}{{ rippled ? ` · ${rippled}` : '' }}</p>
        <div class="both">
            <div class="left">
                <NInput v-model:value="typed" v-begin="props.text === ''" type="textarea"
                    :rows="seen ? 3 : 14" :placeholder="t('paste.placeholder')"
                    :input-props="{ 'aria-label': t('paste.text') }" />
                <div v-if="seen" class="table">
                    <table>
                        <thead><tr>
                            <th scope="col">{{ t('paste.line') }}</th>
                            <th v-for="(m, i) in seen.columns" :key="i" scope="col"><span v-if="seen.headings[i]"
                                class="faint">{{ seen.headings[i] }}</span><NSelect size="tiny" filterable :value="columns?.[i] ?? m"
                                :input-props="{ 'aria-label': t('paste.column', { n: i + 1 }) }" :options="meanings"
                                @update:value="(v: string) => mean(i, v)" /></th>
                        </tr></thead>
                        <tbody>
                            <tr v-for="r in seen.rows.slice(0, SHOWN)" :key="r.line" :class="[r.kind, merge === null ? '' : r.state]">
                                <td class="faint tabular">{{ r.line }}<span v-if="merge !== null" class="state">{{
                                    t(`paste.state.${r.state}`) }}</span></td>
                                <td v-for="(c, i) in r.cells" :key="i" :class="{ wrong: c.wrong, out: seen.columns[i] === 'ignore' }"
                                    :style="seen.columns[i] === 'name' ? { paddingLeft: `${8 + r.indent * 16}px` } : undefined">
                                    {{ c.text }}<span v-if="c.understood && c.understood !== c.text" class="understood">{{ c.understood
                                    }}</span><span v-if="c.was" class="was">{{ t('paste.was', { text: c.was }) }}</span><span
                                        v-if="c.wrong" class="why">{{ c.wrong }}</span></td>
                            </tr>
                        </tbody>
                    </table>
                    <p v-if="seen.rows.length > SHOWN" class="faint">{{ t('paste.more', { n: seen.rows.length - SHOWN }) }}</p>
                </div>
            </div>
            <aside v-if="seen" :aria-label="t('paste.findings')">
                <template v-if="seen.dates">
                    <h3>{{ t('paste.dates') }}</h3>
                    <p>{{ t('paste.same', { same: seen.dates.same, differ: seen.dates.differ }) }}</p>
                    <ul data-test="dates"><li v-for="w in why" :key="w">{{ w }}</li>
                        <li v-for="r in seen.dates.rows.slice(0, 20)" :key="r.line"><b>{{ r.label }}</b>
                            {{ differs(r) }} <span class="faint">{{ t(`paste.why.${r.why}`) }}</span></li></ul>
                </template>
                <template v-if="merge !== null && seen.missing.length">
                    <h3>{{ t('paste.missing') }}</h3>
                    <ul><li v-for="m in seen.missing.slice(0, 50)" :key="m.uid">{{ m.code }} {{ m.name }}</li></ul>
                </template>
                <h3>{{ t('paste.findings') }}</h3>
                <p v-if="seen.findings.length === 0" class="faint">{{ t('paste.noFindings') }}</p>
                <ul><li v-for="(f, i) in seen.findings" :key="i"><span class="faint">{{ t('paste.lineOf', { n: f.line }) }}</span>
                    {{ f.text }}</li></ul>
                <p v-if="seen.allFindings > seen.findings.length" class="faint">{{ t('paste.more', { n: seen.allFindings
                    - seen.findings.length }) }}</p>
            </aside>
        </div>
    </section>
</template>

<style scoped>
.paste { flex: 1; min-width: 0; display: flex; flex-direction: column; gap: 8px; padding: 10px 16px; min-height: 0; }
.top { display: flex; gap: 8px 16px; align-items: center; flex-wrap: wrap; }
.grow { flex: 1; }
.merge { width: 190px; }
.state { display: block; font-size: 11px; }
.unchanged td { color: var(--faint); }
.new .state { color: var(--moss); }
.changed .state { color: var(--petrol); font-weight: 600; }
.was { display: block; font-size: 12px; color: var(--faint); text-decoration: line-through; }
.unit { width: 90px; display: inline-block; vertical-align: middle; }
.written { width: 170px; }
.both { flex: 1; display: flex; gap: 16px; min-height: 0; }
.left { flex: 1; min-width: 0; display: flex; flex-direction: column; gap: 8px; min-height: 0; }
.table { flex: 1; overflow: auto; border: 1px solid var(--hairline); border-radius: 4px; background: var(--raised); }
table { border-collapse: collapse; font-size: 13px; }
th { position: sticky; top: 0; background: var(--paper); text-align: left; padding: 4px 8px; min-width: 104px; vertical-align: bottom;
    z-index: 1; font-weight: 400; }
th:first-child { min-width: 40px; }
th span { display: block; font-size: 12px; }
td { border-top: 1px solid var(--hairline); padding: 3px 8px; vertical-align: top; max-width: 360px; }
.wbs td { font-weight: 600; background: var(--band); }
.out { color: var(--faint); }
.understood, .why { display: block; font-size: 12px; color: var(--petrol); font-weight: 400; }
.why, .wrong { color: var(--brick); }
aside { width: 300px; flex: none; overflow-y: auto; }
ul { margin: 0; padding: 0; list-style: none; font-size: 13px; display: flex; flex-direction: column; gap: 4px; }
p, h3 { margin: 0; }
</style>
