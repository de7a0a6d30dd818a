<script setup lang="ts">
import { computed, ref, shallowRef, toRef, useTemplateRef, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import type { Portfolio, PortfolioProject } from '@/api/client';
import { fit, keptInSight, type Scale } from '@/axis/scale';
import RowTable from '@/rows/RowTable.vue';
import type { AxisPoint, AxisView, Column, RowLook, RowTableHandle } from '@/rows/table';
import { DAY } from '@/time/instant';
import { isDark, palette } from '@/ui/appearance';
import { useCommands } from '@/ui/commands';
import { tone, type Tone } from '@/ui/theme';
import { bandWords } from '@/selection/expression';
import { figureColumn } from './figures';
import { useHealthSigns } from './marks';
import { paintPortfolio } from './paint';
import { portfolioRows, type PortfolioRow } from './rows';
import { type PortfolioLook, useWording } from './view';

/** Projects as rows on the time axis, in bands with their roll-up. */
const props = defineProps<{ data: Portfolio; look: PortfolioLook; selected: ReadonlySet<string> }>();
const emit = defineEmits<{ select: [ids: ReadonlySet<string>]; change: [more: Partial<PortfolioLook>] }>();
const { t } = useI18n();
const table = useTemplateRef<RowTableHandle>('table');
const { wording } = useWording(toRef(() => props.data));
const scale = shallowRef<Scale>({ left: 14_000_000, perPixel: 500 });
const closed = ref(new Set<string>());

const rows = computed(() => portfolioRows(props.data, closed.value, (band) => bandWords(band, wording))
    .map((r) => (r.kind === 'band' && r.band.field === 'branch' && r.band.value !== null ? { ...r, branch: `b:${r.band.value}` } : r)));
const neutral = computed<Tone>(() => ({ full: palette.value.slate, tint: palette.value.hairline }));

function toneOf(p: PortfolioProject): Tone {
    const by = props.look.colour;
    if (by === 'critical') return p.critical ? { full: palette.value.brick, tint: palette.value.hairline } : neutral.value;
    if (!by.startsWith('code:')) return tone((p.colour ?? 1) - 1, isDark.value);
    const set = props.data.codeSets.find((s) => `code:${s.uid}` === by);
    const coded = p.codes.find((c) => c.set === set?.uid)?.entry;
    const at = set?.entries.findIndex((e) => e.uid === coded) ?? -1;
    return at < 0 ? neutral.value : tone((set!.entries[at]!.colour ?? at + 1) - 1, isDark.value);
}
const tones = computed(() => new Map(props.data.projects.map((p) => [p.uid, toneOf(p)])));
const columns = computed<Column<PortfolioRow>[]>(() => [
    { key: 'name', title: t('portfolio.columns.name'), width: 250, fits: 380, tree: true, sortable: true,
        text: (r) => (r.kind === 'band' ? `${r.band.name}  ·  ${r.band.count}` : r.project.name), bold: (r) => r.kind === 'band',
        tone: (r) => (r.kind === 'project' && r.project.archived ? 'faint' : null), long: true },
    ...props.look.columns.map((c) => figureColumn(c, props.data, wording)),
]);
const version = ref(0);
watch([rows, tones], () => version.value++);

/** the axis as it was when everything was shown last */
let fitted: Scale | null = null;
function fitAll(): void {
    const dated = props.data.projects.filter((p) => p.start !== null);
    if (!dated.length) return;
    scale.value = fitted = fit(Math.min(...dated.map((p) => p.start!)),
        Math.max(...dated.map((p) => Math.max(p.finish!, p.deadline ?? 0))) + 20 * DAY, table.value?.axisWidth || 700);
}
watch(() => table.value?.axisWidth ?? 0, (width, before) => {
    if (width <= 0) return;
    if (fitted === null || scale.value === fitted) return fitAll();
    const chosen = props.data.projects.filter((p) => props.selected.has(p.uid));
    scale.value = keptInSight(scale.value, before, width, chosen.flatMap((p) => (p.start === null ? [] : [p.start, p.finish!])));
});

const sight = shallowRef<readonly PortfolioProject[]>([]);
const sign = useHealthSigns(sight);
function lookOf(row: PortfolioRow): RowLook {
    return row.kind === 'band'
        ? { id: row.id, depth: row.depth, open: row.open, strong: row.depth === 0, sticky: false,
            edge: row.band.colour === null ? null : tone(row.band.colour - 1, isDark.value).full }
        : { id: row.id, depth: row.depth, open: null, strong: false, edge: tones.value.get(row.project.uid)!.full, sticky: false,
            sign: sign(row.project.uid) };
}
function paint(view: AxisView): void {
    paintPortfolio(view, rows.value, chosenRows.value, tones.value, neutral.value);
    sight.value = rows.value.slice(view.first, view.last + 1).flatMap((r) => (r.kind === 'project' ? [r.project] : []));
}

// branches are known by `b:` and their uid wherever they are chosen
const rowOf = (id: string) => rows.value.find((r) => r.id === id);
const chosenRows = computed(() => new Set([...props.selected].flatMap((id) => (id.startsWith('b:')
    ? rows.value.filter((r) => 'branch' in r && r.branch === id).map((r) => r.id) : [id]))));
// what was made or chosen elsewhere comes into sight
watch(chosenRows, (now, before) => {
    const more = [...now].filter((id) => !before.has(id)).at(-1);
    if (more !== undefined) table.value?.reveal(more);
}, { flush: 'post' });
const pick = (ids: Set<string>) => emit('select', new Set([...ids].map((id) => {
    const row = rowOf(id);
    return row && 'branch' in row ? String(row.branch) : id;
})));
function toggle(id: string): void {
    const next = new Set(closed.value);
    if (!next.delete(id)) next.add(id);
    closed.value = next;
}
function axisDown(point: AxisPoint): void {
    const row = rows.value[point.index];
    if (row) pick(new Set([row.id]));
}
/** up, down, as it comes */
function sortBy(column: string): void {
    const [now] = props.look.sort;
    emit('change', { sort: now === column ? [`-${column}`] : now === `-${column}` ? [] : [column] });
}
const sort = computed(() => {
    const [first] = props.look.sort;
    return first === undefined ? null : { key: first.replace(/^-/, ''), down: first.startsWith('-') };
});
useCommands([{ id: 'fit', keys: ['0'], rows: true, run: fitAll }]);
</script>

<template>
    <RowTable ref="table" v-model:scale="scale" :label="t('places.portfolio')" :rows="rows" :columns="columns" :look="lookOf" :sort="sort"
        :row-height="28" :selected="chosenRows" :version="version" :paint="paint" @select="pick" @toggle="toggle" @axis-down="axisDown"
        @sort="sortBy" />
</template>
