<script setup lang="ts">
import { useId, useTemplateRef } from 'vue';

/** A file to choose: a button of ours, and what was chosen last. The same file can be chosen again. */
const props = defineProps<{ label: string; button: string; accept?: string; name?: string; id?: string }>();
const emit = defineEmits<{ take: [file: File] }>();
const own = useId();
const input = useTemplateRef<HTMLInputElement>('input');

function take(): void {
    const file = input.value?.files?.[0];
    if (!file) return;
    emit('take', file);
    input.value!.value = '';
}
</script>

<template>
    <span class="chooser">
        <input :id="props.id ?? own" ref="input" type="file" class="native" :accept="accept" :aria-label="label" @change="take">
        <label :for="props.id ?? own" class="verb">{{ button }}</label>
        <span v-if="name" class="faint name"><bdi>{{ name }}</bdi></span>
    </span>
</template>

<style scoped>
.chooser { display: inline-flex; gap: 6px 12px; align-items: baseline; min-width: 0; position: relative; }
.native { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
.native:focus-visible + .verb { outline: 2px solid var(--petrol); }
.verb { cursor: pointer; }
.name { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
</style>
