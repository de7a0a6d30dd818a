<script setup lang="ts">
import { NInput } from 'naive-ui';
import { ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { readPeriods } from './calendar';

/** Working periods as they are typed; what cannot be meant stays as it was typed, and is told. */
const props = defineProps<{ periods: string; label: string; disabled: boolean; size: 'tiny' | 'small' }>();
const emit = defineEmits<{ save: [periods: string]; wrong: [is: boolean] }>();
const { t } = useI18n();
const text = ref(props.periods);
const isWrong = ref(false);
watch(() => props.periods, (now) => {
    text.value = now;
    tell(false);
});
function tell(wrong: boolean): void {
    if (wrong !== isWrong.value) emit('wrong', (isWrong.value = wrong));
}
function read(): void {
    const periods = readPeriods(text.value);
    tell(periods === null);
    if (periods === null) return;
    text.value = periods;
    if (periods !== props.periods) emit('save', periods);
}
</script>

<template>
    <NInput v-model:value="text" :size="size" :disabled="disabled" :placeholder="t('calendar.off')" :status="isWrong ? 'error' : undefined"
        :input-props="{ 'aria-label': label, 'aria-invalid': isWrong }" @change="read" />
</template>
