<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { NDropdown, NInput, NInputNumber, NSelect } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, type LevelScheme } from '@/api/client';
import { usePortfolio } from '@/api/queries';
import { vWhy } from '@/ui/why';

/** Segments of a code or name, put together by clicking, with what they give on rows of a project. */
type Segment = NonNullable<LevelScheme['activityCode']>[number];
type Level = NonNullable<LevelScheme['levels']>[number];
const props = defineProps<{ title: string; segments: readonly Segment[]; levels: readonly Level[]; disabled: boolean; names: boolean }>();
const emit = defineEmits<{ save: [segments: Segment[]] }>();
const { t } = useI18n();
const portfolio = usePortfolio();
const project = ref<string | null>(null);
const on = computed(() => project.value ?? portfolio.data.value?.projects.find((p) => p.kept === 'here')?.uid ?? null);
const kinds = computed(() => ([['project-key'], ...props.levels.map((_, i) => ['level', i + 1] as const),
    ...props.levels.map((_, i) => ['level-name', i + 1] as const), ['levels'], ['literal'], ...(props.names ? [['name']] : [['counter']]),
        ['entry']] as
    [Segment['kind'], number?][]).map(([kind, level]) => ({ key: `${kind} ${level ?? 1}`, label: words({ kind, level: level ?? 1 }) })));
function words(s: Partial<Segment>): string {
    const level = props.levels[(s.level ?? 1) - 1]?.name ?? `${s.level}`;
    return s.kind === 'literal' ? `“${s.text || ' '}”` : t(`library.levels.segment.${s.kind}`, { level });
}
const set = (at: number, more: Partial<Segment>) => emit('save', props.segments.map((s, i) => (i === at ? { ...s, ...more } : s)));
function add(key: string): void {
    const [kind, level] = key.split(' ');
    emit('save', [...props.segments, { kind: kind as Segment['kind'], level: Number(level), text: kind === 'literal' ? '-' : '' }]);
}
function move(at: number, by: number): void {
    const next = [...props.segments];
    next.splice(at + by, 0, ...next.splice(at, 1));
    emit('save', next);
}
const open = ref<number | null>(null);
function drop(): void {
    emit('save', props.segments.filter((_, n) => n !== open.value));
    open.value = null;
}
const sample = useQuery({ queryKey: ['segments', on, computed(() => props.segments), computed(() => props.levels), props.names],
    enabled: computed(() => on.value !== null && props.segments.length > 0),
    queryFn: () => ask(http.POST('/projects/{uid}/codes', { params: { path: { uid: on.value! } },
        body: { scheme: { levels: [...props.levels], [props.names ? 'activityName' : 'activityCode']: [...props.segments] } } })) });
const activitySets = useQuery({ queryKey: ['codeSets'], queryFn: () => ask(http.GET('/code-sets')) });
const sets = computed(() => (activitySets.data.value?.codeSets ?? []).filter((s) => s.scope === 'activity').map((s) => ({ label: s.name!,
    value: s.key! })));
</script>

<template>
    <section>
        <h3>{{ title }}</h3>
        <div class="segments">
            <button v-for="(s, i) in segments" :key="i" v-why="disabled && t('why.rights')" class="segment" :class="{ open: open === i }"
                :disabled="disabled"
                @click="open = open === i ? null : i" @keydown.alt.left.prevent="i > 0 && move(i, -1)"
                @keydown.alt.right.prevent="i < segments.length - 1 && move(i, 1)">{{ words(s) }}</button>
            <NDropdown trigger="click" :options="kinds" scrollable style="max-height: 360px" @select="add"><button
                v-why="disabled && t('why.rights')"
                class="verb" :disabled="disabled">{{ t('library.levels.addSegment') }}</button></NDropdown>
        </div>
        <div v-if="open !== null && segments[open]" class="edit">
            <NInput v-if="segments[open]!.kind === 'literal'" :default-value="segments[open]!.text" size="small" placeholder=""
                :input-props="{ 'aria-label': t('library.levels.text') }" @change="(v: string) => set(open!, { text: v })" />
            <template v-if="segments[open]!.kind === 'counter'">
                <label>{{ t('library.levels.width') }} <NInputNumber :value="segments[open]!.width ?? 4" size="small" :min="1" :max="8"
                    :show-button="false" :input-props="{ 'aria-label': t('library.levels.width') }"
                    @update:value="(v) => v && set(open!, { width: v })" />
                </label>
                <label>{{ t('library.levels.step') }} <NInputNumber :value="segments[open]!.step ?? 10" size="small" :min="1" :max="1000"
                    :show-button="false" :input-props="{ 'aria-label': t('library.levels.step') }"
                    @update:value="(v) => v && set(open!, { step: v })" />
                </label>
            </template>
            <NSelect v-if="segments[open]!.kind === 'entry'" :value="segments[open]!.set || null" size="small" :options="sets"
                :aria-label="t('library.part.codes')" @update:value="(v: string) => set(open!, { set: v })" />
            <button v-why="open === 0 && t('why.first')" class="verb" :disabled="open === 0" @click="(move(open!, -1), open!--)">←</button>
            <button v-why="open === segments.length - 1 && t('why.last')" class="verb" :disabled="open === segments.length - 1"
                @click="(move(open!, 1), open!++)">→</button>
            <button class="verb" @click="drop">{{ t('inspector.remove') }}</button>
        </div>
        <template v-if="segments.length">
            <NSelect :value="on" size="small" filterable :input-props="{ 'aria-label': t('library.levels.sampleOf') }"
                :options="(portfolio.data.value?.projects ?? [])
                    .map((p) => ({ label: `${p.key}  ${p.name}`, value: p.uid }))" @update:value="(v: string) => (project = v)" />
            <ul class="sample tabular">
                <li v-for="r in (sample.data.value?.sample ?? []).slice(0, 5)" :key="r.uid"><span
                    class="faint">{{ names ? r.name : r.code }}</span>
                    → <b>{{ names ? r.newName : r.newCode }}</b></li>
            </ul>
        </template>
    </section>
</template>

<style scoped>
section { display: flex; flex-direction: column; gap: 6px; align-items: stretch; border-top: 1px solid var(--hairline); padding-top: 10px; }
.segments, .edit { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
.segment { border: 1px solid var(--hairline); background: var(--raised); border-radius: 4px; padding: 2px 8px; font: inherit;
    color: inherit; cursor: pointer; }
.segment.open { border-color: var(--petrol); }
.edit { background: var(--band); padding: 6px 8px; border-radius: 4px; }
.edit label { display: flex; gap: 4px; align-items: center; font-size: 13px; }
.edit :deep(.n-input), .edit :deep(.n-input-number) { width: 70px; }
.edit :deep(.n-select) { width: 150px; }
.sample { list-style: none; margin: 0; padding: 0; font-size: 13px; }
</style>
