<script setup lang="ts">
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import type { Ripple } from '@/api/client';
import { conflictText } from '@/words/conflictText';
import { rippleParts } from '@/words/rippleText';
import { useBoard } from './store';

const props = defineProps<{ showing: boolean; preview: { headline: string; ripple: Ripple | null } | null }>();
defineEmits<{ show: [] }>();
const { t } = useI18n();
const board = useBoard();
const parts = computed(() => (props.preview ? (props.preview.ripple ? rippleParts(props.preview.ripple, t) : []) : board.done
    ? rippleParts(board.done.ripple, t) : []));
</script>

<template>
    <footer v-if="board.clash" class="bar broken" role="alert">
        <div class="conflicts">
            <b>{{ t('clash.title', board.clash.conflicts.length) }}</b>
            <ul><li v-for="(c, i) in board.clash.conflicts.slice(0, 4)" :key="i">{{ conflictText(c, t) }}</li></ul>
        </div>
        <button class="verb" @click="board.settle(false)">{{ t('clash.theirs') }}</button>
        <button v-if="board.clash.request.operations" class="verb" @click="board.settle(true)">{{ t('clash.mine') }}</button>
    </footer>
    <footer v-else-if="board.error" class="bar broken" role="alert">
        <span class="text">{{ board.error }}</span>
        <button class="verb" @click="board.error = null">{{ t('app.close') }}</button>
    </footer>
    <footer v-else class="bar" role="status" aria-live="polite">
        <svg width="28" height="14" viewBox="0 0 28 14" aria-hidden="true"><path d="M1 7c3-7 6-7 9 0s6 7 9 0 6-7 8-3" fill="none"
            stroke="var(--petrol)" stroke-width="1.75" stroke-linecap="round" /></svg>
        <b v-if="preview || board.done" class="headline">{{ preview ? preview.headline : board.done!.headline }}</b>
        <span v-if="!preview && board.done?.note" class="note faint">{{ board.done.note }}</span>
        <span v-if="!preview && !board.done" class="text faint">{{ board.proposal ? ''
            : t(board.model?.activities.size === 0 ? 'board.tipFirst' : 'board.tip') }}</span>
        <span v-else class="text"><template v-for="(part, i) in parts" :key="i"><span v-if="i > 0" class="faint"> · </span><span
            :class="part.tone">{{ part.text }}</span></template></span>
        <span v-if="board.deaf && !preview" class="others" role="status">{{ t('ripple.deaf', { why: board.deaf }) }}</span>
        <span v-if="board.others && !preview"
            class="others"><b>{{ board.others.names.join(', ') }}</b> {{ t('ripple.others', board.others.moved.size) }}
            <button class="verb" @click="board.others = null">{{ t('ripple.seen') }}</button></span>
        <span v-if="board.busy" class="faint">{{ t('board.saving') }}</span>
        <button v-if="!preview && board.done && board.done.moved.size > 0" class="verb"
            @click="$emit('show')">{{ showing ? t('ripple.showLess') : t('ripple.show') }}</button>
        <template v-if="!preview && !board.proposal">
            <button class="verb" :disabled="board.undoable.length === 0" :title="board.undoable.at(-1)?.headline"
                @click="board.undo(t('board.undone'))">{{ t('ripple.undo') }}</button>
            <button class="verb" :disabled="board.redoable.length === 0" :title="board.redoable.at(-1)?.headline"
                @click="board.redo(t('board.redone'))">{{ t('ripple.redo') }}</button>
        </template>
    </footer>
</template>

<style scoped>
.bar { display: flex; align-items: center; gap: 14px; min-height: 40px; padding: 4px 16px; border-top: 2px solid var(--petrol);
    background: var(--selection); flex: none; }
.bar.broken { border-top-color: var(--brick); background: var(--raised); color: var(--brick); }
.conflicts { flex: 1; color: var(--ink); }
.conflicts ul { margin: 2px 0; padding-left: 18px; }
.headline { white-space: nowrap; max-width: 40%; overflow: hidden; text-overflow: ellipsis; }
.note { white-space: nowrap; }
.others { white-space: nowrap; border-left: 3px solid var(--marigold); padding-left: 8px; }
.text { flex: 1; overflow: hidden; text-overflow: ellipsis; display: -webkit-box; -webkit-box-orient: vertical; -webkit-line-clamp: 2; }
.brick { color: var(--brick); font-weight: 600; }
.moss { color: var(--moss); font-weight: 600; }
svg { flex: none; }
</style>
