<script setup lang="ts">
import { NInput } from 'naive-ui';
import { ref, useId, watch } from 'vue';

/** A line of text that is sent when it is understood. What is not understood stays, with the reason below it. */
const props = defineProps<{ label: string; value: string; disabled?: boolean; placeholder?: string; wide?: boolean; hint?: string; check?: (
    text: string) => string | null }>();
const emit = defineEmits<{ commit: [text: string] }>();
const id = useId();
const typed = ref<string | null>(null);
const wrong = ref<string | null>(null);
const focused = ref(false);
// what somebody is typing stays, whatever others do meanwhile
watch(() => props.value, () => {
    if (!focused.value) typed.value = wrong.value = null;
});

function change(text: string): void {
    wrong.value = props.check?.(text) ?? null;
    if (wrong.value === null && text !== props.value) emit('commit', text);
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
        <span v-if="hint" class="hint faint">{{ hint }}</span>
        <span v-if="wrong" class="error" role="alert">{{ wrong }}</span>
    </div>
</template>
