<script setup lang="ts">
import { useEventListener, useLocalStorage } from '@vueuse/core';
import { nextTick, onBeforeUnmount, useTemplateRef } from 'vue';
import { useI18n } from 'vue-i18n';
import { leaves } from '@/ui/escape';

/** The inspector's frame: at the right, resizable, closed by Esc. */
defineProps<{ title: string }>();
const content = useTemplateRef<HTMLElement>('content');
const emit = defineEmits<{ close: [] }>();
const { t } = useI18n();
const width = useLocalStorage('reihe.panel', 360);
// wherever the focus is, unless something there has a use for Esc itself
useEventListener('keydown', (e: KeyboardEvent) => {
    if (e.key === 'Escape' && !e.defaultPrevented
        && !(e.target as HTMLElement).closest('input, textarea, [role=treegrid], [role=dialog]')) emit('close');
});

/** The keys go on where one worked, when the panel that had them is closed. */
onBeforeUnmount(() => {
    const had = content.value?.closest('aside')?.contains(document.activeElement) ?? false;
    if (had) void nextTick(() => document.querySelector<HTMLElement>('[role=treegrid]')?.focus({ preventScroll: true }));
});

function drag(e: PointerEvent): void {
    const from = e.clientX;
    const begin = width.value;
    const target = e.currentTarget as HTMLElement;
    target.setPointerCapture(e.pointerId);
    const move = (m: PointerEvent) => (width.value = Math.max(260, Math.min(640, begin - (m.clientX - from))));
    target.addEventListener('pointermove', move);
    target.addEventListener('pointerup', () => target.removeEventListener('pointermove', move), { once: true });
}
</script>

<template>
    <aside class="panel" :aria-label="title" :style="{ width: `${width}px` }" @keydown.esc="leaves($event) && emit('close')">
        <span class="grip" @pointerdown.prevent="drag" />
        <header><h2>{{ title }}</h2><button class="verb" @click="emit('close')">{{ t('app.close') }}</button></header>
        <div ref="content" class="content" tabindex="0"><slot /></div>
    </aside>
</template>

<style scoped>
.panel { position: relative; flex: none; display: flex; flex-direction: column; border-left: 1px solid var(--hairline);
    background: var(--paper); min-height: 0; }
@media (max-width: 820px) { .panel { max-width: 52vw; } }
.grip { position: absolute; left: -4px; top: 0; width: 8px; height: 100%; cursor: col-resize; z-index: 3; }
header { display: flex; justify-content: space-between; align-items: baseline; gap: 12px; padding: 12px 16px 6px; }
h2 { overflow: hidden; text-overflow: ellipsis; }
.content { overflow-wrap: anywhere; flex: 1; overflow-y: auto; padding: 0 16px 16px; display: flex; flex-direction: column; gap: 14px; }
</style>
