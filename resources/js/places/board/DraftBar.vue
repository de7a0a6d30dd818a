<script setup lang="ts">
import { NButton } from 'naive-ui';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { conflictText } from '@/words/conflictText';
import { useBoard } from './store';

/** Says that the board shows a draft and not the plan, and the way back; and, where the plan went on under it, what clashes. */
defineProps<{ comparing: boolean }>();
const emit = defineEmits<{ compare: [] }>();
const { t } = useI18n();
const route = useRoute();
const router = useRouter();
const board = useBoard();
const leave = () => router.push({ query: { ...route.query, draft: undefined } });
</script>

<template>
    <div v-if="board.stale" class="draft stale" role="alert">
        <div class="text"><b>{{ t('draft.stale') }}</b>
            <ul><li v-for="(c, i) in board.stale.conflicts.slice(0, 6)" :key="i">{{ c.field === null ? t('draft.gone', { label: c.label })
                    : conflictText(c, t) }}</li>
                <li v-if="board.stale.hidden">{{ t('draft.hidden', board.stale.hidden) }}</li></ul>
        </div>
        <NButton size="small" @click="board.rebase(board.stale.uid, 'mine')">{{ t('draft.mine') }}</NButton>
        <NButton size="small" @click="board.rebase(board.stale.uid, 'theirs')">{{ t('draft.theirs') }}</NButton>
        <button class="verb" @click="leave">{{ t('draft.leave') }}</button>
    </div>
    <div v-else-if="board.draft" class="draft" role="status">
        <span class="text"><b>{{ t('draft.title', { name: board.draft.name }) }}</b> {{ t('draft.about', board.draft.steps.length) }}</span>
        <button class="verb" :aria-pressed="comparing" @click="emit('compare')">{{ t('draft.compare') }}</button>
        <button class="verb" @click="leave">{{ t('draft.leave') }}</button>
    </div>
</template>

<style scoped>
.draft { display: flex; align-items: center; gap: 14px; padding: 5px 16px; flex: none; border-bottom: 2px dashed var(--petrol);
    background: repeating-linear-gradient(-45deg, var(--band) 0 8px, var(--paper) 8px 16px); }
.draft.stale { border-bottom-color: var(--brick); }
.text { flex: 1; }
ul { margin: 2px 0; padding-left: 18px; }
</style>
