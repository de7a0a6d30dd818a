<script setup lang="ts">
import { NButton, NCheckbox } from 'naive-ui';
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, type ChangeAnswer, http, type Job, type ProposalBoard } from '@/api/client';
import { useAttempt } from '@/ui/attempt';
import { Calendars } from '../model';
import { fieldTexts, itemText } from '../proposalText';
import { useBoard } from '../store';

/** The items of a proposal with both values: what is ticked is what the board shows, and what is accepted or discarded. */
const emit = defineEmits<{ go: [uid: string]; decided: [answer: ChangeAnswer | Job | { state?: string }, n: number] }>();
const { t, te } = useI18n();
const board = useBoard();
const { error, busy, run } = useAttempt();
const answer = computed(() => board.proposed!);
const items = computed(() => answer.value.items);
const ticked = computed(() => items.value.filter((i) => i.tried).map((i) => i.at));
const all = computed(() => ticked.value.length === items.value.length);
const calendars = computed(() => new Calendars(board.model!));
const perDay = (row: string | null) => calendars.value.dayOf(row);
type Item = ProposalBoard['items'][number];
function tick(item: Item, on: boolean): void {
    const wanted = on ? [...ticked.value, item.at] : ticked.value.filter((at) => at !== item.at);
    void board.tryItems(wanted.length === items.value.length && answer.value.more === 0 ? null : wanted);
}
const decide = (body: { accept?: number[]; reject?: number[] }, n: number) => run(async () => {
    emit('decided', await ask(http.POST('/changes/{uid}/decide', { params: { path: { uid: board.proposal! } }, body })) as never, n);
});
</script>

<template>
    <p class="faint">{{ t('proposal.items') }}</p>
    <div class="buttons">
        <button class="verb" @click="board.tryItems(all ? [] : null)">{{ t(all ? 'proposal.tickNone' : 'proposal.tickAll') }}</button>
    </div>
    <ul data-test="items">
        <li v-for="item in items" :key="item.at">
            <NCheckbox :checked="item.tried" :aria-label="itemText(item, t, te)" @update:checked="(on: boolean) => tick(item, on)" />
            <span class="said"><button class="verb" :disabled="item.row === null"
                                   :title="item.row === null ? t('proposal.gone') : undefined"
                                   @click="item.row && emit('go', item.row)"><bdi>{{ itemText(item, t, te) }}</bdi></button>
                <span v-for="text in fieldTexts(item, t, te, perDay(item.row))" :key="text" class="tabular">{{ text }}</span></span>
        </li>
    </ul>
    <p v-if="answer.more" class="faint">{{ t('proposal.more', { n: answer.more }) }}</p>
    <p v-if="error" class="error" role="alert">{{ error }}</p>
    <div class="buttons">
        <NButton size="small" type="primary" :disabled="ticked.length === 0" :loading="busy"
            :title="ticked.length === 0 ? t('proposal.tickFirst') : undefined"
            @click="decide({ accept: ticked }, ticked.length)">{{ t('proposal.acceptTicked', ticked.length) }}</NButton>
        <NButton size="small" :disabled="ticked.length === 0 || busy" :title="ticked.length === 0 ? t('proposal.tickFirst') : undefined"
            @click="decide({ reject: ticked }, 0)">{{ t('proposal.rejectTicked', ticked.length) }}</NButton>
    </div>
</template>

<style scoped>
ul { list-style: none; margin: 0; padding: 0; }
li { display: flex; gap: 8px; align-items: flex-start; padding: 5px 0; border-bottom: 1px solid var(--hairline); }
.said { display: flex; flex-direction: column; min-width: 0; overflow-wrap: anywhere; align-items: flex-start; }
.said .verb { text-align: left; }
.buttons { display: flex; gap: 8px; flex-wrap: wrap; }
p { margin: 0; }
</style>
