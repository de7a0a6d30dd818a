<script setup lang="ts">
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, type WaysOut } from '@/api/client';
import { signedSpan } from '@/time/duration';
import { formatDay, formatShort, parseIso } from '@/time/instant';
import { useAttempt } from '@/ui/attempt';
import { useJobOf } from './jobOf';
import JobProgress from './JobProgress.vue';
import type { Resource } from './load';

/** Ways out of an overload beside each other: what each does to it and to dates, and the draft that it is. */
const props = defineProps<{ uid: string; resources: readonly Resource[]; draft: string | null }>();
const emit = defineEmits<{ look: [draft: string | null]; gone: [] }>();
const { t, n } = useI18n();
const { job, result, running, failed } = useJobOf<WaysOut>(() => props.uid);
const { error, run } = useAttempt();
/** drafts that were thrown away here */
const gone = ref<string[]>([]);
const heading = computed(() => { const r = result.value; const of = props.resources.find((one) => one.uid === r?.resource);
    return r ? t('ways.of', { name: of?.name || of?.key || '', from: formatDay(r.from * 1440), to: formatDay(r.to * 1440) }) : ''; });
type Way = WaysOut['ways'][number];
const days = (many: number) => t('ways.days', { n: n(many) }, many);
const ends = (way: Way) => (way.comparison?.projects ?? []).filter((p) => p.finishBefore !== p.finishAfter);
const day = (iso: string | null) => (iso === null ? '–' : formatShort(parseIso(iso)!));
const toBoard = (way: Way) => ({ name: 'board', query: { projects: (way.comparison?.projects ?? []).map((p) => p.key).join(',')
    || undefined, draft: way.draft! } });
const throwAway = (uid: string) => run(async () => {
    await ask(http.DELETE('/drafts/{uid}', { params: { path: { uid } } }));
    gone.value.push(uid);
    if (props.draft === uid) emit('look', null);
    emit('gone');
});
</script>

<template>
    <JobProgress :job="job" :running="running" :failed="failed" />
    <div v-if="result" data-test="ways">
        <p class="when">{{ heading }}</p>
        <p v-if="result.now[0] === 0">{{ t('ways.none') }}</p>
        <p class="faint tabular">{{ t('ways.now') }}: {{ days(result.now[0]!) }} {{ t('ways.here') }}, {{ days(result.now[1]!) }} {{
            t('ways.later') }}</p>
        <p class="faint">{{ t('ways.about') }}</p>
        <section v-for="way in result.ways" :key="way.way" class="way" :data-test="`way-${way.way}`">
            <h3>{{ t(`ways.${way.way}`) }}</h3>
            <p v-if="way.why" class="faint">{{ t('ways.notPossible', { why: way.why }) }}</p>
            <template v-else>
                <p v-if="way.share !== null">{{ t('ways.share', { share: n(way.share) }) }}</p>
                <p v-if="way.units !== null">{{ t('ways.units', { units: n(way.units) }) }}</p>
                <p class="tabular"><b :class="{ brick: way.overload[0]! > 0 }">{{ days(way.overload[0]!) }}</b> {{ t('ways.here') }},
                    <b :class="{ brick: way.overload[1]! > result.now[1]! }">{{ days(way.overload[1]!) }}</b> {{ t('ways.later') }}</p>
                <p>{{ t('ways.moves') }} {{ t('ways.activities', { n: n(way.comparison?.movedActivities ?? 0) },
                                              way.comparison?.movedActivities ?? 0) }}<template
                                                  v-if="ends(way).length === 0">; {{ t('ways.nothing') }}</template></p>
                <ul><li v-for="p in ends(way)" :key="p.uid" class="tabular"><b>{{ p.key }}</b> {{ t('ways.ends') }} {{
                    day(p.finishBefore) }} → {{ day(p.finishAfter) }} <span v-if="p.shift !== null" class="faint">{{
                    signedSpan(p.shift, p.minutesPerDay) }}</span></li></ul>
                <p v-if="gone.includes(way.draft!)" class="faint">{{ t('ways.gone') }}</p>
                <p v-else class="verbs">
                    <RouterLink :to="toBoard(way)">{{ t('ways.board') }}</RouterLink>
                    <button class="verb" :aria-pressed="draft === way.draft"
                        @click="emit('look', draft === way.draft ? null : way.draft)">{{ t('ways.load') }}</button>
                    <button class="verb" @click="throwAway(way.draft!)">{{ t('ways.throwAway') }}</button>
                </p>
            </template>
        </section>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
    </div>
</template>

<style scoped>
.when { font-weight: 600; }
.way { border-top: 1px solid var(--hairline); padding: 6px 0; }
.way h3 { margin: 2px 0; }
.verbs { display: flex; flex-wrap: wrap; gap: 4px 16px; }
.brick { color: var(--brick); }
p, ul { margin: 3px 0; }
ul { padding-left: 12px; list-style: none; }
</style>
