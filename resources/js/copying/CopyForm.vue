<script setup lang="ts">
import { NButton, NInput, NSelect } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, type Copied, http, messageOf, type Portfolio, type Source } from '@/api/client';
import { newUid } from '@/api/operations';
import { useSources } from '@/api/queries';
import { formatDay, formatMoment } from '@/time/instant';
import { typedMoment } from '@/time/typed';
import TreeSelect from '@/ui/TreeSelect.vue';
import CopyOptions from './CopyOptions.vue';
import { copyBody, usualCopy } from './copying';
import { branchTree } from '@/codes/entries';
import { vWhy } from '@/ui/why';

/** Several projects at once from one template or several (a programme with its handovers), or a template from projects. */
const props = defineProps<{ data: Portfolio; source: Pick<Source, 'uid' | 'key' | 'name'>; more?: Pick<Source, 'uid' | 'key' | 'name'>[];
    asTemplate?: boolean }>();
const emit = defineEmits<{ done: [keys: string[]] }>();
const { t } = useI18n();
const sources = useSources();
const planned = computed(() => props.data.branches.filter((b) => b.mayPlan));
const all = computed(() => [props.source, ...(props.more ?? [])]);
const along = ref<string[]>((props.more ?? []).map((s) => s.uid));
const others = computed(() => (props.asTemplate ? props.data.projects : (sources.data.value?.sources
    ?? []).filter((s) => s.kept === 'template'))
    .filter((s) => s.uid !== props.source.uid).map((s) => ({ label: `${s.key}  ${s.name}`, value: s.uid })));
const chosen = computed(() => [props.source.uid, ...along.value].map((uid) => [...all.value, ...(sources.data.value?.sources ?? []),
    ...props.data.projects].find((s) => s.uid === uid)).filter((s) => s !== undefined));
const named = ref<Record<string, { key: string; name: string }>>({});
const branch = ref(planned.value[0]?.uid ?? null);
const start = ref(props.asTemplate ? '' : 'mon');
const startAt = computed(() => typedMoment(start.value));
const copying = ref(usualCopy());
const tried = ref<Copied | null>(null);
const error = ref('');
const busy = ref(false);
const changeSet = ref(newUid());

watch(chosen, async (list) => {
    for (const s of list) {
        if (named.value[s.uid]) continue;
        const name = props.asTemplate ? s.name : t('copy.newName', { name: s.name });
        const proposed = await ask(http.GET('/project-key', { params: { query: { name: `${props.asTemplate ? 'T' : ''}${s.key}` } } }))
            .catch(() => ({ key: '' }));
        named.value = { ...named.value, [s.uid]: { key: proposed.key, name } };
    }
}, { immediate: true });
const set = (uid: string, more: Partial<{ key: string; name: string }>) => (named.value = { ...named.value,
    [uid]: { ...named.value[uid]!, ...more } });
const plain = (text: string) => text.toUpperCase().replace(/[^A-Z0-9-]+/g, '-').replace(/^-+/, '').slice(0, 20);
const ready = computed(() => branch.value !== null && (start.value === '' || startAt.value !== null) && chosen.value.every((s) =>
    named.value[s.uid]?.key && named.value[s.uid]?.name.trim()));

async function send(dryRun: boolean): Promise<void> {
    busy.value = true;
    error.value = '';
    try {
        const answer = await ask(http.POST('/compose/copy',
            { body: { projects: chosen.value.map((s) => ({ uid: s.uid, ...named.value[s.uid]! })),
            branch: branch.value!, start: startAt.value?.written ?? null, kept: props.asTemplate ? 'template'
                : 'here',
            ...copyBody(copying.value), dryRun, changeSet: changeSet.value } }));
        tried.value = dryRun ? answer : null;
        if (!dryRun) {
            const keys = chosen.value.map((s) => named.value[s.uid]!.key);
            changeSet.value = newUid();
            emit('done', keys);
        }
    } catch (e) {
        error.value = messageOf(e);
    } finally {
        busy.value = false;
    }
}
</script>

<template>
    <form class="form" @submit.prevent="send(false)">
        <h3>{{ t(asTemplate ? 'copy.template' : 'copy.create') }}</h3>
        <div v-for="s in chosen" :key="s.uid" class="one">
            <NInput :value="named[s.uid]?.key ?? ''" size="small" placeholder=""
                :input-props="{ 'aria-label': t('copy.keyOf', { key: s.key }) }"
                @update:value="(v) => set(s.uid, { key: plain(v) })" />
            <NInput :value="named[s.uid]?.name ?? ''" size="small" placeholder=""
                :input-props="{ 'aria-label': t('copy.nameOf', { key: s.key }) }"
                @update:value="(v) => set(s.uid, { name: v })" />
        </div>
        <div v-if="others.length" class="field"><span class="label">{{ t('copy.along') }}</span><NSelect
            v-model:value="along" multiple filterable
            size="small" :options="others" :placeholder="t('copy.alongHint')" :input-props="{ 'aria-label': t('copy.along') }" /></div>
        <div class="field"><span class="label">{{ t('portfolio.project.branch') }}</span><TreeSelect v-model:value="branch"
            :label="t('portfolio.project.branch')" :options="branchTree(data.branches, (b) => b.mayPlan)" /></div>
        <div v-if="!asTemplate" class="field"><label for="copy-start">{{ t('portfolio.project.start') }}</label><NInput
            v-model:value="start"
            size="small" placeholder="" :input-props="{ id: 'copy-start' }" /><span class="hint"
            :class="startAt === null ? 'error' : 'faint'">
            {{ startAt === null ? t('portfolio.project.dateHint', { text: start }) : startAt.hasHour ? formatMoment(startAt.at)
                : t('typed.first', { date: formatDay(startAt.at) }) }}</span></div>
        <CopyOptions v-model="copying" :projects="chosen.map((s) => s.uid)" />
        <div v-if="tried" class="tried" role="status">
            <b>{{ t('copy.would', { n: tried.operations }) }}</b> <span
                v-if="tried.openEnds">{{ t('copy.openEnds', tried.openEnds) }}</span>
            <ul class="tabular"><li v-for="[from, to] in (tried.renamed ?? []).slice(0, 4)" :key="from">{{ from }} → {{ to }}</li></ul>
        </div>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
        <span class="buttons"><NButton v-why="!ready && t('why.filled')" size="small" :disabled="!ready" :loading="busy"
                                  @click="send(true)">{{ t('exchange.preview') }}</NButton>
            <NButton v-why="!ready && t('why.filled')" type="primary" size="small" attr-type="submit" :disabled="!ready"
                :loading="busy">{{ t(asTemplate ? 'copy.saveTemplate'
                : 'copy.make', chosen.length) }}</NButton></span>
    </form>
</template>

<style scoped>
.form { display: flex; flex-direction: column; gap: 10px; }
.one { display: grid; grid-template-columns: 100px minmax(0, 1fr); gap: 8px; }
.tried { border-left: 3px solid var(--petrol); padding-left: 10px; }
.buttons { display: flex; gap: 8px; }
ul { margin: 0; padding: 0; list-style: none; font-size: 13px; }
p { margin: 0; }
</style>
