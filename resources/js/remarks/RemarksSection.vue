<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { NButton, NCheckbox, NMention } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, type Operation, type Remark } from '@/api/client';
import { newUid, update } from '@/api/operations';
import { BRIEFLY, useRemarks } from '@/api/queries';
import { formatMoment, parseIso } from '@/time/instant';
import { useKept } from '@/ui/kept';
import { vCalled } from '@/ui/called';
import { vWhy } from '@/ui/why';

/**
 * What people have to say about a project, something in it or a branch, with answers; what is to be done about it, and whom that
 * concerns (`@Name`).
 */
const props = defineProps<{ kind: 'project' | 'wbs' | 'activity' | 'link' | 'branch'; uid: string;
    /** that it is, or that has it; none for a branch */
    project?: string;
    /** what a sentence calls it */
    name: string; editable: boolean; send: (operations: Operation[], headline: string) => Promise<boolean>; version: number;
    /** the change that was made last can be what a remark is about */
    last?: { uid: string; headline: string } | null }>();
const { t, n } = useI18n();
/** letters that are shown of a long one before it is opened */
const SHORT = 500;
const page = ref(1);
watch(() => props.uid, () => (page.value = 1));
const answer = useRemarks(() => props.kind, () => props.uid, () => page.value, () => props.version);
const remarks = computed(() => answer.data.value?.remarks ?? []);
const pages = computed(() => answer.data.value?.pages ?? 1);
const open = (r: Remark) => r.todo && !r.done;
/** the remark that is being answered; null while a new talk is begun */
const answering = ref<string | null>(null);
watch(() => props.uid, () => (answering.value = null));
const text = useKept(() => `remark ${answering.value ?? props.uid}`, '');
const todo = ref(false);
const pinned = ref(false);
const whole = ref<ReadonlySet<string>>(new Set());
const short = (r: Remark) => r.text.length > SHORT * 1.2 && !whole.value.has(r.uid);
const people = useQuery({ queryKey: ['people', computed(() => props.project ?? props.uid)], retry: false, gcTime: BRIEFLY,
    queryFn: () => (props.project ? ask(http.GET('/projects/{uid}/people', { params: { path: { uid: props.project } } }))
        : ask(http.GET('/branches/{uid}/people', { params: { path: { uid: props.uid } } }))) });
const names = computed(() => (people.data.value?.people ?? []).map((name) => ({ label: name, value: name })));

async function add(): Promise<void> {
    const said = text.value.trim();
    if (said === '') return;
    const after = { ...(props.project ? { project: props.project } : {}), ...(props.kind === 'project' ? {}
        : { [props.kind]: props.uid }), text: said,
        ...(answering.value ? { answers: answering.value } : {}), ...(todo.value ? { todo: true } : {}),
        ...(pinned.value && props.last ? { about: props.last.uid } : {}) };
    const done = await props.send([{ verb: 'create', kind: 'remark', uid: newUid(), after }], t('remark.added', { code: props.name }));
    if (!done || text.value.trim() !== said) return;
    [text.value, todo.value, pinned.value] = ['', false, false];
    if (answering.value === null) page.value = 1;
    answering.value = null;
}
const drop = (uid: string) => props.send([{ verb: 'delete', kind: 'remark', uid }], t('remark.deleted', { code: props.name }));
const tick = (uid: string, done: boolean) => props.send([update('remark', uid, { done }, { done: !done })],
    t(done ? 'remark.done' : 'remark.reopened', { code: props.name }));
</script>

<template>
    <section data-test="remarks">
        <h3>{{ t('remark.title') }}<span v-if="(answer.data.value?.total ?? 0) > 1"
            class="faint count">{{ n(answer.data.value!.total) }}</span></h3>
        <div v-for="r in remarks" :key="r.uid" class="remark" :class="{ todo: open(r), answer: r.answers !== null }">
            <NCheckbox v-if="r.todo" :checked="r.done" :disabled="!editable"
                @update:checked="(v: boolean) => tick(r.uid, v)">{{ t('remark.todo') }}</NCheckbox>
            <p :class="{ faint: r.done }"><bdi>{{ short(r) ? `${r.text.slice(0, SHORT)} …` : r.text }}</bdi>
                <button v-if="short(r)" class="verb" @click="whole = new Set([...whole, r.uid])">{{ t('remark.whole') }}</button></p>
            <div class="faint tabular">
                <bdi>{{ r.author }}</bdi><template v-if="r.written">, {{ formatMoment(parseIso(r.written)!) }}</template>
                <template v-if="r.about"> · {{ t('remark.pinned') }}</template>
                <button v-if="editable" class="verb" @click="answering = r.answers ?? r.uid">{{ t('remark.answer') }}</button>
                <button v-if="editable" class="verb" @click="drop(r.uid)">{{ t('remark.delete') }}</button>
            </div>
        </div>
        <p v-if="remarks.length === 0" class="faint">{{ t('remark.none') }}</p>
        <p v-if="pages > 1" class="pages"><button v-if="page > 1" class="verb" @click="page--">{{ t('remark.newer') }}</button>
            <span class="faint">{{ t('remark.page', { page, pages: n(pages) }) }}</span>
            <button v-if="page < pages" class="verb" @click="page++">{{ t('remark.older') }}</button></p>
        <form v-if="editable" @submit.prevent="add" @keydown.ctrl.enter.prevent="add">
            <span v-if="answering" class="faint">{{ t('remark.answering', { name: remarks.find((r) => r.uid === answering)?.author
                                                     ?? '' }) }}
                <button type="button" class="verb" @click="answering = null">{{ t('health.cancel') }}</button></span>
            <NMention v-model:value="text" v-called="t(answering ? 'remark.answerText' : 'remark.text')" type="textarea" size="small"
                :options="names" :autosize="{ minRows: 2, maxRows: 8 }" :placeholder="t(answering ? 'remark.answerText' : 'remark.text')" />
            <div class="options">
                <NCheckbox v-model:checked="todo">{{ t('remark.todo') }}</NCheckbox>
                <NCheckbox v-if="last && !answering" v-model:checked="pinned" :title="last.headline">{{ t('remark.pin') }}</NCheckbox>
            </div>
            <NButton v-why="text.trim() === '' && t('why.text')" size="small" attr-type="submit" :disabled="text.trim() === ''">{{
                t(answering ? 'remark.addAnswer' : 'remark.add') }}</NButton>
        </form>
    </section>
</template>

<style scoped>
.remark { border-top: 1px solid var(--hairline); padding: 4px 0 4px 8px; border-left: 3px solid transparent; }
.remark.answer { margin-left: 18px; border-top-style: dotted; }
.remark.todo { border-left-color: var(--marigold); }
.remark p { white-space: pre-wrap; overflow-wrap: anywhere; }
.faint .verb { margin-left: 8px; }
.count { margin-left: 8px; font-weight: 400; }
.pages { display: flex; gap: 12px; }
form { display: flex; flex-direction: column; align-items: flex-start; gap: 6px; margin-top: 4px; }
form > .n-mention, form > :has(textarea) { align-self: stretch; }
.options { display: flex; gap: 14px; }
p { margin: 2px 0; }
</style>
