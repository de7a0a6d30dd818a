<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { NButton, NInput, NPopover, NSelect } from 'naive-ui';
import { computed, nextTick, onMounted, ref, useTemplateRef } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, messageOf } from '@/api/client';
import { update } from '@/api/operations';
import { type ChartNode, numbered } from '@/chart/tree';
import TreeChart from '@/chart/TreeChart.vue';
import { formatSpan, formatWork } from '@/time/duration';
import { formatShort } from '@/time/instant';
import { isDark } from '@/ui/appearance';
import { tone } from '@/ui/theme';
import type { useBoardLook } from './look';
import { Calendars } from './model';
import { useBoard } from './store';
import { addElement, liesBelow, moveElement, shiftElement } from './wbs';
import { vWhy } from '@/ui/why';

/** The work breakdown of a project drawn as a tree, to talk about scope: no dates on it unless asked. */
const props = defineProps<{ project: string; codes: ReturnType<typeof useBoardLook> }>();
const emit = defineEmits<{ close: []; project: [uid: string] }>();
const { t } = useI18n();
const board = useBoard();
const chart = useTemplateRef<InstanceType<typeof TreeChart>>('chart');
const FIGURES = ['count', 'start', 'finish', 'float', 'done', 'work', 'cost'] as const;
const figures = ref<(typeof FIGURES)[number][]>([]);
const numbers = ref<'order' | 'codes' | 'none'>('codes');
const withActivities = ref(false);
const across = ref(false);
const selected = ref<string | null>(null);
const project = computed(() => board.model!.projects.get(props.project)!);
const editable = computed(() => project.value.mayPlan && board.proposal === null);
const elements = computed(() => [...board.model!.wbs.values()].filter((w) => w.project === props.project)
    .sort((a, b) => a.position - b.position));
const schemes = useQuery({ queryKey: ['levelSchemes'], queryFn: () => ask(http.GET('/level-schemes')) });
const levels = computed(() => schemes.data.value?.schemes.find((s) => s.uid === project.value.levelScheme)?.levels ?? []);

const perDay = computed(() => new Calendars(board.model!).get(project.value.calendar).minutesPerDay);
function lines(of: { start: number | null; finish: number | null; totalFloat: number | null; planned?: number | null; done?: number | null;
    work?: number | null; cost?: number | null }, count: number): string[] {
    return figures.value.map((f) => ({
        count: t('sources.activities', count), start: of.start === null ? '' : `${t('board.columns.start')} ${formatShort(of.start)}`,
        finish: of.finish === null ? '' : `${t('board.columns.finish')} ${formatShort(of.finish)}`,
        float: of.totalFloat === null ? '' : `${t('board.columns.float')} ${formatSpan(of.totalFloat, perDay.value)}`,
        done: of.planned ? `${Math.floor((of.done ?? 0) / of.planned / 1000)} %` : '', work: of.work ? formatWork(of.work) : '',
        cost: of.cost ? new Intl.NumberFormat('en-GB').format(of.cost / 100) : '',
    })[f]).filter((l) => l !== '');
}
const nodes = computed<ChartNode[]>(() => {
    const count = new Map<string, number>();
    for (const a of board.model!.activities.values()) {
        for (let at = a.wbs; at !== null; at = board.model!.wbs.get(at)?.parent ?? null) count.set(at, (count.get(at) ?? 0) + 1);
    }
    const depth = (uid: string | null): number => (uid === null ? 0 : 1 + depth(board.model!.wbs.get(uid)?.parent ?? null));
    const list: ChartNode[] = [
        { id: props.project, parent: null, title: project.value.name, code: project.value.key, lines: lines(project.value as never, 0)
            .filter((_, i) => figures.value[i] !== 'count'), edge: tone((project.value.colour ?? 1) - 1, isDark.value).full },
        ...elements.value.map((w) => ({ id: w.uid, parent: w.parent ?? props.project, title: w.name || w.code,
            lines: lines(w, count.get(w.uid) ?? 0),
            edge: levels.value[depth(w.uid) - 1]?.colour ? tone(levels.value[depth(w.uid) - 1]!.colour! - 1, isDark.value).full : null })),
    ];
    if (withActivities.value) {
        list.push(...[...board.model!.activities.values()].filter((a) => a.project === props.project).sort((a,
            b) => a.position - b.position)
            .map((a) => ({ id: a.uid, parent: a.wbs ?? props.project, title: a.name, faint: true, lines: lines(a, 0).filter((_, i) =>
                figures.value[i] !== 'count') })));
    }
    if (numbers.value === 'none') return list;
    const ordinals = numbers.value === 'order'
        ? numbered(list.slice(1).map((n) => ({ ...n, parent: n.parent === props.project ? null : n.parent })))
        : null;
    return list.map((n, i) => (i === 0 ? n : { ...n, code: ordinals ? ordinals.get(n.id) : (board.model!.wbs.get(n.id)?.code
        ?? board.model!.activities.get(n.id)?.code) }));
});
onMounted(() => void nextTick(() => chart.value?.focus()));

async function act(what: 'below' | 'inside' | 'delete' | 'indent' | 'outdent' | 'up' | 'down', id: string | null): Promise<void> {
    if (!editable.value) return void (board.error = t('board.readOnly'));
    const at = id !== null && board.model!.wbs.has(id) ? id : null;
    if (what === 'below' || what === 'inside') {
        const name = t('board.newWbs');
        const { uid, operation } = addElement(board.model!, props.project, at, what === 'inside', name);
        if (!await board.commit([operation], t('edit.created', { name }))) return;
        selected.value = uid;
        await nextTick();
        await chart.value?.rename(uid);
    } else if (at === null) return;
    else if (what === 'delete') {
        const { name, parent } = board.model!.wbs.get(at)!;
        if (await board.commit([{ verb: 'delete', kind: 'wbs', uid: at }], t('edit.deleted', { name }))) selected.value = parent
            ?? props.project;
    } else {
        const operation = shiftElement(board.model!, at, what);
        if (operation) await board.commit([operation], t('edit.moved', { name: board.model!.wbs.get(at)!.name }));
    }
}
async function rename(id: string, name: string): Promise<void> {
    await board.commit([update(id === props.project ? 'project' : board.model!.wbs.has(id) ? 'wbs' : 'activity', id, { name })],
        t('edit.name', { name }));
}
const mayMove = (id: string, to: string | null) => editable.value && board.model!.wbs.has(id) && to !== null
    && (to === props.project || (board.model!.wbs.has(to) && !liesBelow(board.model!, to, id)));
const move = (id: string, to: string) => void board.commit([moveElement(board.model!, id, to === props.project ? null : to)],
    t('edit.moved', { name: board.model!.wbs.get(id)!.name }));

const text = ref('');
const error = ref('');
async function takeIn(): Promise<void> {
    error.value = '';
    const format = text.value.trimStart().startsWith('<') ? 'opml' as const : 'text' as const;
    const parent = selected.value !== null && board.model!.wbs.has(selected.value) ? selected.value : null;
    const fine = await board.compose(t('wbs.taken', { key: project.value.key }),
        (params, changeSet) => ask(http.POST('/compose/outline', { params,
        body: { project: props.project, parent, format, text: text.value, changeSet } })).catch((e: unknown) => {
        error.value = messageOf(e);
        throw e;
    }));
    if (fine) text.value = '';
}
const choices = computed(() => [...board.model!.projects.values()].map((p) => ({ label: `${p.key}  ${p.name}`, value: p.uid })));
const shown = computed(() => FIGURES.map((value) => ({ value, label: t(`wbs.figure.${value}`) })));
</script>

<template>
    <div class="face">
        <div class="tools">
            <NSelect :value="project.uid" size="small" class="pick" :options="choices" :aria-label="t('portfolio.columns.name')"
                @update:value="(uid: string) => emit('project', uid)" />
            <NSelect v-model:value="numbers" size="small" class="small" :aria-label="t('wbs.numbers')"
                :options="(['codes', 'order', 'none'] as const)
                    .map((value) => ({ value, label: t(`wbs.number.${value}`) }))" />
            <NSelect v-model:value="figures" multiple size="small" class="figures" :options="shown" :max-tag-count="2"
                :placeholder="t('wbs.figures')" :aria-label="t('wbs.figures')" />
            <button class="verb" :aria-pressed="withActivities"
                @click="withActivities = !withActivities">{{ t(withActivities ? 'wbs.without'
                : 'wbs.with') }}</button>
            <button v-why="!editable && t('why.rights')" class="verb" :disabled="!editable"
                @click="act('below', selected)">{{ t('wbs.addBeside') }}</button>
            <button v-why="!editable && t('why.rights')" class="verb" :disabled="!editable"
                @click="act('inside', selected)">{{ t('wbs.addBelow') }}</button>
            <button class="verb" @click="across = !across">{{ t(across ? 'chart.down' : 'chart.across') }}</button>
            <button class="verb" @click="chart?.fit()">{{ t('chart.fit') }}</button>
            <button class="verb" @click="chart?.closeAll()">{{ t('chart.closeAll') }}</button>
            <button class="verb" @click="chart?.openAll()">{{ t('chart.openAll') }}</button>
            <NPopover trigger="click" placement="bottom-end">
                <template #trigger><button class="verb">{{ t('wbs.files') }}</button></template>
                <div class="files">
                    <span><button class="verb" @click="chart?.print()">{{ t('chart.print') }}</button> <button class="verb"
                        @click="chart?.saveSvg()">SVG</button> <button class="verb" @click="chart?.savePng()">PNG</button>
                        <a :href="`/api/v1/projects/${project.uid}/outline?format=opml`" download>OPML</a>
                        <a :href="`/api/v1/projects/${project.uid}/outline?format=opml&activities=1`" download>{{ t('wbs.opmlAll') }}</a>
                        <a :href="`/api/v1/projects/${project.uid}/outline?format=text`" download>{{ t('wbs.text') }}</a></span>
                    <NInput v-model:value="text" type="textarea" :rows="6" :placeholder="t('wbs.paste')" :disabled="!editable"
                        :input-props="{ 'aria-label': t('wbs.paste') }" />
                    <p v-if="error" class="error" role="alert">{{ error }}</p>
                    <NButton v-why="!editable ? t('why.rights') : text.trim() === '' && t('why.text')" size="small"
                        :disabled="text.trim() === '' || !editable" @click="takeIn">{{ t('wbs.takeIn') }}</NButton>
                </div>
            </NPopover>
            <button class="verb" @click="emit('close')">{{ t('wbs.rows') }}</button>
        </div>
        <TreeChart ref="chart" :key="project.uid" :label="`${project.key} WBS`" :nodes="nodes" :selected="selected" :across="across"
            :may-move="mayMove" :may-rename="() => editable" @select="(id) => (selected = id)" @rename="rename" @move="move" @act="act" />
        <p class="faint hint">{{ t('library.codes.keys') }}</p>
    </div>
</template>

<style scoped>
.face { flex: 1; min-width: 0; display: flex; flex-direction: column; }
.tools { display: flex; flex-wrap: wrap; align-items: center; gap: 6px 14px; padding: 6px 16px; border-bottom: 1px solid var(--hairline); }
.pick { width: 190px; }
.small { width: 120px; }
.figures { width: 220px; }
.files { width: 340px; display: flex; flex-direction: column; gap: 8px; }
.files span { display: flex; gap: 14px; }
.hint { padding: 4px 16px; margin: 0; border-top: 1px solid var(--hairline); font-size: 13px; }
p { margin: 0; }
</style>
