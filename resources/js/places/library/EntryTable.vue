<script setup lang="ts">
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, type CodeSetList, http } from '@/api/client';
import TableInOut from './TableInOut.vue';

/** A whole code set out and in as a table. */
const props = defineProps<{ set: CodeSetList['codeSets'][number] }>();
const emit = defineEmits<{ done: [] }>();
const { t } = useI18n();
const COLUMNS = ['key', 'name', 'parent', 'description', 'weight', 'steward', 'retired'] as const;
const table = computed(() => {
    const keyOf = (uid: string | null | undefined) => props.set.entries.find((e) => e.uid === uid)?.key ?? '';
    const ordered: typeof props.set.entries = [];
    const walk = (parent: string | null) => props.set.entries.filter((e) => (e.parent ?? null) === parent).forEach((e) => {
        ordered.push(e);
        walk(e.uid);
    });
    walk(null);
    return [COLUMNS.join('\t'), ...ordered.map((e) => [e.key, e.name, keyOf(e.parent), e.description, e.weight || '', e.steward ?? '',
        e.retired ? 'yes' : ''].map((c) => String(c).replace(/\s+/g, ' ')).join('\t'))].join('\n');
});
const send = (rows: Record<string, string>[], dryRun: boolean, changeSet: string) => ask(http.POST('/compose/entries',
    { body: { set: props.set.uid, rows, dryRun, changeSet } }));
</script>

<template>
    <TableInOut :columns="COLUMNS" :table="table" :may-add="set.mayAdd" kept="entry table" :about="t('library.codes.inAbout')" :send="send"
        @done="emit('done')" />
</template>
