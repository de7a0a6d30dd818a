<script setup lang="ts">
import { NButton, NInput, NSelect } from 'naive-ui';
import { watchDebounced } from '@vueuse/core';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRouter } from 'vue-router';
import { ask, http, messageOf, type Portfolio } from '@/api/client';
import { useSources } from '@/api/queries';
import { change, create as make, newUid } from '@/api/operations';
import { formatDay, formatMoment, toIso } from '@/time/instant';
import { today, typedMoment } from '@/time/typed';
import CodePicker from '@/codes/CodePicker.vue';
import { namesApart } from '@/ui/apart';
import { useKept } from '@/ui/kept';
import TreeSelect from '@/ui/TreeSelect.vue';
import CopyOptions from '@/copying/CopyOptions.vue';
import { copyBody, type CopyChoice, usualCopy } from '@/copying/copying';
import OwnInput from './OwnInput.vue';
import { branchTree } from '@/codes/entries';
import { vWhy } from '@/ui/why';

/** A project in one form: where it hangs, what it is called, when it starts; everything else has defaults. */
const props = defineProps<{ data: Portfolio; branch: string | null; rows?: boolean }>();
const emit = defineEmits<{ done: [uid: string, key: string]; made: [] }>();
const { t } = useI18n();
const planned = computed(() => props.data.branches.filter((b) => b.mayPlan));
const taken = computed(() => new Set(props.data.projects.map((p) => p.key)));
const name = useKept('project name', '');
const branch = ref(planned.value.some((b) => b.uid === props.branch) ? props.branch
    : planned.value.length === 1 ? planned.value[0]!.uid : null);
const key = useKept('project key', '');
const typedKey = useKept('project key typed', false);
const start = ref(toIso(today()).slice(0, 10));
const deadline = useKept('project deadline', '');
const lead = useKept('project lead', '');
const calendar = ref(props.data.calendars.find((c) => c.key === 'OFFICE')?.uid ?? props.data.calendars[0]?.uid ?? null);
const calendars = computed(() => [...namesApart(props.data.calendars)].map(([value, label]) => ({ label, value })));
const sources = useSources();
/** the project or template that it is made from; none for an empty one */
const from = ref<string | null>(null);
const ROWS = '@rows'; // a table or list, which the board takes in
const withRows = ref(props.rows === true);
const router = useRouter();
const copying = ref<CopyChoice>(usualCopy());
const origins = computed(() => [{ label: t('portfolio.project.empty'), value: '' }, { label: t('portfolio.project.rows'), value: ROWS },
    { type: 'group', key: 't', label: t('sources.templates'), children: (sources.data.value?.sources ?? [])
        .filter((s) => s.kept === 'template' && !s.archived).map((s) => ({ label: `${s.key}  ${s.name}`, value: s.uid })) },
    { type: 'group', key: 'p', label: t('portfolio.details.projects'), children: props.data.projects
        .map((p) => ({ label: `${p.key}  ${p.name}`, value: p.uid })) }]);
const codes = ref<Record<string, string[]>>({});
const own = ref<Record<string, string>>({});
const error = ref('');
const busy = ref(false);
const uid = newUid(); // one project, however often it is sent
/** nothing of it is half-typed any more */
const forget = () => ([name.value, key.value, deadline.value, lead.value, typedKey.value] = ['', '', '', '', false]);

watchDebounced(name, async (value) => {
    if (typedKey.value || value.trim() === '') return;
    const proposed = await ask(http.GET('/project-key', { params: { query: { name: value } } })).catch(() => null);
    if (proposed && !typedKey.value && name.value === value) key.value = proposed.key;
}, { debounce: 150 });
/** corrected while typing: capital letters, `-` for what cannot stand in a key */
function typeKey(text: string): void {
    key.value = text.toUpperCase().replace(/[^A-Z0-9-]+/g, '-').replace(/^-+/, '').slice(0, 20);
    typedKey.value = key.value !== '';
}
const keyError = computed(() => (key.value !== '' && taken.value.has(key.value) ? t('portfolio.project.keyTaken') : ''));
const startAt = computed(() => typedMoment(start.value));
const deadlineAt = computed(() => (deadline.value.trim() === '' ? null : typedMoment(deadline.value)));
const said = (d: NonNullable<ReturnType<typeof typedMoment>>, edge: 'first' | 'last') => (d.hasHour ? formatMoment(d.at)
    : t(`typed.${edge}`, { date: formatDay(d.at) }));
const deadlineError = computed(() => (deadline.value.trim() !== '' && deadlineAt.value === null ? t('board.needDate',
    { text: deadline.value })
    : deadlineAt.value !== null && startAt.value !== null && deadlineAt.value.at <= startAt.value.at ? t('portfolio.project.deadlineEarly')
        : ''));
/** code sets that the branch, or one above it, asks for */
const demanded = computed(() => {
    const above = new Set<string>();
    for (let at = branch.value; at !== null; at = props.data.branches.find((b) => b.uid === at)?.parent ?? null) above.add(at);
    return props.data.codeSets.filter((s) => s.demandedOn !== null && above.has(s.demandedOn!));
});
const missing = computed(() => [...(branch.value === null ? [t('portfolio.project.branch')] : []),
    ...(name.value.trim() === '' ? [t('portfolio.project.name')] : []),
        ...demanded.value.filter((s) => !codes.value[s.uid]?.length).map((s) => s.name!),
    ...props.data.ownFields.filter((f) => f.required && !own.value[f.uid]).map((f) => f.name!)]);
const ready = computed(() => key.value !== '' && keyError.value === '' && startAt.value !== null
    && deadlineError.value === '' && calendar.value !== null && missing.value.length === 0);

async function create(): Promise<void> {
    busy.value = true;
    error.value = '';
        try {
            if (from.value) {
                const answer = await ask(http.POST('/compose/copy', { body: {
                    projects: [{ uid: from.value, key: key.value, name: name.value.trim() }], branch: branch.value!,
                        start: startAt.value!.written,
                    ...copyBody(copying.value), changeSet: `c${uid}`, codes: demanded.value.flatMap((s) => codes.value[s.uid] ?? []),
                    own: Object.fromEntries(Object.entries(own.value).filter(([, v]) => v !== '')),
                    fields: { ...(deadlineAt.value === null ? {} : { deadline: deadlineAt.value.written }),
                        ...(lead.value.trim() === '' ? {} : { lead: lead.value.trim() }) } as never,
                } }));
                const made = key.value;
                forget();
                emit('done', answer.projects![0]!, made);
                return;
            }
            await change([
    
            make('project', uid, { key: key.value, name: name.value.trim(), branch: branch.value, calendar: calendar.value,
                start: startAt.value!.written, ...(deadlineAt.value === null ? {} : { deadline: deadlineAt.value.written }),
                ...(lead.value.trim() === '' ? {} : { lead: lead.value.trim() }) }),
            ...demanded.value.flatMap((s) => codes.value[s.uid]!.map((entry) => make('coding', `${uid}-${entry}`.slice(0, 64),
                { project: uid,
                entry }))),
            ...Object.entries(own.value).filter(([, v]) => v !== '').map(([field, value]) => make('ownValue', `${uid}-${field}`.slice(0,
                64),
                { project: uid, field, value })),
        ], t('edit.created', { name: name.value }), `c${uid}`);
        const made = key.value;
        forget();
        emit('done', uid, made);
        if (withRows.value) void router.push({ name: 'board', query: { projects: made, panel: 'rows' } });
    } catch (e) {
        error.value = messageOf(e);
    } finally {
        busy.value = false;
    }
}
</script>

<template>
    <form class="form" @submit.prevent="create">
        <div class="field"><span class="label">{{ t('portfolio.project.branch') }}</span><TreeSelect v-model:value="branch"
            :label="t('portfolio.project.branch')" :placeholder="t('portfolio.branch.choose')"
            :options="branchTree(data.branches, (b) => b.mayPlan)" />
        </div>
        <div class="field"><label for="p-name">{{ t('portfolio.project.name') }}</label><NInput v-model:value="name" v-begin
            placeholder="" :input-props="{ id: 'p-name' }" /></div>
        <div class="field"><label for="p-key">{{ t('portfolio.project.key') }}</label><NInput :value="key" placeholder=""
            :input-props="{ id: 'p-key' }" @update:value="typeKey" /><span v-if="keyError" class="error">{{ keyError }}</span></div>
        <div class="field"><label for="p-start">{{ t('portfolio.project.start') }}</label><NInput v-model:value="start" placeholder=""
            :input-props="{ id: 'p-start' }" /><span class="hint" :class="startAt === null ? 'error' : 'faint'">{{ startAt === null
            ? t('portfolio.project.dateHint', { text: start }) : said(startAt, 'first') }}</span></div>
        <div class="field"><label for="p-deadline">{{ t('portfolio.project.deadline') }}</label><NInput v-model:value="deadline"
            placeholder="" :input-props="{ id: 'p-deadline' }" /><span class="hint"
            :class="deadlineError ? 'error' : 'faint'">{{ deadlineError
            || (deadlineAt === null ? '' : `${said(deadlineAt, 'last')}. `) + t('settings.about.deadline') }}</span></div>
        <div class="field"><span class="label">{{ t('portfolio.project.from') }}</span><NSelect filterable
            :value="withRows ? ROWS : (from ?? '')"
            :input-props="{ 'aria-label': t('portfolio.project.from') }" :options="origins"
            @update:value="(v: string) => ([from, withRows] = [v === ROWS ? null : v || null, v === ROWS])" /></div>
        <CopyOptions v-if="from" v-model="copying" :projects="[from]" />
        <div v-else class="field"><span class="label">{{ t('portfolio.project.calendar') }}</span><NSelect v-model:value="calendar"
            :aria-label="t('portfolio.project.calendar')" :options="calendars"
        /></div>
        <div class="field"><label for="p-lead">{{ t('settings.lead') }}</label><NInput v-model:value="lead" placeholder=""
            :input-props="{ id: 'p-lead' }" /></div>
        <CodePicker v-for="s in demanded" :key="s.uid" :set="s" :value="codes[s.uid] ?? []" :disabled="false"
            @assign="(v) => (codes = { ...codes, [s.uid]: v })" @made="emit('made')" />
        <OwnInput v-for="f in data.ownFields" :key="f.uid" :field="f" :value="own[f.uid] ?? ''"
            @save="(v) => (own = { ...own, [f.uid]: v })" />
        <p v-if="error" class="error" role="alert">{{ error }}</p>
        <p v-if="missing.length" class="faint">{{ t('portfolio.project.missing', { names: missing.join(', ') }) }}</p>
        <NButton v-why="!ready && t('why.filled')" type="primary" attr-type="submit" :disabled="!ready"
            :loading="busy">{{ t('portfolio.project.create') }}</NButton>
    </form>
</template>

<style scoped>
.form { display: flex; flex-direction: column; gap: 12px; }
p { margin: 0; }
</style>
