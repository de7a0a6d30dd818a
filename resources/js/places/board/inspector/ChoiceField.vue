<script setup lang="ts">
import { NSelect } from 'naive-ui';

/** One of a few choices, sent as soon as it is made. */
defineProps<{ label: string; value: string; options: { label: string; value: string }[
    ]; disabled?: boolean; wide?: boolean; hint?: string }>();
defineEmits<{ commit: [value: string] }>();
</script>

<template>
    <div class="field" :class="{ wide }">
        <span class="label">{{ label }}</span>
        <NSelect size="small" :virtual-scroll="false" :disabled="disabled" :aria-label="label" :value="value" :options="options"
            @update:value="(v: string) => $emit('commit', v)" />
        <span v-if="hint" class="hint faint">{{ hint }}</span>
    </div>
</template>
