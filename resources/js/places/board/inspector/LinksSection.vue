<script setup lang="ts">
import { NInput, NSelect } from 'naive-ui';
import { computed, ref } from 'vue';
import { ask, http, messageOf } from '@/api/client';
import { dayLength, formatDuration, formatSpan, parseLag } from '@/time/duration';
import { formatMoment } from '@/time/instant';
import type { Link, Row } from '../model';
import { update } from '@/api/operations';
import { createLink } from '../operations';
import { showDate } from '../typedDate';
import RemarksSection from '@/remarks/RemarksSection.vue';
import PathsSection from './PathsSection.vue';
import { useRowEdit } from './rowEdit';
import TypedField from '@/ui/TypedField.vue';
import { vWhy } from '@/ui/why';

/** Links on both sides, with type, lag, float; handovers with what was agreed. */
const props = defineProps<{ row: Row & { kind: 'activity' }; editable: boolean }>();
const emit = defineEmits<{ go: [uid: string]; only: [uids: string[], name: string] }>();
const { t, board, model, calendars, perDay, isDate, date } = useRowEdit(() => props.row);
const a = computed(() => props.row.activity);
const wrong = ref<Record<string, string>>({});

interface Side { link: Link; uid: string | null; label: string; name: string }
function side(link: Link, uid: string | null): Side {
    const near = uid === null ? undefined : model.value.activities.get(uid);
    if (near) return { link, uid, label: near.code, name: near.name };
    const far = uid === null ? undefined : model.value.far.get(uid);
    return { link, uid: null, label: far ? far.code : '…', name: far ? far.name : t('inspector.elsewhere') };
}
const groups = computed(() => [
    { title: t('inspector.predecessors'), into: true,
        list: [...model.value.links.values()].filter((l) => l.to === a.value.uid).map((l) => side(l, l.from)) },
    { title: t('inspector.successors'), into: false,
        list: [...model.value.links.values()].filter((l) => l.from === a.value.uid).map((l) => side(l, l.to)) },
]);
const types = ['FS', 'SS', 'FF', 'SF'].map((value) => ({ label: value, value }));
const lagCalendars = computed(() => [{ label: t('inspector.lagDefault'), value: '' },
    ...['successor', 'predecessor', 'project', 'elapsed'].map((value) => ({ label: t(`inspector.lags.${value}`), value }))]);
const candidates = computed(() => [...model.value.activities.values()].filter((x) => x.uid !== a.value.uid)
    .map((x) => ({ label: `${x.code}  ${x.name}`, value: x.uid })));
/** A lag as it is typed, in days of the calendar that measures it. */
const lagDay = (link: Link) => calendars.value.lagDay(link) ?? perDay.value;
const lagText = (link: Link) => formatDuration(link.lag, lagDay(link));
const counted = (day: number | null) => (day === null ? t('span.hours') : t('span.days', { day: dayLength(day) }));

function change(link: Link, after: Record<string, unknown>): Promise<boolean> {
    return board.commit([update('link', link.uid, after)], t('edit.linkChanged'));
}
async function changeLag(link: Link, text: string): Promise<void> {
    const lag = parseLag(text, lagDay(link));
    if (lag === null) return void (wrong.value[link.uid] = t('board.needDuration', { text }));
    delete wrong.value[link.uid];
    if (lag !== link.lag) await change(link, { lag });
}
/** the handover whose agreed date was proposed to the taker */
const proposed = ref('');
async function propose(link: Link, text: string): Promise<void> {
    if (text.trim() === '') return;
    try {
        await ask(http.POST('/handovers/{uid}/proposal', { params: { path: { uid: link.uid } },
            body: { agreed: date(text, 'finish') } }));
        proposed.value = link.uid;
    } catch (e) {
        board.error = messageOf(e);
    }
}
function drop(link: Link): Promise<boolean> {
    return board.commit([{ verb: 'delete', kind: 'link', uid: link.uid }], t('edit.linkRemoved'));
}
function add(uid: string): Promise<boolean> {
    return board.commit([createLink(uid, a.value.uid)],
        t('edit.linkOne', { from: model.value.activities.get(uid)!.name, to: a.value.name, type: 'FS' }));
}
const opened = ref<ReadonlySet<string>>(new Set());
const toggle = (uid: string, is: boolean) => (opened.value = new Set(is ? [...opened.value, uid]
    : [...opened.value].filter((u) => u !== uid)));
/** the project that has the handover, while it is open here */
const takerOf = (link: Link) => model.value.projects.get(model.value.activities.get(link.to ?? '')?.project ?? '') ?? null;
/** How a handover stands; its margin counts on the taker's calendar. */
function standing(link: Link): string {
    const h = model.value.handovers.get(link.uid);
    if (!h?.state) return '';
    return t(`handover.${h.state}`) + (h.forecast === null ? ''
        : `, ${t('handover.forecast', { date: formatMoment(h.forecast) })}`) + (h.margin === null ? ''
        : `, ${t('handover.margin', { d: formatSpan(h.margin, calendars.value.dayOf(link.to)) })}`);
}
const bad = (link: Link) => ['late', 'at-risk'].includes(model.value.handovers.get(link.uid)?.state ?? '');
</script>

<template>
    <section v-for="group in groups" :key="group.title">
        <h3>{{ group.title }}</h3>
        <div v-for="s in group.list" :key="s.link.uid" class="link">
            <div class="far">
                <button v-if="s.uid" class="verb plain" @click="emit('go', s.uid)">{{ s.label }} {{ s.name }}</button><span
                    v-else>{{ s.label }} {{ s.name }}</span>
                <button v-why="!editable && t('why.rights')" class="verb" :disabled="!editable"
                    @click="drop(s.link)">{{ t('inspector.remove') }}</button>
            </div>
            <div class="how">
                <NSelect class="type" size="tiny" :disabled="!editable" :aria-label="t('inspector.type')" :value="s.link.type"
                    :options="types" @update:value="(v: string) => change(s.link, { type: v })" />
                <NInput :key="`${s.link.uid}${s.link.lag}`" class="lag" size="tiny" :disabled="!editable"
                    :input-props="{ 'aria-label': t('inspector.lag') }" :default-value="lagText(s.link)" :title="counted(lagDay(s.link))"
                    @change="(v) => changeLag(s.link, v)" />
                <NSelect class="measure" size="tiny" :disabled="!editable || s.link.lag === 0" :aria-label="t('inspector.lagCalendar')"
                    :value="s.link.lagCalendar ?? ''" :options="lagCalendars"
                    @update:value="(v: string) => change(s.link, { lagCalendar: v === '' ? null : v })" />
                <span v-if="s.link.driving" class="faint">{{ t('inspector.driving') }}</span>
                <span v-else-if="s.link.float !== null" class="faint" data-test="link-float"
                    :title="counted(calendars.dayOf(s.link.from))">{{ t('inspector.floatOf', {
                    d: formatSpan(s.link.float, calendars.dayOf(s.link.from)) }) }}</span>
            </div>
            <span v-if="wrong[s.link.uid]" class="error" role="alert">{{ wrong[s.link.uid] }}</span>
            <details v-if="s.link.handover" class="handover" @toggle="toggle(s.link.uid, ($event.target as HTMLDetailsElement).open)">
                <summary><b>{{ t('handover.title') }}</b> <span :class="{ brick: bad(s.link) }">{{ standing(s.link) }}</span></summary>
                <div class="fields">
                    <TypedField :label="t('handover.agreed')" :value="showDate(model.handovers.get(s.link.uid)?.agreed)"
                        :placeholder="t('inspector.none')" :disabled="!editable || !group.into" :check="isDate"
                        @commit="(v) => change(s.link, { agreed: date(v, 'finish') })" />
                    <span />
                    <TypedField :label="t('handover.giverOwner')" :value="model.handovers.get(s.link.uid)?.giverOwner ?? ''"
                        :placeholder="t('inspector.none')" :disabled="!editable || !group.into"
                        @commit="(v) => change(s.link, { giverOwner: v.trim() || null })" />
                    <TypedField :label="t('handover.takerOwner')" :value="model.handovers.get(s.link.uid)?.takerOwner ?? ''"
                        :placeholder="t('inspector.none')" :disabled="!editable || !group.into"
                        @commit="(v) => change(s.link, { takerOwner: v.trim() || null })" />
                    <TypedField wide :label="t('handover.note')" :value="model.handovers.get(s.link.uid)?.note ?? ''"
                        :placeholder="t('inspector.none')" :disabled="!editable || !group.into"
                        @commit="(v) => change(s.link, { note: v.trim() || null })" />
                </div>
                <template v-if="!group.into">
                    <p class="faint">{{ t('handover.takerSays') }}</p>
                    <TypedField v-if="editable && board.draft === null && board.proposal === null" wide :label="t('handover.propose')"
                        value=""
                        :placeholder="t('handover.proposeHint')" :check="isDate" @commit="(v) => propose(s.link, v)" />
                    <p v-if="proposed === s.link.uid" role="status">{{ t('handover.proposed') }}</p>
                </template>
                <RemarksSection v-if="opened.has(s.link.uid) && takerOf(s.link)" kind="link" :uid="s.link.uid"
                    :project="takerOf(s.link)!.uid"
                    :name="`${t('handover.title')} ${s.label}`" :editable="editable && takerOf(s.link)!.mayPlan" :send="board.commit"
                    :version="board.version" />
                <PathsSection :row="row" :link="s.link.uid" @only="(uids, name) => emit('only', uids, name)" />
            </details>
        </div>
        <p v-if="group.list.length === 0" class="faint">{{ t('inspector.none') }}</p>
        <NSelect v-if="editable && group.into" size="small" filterable :input-props="{ 'aria-label': t('inspector.addLink') }" :value="null"
            :aria-label="t('inspector.addLink')" :placeholder="`${t('inspector.addLink')} – ${t('inspector.addHint')}`"
            :options="candidates" @update:value="add" />
    </section>
</template>

<style scoped>
.link { padding: 4px 0 6px; border-top: 1px solid var(--hairline); }
.far { display: flex; justify-content: space-between; gap: 8px; }
.how { display: flex; align-items: center; gap: 6px; margin-top: 3px; font-size: 12px; }
.type { width: 62px; flex: none; }
.lag { width: 62px; flex: none; }
.measure { width: 112px; }
.handover { margin-top: 4px; font-size: 13px; }
.handover .fields { margin-top: 4px; }
summary { cursor: pointer; }
p { margin: 4px 0; }
</style>
