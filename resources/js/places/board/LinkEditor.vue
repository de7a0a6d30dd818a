<script setup lang="ts">
import { NInput, NSelect } from 'naive-ui';
import { computed, nextTick, onMounted, ref, useTemplateRef, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { leaves } from '@/ui/escape';
import { update } from '@/api/operations';
import { dayLength, formatDuration, formatSpan, parseLag } from '@/time/duration';
import { Calendars } from './model';
import { useBoard } from './store';

/** A link where it was clicked: type, lag, by which calendar, its float, and both its ends to jump to. */
const props = defineProps<{ uid: string; x: number; y: number; width: number; height: number; editable: (project: string) => boolean }>();
const emit = defineEmits<{ close: []; go: [uid: string] }>();
const { t } = useI18n();
const board = useBoard();
const box = useTemplateRef<HTMLElement>('box');
const link = computed(() => board.model?.links.get(props.uid) ?? null);
const end = (uid: string | null) => {
    const a = uid === null ? undefined : board.model?.activities.get(uid) ?? board.model?.far.get(uid);
    return a ? { uid: a.uid, code: a.code, name: a.name, here: board.model!.activities.has(a.uid) } : null;
};
const ends = computed(() => (link.value ? [{ word: t('inspector.predecessors'), end: end(link.value.from) },
    { word: t('inspector.successors'), end: end(link.value.to) }] : []));
const days = computed(() => new Calendars(board.model!));
/** minutes of a day of the calendar that measures the lag, and of that of the predecessor, which counts the float */
const lagDay = computed(() => (link.value && days.value.lagDay(link.value)) ?? 480);
const floatDay = computed(() => days.value.dayOf(link.value?.from));
const counted = (day: number | null) => (day === null ? t('span.hours') : t('span.days', { day: dayLength(day) }));
const mayEdit = computed(() => {
    const to = link.value?.to ? board.model?.activities.get(link.value.to) : undefined;
    return board.proposal === null && to !== undefined && props.editable(to.project);
});
const lag = ref('');
const wrong = ref('');
watch(link, (l) => l ? (lag.value = formatDuration(l.lag, lagDay.value)) : emit('close'), { immediate: true });
const types = ['FS', 'SS', 'FF', 'SF'].map((value) => ({ label: value, value }));
const calendars = computed(() => [{ label: t('inspector.lagDefault'), value: '' },
    ...['successor', 'predecessor', 'project', 'elapsed'].map((value) => ({ label: t(`inspector.lags.${value}`), value }))]);
const change = (after: Record<string, unknown>) => board.commit([update('link', props.uid, after)], t('edit.linkChanged'));
function saveLag(): void {
    const minutes = parseLag(lag.value, lagDay.value);
    wrong.value = minutes === null ? t('board.needDuration', { text: lag.value }) : '';
    if (minutes !== null && minutes !== link.value?.lag) void change({ lag: minutes });
}
async function drop(): Promise<void> {
    if (await board.commit([{ verb: 'delete', kind: 'link', uid: props.uid }], t('edit.linkRemoved'))) emit('close');
}
const place = computed(() => ({ left: `${Math.max(4, Math.min(props.x + 10, props.width - 316))}px`,
    top: `${Math.max(4, Math.min(props.y + 10, props.height - 236))}px` }));
onMounted(() => void nextTick(() => box.value?.focus()));
</script>

<template>
    <div v-if="link" ref="box" class="link-editor" role="dialog" tabindex="-1" :aria-label="t('board.link')"
        :style="place" @pointerdown.stop
        @keydown.stop @keydown.esc="leaves($event) && emit('close')">
        <div v-for="{ word, end: e } in ends" :key="word" class="end">
            <span class="faint">{{ word }}</span>
            <button v-if="e?.here" class="verb plain" @click="emit('go', e.uid)">{{ e.code }} {{ e.name }}</button>
            <span v-else>{{ e ? `${e.code} ${e.name}` : t('inspector.elsewhere') }}</span>
        </div>
        <div class="row">
            <NSelect size="small" :value="link.type" :options="types" :disabled="!mayEdit" :aria-label="t('inspector.type')"
                @update:value="(type: string) => change({ type })" />
            <NInput v-model:value="lag" size="small" :disabled="!mayEdit" :input-props="{ 'aria-label': t('inspector.lag') }"
                :title="counted(lagDay)" @change="saveLag" />
        </div>
        <NSelect size="small" :value="link.lagCalendar ?? ''" :options="calendars" :disabled="!mayEdit"
            :aria-label="t('inspector.lagCalendar')"
            @update:value="(v: string) => change({ lagCalendar: v || null })" />
        <span v-if="wrong" class="error" role="alert">{{ wrong }}</span>
        <div class="foot">
            <span class="faint" :title="counted(floatDay)" data-test="link-float">{{ [link.float === null ? ''
                                                                                          : t('inspector.floatOf',
                                                                                              { d: formatSpan(link.float, floatDay) }),
                                                                                      link.driving ? t('inspector.driving')
                                                                                      : ''].filter(Boolean).join(' · ') }}</span>
            <button v-if="mayEdit" class="verb" @click="drop">{{ t('inspector.remove') }}</button>
            <button class="verb" @click="emit('close')">{{ t('app.close') }}</button>
        </div>
    </div>
</template>

<style scoped>
.link-editor { position: absolute; z-index: 6; width: 310px; padding: 10px 12px; background: var(--raised); border: 1px solid var(--petrol);
    border-radius: 4px; box-shadow: 0 4px 18px rgba(0, 0, 0, 0.18); display: flex; flex-direction: column; gap: 8px; outline: none; }
.end { display: grid; grid-template-columns: 92px 1fr; gap: 6px; overflow-wrap: anywhere; }
.plain { text-align: left; font-weight: 400; }
.row { display: grid; grid-template-columns: 84px 1fr; gap: 8px; }
.foot { display: flex; gap: 12px; align-items: baseline; }
.foot > :first-child { flex: 1; }
</style>
