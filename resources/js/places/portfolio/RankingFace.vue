<script setup lang="ts">
import { NButton, NSlider } from 'naive-ui';
import { useVirtualList } from '@vueuse/core';
import { computed, nextTick, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { messageOf, type Operation, type Portfolio } from '@/api/client';
import { change, update } from '@/api/operations';
import { isDark } from '@/ui/appearance';
import { vCalled } from '@/ui/called';
import { tone } from '@/ui/theme';
import WeightComparison from './WeightComparison.vue';
import { keptWeights, ranked, type Ranked, type Weights } from './ranking';

/** Projects by their score; weights can be tried out, and are kept only when asked. */
const props = defineProps<{ data: Portfolio; selected: ReadonlySet<string> }>();
const emit = defineEmits<{ select: [ids: ReadonlySet<string>]; changed: [] }>();
const { t } = useI18n();
type Project = Portfolio['projects'][number];
const MOST = 10;
/** pixels */
const ROW = 70;
const kept = computed(() => keptWeights(props.data.codeSets));
const tried = ref<Weights>({});
const weights = computed<Weights>(() => ({ ...kept.value, ...tried.value }));
const before = computed(() => new Map(ranked(props.data.projects, props.data.codeSets, kept.value).map((r) => [r.project.uid, r])));
const list = computed(() => ranked(props.data.projects, props.data.codeSets, weights.value));
/** only what is in sight is drawn, so that sliders answer within a frame however many projects there are */
const { list: sight, containerProps, wrapperProps } = useVirtualList(list, { itemHeight: ROW, overscan: 6 });
/** where the finished ones begin; -1 where there are none */
const finishedFrom = computed(() => list.value.findIndex((r) => r.project.finished));
/** one stop of the Tab key; arrows go on from there */
const stop = computed(() => (list.value.find((r) => props.selected.has(r.project.uid)) ?? sight.value[0]?.data ?? null)?.project.uid);
async function arrow(e: KeyboardEvent, at: number): Promise<void> {
    const to = list.value[at + ({ ArrowDown: 1, ArrowUp: -1 }[e.key] ?? 0)];
    if (!(e.key in { ArrowDown: 1, ArrowUp: 1 }) || !to) return;
    e.preventDefault();
    emit('select', new Set([to.project.uid]));
    const box = containerProps.ref.value!;
    const top = list.value.indexOf(to) * ROW;
    if (top < box.scrollTop) box.scrollTop = top;
    else if (top + 2 * ROW > box.scrollTop + box.clientHeight) box.scrollTop = top + 2 * ROW - box.clientHeight;
    await nextTick();
    requestAnimationFrame(() => document.getElementById(`rank-${to.project.uid}`)?.focus({ preventScroll: true }));
}
const changed = computed(() => Object.entries(tried.value).filter(([uid, w]) => kept.value[uid] !== w));
const isSet = computed(() => list.value.some((r) => r.parts.length > 0));
const open = ref<string | null>(null);
const comparing = ref(false);
const error = ref('');
watch(kept, () => (tried.value = Object.fromEntries(changed.value)));

const set = (uid: string, weight: number) => (tried.value = { ...tried.value, [uid]: weight });
const explain = (r: Ranked<Project>) => r.parts.map((p) => t('ranking.part', { set: p.set.name, entry: p.entry?.name
    ?? t('portfolio.without'), points: round(p.points), most: round(p.most) })).join(' · ');
const round = (n: number) => String(Math.round(n * 100) / 100);
const moved = (r: Ranked<Project>) => {
    const was = before.value.get(r.project.uid)?.rank;
    return was === undefined || was === r.rank || changed.value.length === 0 ? '' : t('ranking.moved', { was: nth(was), now: nth(r.rank) });
};
const ordinals = new Intl.PluralRules('en-GB', { type: 'ordinal' });
const nth = (n: number) => `${n}${{ one: 'st', two: 'nd', few: 'rd', other: 'th', zero: 'th', many: 'th' }[ordinals.select(n)]}`;

async function keep(): Promise<void> {
    error.value = '';
    const isEntry = new Set(props.data.codeSets.flatMap((s) => s.entries.map((e) => e.uid)));
    try {
        await change(changed.value.map(([uid, weight]): Operation => update(isEntry.has(uid) ? 'entry' : 'codeSet', uid, { weight },
            { weight: kept.value[uid] })), t('ranking.reason'));
        tried.value = {};
    } catch (e) {
        error.value = messageOf(e);
    }
    emit('changed');
}
</script>

<template>
    <div class="ranking">
        <div v-bind="containerProps" class="list">
            <p v-if="!isSet" class="faint">{{ t('ranking.none') }}</p>
            <div v-bind="wrapperProps" role="list" :aria-label="t('portfolio.face.ranking')">
                <TransitionGroup name="rank">
                    <div v-for="{ data: r, index } in sight" :key="r.project.uid" role="listitem" :aria-setsize="list.length"
                        :aria-posinset="index + 1" class="one" :class="{ over: r.project.finished, first: index === finishedFrom }"
                        :data-title="index === finishedFrom ? t('ranking.finished') : undefined">
                        <button :id="`rank-${r.project.uid}`" class="project" :class="{ selected: selected.has(r.project.uid) }"
                            :tabindex="stop === r.project.uid ? 0 : -1" @keydown="arrow($event, index)"
                            @click="emit('select', new Set([r.project.uid]))">
                            <span class="rank tabular">{{ r.rank }}</span>
                            <span class="score tabular">{{ r.score.toFixed(2) }}</span>
                            <span class="bar"><span :style="{ width: `${r.score}%`,
                                                              background: tone((r.project.colour ?? 1) - 1, isDark).full }" /></span>
                            <span class="name"><b>{{ r.project.key }}</b> {{ r.project.name }}</span>
                            <span class="moved">{{ moved(r) }}</span>
                            <span class="explain faint" :title="explain(r)">{{ explain(r) }}</span>
                        </button>
                    </div>
                </TransitionGroup>
            </div>
            <p class="faint">{{ t('ranking.about') }}</p>
        </div>
        <div class="weights">
            <div class="head">
                <b>{{ t('ranking.weights') }}</b>
                <button class="verb" @click="comparing = !comparing">{{ t('ranking.compare') }}</button>
            </div>
            <WeightComparison v-if="comparing" :sets="data.codeSets" @use="(w) => (tried = { ...tried, ...w })" @close="comparing = false"
            />
            <div v-for="s in data.codeSets" :key="s.uid" class="set">
                <div class="line">
                    <button class="verb" :aria-expanded="open === s.uid"
                        @click="open = open === s.uid ? null : s.uid">{{ open === s.uid ? '▾'
                        : '▸' }} {{ s.name }}</button><span class="tabular">{{ round(weights[s.uid] ?? 0) }}</span>
                </div>
                <NSlider v-called="s.name!" :value="weights[s.uid] ?? 0" :min="0" :max="MOST" :step="0.5" :tooltip="false"
                    @update:value="(w: number) => set(s.uid, w)" />
                <div v-if="open === s.uid" class="entries">
                    <div v-for="e in s.entries" :key="e.uid">
                        <div class="line"><span>{{ e.name }}</span><span class="tabular">{{ round(weights[e.uid] ?? 0) }}</span></div>
                        <NSlider v-called="e.name!" :value="weights[e.uid] ?? 0" :min="0" :max="MOST" :step="0.5" :tooltip="false"
                            @update:value="(w: number) => set(e.uid, w)" />
                    </div>
                </div>
            </div>
            <template v-if="changed.length">
                <p class="faint">{{ t('ranking.tried') }}</p>
                <span class="buttons">
                    <NButton type="primary" size="small" @click="keep">{{ t('ranking.keep') }}</NButton>
                    <NButton size="small" @click="tried = {}">{{ t('ranking.back') }}</NButton>
                </span>
            </template>
            <p v-if="error" class="error" role="alert">{{ error }}</p>
        </div>
    </div>
</template>

<style scoped>
.ranking { flex: 1; min-width: 0; display: flex; min-height: 0; }
.list { flex: 1; min-width: 0; overflow-y: auto; padding: 8px 16px 24px; }
.one { position: relative; height: 70px; }
.one.first { border-top: 3px double var(--hairline); }
.one.first::after { content: attr(data-title); position: absolute; right: 4px; top: 4px; color: var(--faint); font-size: 13px; }
.over .bar { opacity: 0.5; }
.project { display: grid; height: 100%; box-sizing: border-box; align-content: center; grid-template-columns: 28px 48px 120px minmax(0,
    1fr) auto; gap: 0 10px; align-items: center; width: 100%;
    text-align: left; border: 0; border-bottom: 1px solid var(--hairline); background: none; font: inherit; color: inherit;
        padding: 6px 4px;
    cursor: pointer; }
.project.selected { background: var(--selection); }
.rank, .score { text-align: right; }
.score { font-weight: 600; }
.bar { height: 8px; background: var(--band); border-radius: 2px; overflow: hidden; }
.bar span { display: block; height: 100%; }
.name { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.moved { color: var(--petrol); font-weight: 600; }
.explain { grid-column: 3 / -1; font-size: 13px; line-height: 16px; overflow: hidden; display: -webkit-box; -webkit-box-orient: vertical;
    -webkit-line-clamp: 2; }
.rank-move { transition: transform 0.18s; }
.weights { width: 300px; flex: none; overflow-y: auto; border-left: 1px solid var(--hairline); padding: 12px 20px; display: flex;
    flex-direction: column; gap: 8px; }
.head, .line { display: flex; justify-content: space-between; gap: 8px; }
.entries { margin: 4px 0 4px 16px; display: flex; flex-direction: column; gap: 4px; }
.buttons { display: flex; gap: 8px; }
p { margin: 0; }
</style>
