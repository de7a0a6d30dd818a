<script setup lang="ts">
import { NCheckbox, NInput, NSelect } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { api, type Reasons } from '@/api/client';
import { formatDuration, parseDuration, parseLag } from '@/time/duration';
import { formatMoment, type Instant, parseDate, toIso } from '@/time/instant';
import { nameOf, perDayOf } from './columns';
import { Calendars, type Activity, type Link, type Row } from './model';
import { createLink, holdStart, update } from './operations';
import { useBoard } from './store';

/** Everything about the selected row, and why it lies where it lies. */
const props = defineProps<{ row: Row; editable: boolean }>();
const emit = defineEmits<{ go: [uid: string]; remove: [] }>();
const { t } = useI18n();
const board = useBoard();
const model = computed(() => board.model!);
const calendars = computed(() => new Calendars(model.value));
const a = computed(() => (props.row.kind === 'activity' ? props.row.activity : null));
const perDay = computed(() => perDayOf(calendars.value, props.row));
const rolled = computed(() => (props.row.kind === 'project' ? props.row.project : props.row.kind === 'wbs' ? props.row.wbs : null));

const reasons = ref<Reasons | null>(null);
watch(() => [a.value?.uid, board.version] as const, async ([uid]) => {
    if (!uid) return void (reasons.value = null);
    const answer = await api.get<Reasons>(`activities/${uid}/reasons`).catch(() => null);
    if (a.value?.uid === uid) reasons.value = answer;
}, { immediate: true });

const moment = (at: Instant | null | undefined) => (at == null ? '–' : formatMoment(at));
const span = (minutes: number | null | undefined) => (minutes == null ? '–' : formatDuration(minutes, perDay.value));

function reasonText(r: Reasons['reasons'][number]): string {
    if (r.kind !== 'link' || !r.link) return t(`reason.${r.kind}`, { date: formatMoment(r.moment) });
    if (r.link.label === null) return t('reason.linkHidden', { type: r.link.type });
    const values = { label: r.link.label, name: r.link.name, type: r.link.type, lag: formatDuration(r.link.lag, perDay.value) };
    return t(r.link.lag === 0 ? 'reason.link' : 'reason.linkLag', values);
}

/** Text being typed, by field, until it is understood and sent. */
const typed = ref<Record<string, string>>({});
const wrong = ref<Record<string, string>>({});
watch(() => [props.row.id, board.version], () => ((typed.value = {}), (wrong.value = {})));

async function send(field: string, after: Record<string, unknown>): Promise<void> {
    const kind = props.row.kind;
    const ok = await board.commit([update(kind, props.row.id, after)], t('edit.field', { name: nameOf(props.row), field }));
    if (ok) delete typed.value[field];
}

async function sendDate(field: 'deadline' | 'hold', text: string): Promise<void> {
    const at = text.trim() === '' ? null : parseDate(text, field === 'deadline' ? 1020 : 480);
    if (text.trim() !== '' && at === null) return void (wrong.value[field] = t('board.needDate', { text }));
    delete wrong.value[field];
    if (field === 'hold') await board.commit([holdStart(a.value!, at)], at === null ? t('edit.release', { name: a.value!.name }) : t('edit.move', { name: a.value!.name, date: formatMoment(at) }));
    else await send(field, { deadline: at === null ? null : toIso(at) });
}

async function sendDuration(text: string): Promise<void> {
    const parsed = parseDuration(text, perDay.value);
    if (!parsed) return void (wrong.value.duration = t('board.needDuration', { text }));
    delete wrong.value.duration;
    await send('duration', { duration: parsed.minutes, estimate: parsed.estimate || a.value!.estimate === 1 });
}

const hold = computed(() => {
    const x = a.value;
    if (!x) return null;
    return x.constraint1Kind === 'start-no-earlier' ? x.constraint1Date : x.constraint2Kind === 'start-no-earlier' ? x.constraint2Date : null;
});
const deadlineOf = computed(() => (a.value ? a.value.deadline : rolled.value?.deadline) ?? null);

interface Side { link: Link; uid: string | null; label: string; name: string }
function side(link: Link, uid: string | null): Side {
    const near = uid === null ? undefined : model.value.activities.get(uid);
    if (near) return { link, uid, label: near.code, name: near.name };
    const far = uid === null ? undefined : model.value.far.get(uid);
    return { link, uid: null, label: far ? far.code : '…', name: far ? far.name : t('inspector.elsewhere') };
}
const predecessors = computed(() => [...model.value.links.values()].filter((l) => l.to === a.value?.uid).map((l) => side(l, l.from)));
const successors = computed(() => [...model.value.links.values()].filter((l) => l.from === a.value?.uid).map((l) => side(l, l.to)));
const types = ['FS', 'SS', 'FF', 'SF'].map((value) => ({ label: value, value }));
const lagCalendars = computed(() => [{ label: t('inspector.lagDefault'), value: '' }, ...['successor', 'predecessor', 'project', 'elapsed'].map((value) => ({ label: t(`inspector.lags.${value}`), value }))]);
const kinds = computed(() => (['task', 'start-milestone', 'finish-milestone'] as const).map((value) => ({ label: t(`inspector.kinds.${value}`), value })));
const calendarChoices = computed(() => {
    const own = model.value.calendars.get(props.row.project.calendar);
    return [{ label: t('inspector.projectCalendar', { key: own?.key ?? '' }), value: '' }, ...[...model.value.calendars.values()].map((c) => ({ label: c.name || c.key, value: c.uid }))];
});

function changeLink(link: Link, after: Record<string, unknown>): Promise<boolean> {
    return board.commit([update('link', link.uid, after)], t('edit.linkChanged'));
}
async function changeLag(link: Link, text: string): Promise<void> {
    const lag = parseLag(text, perDay.value);
    if (lag === null) return void (wrong.value[link.uid] = t('board.needDuration', { text }));
    delete wrong.value[link.uid];
    if (lag !== link.lag) await changeLink(link, { lag });
}
function dropLink(link: Link): Promise<boolean> {
    return board.commit([{ verb: 'delete', kind: 'link', uid: link.uid }], t('edit.linkRemoved'));
}

const candidates = computed(() => [...model.value.activities.values()].filter((x) => x.uid !== a.value?.uid).map((x) => ({ label: `${x.code}  ${x.name}`, value: x.uid })));
function addPredecessor(uid: string): Promise<boolean> {
    const from = model.value.activities.get(uid)!;
    return board.commit([createLink(uid, a.value!.uid)], t('edit.linkOne', { from: from.name, to: a.value!.name, type: 'FS' }));
}
function setKind(kind: Activity['kind']): Promise<void> {
    return send('kind', { kind, duration: kind === 'task' ? perDay.value : 0 });
}
</script>

<template>
    <template v-if="a">
        <section class="why" data-test="why">
            <h3>{{ t('inspector.why') }}</h3>
            <div class="moment tabular">{{ moment(a.start) }}</div>
            <ul v-if="reasons">
                <li v-for="(r, i) in reasons.reasons" :key="i">
                    <button v-if="r.link?.from && model.activities.has(r.link.from)" class="verb plain" @click="emit('go', r.link.from)">{{ reasonText(r) }}</button>
                    <template v-else>{{ reasonText(r) }}</template>
                </li>
                <li v-if="reasons.waiting > 0" class="faint">{{ t('reason.waiting', { time: formatDuration(reasons.waiting, 1440) }) }}</li>
            </ul>
        </section>
        <section class="pairs tabular">
            <span>{{ t('inspector.early') }}</span><span>{{ moment(a.start) }}<br>{{ moment(a.finish) }}</span>
            <span>{{ t('inspector.late') }}</span><span>{{ moment(a.lateStart) }}<br>{{ moment(a.lateFinish) }}</span>
            <span>{{ t('inspector.total') }}</span><span :class="{ brick: (a.totalFloat ?? 0) < 0 }">{{ span(a.totalFloat) }} <b v-if="a.critical">· {{ t('inspector.critical') }}</b><b v-else-if="a.nearCritical">· {{ t('inspector.nearCritical') }}</b></span>
            <span>{{ t('inspector.free') }}</span><span>{{ span(a.freeFloat) }}</span>
            <template v-if="a.actualStart !== null"><span>{{ t('inspector.actual') }}</span><span>{{ moment(a.actualStart) }}<br>{{ moment(a.actualFinish) }}</span></template>
        </section>
        <section class="fields">
            <div class="field wide"><label for="i-name">{{ t('inspector.name') }}</label><NInput size="small" :disabled="!editable" :input-props="{ id: 'i-name' }" :value="typed.name ?? a.name" @update:value="(v) => (typed.name = v)" @change="(v) => send('name', { name: v })" /></div>
            <div class="field"><label for="i-code">{{ t('inspector.code') }}</label><NInput size="small" :disabled="!editable" :input-props="{ id: 'i-code' }" :value="typed.code ?? a.code" @update:value="(v) => (typed.code = v)" @change="(v) => send('code', { code: v })" /></div>
            <div class="field"><span class="label">{{ t('inspector.kind') }}</span><NSelect size="small" :disabled="!editable || a.kind === 'hammock'" :aria-label="t('inspector.kind')" :value="a.kind" :options="kinds" @update:value="setKind" /></div>
            <div v-if="a.kind === 'task'" class="field">
                <label for="i-duration">{{ t('inspector.duration') }}</label>
                <NInput size="small" :disabled="!editable" :input-props="{ id: 'i-duration' }" :value="typed.duration ?? formatDuration(a.duration, perDay)" @update:value="(v) => (typed.duration = v)" @change="sendDuration" />
                <span v-if="wrong.duration" class="error">{{ wrong.duration }}</span>
            </div>
            <div v-if="a.kind === 'task'" class="field check"><NCheckbox :disabled="!editable" :checked="a.estimate === 1" @update:checked="(v: boolean) => send('estimate', { estimate: v })">{{ t('inspector.estimate') }}</NCheckbox></div>
            <div class="field wide"><span class="label">{{ t('inspector.calendar') }}</span><NSelect size="small" :disabled="!editable" :aria-label="t('inspector.calendar')" :value="a.calendar ?? ''" :options="calendarChoices" @update:value="(v: string) => send('calendar', { calendar: v === '' ? null : v })" /></div>
            <div class="field"><label for="i-hold">{{ t('inspector.hold') }}</label><NInput size="small" :disabled="!editable || a.actualStart !== null" :placeholder="t('inspector.none')" :input-props="{ id: 'i-hold' }" :value="typed.hold ?? (hold === null ? '' : toIso(hold).replace('T', ' '))" @update:value="(v) => (typed.hold = v)" @change="(v) => sendDate('hold', v)" /><span v-if="wrong.hold" class="error">{{ wrong.hold }}</span></div>
            <div class="field"><label for="i-deadline">{{ t('inspector.deadline') }}</label><NInput size="small" :disabled="!editable" :placeholder="t('inspector.none')" :input-props="{ id: 'i-deadline' }" :value="typed.deadline ?? (deadlineOf === null ? '' : toIso(deadlineOf).replace('T', ' '))" @update:value="(v) => (typed.deadline = v)" @change="(v) => sendDate('deadline', v)" /><span v-if="wrong.deadline" class="error">{{ wrong.deadline }}</span></div>
        </section>
        <section v-for="group in [{ title: t('inspector.predecessors'), list: predecessors }, { title: t('inspector.successors'), list: successors }]" :key="group.title">
            <h3>{{ group.title }}</h3>
            <div v-for="s in group.list" :key="s.link.uid" class="link">
                <div class="far">
                    <button v-if="s.uid" class="verb plain" @click="emit('go', s.uid)">{{ s.label }} {{ s.name }}</button><span v-else>{{ s.label }} {{ s.name }}</span>
                    <button class="verb" :disabled="!editable" @click="dropLink(s.link)">{{ t('inspector.remove') }}</button>
                </div>
                <div class="how">
                    <NSelect class="type" size="tiny" :disabled="!editable" :aria-label="t('inspector.type')" :value="s.link.type" :options="types" @update:value="(v: string) => changeLink(s.link, { type: v })" />
                    <NInput :key="`${s.link.uid}${s.link.lag}`" class="lag" size="tiny" :disabled="!editable" :input-props="{ 'aria-label': t('inspector.lag') }" :default-value="formatDuration(s.link.lag, perDay)" @change="(v) => changeLag(s.link, v)" />
                    <NSelect class="measure" size="tiny" :disabled="!editable || s.link.lag === 0" :aria-label="t('inspector.lagCalendar')" :value="s.link.lagCalendar ?? ''" :options="lagCalendars" @update:value="(v: string) => changeLink(s.link, { lagCalendar: v === '' ? null : v })" />
                    <span class="faint">{{ s.link.driving ? t('inspector.driving') : s.link.float === null ? '' : t('inspector.floatOf', { d: span(s.link.float) }) }}</span>
                </div>
                <span v-if="wrong[s.link.uid]" class="error">{{ wrong[s.link.uid] }}</span>
            </div>
            <p v-if="group.list.length === 0" class="faint">{{ t('inspector.none') }}</p>
            <NSelect v-if="editable && group.title === t('inspector.predecessors')" size="small" filterable :input-props="{ 'aria-label': t('inspector.addLink') }" :value="null" :aria-label="t('inspector.addLink')" :placeholder="`${t('inspector.addLink')} – ${t('inspector.addHint')}`" :options="candidates" @update:value="addPredecessor" />
        </section>
    </template>
    <template v-else-if="rolled">
        <section class="pairs tabular">
            <span>{{ t('inspector.from') }}</span><span>{{ moment(rolled.start) }}</span>
            <span>{{ t('inspector.to') }}</span><span>{{ moment(rolled.finish) }}</span>
            <span>{{ t('inspector.total') }}</span><span :class="{ brick: (rolled.totalFloat ?? 0) < 0 }">{{ span(rolled.totalFloat) }}</span>
        </section>
        <p class="faint">{{ t('inspector.wbsNote') }}</p>
        <section class="fields">
            <div class="field wide"><label for="i-name">{{ t('inspector.name') }}</label><NInput size="small" :disabled="!editable" :input-props="{ id: 'i-name' }" :value="typed.name ?? rolled.name" @update:value="(v) => (typed.name = v)" @change="(v) => send('name', { name: v })" /></div>
            <div class="field"><label for="i-deadline">{{ t('inspector.deadline') }}</label><NInput size="small" :disabled="!editable" :placeholder="t('inspector.none')" :input-props="{ id: 'i-deadline' }" :value="typed.deadline ?? (deadlineOf === null ? '' : toIso(deadlineOf).replace('T', ' '))" @update:value="(v) => (typed.deadline = v)" @change="(v) => sendDate('deadline', v)" /><span v-if="wrong.deadline" class="error">{{ wrong.deadline }}</span></div>
        </section>
    </template>
    <section v-if="editable && row.kind !== 'project'"><button class="verb" @click="emit('remove')">{{ t('inspector.delete') }}</button></section>
</template>

<style scoped>
.why { border-left: 3px solid var(--petrol); padding-left: 10px; }
.moment { font-size: 16px; font-weight: 600; }
ul { margin: 2px 0 0; padding-left: 16px; }
.verb.plain { font-weight: 400; text-align: left; }
.pairs { display: grid; grid-template-columns: 90px 1fr; gap: 4px 8px; }
.pairs > span:nth-child(odd) { color: var(--faint); }
.fields { display: grid; grid-template-columns: 1fr 1fr; gap: 8px 10px; }
.wide { grid-column: 1 / -1; }
.check { justify-content: end; padding-bottom: 4px; }
.link { padding: 4px 0 6px; border-top: 1px solid var(--hairline); }
.far { display: flex; justify-content: space-between; gap: 8px; }
.how { display: flex; align-items: center; gap: 6px; margin-top: 3px; font-size: 12px; }
.type { width: 62px; flex: none; }
.lag { width: 62px; flex: none; }
.measure { width: 112px; }
.brick { color: var(--brick); }
p { margin: 4px 0; }
section > h3 { margin-bottom: 2px; }
</style>
