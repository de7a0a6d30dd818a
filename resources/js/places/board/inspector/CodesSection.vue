<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query';
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { type CodeSet } from '@/api/client';
import CodePicker from '@/codes/CodePicker.vue';
import { type Coded, codedAlike, codingOperations } from '@/codes/entries';
import { nameOf } from '../fields/fields';
import type { useBoardLook } from '../look';
import type { Row } from '../model';
import { useBoard } from '../store';

/** What the chosen rows, of one kind, are coded with; entries that only some have are left alone. */
const props = defineProps<{ rows: Row[]; codes: ReturnType<typeof useBoardLook>; editable: boolean }>();
const { t } = useI18n();
const board = useBoard();
const cache = useQueryClient();
const scope = computed(() => (props.rows[0]!.kind === 'project' ? 'project' : 'activity'));
const sets = computed(() => props.codes.sets.value.filter((s) => s.scope === scope.value));
const objects = computed<Coded[]>(() => props.rows.map((r) => ({ uid: r.id, ...(r.kind === 'project' ? {} : { project: r.project.uid }),
    codes: props.codes.codings.value.get(r.id) ?? [] })));
const alike = computed(() => new Map(sets.value.map((set) => [set.uid, codedAlike(objects.value, set)])));

async function assign(set: CodeSet, entries: string[]): Promise<void> {
    await board.commit(codingOperations(objects.value, set, entries),
        t('edit.code', { name: props.rows.length === 1 ? nameOf(props.rows[0]!)
        : t('portfolio.selected', { n: props.rows.length }) }));
    await cache.invalidateQueries({ queryKey: ['boardCodes'] });
}
const refresh = () => cache.invalidateQueries({ queryKey: ['boardCodes'] });
</script>

<template>
    <section v-if="sets.length" class="codes" data-test="codes">
        <h3>{{ t('portfolio.codes.title') }}</h3>
        <CodePicker v-for="set in sets" :key="set.uid" :set="set" :value="alike.get(set.uid)!.common" :mixed="alike.get(set.uid)!.mixed"
            :disabled="!editable" @assign="(v) => assign(set, v)" @made="refresh" />
    </section>
</template>

<style scoped>
.codes { display: flex; flex-direction: column; gap: 8px; }
</style>
