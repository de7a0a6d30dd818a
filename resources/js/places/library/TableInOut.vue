<script setup lang="ts">
import { watchDebounced } from '@vueuse/core';
import { NButton, NInput } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { type Composed, messageOf } from '@/api/client';
import { newUid } from '@/api/operations';
import { useKept } from '@/ui/kept';
import RowsRead from '@/ui/RowsRead.vue';
import { pastedRows } from '@/ui/table';
import { vWhy } from '@/ui/why';

/** Something of the library out and in as a table. */
const props = defineProps<{ columns: readonly string[];
    /** what is there, with its head */
    table: string; mayAdd: boolean;
    /** what it is kept by while it is half-typed */
    kept: string; about: string; send: (rows: Record<string, string>[], dryRun: boolean, changeSet: string) => Promise<Composed> }>();
const emit = defineEmits<{ done: [] }>();
const { t } = useI18n();
const text = useKept(() => props.kept, '');
const read = ref<Composed | null>(null);
const error = ref('');
const copied = ref(false);
const changeSet = ref(newUid());

async function copy(): Promise<void> {
    await navigator.clipboard.writeText(props.table);
    copied.value = true;
    setTimeout(() => (copied.value = false), 2000);
}
/** columns by how they are typed in any case */
const spelled = computed(() => new Map(props.columns.map((c) => [c.toLowerCase(), c])));
/** a head with the names of columns may stand first; without one the columns stand in the usual order */
const rows = computed(() => {
    const cells = pastedRows(text.value);
    const head = cells[0]?.map((c) => c.toLowerCase()) ?? [];
    const named = head.includes('key') || head.includes('name');
    const columns = named ? head : [...props.columns.map((c) => c.toLowerCase())];
    return (named ? cells.slice(1) : cells).map((row) => Object.fromEntries(columns.map((c, i) => [c, row[i] ?? ''] as const)
        .filter(([c, v]) => spelled.value.has(c) && (named || v !== '')).map(([c, v]) => [spelled.value.get(c)!, v])));
});
watchDebounced(rows, async () => {
    error.value = '';
    read.value = null;
    if (rows.value.length === 0) return;
    try {
        read.value = await props.send(rows.value, true, changeSet.value);
    } catch (e) {
        error.value = messageOf(e);
    }
}, { debounce: 250 });
async function apply(): Promise<void> {
    error.value = '';
    try {
        await props.send(rows.value, false, changeSet.value);
        text.value = '';
        changeSet.value = newUid();
        emit('done');
    } catch (e) {
        error.value = messageOf(e);
    }
}
</script>

<template>
    <div class="table">
        <section>
            <div class="head"><h2>{{ t('library.codes.out') }}</h2><button class="verb" @click="copy">{{ t(copied ? 'library.copied'
                : 'library.copy') }}</button></div>
            <pre tabindex="0">{{ table }}</pre>
        </section>
        <section>
            <h2>{{ t('library.codes.in') }}</h2>
            <p class="faint">{{ about }}</p>
            <NInput v-model:value="text" type="textarea" :rows="8" :disabled="!mayAdd" placeholder=""
                :input-props="{ 'aria-label': t('library.codes.in') }" />
            <RowsRead v-if="read?.rows" :rows="read.rows" />
            <p v-if="error" class="error" role="alert">{{ error }}</p>
            <NButton v-why="!read?.operations && t('why.look')" type="primary" size="small" :disabled="!read?.operations"
                @click="apply">{{ t('library.codes.takeIn') }}</NButton>
        </section>
    </div>
</template>

<style scoped>
.table { flex: 1; overflow-y: auto; padding: 16px; display: grid; grid-template-columns: 1fr 1fr; gap: 24px; align-content: start; }
section { display: flex; flex-direction: column; gap: 8px; min-width: 0; align-items: stretch; }
.head { display: flex; justify-content: space-between; }
pre { margin: 0; padding: 10px; background: var(--band); border-radius: 4px; overflow: auto; max-height: 420px; font-size: 13px;
    tab-size: 16; }
p { margin: 0; }
</style>
