<script setup lang="ts">
import { NButton, NCheckbox, NInput, NPopconfirm } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useQueryClient } from '@tanstack/vue-query';
import { ask, type Baseline, type BoardProject, type Comparison, http, messageOf, type Variance } from '@/api/client';
import { useBaselines } from '@/api/queries';
import { signedSpan } from '@/time/duration';
import { formatMoment } from '@/time/instant';
import { Calendars } from '../model';
import { useBoard } from '../store';
import { useStrips } from '../strips';
import { useKept } from '@/ui/kept';
import { vWhy } from '@/ui/why';

/** Baselines of a project: take one, make one current, compare. */
const props = defineProps<{ project: BoardProject; perDay: number; editable: boolean }>();
const emit = defineEmits<{ go: [uid: string] }>();
const { t } = useI18n();
const board = useBoard();
const strips = useStrips();
const cache = useQueryClient();
const answer = useBaselines(() => props.project.uid);
const list = computed(() => answer.data.value?.baselines ?? []);
const name = useKept('baseline', '');
const error = ref('');
/** the new one is to be current; asked each time, never by itself */
const asCurrent = ref(false);
const current = computed(() => list.value.find((b) => b.current));
/** activities that differ from the current baseline now, and would not from one that is taken now */
const varying = computed(() => [...board.model!.variances.values()].filter((v) => board.model!.activities.get(v.uid)?.project
    === props.project.uid && (v.startVariance !== 0 || v.finishVariance !== 0 || v.durationVariance !== 0)).length);
const effect = computed(() => (!asCurrent.value ? t(current.value ? 'baseline.keeps' : 'baseline.noneCurrent',
    { name: current.value?.name }) : current.value ? t('baseline.replaces', { name: current.value.name },
    varying.value)
    : t('baseline.begins')));
const compared = ref<{ baseline: Baseline; comparison: Comparison } | null>(null);

async function attempt(work: () => Promise<unknown>): Promise<void> {
    error.value = '';
    try {
        await work();
    } catch (e) {
        error.value = messageOf(e);
    }
}
watch(() => props.project.uid, () => (compared.value = null));

const change = (work: () => Promise<unknown>) => attempt(async () => {
    await work();
    compared.value = null;
    await Promise.all([cache.invalidateQueries({ queryKey: ['baselines'] }), board.reload()]);
});
const take = () => change(async () => {
    await ask(http.POST('/projects/{uid}/baselines', { params: { path: { uid: props.project.uid } }, 
        body: { name: name.value.trim(), current: asCurrent.value } }));
    name.value = '';
    asCurrent.value = false;
});
const makeCurrent = (b: Baseline, current: boolean) => change(() => ask(http.PATCH('/baselines/{uid}', { params: { path: { uid: b.uid } },
    body: { current } })));
const drop = (b: Baseline) => change(async () => {
    await ask(http.DELETE('/baselines/{uid}', { params: { path: { uid: b.uid } } }));
    if (strips.placeOf(props.project.uid, b.uid) >= 0) strips.toggle(props.project.uid, b);
});
const compare = (b: Baseline) => attempt(async () => (compared.value = compared.value?.baseline.uid === b.uid ? null
    : { baseline: b, comparison: await ask(http.GET('/baselines/{uid}/comparison', { params: { path: { uid: b.uid } } })) }));

const rank = { removed: 0, added: 1, changed: 2, same: 3 };
const differing = computed<Variance[]>(() => (compared.value?.comparison.activities ?? []).filter((v) => v.standing !== 'same')
    .sort((x, y) => rank[x.standing] - rank[y.standing] || (y.finish ?? 0) - (x.finish ?? 0)));
const same = computed(() => (compared.value?.comparison.activities.length ?? 0) - differing.value.length);
const calendars = computed(() => new Calendars(board.model!));
const days = (v: Variance, minutes: number | null) => (minutes === null ? ''
    : signedSpan(minutes, calendars.value.dayOf(v.uid) ?? props.perDay));
</script>

<template>
    <section data-test="baselines">
        <h3>{{ t('baseline.title') }}</h3>
        <p class="faint">{{ t('baseline.about') }}</p>
        <div v-for="b in list" :key="b.uid" class="baseline">
            <div><b>{{ b.name }}</b> <span v-if="b.current" class="current">{{ t('baseline.current') }}</span><span
                v-if="strips.placeOf(project.uid, b.uid) >= 0" :class="`sample s${strips.placeOf(project.uid, b.uid)}`" /></div>
            <div class="faint tabular">{{ formatMoment(b.taken) }}<template v-if="b.author">, {{ b.author }}</template></div>
            <div class="verbs">
                <button class="verb" :aria-pressed="compared?.baseline.uid === b.uid"
                    @click="compare(b)">{{ t('baseline.compare') }}</button>
                <button v-if="!b.current" class="verb" :aria-pressed="strips.placeOf(project.uid, b.uid) >= 0"
                    @click="strips.toggle(project.uid, b)">{{ t('baseline.strip') }}</button>
                <button v-if="editable" class="verb"
                    @click="makeCurrent(b, !b.current)">{{ t(b.current ? 'baseline.notCurrent' : 'baseline.makeCurrent') }}</button>
                <NPopconfirm v-if="editable && !b.current" :positive-text="t('baseline.deleteNow')" :negative-text="t('baseline.keep')"
                    :show-icon="false" @positive-click="void drop(b)">
                    <template #trigger><button class="verb">{{ t('baseline.delete') }}</button></template>
                    {{ t('baseline.forGood') }}
                </NPopconfirm>
            </div>
            <table v-if="compared?.baseline.uid === b.uid" class="tabular">
                <caption>{{ t('baseline.differing', { n: differing.length, same }) }}</caption>
                <thead><tr><th>{{ t('board.columns.name') }}</th><th>{{ t('baseline.start') }}</th><th>{{ t('baseline.finish') }}</th>
                    <th>{{ t('baseline.duration') }}</th></tr></thead>
                <tbody>
                    <tr v-for="v in differing" :key="v.uid">
                        <td><button v-if="v.standing !== 'removed'" class="verb plain" @click="emit('go', v.uid)">{{ v.name }}</button><span
                            v-else>{{ v.name }}</span></td>
                        <template v-if="v.standing === 'changed'"><td>{{ days(v, v.start) }}</td><td
                            :class="{ brick: (v.finish ?? 0) > 0 }">{{ days(v, v.finish) }}</td><td>{{ days(v, v.duration) }}</td>
                        </template>
                        <td v-else colspan="3">{{ t(`baseline.${v.standing}`) }}</td>
                    </tr>
                </tbody>
            </table>
        </div>
        <p v-if="list.length === 0" class="faint">{{ t('baseline.none') }}</p>
        <form v-if="editable" class="take" @submit.prevent="take"><NInput v-model:value="name" size="small"
            :placeholder="t('baseline.name')" :input-props="{ 'aria-label': t('baseline.name') }" /><NButton
            v-why="name.trim() === '' && t('why.name')" size="small"
            attr-type="submit" :disabled="name.trim() === ''">{{ t('baseline.take') }}</NButton></form>
        <div v-if="editable" class="asked"><NCheckbox v-model:checked="asCurrent" size="small">{{ t('baseline.asCurrent') }}</NCheckbox>
            <p class="faint" data-test="baseline-effect">{{ effect }}</p></div>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
    </section>
</template>

<style scoped>
.baseline { border-top: 1px solid var(--hairline); padding: 4px 0; }
.verbs { display: flex; gap: 12px; }
.sample { display: inline-block; width: 34px; border-top: 2px solid var(--petrol); vertical-align: middle; margin-left: 8px; }
.sample.s1 { border-top: 2px dashed var(--marigold); }
.current { color: var(--moss); font-weight: 600; }
.take { display: flex; gap: 6px; margin-top: 4px; }
table { border-collapse: collapse; width: 100%; margin-top: 4px; font-size: 13px; }
caption { text-align: left; color: var(--faint); }
th { text-align: left; font-weight: 400; color: var(--faint); }
td { padding: 2px 6px 2px 0; vertical-align: top; }
td:not(:first-child) { white-space: nowrap; }
p { margin: 2px 0; }
</style>
