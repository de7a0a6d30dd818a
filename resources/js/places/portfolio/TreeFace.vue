<script setup lang="ts">
import { NSelect } from 'naive-ui';
import { computed, ref, toRef, useTemplateRef } from 'vue';
import { useI18n } from 'vue-i18n';
import type { Portfolio } from '@/api/client';
import { messageOf } from '@/api/client';
import { change, update } from '@/api/operations';
import type { ChartNode } from '@/chart/tree';
import TreeChart from '@/chart/TreeChart.vue';
import { isDark } from '@/ui/appearance';
import { tone } from '@/ui/theme';
import { codingOperations } from '@/codes/entries';
import { figure } from './figures';
import MoveWarning from './MoveWarning.vue';
import { type PortfolioLook, useWording } from './view';

/** The hierarchy, or a code set, as a chart with its projects; a card dragged onto another hangs there, or is coded so. */
const props = defineProps<{ data: Portfolio; look: PortfolioLook; selected: ReadonlySet<string> }>();
const emit = defineEmits<{ select: [ids: ReadonlySet<string>]; changed: [] }>();
const { t } = useI18n();
const { wording } = useWording(toRef(() => props.data));
const chart = useTemplateRef<InstanceType<typeof TreeChart>>('chart');
const by = ref('branch');
const figures = ref<string[]>(['finish', 'progress']);
const across = ref(true);
const error = ref('');
/** a move that waits until one has seen what it does to access */
const pending = ref<{ kind: 'branch' | 'project'; uid: string; to: string } | null>(null);

const trees = computed(() => [{ label: t('portfolio.hierarchy'), value: 'branch' },
    ...props.data.codeSets.map((s) => ({ label: s.name!, value: s.uid }))]);
const set = computed(() => props.data.codeSets.find((s) => s.uid === by.value) ?? null);
const shown = computed(() => props.data.columns.filter((c) => !['key',
    'name'].includes(c.name)).map((c) => ({ label: wording.column(c.name),
    value: c.name })));
/** projects by the branch or entry that they hang on */
const bands = computed(() => new Map(props.data.bands.filter((b) => b.field === 'branch').map((b) => [b.value, b])));
const lines = (of: Parameters<typeof figure>[0]) => figures.value.map((f) => {
    const text = figure(of, f, props.data, wording);
    return text === '' ? '' : `${wording.column(f)}: ${text}`;
}).filter((l) => l !== '');

const nodes = computed<ChartNode[]>(() => {
    const list: ChartNode[] = set.value
        ? set.value.entries.filter((e) => !e.retired || props.data.projects.some((p) => p.codes.some((c) => c.entry === e.uid)))
            .map((e, i) => ({ id: `e:${e.uid}`, parent: e.parent ? `e:${e.parent}` : null, title: e.name!, faint: e.retired,
                edge: tone((e.colour ?? i + 1) - 1, isDark.value).full }))
        : props.data.branches.filter((b) => props.look.archived || !b.rests).map((b) => ({ id: `b:${b.uid}`, parent: b.parent
            ? `b:${b.parent}` : null, title: b.name, faint: b.rests, lines: bands.value.has(b.uid) ? lines(bands.value.get(b.uid)!)
                : [] }));
    for (const p of props.data.projects) {
        const homes = set.value ? p.codes.filter((c) => c.set === set.value!.uid).map((c) => `e:${c.entry}`) : [`b:${p.branch}`];
        homes.forEach((parent, i) => list.push({ id: i === 0 ? p.uid : `${p.uid}#${parent}`, parent, title: p.name, code: p.key,
            edge: tone((p.colour ?? 1) - 1, isDark.value).full, faint: p.archived, lines: lines(p) }));
    }
    return list;
});
const current = computed(() => {
    const id = [...props.selected].at(-1) ?? null;
    return id !== null && nodes.value.some((n) => n.id === id) ? id : null;
});

const projectOf = (id: string) => props.data.projects.find((p) => p.uid === id.split('#', 1)[0]);
const branchOf = (id: string) => (id.startsWith('b:') ? props.data.branches.find((b) => b.uid === id.slice(2)) : undefined);
function isBelow(id: string, above: string): boolean {
    for (let at: string | null = id; at !== null; at = nodes.value.find((n) => n.id === at)?.parent ?? null) if (at === above) return true;
    return false;
}
function mayMove(id: string, to: string | null): boolean {
    if (to === null) return false;
    const project = projectOf(id);
    if (set.value) return project !== undefined && project.mayPlan && to.startsWith('e:')
        && nodes.value.find((n) => n.id === id)?.parent !== to;
    const target = branchOf(to);
    if (!target || nodes.value.find((n) => n.id === id)?.parent === to) return false;
    if (project) return project.mayPlan && target.mayPlan;
    const from = branchOf(id);
    return from?.role === 'administrator' && target.role === 'administrator' && !isBelow(to, id);
}

async function move(id: string, to: string): Promise<void> {
    const project = projectOf(id);
    if (!set.value) {
        pending.value = project ? { kind: 'project', uid: project.uid, to: to.slice(2) } : { kind: 'branch', uid: id.slice(2),
            to: to.slice(2) };
        return;
    }
    await run(() => change(codingOperations([project!], set.value!, [to.slice(2)]), t('edit.code', { name: project!.key })));
}
async function run(work: () => Promise<unknown>): Promise<void> {
    error.value = '';
    try {
        await work();
    } catch (e) {
        error.value = messageOf(e);
    }
    emit('changed');
}
const rename = (id: string, name: string) => run(() => {
    const branch = branchOf(id);
    const project = projectOf(id);
    return branch ? change([update('branch', branch.uid, { name }, { name: branch.name })], t('edit.name', { name: branch.name }))
        : project ? change([update('project', project.uid, { name }, { name: project.name })], t('edit.name', { name: project.key }))
            : change([update('entry', id.slice(2), { name })], t('edit.name', { name }));
});
const mayRename = (id: string) => branchOf(id)?.mayPlan ?? projectOf(id)?.mayPlan ?? false;
</script>

<template>
    <div class="face">
        <div class="tools">
            <NSelect v-model:value="by" size="small" class="pick" :options="trees" :aria-label="t('portfolio.treeOf')" />
            <NSelect v-model:value="figures" multiple size="small" class="figures" :options="shown" :max-tag-count="3"
                :aria-label="t('portfolio.figures')" :placeholder="t('portfolio.figures')" />
            <button class="verb" @click="across = !across">{{ t(across ? 'chart.down' : 'chart.across') }}</button>
            <button class="verb" @click="chart?.fit()">{{ t('chart.fit') }}</button>
            <button class="verb" @click="chart?.openAll()">{{ t('chart.openAll') }}</button>
            <button class="verb" @click="chart?.closeAll()">{{ t('chart.closeAll') }}</button>
            <button class="verb" @click="chart?.saveSvg()">SVG</button>
            <button class="verb" @click="chart?.savePng()">PNG</button>
            <button class="verb" @click="chart?.print()">{{ t('chart.print') }}</button>
            <span v-if="error" class="error" role="alert">{{ error }}</span>
        </div>
        <TreeChart ref="chart" :label="set?.name ?? t('portfolio.hierarchy')" :nodes="nodes" :selected="current" :across="across"
            :may-move="mayMove" :may-rename="mayRename" @select="(id) => emit('select', new Set([id]))" @move="move" @rename="rename" />
        <MoveWarning v-if="pending" :data="data" :move="pending" @close="pending = null" @done="(pending = null), emit('changed')" />
    </div>
</template>

<style scoped>
.face { position: relative; flex: 1; min-width: 0; display: flex; flex-direction: column; }
.tools { display: flex; flex-wrap: wrap; align-items: center; gap: 6px 14px; padding: 6px 16px; border-bottom: 1px solid var(--hairline); }
.pick { width: 170px; }
.figures { width: 280px; }
</style>
