<script setup lang="ts">
import { NButton, NInput } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, type ChangeAnswer, http, messageOf, type Ripple } from '@/api/client';
import { DAY, formatDay, formatMoment } from '@/time/instant';
import { typedMoment } from '@/time/typed';
import { rippleParts } from '@/words/rippleText';
import { vWhy } from '@/ui/why';

/** One status date for several projects: what it would do is said first, then it is one change. */
const props = defineProps<{ projects: { uid: string; key: string; statusDate: number | null }[];
    carryOut: (headline: string, call: (params: object, changeSet: string) => Promise<ChangeAnswer>) => Promise<boolean> }>();
const emit = defineEmits<{ done: [] }>();
const { t } = useI18n();
const text = ref('');
const error = ref('');
const ripple = ref<Ripple | null>(null);
/** without a time the day of each project ends with it */
const typed = computed(() => typedMoment(text.value));
const at = computed(() => (typed.value === null ? null : typed.value.at + (typed.value.hasHour ? 0 : DAY - 1)));
const said = computed(() => (typed.value === null ? '' : typed.value.hasHour ? formatMoment(typed.value.at)
    : t('typed.last', { date: formatDay(typed.value.at) })));
const keys = computed(() => props.projects.map((p) => p.key).join(', '));
const earlier = computed(() => (at.value === null ? [] : props.projects.filter((p) => p.statusDate !== null && p.statusDate > at.value!)));
watch(text, () => (ripple.value = null));
const body = () => ({ projects: props.projects.map((p) => p.uid), statusDate: typed.value!.written });

async function look(): Promise<void> {
    error.value = '';
    try {
        ripple.value = (await ask(http.POST('/status-date', { body: { ...body(), dryRun: true } }))).ripple;
    } catch (e) {
        error.value = messageOf(e);
    }
}
async function apply(): Promise<void> {
    const sent = body();
    if (await props.carryOut(t('edit.status', { name: keys.value, date: said.value }), (params, changeSet) => ask(http.POST(
        '/status-date', { params, body: { ...sent, changeSet } })))) emit('done');
}
</script>

<template>
    <form class="status" @submit.prevent="ripple ? apply() : look()">
        <p class="faint">{{ t('statusDates.about', { keys }) }}</p>
        <NInput v-model:value="text" size="small" :placeholder="t('statusDates.date')"
            :input-props="{ 'aria-label': t('statusDates.date') }" />
        <span v-if="text.trim() !== ''" class="faint">{{ at === null ? t('board.needDate', { text })
            : t('board.understood', { text: said }) }}</span>
        <p v-if="earlier.length" class="note">{{ t('statusDates.earlier', { keys: earlier.map((p) => p.key).join(', ') }) }}</p>
        <p v-if="ripple" role="status">{{ rippleParts(ripple, t).map((p) => p.text).join(' · ') }}</p>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
        <div class="buttons">
            <NButton v-why="at === null && t('why.date')" size="small" :disabled="at === null"
                @click="look">{{ t('statusDates.look') }}</NButton>
            <NButton v-why="at === null ? t('why.date') : ripple === null && t('why.look')" size="small" type="primary"
                :disabled="at === null || ripple === null" @click="apply">{{ t('statusDates.apply') }}
            </NButton>
        </div>
    </form>
</template>

<style scoped>
.status { display: flex; flex-direction: column; gap: 8px; }
.buttons { display: flex; gap: 8px; }
p { margin: 0; }
</style>
