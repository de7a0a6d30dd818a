<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { NButton, NCheckbox, NInput, NInputNumber, NPopconfirm, NSelect } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { ask, http, messageOf, type Ripple } from '@/api/client';
import { change, create, newUid, remove, update } from '@/api/operations';
import type { BoardCalendar } from '@/axis/workdays';
import { useKept } from '@/ui/kept';
import { useAttempt } from '@/ui/attempt';
import { rippleParts } from '@/words/rippleText';
import CalendarDays from './CalendarDays.vue';
import { type Fields, fieldsOf, useCalendarEdits } from './calendarEdits';
import CalendarWeek from './CalendarWeek.vue';
import CalendarYear from './CalendarYear.vue';
import { tableOf } from './holidays';
import OwnerField from './OwnerField.vue';
import { vWhy } from '@/ui/why';

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
    const below = (base: string | null, depth: number): { uid: string; key: string; name: string; retired: boolean;
        depth: number }[] => calendars.value
        .filter((c) => (c.base ?? null) === base).flatMap((c) => [{ uid: c.uid, key: c.key, name: c.name, retired: c.retired, depth },
            ...below(c.uid, depth + 1)]);
    return below(null, 0);
});

// what is typed stays until it is saved, also while one looks at another calendar
const edits = useCalendarEdits();
const now = computed<BoardCalendar | null>(() => here.value && edits.shown(here.value));
const all = computed(() => new Map(calendars.value.map((c) => [c.uid, edits.shown(c)])));
const set = (more: Partial<Fields>) => here.value && mayChange.value && edits.set(here.value, more);
/** days whose hours cannot be meant as they are typed */
const wrongDays = ref<ReadonlySet<string>>(new Set());
watch(() => here.value?.uid, () => (wrongDays.value = new Set()));
const tellWrong = (day: string, is: boolean) => (wrongDays.value = new Set(is ? [...wrongDays.value, day]
    : [...wrongDays.value].filter((d) => d !== day)));
const isChanged = computed(() => here.value !== null && edits.isChanged(here.value.uid));

// what it would do, asked for a moment after the last key
const ripple = ref<Ripple | null>(null);
const wrong = ref('');
let asked = 0;
watch(() => here.value && JSON.stringify([here.value.uid, edits.differing(here.value.uid)]), () => {
    ripple.value = null;
    wrong.value = '';
    const ticket = ++asked;
    if (!isChanged.value) return;
    setTimeout(() => {
        if (ticket !== asked) return;
        ask(http.POST('/changes', { body: { operations: [edits.operation(here.value!.uid)], dryRun: true } })).then((answer) => {
            if (ticket === asked) ripple.value = answer.ripple;
        }, (e: unknown) => {
            if (ticket === asked) wrong.value = messageOf(e);
        });
    }, 350);
});
const save = () => run(async () => {
    const { uid } = here.value!;
    const sent = edits.of(uid);
    await change([edits.operation(uid)], t('calendar.changed', { name: now.value!.name || now.value!.key }));
    await cache.invalidateQueries({ queryKey: ['calendars'] }); // as it is now stands there before what was typed goes
    edits.drop(uid, sent);
});
const cancel = () => {
    edits.drop(here.value!.uid);
    typing.value++; // also what could not be understood goes
    wrongDays.value = new Set();
};
const typing = ref(0);
const duplicate = () => run(async () => {
    const uid = newUid();
    const keys = new Set(calendars.value.map((c) => c.key));
    let n = 2;
    while (keys.has(`${here.value!.key}-${n}`)) n++;
    await change([create('calendar', uid, { ...fieldsOf(here.value!), key: `${here.value!.key}-${n}`,
        name: t('calendar.copyOf', { name: here.value!.name || here.value!.key }) })], t('edit.created', { name: here.value!.name }));
    choose(uid);
});
const table = computed(() => (now.value === null ? '' : `data:text/csv;charset=utf-8,${encodeURIComponent(tableOf(now.value))}`));
const key = useKept('calendar key', '');
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
const retire = (retired: boolean) => run(() => change([update('calendar', here.value!.uid, { retired }, { retired: !retired })],
    t(retired ? 'calendar.retired' : 'calendar.revived', { name: here.value!.name || here.value!.key })));
/** what takes the place of the one here */
const into = ref<string | null>(null);
watch(() => here.value?.uid, () => (into.value = null));
const merge = () => run(async () => {
    const [from, to] = [here.value!.uid, into.value!];
    await ask(http.POST('/compose/merge', { body: { kind: 'calendar', from, into: to, changeSet: newUid() } }));
    edits.drop(from);
    choose(to);
});
const destroy = () => run(async () => {
    const { uid, name } = here.value!;
    await change([remove('calendar', uid)], t('edit.deleted', { name }));
    edits.drop(uid);
});

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
                <b>{{ c.key }}</b> <bdi>{{ c.name }}</bdi><span v-if="c.retired"
                    class="faint"> · {{ t('calendar.isRetired') }}</span><span v-if="edits.isChanged(c.uid)" class="open"
                    :title="t('calendar.unsaved')"> ●</span>
            </button>
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
                <CalendarWeek :key="`${here.uid} ${typing}`" :calendar="now" :all="all" :disabled="!mayChange"
                    @save="(week) => set({ week })" @wrong="tellWrong" />
                <p v-if="wrongDays.size" class="error" role="alert">{{ t('calendar.badHours', { day: [...wrongDays].join(', ') }) }}</p>
                <CalendarYear :calendar="now" :all="all" />
            </div>
            <footer v-if="isChanged || wrongDays.size" class="foot">
                <span v-if="wrong" class="error" role="alert">{{ wrong }}</span>
                <span v-else-if="ripple" role="status"><span v-for="(p, i) in rippleParts(ripple, t)" :key="i" :class="p.tone">{{ i > 0
                    ? ' · '
                    : '' }}{{ p.text }}</span></span>
                <span v-else class="faint">{{ isChanged ? t('calendar.asking') : '' }}</span>
                <NButton v-why="wrong !== '' ? wrong : wrongDays.size > 0 ? t('calendar.badHours', { day: [...wrongDays].join(', ') })
                             : !isChanged && t('why.kept')" size="small" type="primary" :disabled="wrong !== '' || wrongDays.size > 0
                        || !isChanged"
                    @click="save">{{ t('calendar.save') }}</NButton>
                <NButton size="small" @click="cancel">{{ t('health.cancel') }}</NButton>
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
            <CalendarDays :key="`${here.uid} ${typing}`" :days="now.exceptions" :disabled="!mayChange"
                @save="(exceptions) => set({ exceptions })" @week="(week) => set({ week: { ...now!.week, ...week } })"
                @wrong="tellWrong" />
            <template v-if="mayChange">
                <a :href="table" :download="`${here.key}.csv`">{{ t('calendar.table') }}</a>
                <div class="field"><span class="label">{{ t('calendar.merge') }}</span><NSelect v-model:value="into" size="small" clearable
                    :placeholder="t('calendar.mergeInto')" :options="bases.slice(1)" :aria-label="t('calendar.merge')" /></div>
                <p v-if="into" class="faint">{{ t('calendar.mergeAbout', { name: here.name || here.key }) }}
                    <NButton size="small" @click="merge">{{ t('calendar.mergeNow') }}</NButton></p>
                <div class="last">
                    <NButton size="small" @click="retire(!here.retired)">{{ t(here.retired ? 'calendar.revive'
                        : 'calendar.retire') }}</NButton>
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
.foot { display: flex; align-items: center; gap: 12px; padding: 8px 16px; border-top: 2px solid var(--petrol);
    background: var(--selection); }
.foot > span { flex: 1; max-height: 104px; overflow-y: auto; }
.brick { color: var(--brick); font-weight: 600; }
.moss { color: var(--moss); }

.side { width: 340px; flex: none; overflow-y: auto; padding: 12px 16px; border-left: 1px solid var(--hairline); display: flex;
    flex-direction: column; gap: 8px; }
.side p, .side .last { display: flex; gap: 8px; margin-top: 8px; }
.empty { flex: 1; padding: 48px 16px; text-align: center; }
</style>
