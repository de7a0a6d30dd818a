<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { NButton, NInput, NSelect } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, type CodeSet, type Composed, http, messageOf } from '@/api/client';
import { update } from '@/api/operations';
import { parseDuration } from '@/time/duration';
import RowsRead from '@/ui/RowsRead.vue';
import { pastedRows } from '@/ui/table';
import type { Row } from '../model';
import { useRowEdit } from './rowEdit';
import { vWhy } from '@/ui/why';

/** The level scheme of a project: codes put together again, what does not fit, the WBS from a table of level codes. */
const props = defineProps<{ row: Row & { kind: 'project' }; editable: boolean; sets: readonly CodeSet[] }>();
const emit = defineEmits<{ go: [uid: string] }>();
const { t } = useI18n();
const { board, perDay } = useRowEdit(() => props.row);
const project = computed(() => props.row.project);
const schemes = useQuery({ queryKey: ['levelSchemes'], queryFn: () => ask(http.GET('/level-schemes')) });
const scheme = computed(() => schemes.data.value?.schemes.find((s) => s.uid === project.value.levelScheme) ?? null);
const options = computed(() => [{ label: t('levels.none'), value: '' }, ...(schemes.data.value?.schemes ?? []).map((s) => ({ label: s.name!,
    value: s.uid }))]);
const choose = (uid: string) => board.commit([update('project', project.value.uid, { levelScheme: uid || null },
    { levelScheme: project.value.levelScheme })], t('edit.field', { name: project.value.key, field: t('library.part.levels') }));
const preview = useQuery({ queryKey: ['codePreview', () => project.value.uid, () => board.version],
    enabled: computed(() => scheme.value !== null),
    retry: false, queryFn: () => ask(http.POST('/projects/{uid}/codes', { params: { path: { uid: project.value.uid } }, body: {} })) });
const changes = computed(() => preview.data.value?.changes ?? 0);
const sample = computed(() => (preview.data.value?.sample ?? []).filter((r) => r.code !== r.newCode).slice(0, 4));
const findings = computed(() => (preview.data.value?.findings ?? []).slice(0, 12));
const regenerate = () => board.compose(t('levels.regenerated', { key: project.value.key }),
    (params, changeSet) => ask(http.POST('/compose/codes',
    { params, body: { project: project.value.uid, names: (scheme.value?.activityName ?? []).length > 0, changeSet } })));

const pasting = ref(false);
const text = ref('');
const assignTo = ref<Record<number, string>>({});
const tried = ref<Composed | null>(null);
const error = ref('');
/** code, name, duration where there is one, then the codes of the levels */
const rows = computed(() => pastedRows(text.value).map(([code = '', name = '', duration = '', ...levels]) => {
    const typed = parseDuration(duration, perDay.value);
    return { code, name, minutes: duration.trim() === '0' ? 0 : (typed?.minutes ?? null), levels };
}));
const sets = computed(() => props.sets.filter((s) => s.scope === 'activity').map((s) => ({ label: s.name!, value: s.uid })));
const body = computed(() => ({ project: project.value.uid, rows: rows.value, sets: Object.fromEntries(Object.entries(assignTo.value)
    .filter(([, v]) => v)) }));
async function tryTable(): Promise<void> {
    error.value = '';
    try {
        tried.value = await ask(http.POST('/compose/levels', { body: { ...body.value, dryRun: true } }));
    } catch (e) {
        error.value = messageOf(e);
    }
}
async function apply(): Promise<void> {
    if (await board.compose(t('levels.built', { key: project.value.key }), (params, changeSet) => ask(http.POST('/compose/levels', { params,
        body: { ...body.value, changeSet } })))) {
        text.value = '';
        tried.value = null;
        pasting.value = false;
    }
}
const depth = computed(() => Math.max(0, ...rows.value.map((r) => r.levels.filter(Boolean).length)));
</script>

<template>
    <section class="levels" data-test="levels">
        <h3>{{ t('library.part.levels') }}</h3>
        <NSelect size="small" :value="project.levelScheme ?? ''" :options="options" :disabled="!editable"
            :aria-label="t('library.part.levels')"
            @update:value="choose" />
        <template v-if="scheme && preview.data.value">
            <NButton v-why="!editable ? t('why.rights') : changes === 0 && t('why.kept')" size="small"
                :disabled="!editable || changes === 0" @click="regenerate">{{ t('levels.regenerate', changes) }}</NButton>
            <ul v-if="changes" class="tabular">
                <li v-for="s in sample" :key="s.uid">{{ s.code }} → <b>{{ s.newCode }}</b></li>
            </ul>
            <p class="faint">{{ t('levels.findings', preview.data.value.count) }}</p>
            <ul>
                <li v-for="f in findings" :key="`${f.what} ${f.uid}`">
                    <button v-if="f.isActivity" class="verb plain" @click="emit('go', f.uid)">{{ f.label }}</button>
                    <b v-else>{{ f.label }}</b> {{ t(`levels.what.${f.what}`, { detail: f.detail }) }}
                </li>
            </ul>
        </template>
        <button v-if="editable" class="verb" @click="pasting = !pasting">{{ t('levels.paste') }}</button>
        <template v-if="pasting">
            <p class="faint">{{ t('levels.pasteAbout') }}</p>
            <NInput v-model:value="text" type="textarea" :rows="6" :placeholder="t('levels.sample')"
                :input-props="{ 'aria-label': t('levels.paste') }" />
            <div v-for="n in depth" :key="n" class="field"><span class="label">{{ t('levels.assign', { n }) }}</span><NSelect
                :value="assignTo[n] ?? null" size="small" clearable :options="sets" :aria-label="t('levels.assign', { n })" placeholder=""
                @update:value="(v: string | null) => (assignTo = { ...assignTo, [n]: v ?? '' })" /></div>
            <RowsRead v-if="tried?.rows" :rows="tried.rows" />
            <p v-if="error" class="error" role="alert">{{ error }}</p>
            <span class="buttons"><NButton v-why="rows.length === 0 && t('why.text')" size="small" :disabled="rows.length === 0"
                                      @click="tryTable">{{ t('exchange.preview') }}</NButton>
                <NButton v-why="!tried?.operations && t('why.look')" size="small" type="primary" :disabled="!tried?.operations"
                    @click="apply">{{ t('levels.build') }}</NButton></span>
        </template>
    </section>
</template>

<style scoped>
.levels { display: flex; flex-direction: column; gap: 8px; align-items: stretch; }
.levels .verb { align-self: flex-start; }
ul { margin: 0; padding: 0; list-style: none; font-size: 13px; }
p { margin: 0; }
.buttons { display: flex; gap: 8px; }
</style>
