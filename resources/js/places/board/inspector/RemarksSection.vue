<script setup lang="ts">
import { NButton, NInput } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import type { RemarkFields } from '@/api/client';
import { useRemarks } from '@/api/queries';
import { formatMoment, parseIso } from '@/time/instant';
import type { Row } from '../model';
import { newUid } from '@/api/operations';
import { useBoard } from '../store';

/** What people have to say about an activity. */
const props = defineProps<{ row: Row & { kind: 'activity' }; editable: boolean }>();
const { t } = useI18n();
const board = useBoard();
const text = ref('');
const answer = useRemarks(() => props.row.id, () => board.version);
const remarks = computed(() => (answer.data.value?.objects ?? []) as { uid: string; fields: RemarkFields }[]);
const sorted = computed(() => [...remarks.value].sort((a, b) => (b.fields.written ?? '').localeCompare(a.fields.written ?? '')));

watch(() => props.row.id, () => (text.value = ''));

async function add(): Promise<void> {
    const said = text.value.trim();
    if (said === '') return;
    const done = await board.commit([{ verb: 'create', kind: 'remark', uid: newUid(), after: { activity: props.row.id, text: said } }],
        t('remark.added', { code: props.row.activity.code }));
    if (done && text.value.trim() === said) text.value = '';
}
const drop = (uid: string) => board.commit([{ verb: 'delete', kind: 'remark', uid }],
    t('remark.deleted', { code: props.row.activity.code }));
</script>

<template>
    <section data-test="remarks">
        <h3>{{ t('remark.title') }}</h3>
        <div v-for="r in sorted" :key="r.uid" class="remark">
            <p>{{ r.fields.text }}</p>
            <div class="faint tabular">
                {{ r.fields.author }}<template v-if="r.fields.written">, {{ formatMoment(parseIso(r.fields.written)!) }}</template>
                <button v-if="editable" class="verb" @click="drop(r.uid)">{{ t('remark.delete') }}</button>
            </div>
        </div>
        <p v-if="remarks.length === 0" class="faint">{{ t('remark.none') }}</p>
        <form v-if="editable" @submit.prevent="add" @keydown.ctrl.enter.prevent="add">
            <NInput v-model:value="text" type="textarea" size="small" :autosize="{ minRows: 2, maxRows: 8 }" :maxlength="4000"
                :placeholder="t('remark.text')" :input-props="{ 'aria-label': t('remark.text') }" />
            <NButton size="small" attr-type="submit" :disabled="text.trim() === ''">{{ t('remark.add') }}</NButton>
        </form>
    </section>
</template>

<style scoped>
.remark { border-top: 1px solid var(--hairline); padding: 4px 0; }
.remark p { white-space: pre-wrap; overflow-wrap: anywhere; }
.faint .verb { margin-left: 8px; }
form { display: flex; flex-direction: column; align-items: flex-start; gap: 6px; margin-top: 4px; }
form > :first-child { align-self: stretch; }
p { margin: 2px 0; }
</style>
