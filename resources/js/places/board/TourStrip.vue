<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core';
import { computed, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { usePortfolio } from '@/api/queries';
import { useCommands } from '@/ui/commands';
import { useBoard } from './store';
import type { BoardView } from './view';

/** Five steps that one does with one's own hands; each is done when the board shows it. Dismissed for good. */
const props = defineProps<{ view: BoardView }>();
const { t } = useI18n();
const board = useBoard();
const STEPS = ['open', 'change', 'ripple', 'trace', 'undo'] as const;
/** how many steps are done; all of them, or dismissed: 5 */
const done = useLocalStorage('reihe.tour', 0);
// it asks for another project that is linked with this one, and for a change: only where there are such, and for those who may
const portfolio = usePortfolio();
const makesSense = computed(() => (portfolio.data.value?.handovers ?? 0) > 0
    && [...(board.model?.projects.values() ?? [])].some((p) => p.mayPlan));
const step = computed(() => (makesSense.value ? STEPS[done.value] ?? null : null));

const reached: Record<(typeof STEPS)[number], () => boolean> = {
    open: () => board.keys.length > 1 && board.model !== null,
    change: () => board.done !== null && board.done.moved.size > 0,
    ripple: () => props.view.only.value?.what === 'moved',
    trace: () => props.view.only.value?.what === 'trace',
    undo: () => board.done?.note === t('board.undone'),
};
watch([() => board.keys.length, () => board.model, () => board.done, props.view.only], () => {
    if (step.value && reached[step.value]()) done.value++;
}, { immediate: true });
useCommands([{ id: 'tour', keys: [], run: () => (done.value = 0) }]);
</script>

<template>
    <div v-if="step" class="tour" role="note">
        <span class="count">{{ t('tour.count', { n: done + 1, of: STEPS.length }) }}</span>
        <span class="text">{{ t(`tour.${step}`) }}</span>
        <button class="verb" @click="done++">{{ t('tour.skip') }}</button>
        <button class="verb" @click="done = STEPS.length">{{ t('card.dismiss') }}</button>
    </div>
</template>

<style scoped>
.tour { display: flex; gap: 14px; align-items: baseline; flex: none; padding: 4px 16px; border-bottom: 1px solid var(--hairline);
    border-left: 4px solid var(--marigold); background: var(--raised); }
.count { color: var(--faint); white-space: nowrap; }
.text { flex: 1; }
</style>
