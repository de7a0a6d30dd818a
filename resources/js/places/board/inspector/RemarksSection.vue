<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { NButton, NCheckbox, NMention } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, type RemarkFields } from '@/api/client';
import { newUid, update } from '@/api/operations';
import { BRIEFLY, useRemarks } from '@/api/queries';
import { formatMoment, parseIso } from '@/time/instant';
import { useKept } from '@/ui/kept';
import { vCalled } from '@/ui/called';
import type { Row } from '../model';
import { useBoard } from '../store';
import { vWhy } from '@/ui/why';

/** What people have to say about an activity, what is to be done about it, and whom that concerns (`@Name`). */
const props = defineProps<{ row: Row & { kind: 'activity' }; editable: boolean }>();
const { t } = useI18n();
const board = useBoard();
const text = useKept(() => `remark ${props.row.id}`, '');
const todo = ref(false);
const pinned = ref(false);
const answer = useRemarks(() => props.row.id, () => board.version);
const remarks = computed(() => (answer.data.value?.objects ?? []) as { uid: string; fields: RemarkFields }[]);
const sorted = computed(() => [...remarks.value].sort((a, b) => Number(open(b.fields)) - Number(open(a.fields))
    || (b.fields.written ?? '').localeCompare(a.fields.written ?? '')));
const open = (f: RemarkFields) => f.todo === true && f.done !== true;
/** the change that was made last can be what a remark is about */
const last = computed(() => board.undoable.at(-1) ?? null);
const people = useQuery({ queryKey: ['people', computed(() => props.row.project.uid)], retry: false, gcTime: BRIEFLY,
    queryFn: () => ask(http.GET('/projects/{uid}/people', { params: { path: { uid: props.row.project.uid } } })) });
const names = computed(() => (people.data.value?.people ?? []).map((name) => ({ label: name, value: name })));

async function add(): Promise<void> {
    const said = text.value.trim();
    if (said === '') return;
    const after = { activity: props.row.id, text: said, ...(todo.value ? { todo: true } : {}),
        ...(pinned.value && last.value ? { about: last.value.changeSets[0] } : {}) };
    const done = await board.commit([{ verb: 'create', kind: 'remark', uid: newUid(), after }],
        t('remark.added', { code: props.row.activity.code }));
    if (done && text.value.trim() === said) [text.value, todo.value, pinned.value] = ['', false, false];
}
const drop = (uid: string) => board.commit([{ verb: 'delete', kind: 'remark', uid }],
    t('remark.deleted', { code: props.row.activity.code }));
const tick = (uid: string, done: boolean) => board.commit([update('remark', uid, { done }, { done: !done })],
    t(done ? 'remark.done' : 'remark.reopened', { code: props.row.activity.code }));
</script>

<template>
    <section data-test="remarks">
        <h3>{{ t('remark.title') }}</h3>
        <div v-for="r in sorted" :key="r.uid" class="remark" :class="{ todo: open(r.fields) }">
            <NCheckbox v-if="r.fields.todo" :checked="r.fields.done" :disabled="!editable"
                @update:checked="(v: boolean) => tick(r.uid, v)">{{ t('remark.todo') }}</NCheckbox>
            <p :class="{ faint: r.fields.done }">{{ r.fields.text }}</p>
            <div class="faint tabular">
                {{ r.fields.author }}<template v-if="r.fields.written">, {{ formatMoment(parseIso(r.fields.written)!) }}</template>
                <template v-if="r.fields.about"> · {{ t('remark.pinned') }}</template>
                <button v-if="editable" class="verb" @click="drop(r.uid)">{{ t('remark.delete') }}</button>
            </div>
        </div>
        <p v-if="remarks.length === 0" class="faint">{{ t('remark.none') }}</p>
        <form v-if="editable" @submit.prevent="add" @keydown.ctrl.enter.prevent="add">
            <NMention v-model:value="text" v-called="t('remark.text')" type="textarea" size="small" :options="names"
                :autosize="{ minRows: 2, maxRows: 8 }" :placeholder="t('remark.text')" />
            <div class="options">
                <NCheckbox v-model:checked="todo">{{ t('remark.todo') }}</NCheckbox>
                <NCheckbox v-if="last" v-model:checked="pinned" :title="last.headline">{{ t('remark.pin') }}</NCheckbox>
            </div>
            <NButton v-why="text.trim() === '' && t('why.text')" size="small" attr-type="submit"
                :disabled="text.trim() === ''">{{ t('remark.add') }}</NButton>
        </form>
    </section>
</template>

<style scoped>
.remark { border-top: 1px solid var(--hairline); padding: 4px 0 4px 8px; border-left: 3px solid transparent; }
.remark.todo { border-left-color: var(--marigold); }
.remark p { white-space: pre-wrap; overflow-wrap: anywhere; }
.faint .verb { margin-left: 8px; }
form { display: flex; flex-direction: column; align-items: flex-start; gap: 6px; margin-top: 4px; }
form > :first-child { align-self: stretch; }
.options { display: flex; gap: 14px; }
p { margin: 2px 0; }
</style>
