<script setup lang="ts">
import { watchDebounced } from '@vueuse/core';
import { NButton, NCheckbox, NInput } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, type Composed, http, messageOf } from '@/api/client';
import { newUid } from '@/api/operations';
import { useKept } from '@/ui/kept';
import RowsRead from '@/ui/RowsRead.vue';
import { pastedRows } from '@/ui/table';
import { vWhy } from '@/ui/why';

/** Codes from a pasted table: key or KEY/CODE, code set, entry; what was understood stands beside each row before it counts. */
const emit = defineEmits<{ done: [] }>();
const { t } = useI18n();
const text = useKept('code table', '');
const make = ref(false);
const read = ref<Composed | null>(null);
const error = ref('');
const busy = ref(false);
const changeSet = newUid();
const rows = computed(() => pastedRows(text.value).map((cells) => [cells[0] ?? '', cells[1] ?? '', cells[2] ?? '']));
const send = (dryRun: boolean) => ask(http.POST('/compose/codings', { body: { rows: rows.value, make: make.value, dryRun, changeSet } }));

watchDebounced([text, make], async () => {
    error.value = '';
    if (rows.value.length === 0) {
        read.value = null;
        return;
    }
    try {
        read.value = await send(true);
    } catch (e) {
        error.value = messageOf(e);
    }
}, { debounce: 250 });

async function apply(): Promise<void> {
    busy.value = true;
    error.value = '';
    try {
        await send(false);
        text.value = '';
        emit('done');
    } catch (e) {
        error.value = messageOf(e);
    } finally {
        busy.value = false;
    }
}
</script>

<template>
    <p class="faint">{{ t('portfolio.table.about') }}</p>
    <NInput v-model:value="text" type="textarea" :rows="8" :placeholder="t('portfolio.table.sample')"
        :input-props="{ 'aria-label': t('portfolio.table.title') }" />
    <NCheckbox v-model:checked="make">{{ t('portfolio.table.make') }}</NCheckbox>
    <RowsRead v-if="read?.rows" :rows="read.rows" />
    <p v-if="error" class="error" role="alert">{{ error }}</p>
    <NButton v-why="!read?.operations && t('why.look')" type="primary" size="small" :disabled="!read?.operations" :loading="busy"
        @click="apply">{{ t('portfolio.table.apply', {
        n: read?.rows?.filter((r) => r.state === 'new' || r.state === 'changed').length ?? 0 }) }}</NButton>
</template>

<style scoped>
p { margin: 0; }
</style>
