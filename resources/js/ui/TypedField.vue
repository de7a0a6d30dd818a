<script setup lang="ts">
import { NInput } from 'naive-ui';
import { computed, ref, useId, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { isRelative } from '@/time/relative';

/** A line of text that is sent when it is understood. What is not understood stays, with the reason below it. */
const props = defineProps<{ label: string; value: string; disabled?: boolean; placeholder?: string; wide?: boolean; hint?: string;
    check?: (text: string) => string | null;
    /** what text with a sign (`+2d`) makes of what is there; null where it cannot */
    relative?: (text: string) => string | null;
    /** the same only to be shown, where it is another thing for each of several */
    meant?: (text: string) => string | null }>();
const emit = defineEmits<{ commit: [text: string] }>();
const { t } = useI18n();
const id = useId();
const typed = ref<string | null>(null);
const wrong = ref<string | null>(null);
const focused = ref(false);
// what somebody is typing stays, whatever others do meanwhile
watch(() => props.value, () => {
    if (!focused.value) typed.value = wrong.value = null;
});

/** what a change with a sign would come to, while it is typed */
const comesTo = computed(() => (typed.value !== null && isRelative(typed.value) ? (props.relative ?? props.meant)?.(typed.value) ?? null
    : null));
function change(said: string): void {
    const text = props.relative && isRelative(said) ? props.relative(said) : said;
    if (text === null) return void (wrong.value = t('typed.cannotChange', { text: said, now: props.value || t('clash.nothing') }));
    wrong.value = props.check?.(text) ?? null;
    if (wrong.value === null && text !== props.value) emit('commit', text);
    if (wrong.value === null && text !== said) typed.value = text;
}

function leave(): void {
    focused.value = false;
    if (typed.value === props.value) typed.value = null;
}
</script>

<template>
    <div class="field" :class="{ wide }">
        <label :for="id">{{ label }}</label>
        <NInput size="small" :disabled="disabled" :placeholder="placeholder ?? ''" :input-props="{ id }" :value="typed ?? value"
            @update:value="(v) => (typed = v)" @change="change" @focus="focused = true" @blur="leave" />
        <span v-if="comesTo" class="hint faint" role="status">→ {{ comesTo }}</span>
        <span v-if="hint" class="hint faint">{{ hint }}</span>
        <span v-if="wrong" class="error" role="alert">{{ wrong }}</span>
    </div>
</template>
