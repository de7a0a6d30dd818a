<script setup lang="ts">
import { NButton, NInput, NSelect } from 'naive-ui';
import { watchDebounced } from '@vueuse/core';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, messageOf, type Portfolio } from '@/api/client';
import { parseDate, toIso } from '@/time/instant';
import { change, create as make, newUid } from '@/api/operations';

const props = defineProps<{ data: Portfolio; branch: string | null }>();
const emit = defineEmits<{ done: [uid: string, key: string] }>();
const { t } = useI18n();
const planned = computed(() => props.data.branches.filter((b) => b.mayPlan));
const taken = computed(() => new Set(props.data.projects.map((p) => p.key)));
const name = ref('');
const branch = ref(planned.value.some((b) => b.uid === props.branch) ? props.branch : (planned.value[0]?.uid ?? null));
const key = ref('');
const typedKey = ref(false);
const start = ref(`${new Date().toISOString().slice(0, 10)} 08:00`);
const calendar = ref(props.data.calendars.find((c) => c.key === 'OFFICE')?.uid ?? props.data.calendars[0]?.uid ?? null);
const error = ref('');
const busy = ref(false);
const uid = newUid(); // one project, however often it is sent

watchDebounced(name, async (value) => {
    if (typedKey.value || value.trim() === '') return;
    const proposed = await ask(http.GET('/project-key', { params: { query: { name: value } } })).catch(() => null);
    if (proposed && !typedKey.value && name.value === value) key.value = proposed.key;
}, { debounce: 150 });
const keyError = computed(() => (key.value === '' ? '' : taken.value.has(key.value) ? t('portfolio.project.keyTaken')
    : /^[A-Z0-9][A-Z0-9-]{0,19}$/.test(key.value) ? '' : t('portfolio.project.keyHint')));
const startError = computed(() => (parseDate(start.value, 480) === null ? t('board.needDate', { text: start.value }) : ''));
const ready = computed(() => name.value.trim() !== '' && key.value !== '' && keyError.value === '' && startError.value === ''
    && branch.value !== null && calendar.value !== null);

async function create(): Promise<void> {
    busy.value = true;
    error.value = '';
    try {
        await change([make('project', uid, { key: key.value, name: name.value.trim(), branch: branch.value, calendar: calendar.value,
            start: toIso(parseDate(start.value, 480)!) })], t('edit.created', { name: name.value }), `c${uid}`);
        emit('done', uid, key.value);
    } catch (e) {
        error.value = messageOf(e);
    } finally {
        busy.value = false;
    }
}
</script>

<template>
    <form class="form" @submit.prevent="create">
        <div class="field"><label for="p-name">{{ t('portfolio.project.name') }}</label><NInput v-model:value="name" autofocus
            placeholder="" :input-props="{ id: 'p-name' }" /></div>
        <div class="field"><label for="p-key">{{ t('portfolio.project.key') }}</label><NInput :value="key" placeholder=""
            :input-props="{ id: 'p-key' }" @update:value="(v) => ((key = v.toUpperCase()), (typedKey = v !== ''))" /><span v-if="keyError"
            class="error">{{ keyError }}</span></div>
        <div class="field"><span class="label">{{ t('portfolio.project.branch') }}</span><NSelect v-model:value="branch"
            :aria-label="t('portfolio.project.branch')" placeholder="" :options="planned.map((b) => ({ label: b.name, value: b.uid }))" />
        </div>
        <div class="field"><label for="p-start">{{ t('portfolio.project.start') }}</label><NInput v-model:value="start" placeholder=""
            :input-props="{ id: 'p-start' }" /><span v-if="startError" class="error">{{ startError }}</span></div>
        <div class="field"><span class="label">{{ t('portfolio.project.calendar') }}</span><NSelect v-model:value="calendar"
            :aria-label="t('portfolio.project.calendar')" :options="data.calendars.map((c) => ({ label: c.name || c.key, value: c.uid }))"
        /></div>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
        <NButton type="primary" attr-type="submit" :disabled="!ready" :loading="busy">{{ t('portfolio.project.create') }}</NButton>
    </form>
</template>

<style scoped>
.form { display: flex; flex-direction: column; gap: 12px; }
</style>
