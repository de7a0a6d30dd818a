<script setup lang="ts">
import { NButton, NCheckbox, NInput, NSelect } from 'naive-ui';
import { useQuery } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, type Criterion, http, type Job } from '@/api/client';
import { usePortfolio } from '@/api/queries';
import { useJobs } from '@/frame/jobs';
import GroupChips from '@/selection/GroupChips.vue';
import { formatDay, type Instant } from '@/time/instant';
import { readDate } from '@/time/typed';
import { useAttempt } from '@/ui/attempt';
import TypedField from '@/ui/TypedField.vue';
import { CRITERIA, EFFORTS, isoDay, type Resource, SECONDS } from './load';

/** What is to be levelled and how, on one page; what comes of it is a draft. */
const props = defineProps<{ resources: readonly Resource[]; wanted: string[]; board: string[]; today: Instant }>();
const emit = defineEmits<{ started: [job: Job] }>();
const { t, n } = useI18n();
const portfolio = usePortfolio();
const sets = useQuery({ queryKey: ['code-sets'], queryFn: () => ask(http.GET('/code-sets')) });
const { started } = useJobs();
const { error, busy, run } = useAttempt();

const plannable = computed(() => (portfolio.data.value?.projects ?? []).filter((p) => p.mayPlan && p.kept === 'here' && !p.archived));
const projects = ref<string[]>([]);
/** those of the board, where only they are looked at */
const keys = ref(props.board);
const chosen = computed({ get: () => (projects.value.length ? projects.value
    : plannable.value.filter((p) => keys.value.includes(p.key)).map((p) => p.uid)),
    set: (uids: string[]) => { projects.value = uids; keys.value = []; } });
const resources = ref(props.wanted);
const from = ref('');
const to = ref('');
const within = ref(false);
const criteria = ref<Criterion[]>(['deadline', 'late-finish']);
const codeSet = ref<string | null>(null);
const tries = ref<number>(EFFORTS[1]);
const name = ref('');
const called = computed(() => name.value.trim() || t('level.named', { date: formatDay(props.today) }));
const needsSet = computed(() => criteria.value.includes('code-order') && codeSet.value === null);
const why = computed(() => (plannable.value.length === 0 ? t('level.needProjects') : needsSet.value && t('level.chooseCodeSet')));

const isDay = (text: string) => (text.trim() === '' || readDate(text, 0, props.today) !== null ? null : t('level.needDay', { text }));
const day = (text: string) => { const at = text.trim() === '' ? null : readDate(text, 0, props.today);
    return at === null ? '' : isoDay(at); };
const demanding = computed(() => props.resources.filter((r) => r.kind !== 'material')
    .map((r) => ({ value: r.uid, label: `${r.key} ${r.name}` })));

const begin = () => run(async () => {
    const job = await ask(http.POST('/levelling', { body: { name: called.value,
        projects: chosen.value.length ? chosen.value : plannable.value.map((p) => p.uid),
        resources: resources.value.length ? resources.value : null, from: from.value || null, to: to.value || null,
        withinFloat: within.value, criteria: criteria.value, codeSet: codeSet.value, tries: tries.value,
        seconds: SECONDS[tries.value] } }));
    started(job);
    emit('started', job);
});
</script>

<template>
    <div class="form" data-test="level">
        <p class="faint">{{ t('level.about') }}</p>
        <div class="field wide"><label for="level-projects">{{ t('level.projects') }}</label><NSelect v-model:value="chosen" multiple
            filterable size="small" :input-props="{ id: 'level-projects' }" :placeholder="t('level.allProjects', { n: n(plannable.length) },
                                                                                            plannable.length)"
            :options="plannable.map((p) => ({ value: p.uid, label: `${p.key} ${p.name}` }))" /></div>
        <div class="field wide"><label for="level-resources">{{ t('level.resources') }}</label><NSelect v-model:value="resources" multiple
            filterable size="small" :input-props="{ id: 'level-resources' }" :placeholder="t('level.allResources')"
            :options="demanding" /></div>
        <TypedField :label="t('level.from')" :value="from" :placeholder="t('level.always')" :check="isDay"
            @commit="(v) => (from = day(v))" />
        <TypedField :label="t('level.to')" :value="to" :placeholder="t('level.always')" :check="isDay" @commit="(v) => (to = day(v))" />
        <NCheckbox v-model:checked="within" class="wide">{{ t('level.within') }}</NCheckbox>
        <div class="wide"><GroupChips :group="criteria" :columns="[...CRITERIA]" :most="CRITERIA.length" :label="t('level.first')"
            :more="t('level.addFirst')"
            :name-of="(c) => t(`level.criteria.${c}`)" @change="(list) => (criteria = list as Criterion[])" /></div>
        <p v-if="criteria.includes('project-order')" class="faint wide">{{ t('level.projectsFirst') }}</p>
        <div v-if="criteria.includes('code-order')" class="field wide"><label for="level-set">{{ t('level.codeSet') }}</label><NSelect
            v-model:value="codeSet" filterable size="small" :input-props="{ id: 'level-set' }" :placeholder="t('level.chooseCodeSet')"
            :options="(sets.data.value?.codeSets ?? []).map((s) => ({ value: s.uid, label: s.name }))" /></div>
        <div class="field"><label for="level-tries">{{ t('level.effort') }}</label><NSelect v-model:value="tries" size="small"
            :input-props="{ id: 'level-tries' }" :options="EFFORTS.map((e) => ({ value: e, label: t(`level.efforts.${e}`) }))" /></div>
        <div class="field"><label for="level-name">{{ t('level.name') }}</label><NInput v-model:value="name" size="small" :maxlength="120"
            :placeholder="called" :input-props="{ id: 'level-name' }" /></div>
        <p v-if="error" class="error wide" role="alert">{{ error }}</p>
        <NButton v-why="why" type="primary" class="wide" :loading="busy" :disabled="!!why" @click="begin">{{ t('level.go') }}</NButton>
    </div>
</template>

<style scoped>
.form { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); gap: 8px 12px; align-items: start; }
.wide, .form > p { grid-column: 1 / -1; }
.form > p { margin: 0; }
</style>
