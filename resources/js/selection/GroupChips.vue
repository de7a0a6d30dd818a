<script setup lang="ts">
import { NDropdown } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';

/** What comes first and what after it, such as columns that rows are grouped by: dragged, or moved by arrow keys, into order. */
const props = withDefaults(defineProps<{ group: string[]; columns: string[]; nameOf: (column: string) => string; label?: string;
    more?: string; most?: number }>(), { label: undefined, more: undefined, most: 3 });
const emit = defineEmits<{ change: [group: string[]] }>();
const { t } = useI18n();
const title = computed(() => props.label ?? t('portfolio.group'));
const free = computed(() => props.columns.filter((c) => !props.group.includes(c)).map((c) => ({ label: props.nameOf(c), key: c })));
const dragged = ref<number | null>(null);
const over = ref<number | null>(null);

function move(from: number, to: number): void {
    if (to < 0 || to >= props.group.length || from === to) return;
    const next = [...props.group];
    next.splice(to, 0, ...next.splice(from, 1));
    emit('change', next);
}
function drop(at: number): void {
    if (dragged.value !== null) move(dragged.value, at);
    dragged.value = over.value = null;
}
function key(e: KeyboardEvent, at: number): void {
    const step = e.key === 'ArrowLeft' ? -1 : e.key === 'ArrowRight' ? 1 : 0;
    if (e.key === 'Delete' || e.key === 'Backspace') emit('change', props.group.filter((_, i) => i !== at));
    else if (step) move(at, at + step);
    else return;
    e.preventDefault();
}
</script>

<template>
    <span class="groups" role="group" :aria-label="title">
        <span class="faint">{{ title }}</span>
        <span v-for="(column, at) in group" :key="column" class="chip" :class="{ over: over === at }" draggable="true" tabindex="0"
            :aria-label="t('selection.level', { name: nameOf(column), n: at + 1 })" @dragstart="dragged = at"
            @dragover.prevent="over = at" @dragleave="over = null" @dragend="dragged = over = null" @drop.prevent="drop(at)"
            @keydown="key($event, at)">
            {{ nameOf(column) }}<button :aria-label="t('selection.removeLevel', { name: nameOf(column) })"
                @click="emit('change', group.filter((_, i) => i !== at))">×</button>
        </span>
        <NDropdown v-if="group.length < most && free.length" trigger="click" :options="free" scrollable style="max-height: 420px"
            @select="(c: string) => emit('change', [...group, c])">
            <button class="verb">{{ more ?? t('selection.addLevel') }}</button>
        </NDropdown>
    </span>
</template>

<style scoped>
.groups { display: inline-flex; flex-wrap: wrap; align-items: center; gap: 4px 8px; }
.chip { display: inline-flex; align-items: center; height: 26px; padding: 0 4px 0 10px; border-radius: 4px; background: var(--band);
    cursor: grab; }
.chip.over { box-shadow: inset 3px 0 0 var(--petrol); }
.chip button { border: 0; background: none; font: inherit; color: var(--faint); cursor: pointer; padding: 0 5px; }
</style>
