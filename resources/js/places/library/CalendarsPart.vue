<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { NButton, NCheckbox, NInput, NInputNumber, NPopconfirm, NSelect } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { ask, http, messageOf, type Ripple } from '@/api/client';
import { change, create, newUid, remove, update } from '@/api/operations';
import type { BoardCalendar } from '@/axis/workdays';
import { useAttempt } from '@/ui/attempt';
import { rippleParts } from '@/words/rippleText';
import { type Exception, readDays, readPeriods, sums, weekdayOf, withDays, yearOf } from './calendar';
import OwnerField from './OwnerField.vue';
import WeekBar from './WeekBar.vue';

/** Calendars: the hours of a week, the days that differ, and what a change would do to dates before it is saved. */
const { t } = useI18n();
const route = useRoute();
const router = useRouter();
const cache = useQueryClient();
const list = useQuery({ queryKey: ['calendars'], queryFn: () => ask(http.GET('/calendars')) });
const { error, run } = useAttempt(() => Promise.all(['calendars', 'portfolio', 'owners']
    .map((key) => cache.invalidateQueries({ queryKey: [key] }))));
const calendars = computed(() => list.data.value?.calendars ?? []);
const here = computed(() => calendars.value.find((c) => c.uid === route.query.calendar) ?? calendars.value[0] ?? null);
const mayChange = computed(() => here.value?.mayChange ?? false);
const choose = (uid: string) => void router.replace({ query: { part: 'calendars', calendar: uid } });

/** bases first, what derives from them below */
const rows = computed(() => {
    const below = (base: string | null, depth: number): { uid: string; key: string; name: string; depth: number }[] => calendars.value
        .filter((c) => (c.base ?? null) === base).flatMap((c) => [{ uid: c.uid, key: c.key, name: c.name, depth },
            ...below(c.uid, depth + 1)]);
    return below(null, 0);
});

// what is typed stays here until it is saved
type Fields = Pick<BoardCalendar, 'key' | 'name' | 'base' | 'minutesPerDay' | 'week' | 'exceptions'>;
const edited = ref<Fields | null>(null);
const plain = (c: BoardCalendar): Fields => ({ key: c.key, name: c.name, base: c.base, minutesPerDay: c.minutesPerDay, week: { ...c.week },
    exceptions: c.exceptions.map((e) => ({ ...e })) });
watch(() => here.value?.uid, () => {
    edited.value = null;
    pasted.value = '';
});
const now = computed<BoardCalendar | null>(() => here.value && { ...here.value, ...(edited.value ?? {}) });
const all = computed(() => new Map(calendars.value.map((c) => [c.uid, c.uid === now.value?.uid ? now.value : c] as [string,
    BoardCalendar])));
const set = (more: Partial<Fields>) => {
    if (here.value && mayChange.value) edited.value = { ...(edited.value ?? plain(here.value)), ...more };
};
const differing = computed(() => {
    if (!here.value || !edited.value) return {};
    const was = plain(here.value);
    return Object.fromEntries((Object.keys(was) as (keyof Fields)[])
        .filter((f) => JSON.stringify(was[f]) !== JSON.stringify(edited.value![f])).map((f) => [f, edited.value![f]]));
});
const isChanged = computed(() => Object.keys(differing.value).length > 0);
const operation = () => {
    const was = plain(here.value!) as unknown as Record<string, unknown>;
    return update('calendar', here.value!.uid, differing.value, Object.fromEntries(Object.keys(differing.value).map((f) => [f, was[f]])));
};

// what it would do, asked for a moment after the last key
const ripple = ref<Ripple | null>(null);
const wrong = ref('');
let asked = 0;
watch(differing, () => {
    ripple.value = null;
    wrong.value = '';
    const ticket = ++asked;
    if (!isChanged.value) return;
    setTimeout(() => {
        if (ticket !== asked) return;
        ask(http.POST('/changes', { body: { operations: [operation()], dryRun: true } })).then((answer) => {
            if (ticket === asked) ripple.value = answer.ripple;
        }, (e: unknown) => {
            if (ticket === asked) wrong.value = messageOf(e);
        });
    }, 350);
}, { deep: true });
const save = () => run(async () => {
    const sent = edited.value;
    await change([operation()], t('calendar.changed', { name: now.value!.name || now.value!.key }));
    if (edited.value === sent) edited.value = null; // what was typed meanwhile stays
});
const duplicate = () => run(async () => {
    const uid = newUid();
    const keys = new Set(calendars.value.map((c) => c.key));
    let n = 2;
    while (keys.has(`${here.value!.key}-${n}`)) n++;
    await change([create('calendar', uid, { ...plain(here.value!), key: `${here.value!.key}-${n}`,
        name: t('calendar.copyOf', { name: here.value!.name || here.value!.key }) })], t('edit.created', { name: here.value!.name }));
    choose(uid);
});
const key = ref('');
const derived = ref(false);
const add = () => run(async () => {
    const uid = newUid();
    const hours = '08:00-12:00 13:00-17:00';
    await change([create('calendar', uid, { key: key.value.trim(), name: key.value.trim(), ...(derived.value && here.value
        ? { base: here.value.uid, week: {} } : { minutesPerDay: 480,
            week: Object.fromEntries([1, 2, 3, 4, 5].map((d) => [d, hours])) }) })],
    t('edit.created', { name: key.value.trim() }));
    key.value = '';
    choose(uid);
});
const destroy = () => run(() => change([remove('calendar', here.value!.uid)], t('edit.deleted', { name: here.value!.name })));

const weekdays = [1, 2, 3, 4, 5, 6, 7];
const dayName = (day: number) => t(`calendar.days.${day}`);
const bad = ref<number | null>(null);
function typeDay(day: number, text: string): void {
    const periods = readPeriods(text);
    bad.value = periods === null ? day : null;
    if (periods !== null) set({ week: { ...now.value!.week, [day]: periods } });
}
/** What says the hours of a weekday, where this calendar does not. */
const inheritedFrom = (day: number) => now.value?.base && now.value.week[String(day)] === undefined
    ? t('calendar.inherited', { key: weekdayOf(now.value, all.value, day).from?.key ?? '–' }) : '';
const inherit = (day: number) => {
    const week = { ...now.value!.week };
    delete week[String(day)];
    set({ week });
};
const year = ref(new Date().getUTCFullYear());
const months = computed(() => now.value ? yearOf(now.value, all.value, year.value) : []);
const figures = computed(() => now.value ? sums(now.value, all.value, year.value) : null);
const hours = (minutes: number) => t('calendar.hours', { n: Math.round(minutes / 6) / 10 });

const pasted = ref('');
const understood = computed(() => readDays(pasted.value));
const take = () => {
    set({ exceptions: withDays(now.value!.exceptions, understood.value.days) });
    pasted.value = understood.value.wrong.join('\n');
};
const without = (date: string) => set({ exceptions: now.value!.exceptions.filter((e) => e.date !== date) });
const exception = (date: string, more: Partial<Exception>) => set({ exceptions: now.value!.exceptions
    .map((e) => (e.date === date ? { ...e, ...more } : e)) });
const bases = computed(() => {
    const under = (uid: string): string[] => [uid, ...calendars.value.filter((c) => c.base === uid).flatMap((c) => under(c.uid))];
    const own = here.value ? under(here.value.uid) : [];
    return [{ label: t('calendar.noBase'), value: '' }, ...calendars.value.filter((c) => !own.includes(c.uid))
        .map((c) => ({ label: `${c.key} ${c.name}`, value: c.uid }))];
});
const usedBy = computed(() => here.value ? [...here.value.projects, ...(here.value.beyond ? [t('calendar.beyond')] : [])] : []);
const derives = computed(() => calendars.value.filter((c) => c.base === here.value?.uid).map((c) => c.key));
</script>

<template>
    <div v-if="list.data.value" class="part">
        <nav class="list" :aria-label="t('library.part.calendars')">
            <button v-for="c in rows" :key="c.uid" class="item" :class="{ here: c.uid === here?.uid }" :title="c.name"
                :style="{ paddingLeft: `${8 + 14 * c.depth}px` }" :aria-current="c.uid === here?.uid" @click="choose(c.uid)">
                <b>{{ c.key }}</b> <bdi>{{ c.name }}</bdi></button>
            <form v-if="list.data.value.mayAdd" class="new" @submit.prevent="add">
                <NInput v-model:value="key" size="small" :placeholder="t('calendar.newKey')"
                    :input-props="{ 'aria-label': t('calendar.newKey') }" />
                <NCheckbox v-if="here" v-model:checked="derived" size="small">{{ t('calendar.derive', { key: here.key }) }}</NCheckbox>
                <NButton size="small" attr-type="submit" :disabled="key.trim() === ''"
                    :title="key.trim() === '' ? t('calendar.newAbout') : undefined">{{ t('calendar.add') }}</NButton>
            </form>
        </nav>
        <div v-if="here && now" class="middle">
            <div class="scroll">
                <p v-if="error" class="error" role="alert">{{ error }}</p>
                <h2>{{ t('calendar.week') }}</h2>
                <div class="week">
                    <div v-for="d in weekdays" :key="d" class="row">
                        <span class="day">{{ dayName(d) }}</span>
                        <WeekBar :periods="weekdayOf(now, all, d).periods" :inherited="now.week[String(d)] === undefined"
                            :disabled="!mayChange" @draw="(p) => typeDay(d, p)" />
                        <NInput :key="weekdayOf(now, all, d).periods" :default-value="weekdayOf(now, all, d).periods" size="small"
                            :disabled="!mayChange" :placeholder="t('calendar.off')" :status="bad === d ? 'error' : undefined"
                            :input-props="{ 'aria-label': t('calendar.hoursOf', { day: dayName(d) }) }"
                            @change="(v: string) => typeDay(d, v)" />
                        <span class="faint from">
                            <button v-if="now.base && now.week[String(d)] !== undefined && mayChange" class="verb" @click="inherit(d)">{{
                                t('calendar.inherit') }}</button>
                            <template v-else>{{ inheritedFrom(d) }}</template>
                        </span>
                    </div>
                </div>
                <p v-if="bad !== null" class="error" role="alert">{{ t('calendar.badHours', { day: dayName(bad) }) }}</p>
                <div class="heading"><h2>{{ t('calendar.year', { year }) }}</h2>
                    <button class="verb" @click="year--">{{ t('calendar.before') }}</button>
                    <button class="verb" @click="year++">{{ t('calendar.after') }}</button>
                    <span v-if="figures" class="faint">{{ t('calendar.sums', { week: hours(figures.week), month: hours(figures.month),
                                                                               year: hours(figures.year) }) }}</span></div>
                <table class="year">
                    <tbody>
                        <tr v-for="(days, m) in months" :key="m">
                            <th scope="row">{{ t(`calendar.months.${m + 1}`) }}</th>
                            <td v-for="d in days" :key="d.day" :class="{ works: d.works, special: d.special !== null }"
                                :title="d.special ?? undefined">{{ d.day }}</td>
                        </tr>
                    </tbody>
                </table>
                <p class="faint key"><span class="sample works">1</span> {{ t('calendar.legend.works') }} <span class="sample">1</span>
                    {{ t('calendar.legend.off') }} <span class="sample special">1</span> {{ t('calendar.legend.special') }}</p>
            </div>
            <footer v-if="isChanged" class="foot">
                <span v-if="wrong" class="error" role="alert">{{ wrong }}</span>
                <span v-else-if="ripple" role="status"><span v-for="(p, i) in rippleParts(ripple, t)" :key="i" :class="p.tone">{{ i > 0
                    ? ' · '
                    : '' }}{{ p.text }}</span></span>
                <span v-else class="faint">{{ t('calendar.asking') }}</span>
                <NButton size="small" type="primary" :disabled="wrong !== ''" @click="save">{{ t('calendar.save') }}</NButton>
                <NButton size="small" @click="edited = null">{{ t('health.cancel') }}</NButton>
            </footer>
        </div>
        <p v-else class="faint empty">{{ t('calendar.empty') }}</p>
        <aside v-if="here && now" class="side" :aria-label="here.name || here.key">
            <h2><bdi>{{ here.name || here.key }}</bdi></h2>
            <div class="field"><span class="label">{{ t('library.name') }}</span><NInput :value="now.name" size="small" placeholder=""
                :disabled="!mayChange" :input-props="{ 'aria-label': t('library.name') }" @update:value="(v) => set({ name: v })" /></div>
            <div class="field"><span class="label">{{ t('calendar.key') }}</span><NInput :value="now.key" size="small" placeholder=""
                :disabled="!mayChange" :input-props="{ 'aria-label': t('calendar.key') }" @update:value="(v) => set({ key: v })" /></div>
            <div class="field"><span class="label">{{ t('calendar.base') }}</span><NSelect :value="now.base ?? ''" size="small"
                :options="bases" :disabled="!mayChange" :aria-label="t('calendar.base')"
                @update:value="(v: string) => set({ base: v === '' ? null : v })" /></div>
            <div class="field"><span class="label">{{ t('calendar.perDay') }}</span><NInputNumber :value="now.minutesPerDay" size="small"
                :show-button="false" :min="1" :max="1440" :placeholder="t('calendar.perDayInherited')" :disabled="!mayChange"
                :input-props="{ 'aria-label': t('calendar.perDay') }" @update:value="(v) => set({ minutesPerDay: v })" /></div>
            <OwnerField kind="calendar" :uid="here.uid" />
            <p class="faint">{{ usedBy.length === 0 ? t('calendar.unused') : t('calendar.usedBy', { list: usedBy.join(', ') }) }}
                {{ derives.length ? t('calendar.derives', { list: derives.join(', ') }) : '' }}</p>
            <h3>{{ t('calendar.exceptions') }}</h3>
            <table v-if="now.exceptions.length" class="days">
                <tbody>
                    <tr v-for="e in now.exceptions" :key="e.date">
                        <td>{{ e.date.length === 5 ? t('calendar.yearly', { date: e.date }) : e.date }}</td>
                        <td><NInput :key="e.periods" :default-value="e.periods" size="tiny" :placeholder="t('calendar.off')"
                            :disabled="!mayChange" :input-props="{ 'aria-label': t('calendar.hoursOf', { day: e.date }) }"
                            @change="(v: string) => readPeriods(v) !== null && exception(e.date, { periods: readPeriods(v)! })" /></td>
                        <td><NInput :default-value="e.name" size="tiny" placeholder="" :disabled="!mayChange"
                            :input-props="{ 'aria-label': t('calendar.nameOf', { day: e.date }) }"
                            @change="(v: string) => exception(e.date, { name: v.trim() })" /></td>
                        <td><button v-if="mayChange" class="verb" :aria-label="t('calendar.without', { day: e.date })"
                            @click="without(e.date)">×</button></td>
                    </tr>
                </tbody>
            </table>
            <p v-else class="faint">{{ t('calendar.noExceptions') }}</p>
            <template v-if="mayChange">
                <NInput v-model:value="pasted" type="textarea" size="small" :rows="3" :placeholder="t('calendar.pasteHint')"
                    :input-props="{ 'aria-label': t('calendar.paste') }" />
                <p v-if="understood.wrong.length" class="error">{{ t('calendar.wrongLines', { line: understood.wrong[0] }) }}</p>
                <NButton size="small" :disabled="understood.days.length === 0"
                    :title="understood.days.length === 0 ? t('calendar.pasteHint') : undefined"
                    @click="take">{{ t('calendar.take', { n: understood.days.length }, understood.days.length) }}</NButton>
                <div class="last">
                    <NButton v-if="list.data.value.mayAdd" size="small" @click="duplicate">{{ t('calendar.copy') }}</NButton>
                    <NPopconfirm :positive-text="t('portfolio.delete.now')" :negative-text="t('health.cancel')" @positive-click="destroy">
                        <template #trigger><NButton size="small">{{ t('inspector.delete') }}</NButton></template>
                        {{ t('calendar.deleteAbout', { name: here.name || here.key }) }}
                    </NPopconfirm>
                </div>
            </template>
        </aside>
    </div>
</template>

<style scoped>
.part { flex: 1; min-height: 0; display: flex; }
.list { width: 220px; flex: none; padding: 12px; border-right: 1px solid var(--hairline); display: flex; flex-direction: column; gap: 2px;
    overflow-y: auto; }
.item { border: 0; background: none; font: inherit; color: inherit; padding: 4px 8px; border-radius: 4px; cursor: pointer; text-align: left;
    flex: none; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.item.here { background: var(--selection); }
.new { display: flex; flex-direction: column; gap: 6px; margin-top: 12px; }
.middle { flex: 1; min-width: 0; display: flex; flex-direction: column; }
.scroll { flex: 1; overflow: auto; padding: 12px 16px; }
h2 { font-size: 15px; margin: 0 0 8px; }
h3 { font-size: 14px; margin: 14px 0 6px; }
.week { display: grid; grid-template-columns: 90px minmax(160px, 1fr) 210px 110px; gap: 4px 10px; align-items: center; max-width: 860px; }
.row { display: contents; }
.from { font-size: 13px; }
.heading { display: flex; align-items: baseline; gap: 14px; margin-top: 22px; flex-wrap: wrap; }
.year { border-collapse: separate; border-spacing: 1px; font-size: 11px; }
.year th { text-align: left; font-weight: 600; padding-right: 10px; color: var(--faint); }
.year td, .sample { min-width: 15px; height: 17px; text-align: center; color: var(--faint); border-radius: 2px; background: var(--veil);
    box-sizing: border-box; padding: 0; }
.year td.works, .sample.works { background: var(--selection); color: var(--ink); }
.year td.special, .sample.special { box-shadow: inset 0 -3px 0 var(--marigold); }
.sample { display: inline-block; margin-left: 10px; font-size: 11px; }
.sample:first-child { margin-left: 0; }
.key { font-size: 13px; }
.foot { display: flex; align-items: center; gap: 12px; padding: 8px 16px; border-top: 2px solid var(--petrol);
    background: var(--selection); }
.foot > span { flex: 1; max-height: 104px; overflow-y: auto; }
.brick { color: var(--brick); font-weight: 600; }
.moss { color: var(--moss); }
.days { border-collapse: collapse; width: 100%; font-size: 13px; margin-bottom: 8px; }
.days td { padding: 2px 4px 2px 0; }
.days td:first-child { white-space: nowrap; }

.side { width: 340px; flex: none; overflow-y: auto; padding: 12px 16px; border-left: 1px solid var(--hairline); display: flex;
    flex-direction: column; gap: 8px; }
.side p, .side h3 { margin: 4px 0 0; }
.last { display: flex; gap: 8px; margin-top: 8px; }
.empty { flex: 1; padding: 48px 16px; text-align: center; }
</style>
