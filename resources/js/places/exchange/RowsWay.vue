<script setup lang="ts">
import { NButton, NSelect } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRouter } from 'vue-router';
import { messageOf, type Portfolio, type Sheets } from '@/api/client';
import { readSheets } from '@/api/sheets';
import { keep } from '@/ui/kept';
import { vWhy } from '@/ui/why';

/** A table or an outline on its way to the rows of a project: which sheet, and where they go. What it would do is shown there. */
const props = defineProps<{ file: File; portfolio: Portfolio | undefined }>();
const { t, n } = useI18n();
const router = useRouter();
const sheets = ref<Sheets['sheets']>([]);
const sheet = ref(0);
const reading = ref(false);
const error = ref('');
const project = ref<string | null>(null);
const projects = computed(() => (props.portfolio?.projects ?? []).filter((p) => p.mayPlan && p.kept === 'here')
    .map((p) => ({ label: `${p.key}  ${p.name}`, value: p.key })));
const choices = computed(() => sheets.value.map((s, value) => ({ value, label: `${s.name} (${n(s.rows)})` })));
const text = computed(() => sheets.value[sheet.value]?.text ?? '');
const first = computed(() => text.value.split('\n', 4).map((line) => line.replaceAll('\t', '  ·  ')));

watch(() => props.file, async (file) => {
    [error.value, sheets.value, sheet.value] = ['', [], 0];
    reading.value = true;
    try {
        const found = await readSheets(file, file.name || 'pasted.txt');
        if (file === props.file) sheets.value = found;
    } catch (e) {
        if (file === props.file) error.value = messageOf(e);
    } finally {
        reading.value = false;
    }
}, { immediate: true });

function goOn(): void {
    keep('paste', text.value);
    void router.push(project.value === null ? { name: 'portfolio', query: { panel: 'project-from-rows' } }
        : { name: 'board', query: { projects: project.value, panel: 'rows' } });
}
</script>

<template>
    <div class="way" data-test="rows-way">
        <p v-if="reading" role="status">{{ t('exchange.reading') }}</p>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
        <template v-if="sheets.length > 0">
            <div v-if="sheets.length > 1" class="field"><span class="label">{{ t('paste.sheet') }}</span><NSelect v-model:value="sheet"
                size="small" :options="choices" :aria-label="t('paste.sheet')" /></div>
            <pre class="faint"><bdi v-for="(line, i) in first" :key="i">{{ line + '\n' }}</bdi></pre>
            <div class="field"><span class="label">{{ t('exchange.door.into') }}</span><NSelect v-model:value="project"
                size="small" filterable
                clearable :placeholder="t('exchange.door.newProject')" :options="projects" :aria-label="t('exchange.door.into')"
                :input-props="{ 'aria-label': t('exchange.door.into') }" /></div>
            <div><NButton v-why="text.trim() === '' && t('why.understood')" type="primary" :disabled="text.trim() === ''" @click="goOn">{{
                t(project === null ? 'exchange.door.toProject' : 'exchange.door.toBoard') }}</NButton></div>
        </template>
    </div>
</template>

<style scoped>
.way { display: flex; flex-direction: column; gap: 12px; }
p { margin: 0; }
pre { margin: 0; max-height: 96px; overflow: hidden; font-size: 12px; white-space: pre; text-overflow: ellipsis; }
</style>
