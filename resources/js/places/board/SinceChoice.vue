<script setup lang="ts">
import { NCheckbox, NSelect } from 'naive-ui';
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { DAY, formatMoment, parseIso, toIso } from '@/time/instant';
import { readDate, today } from '@/time/typed';

/** Since when changes are marked: the last visit, the baseline, a day that one chooses or types; and whether only they show. */
const since = defineModel<string>('since', { required: true });
const only = defineModel<boolean>('only', { required: true });
defineProps<{ count: number | null; removed: number }>();
const { t } = useI18n();
const morning = () => today() - 720;
const options = computed(() => [{ label: t('since.nothing'), value: '' }, { label: t('since.visit'), value: 'visit' },
    { label: t('since.today'), value: toIso(morning()) }, { label: t('since.week'), value: toIso(morning() - 7 * DAY) },
    { label: t('since.baseline'), value: 'baseline' },
    ...(['', 'visit', 'baseline', toIso(morning()), toIso(morning() - 7 * DAY)].includes(since.value) ? []
        : [{ label: parseIso(since.value) === null ? t('since.changeSet') : formatMoment(parseIso(since.value)!), value: since.value }])]);
function typed(text: string): { label: string; value: string } {
    const at = readDate(text, 0);
    return at === null ? { label: t('since.noDate', { text }), value: '' } : { label: formatMoment(at), value: toIso(at) };
}
</script>

<template>
    <label class="faint">{{ t('since.title') }} <NSelect v-model:value="since" class="pick" size="tiny" filterable tag :on-create="typed"
        :options="options" :aria-label="t('since.title')"
        :input-props="{ 'aria-label': t('since.title') }" /></label>
    <template v-if="since !== ''">
        <span class="faint">{{ count === null ? '…' : t('since.count', count) }}{{ removed > 0
            ? `, ${t('since.removed', { n: removed })}` : '' }}</span>
        <NCheckbox v-model:checked="only" size="small">{{ t('since.only') }}</NCheckbox>
    </template>
</template>

<style scoped>
.pick { width: 140px; display: inline-block; vertical-align: middle; }
</style>
