<script setup lang="ts">
import { NButton } from 'naive-ui';
import { useQueryClient } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRouter } from 'vue-router';
import { ask, type ChangeAnswer, http, type Job, messageOf } from '@/api/client';
import { formatMoment, parseIso } from '@/time/instant';
import { useJobs } from '@/frame/jobs';
import { useBoard } from './store';
import { vWhy } from '@/ui/why';

/** A proposal on the board, as it would be: nothing is written until somebody says yes. */
defineProps<{ listing: boolean }>();
const emit = defineEmits<{ list: [] }>();
const { t } = useI18n();
const router = useRouter();
const cache = useQueryClient();
const board = useBoard();
const { started } = useJobs();
const busy = ref(false);

async function decide(work: () => Promise<unknown>): Promise<void> {
    busy.value = true;
    try {
        await work();
    } catch (e) {
        board.error = messageOf(e);
    } finally {
        busy.value = false;
    }
}
/** Says what was done where one goes on: on the board of the projects, or among the proposals. */
async function decided(answer: ChangeAnswer | Job | { state?: string }, n: number): Promise<void> {
    await cache.invalidateQueries();
    if ('what' in answer) {
        started(answer);
        return void (await router.push({ name: 'exchange' })); // where it is waited for
    }
    const { uid, reason } = board.proposed!.proposal;
    const left = (await ask(http.GET('/changes/{uid}', { params: { path: { uid } } }))).state === 'proposed';
    const ripple = 'ripple' in answer ? answer.ripple : null;
    if (left) {
        await board.tryItems(null);
        if (ripple && board.done) board.done = { ...board.done, note: t('proposal.applied', { name: reason }, n) };
    } else if (ripple) {
        board.announce(t('proposal.applied', { name: reason }, n), ripple);
        await router.push({ name: 'board', query: { projects: board.board } });
    } else await router.push({ name: 'exchange' });
}
defineExpose({ decided });
const apply = () => decide(async () => {
    const n = board.proposed!.items.length + board.proposed!.more;
    await decided(await ask(http.POST('/changes/{uid}/apply', { params: { path: { uid: board.proposal! } } })), n);
});
const reject = () => decide(async () => {
    await ask(http.POST('/changes/{uid}/reject', { params: { path: { uid: board.proposal! } } }));
    await router.push({ name: 'exchange' });
});
const when = (iso: string) => formatMoment(parseIso(iso.slice(0, 16))!);
const items = computed(() => board.proposed?.items.length ?? 0);
const by = computed(() => (board.proposed ? t('proposal.by', { name: board.proposed.proposal.author ?? '–',
    when: when(board.proposed.proposal.created) }) : ''));
</script>

<template>
    <div class="proposal" role="status">
        <span class="text"><b>{{ t('proposal.title') }}</b> <template v-if="board.proposed"><bdi>{{ board.proposed.proposal.reason
            || t('exchange.unnamed') }}</bdi> <span class="faint">{{ by }}</span></template> {{ t('proposal.about') }}</span>
        <button class="verb" :aria-pressed="listing" @click="emit('list')">{{ t('proposal.list', items) }}</button>
        <NButton size="small" type="primary" :loading="busy" @click="apply">{{ t('proposal.applyAll') }}</NButton>
        <button v-why="busy && t('why.wait')" class="verb" :disabled="busy" @click="reject">{{ t('proposal.reject') }}</button>
        <RouterLink class="verb" :to="{ name: 'exchange' }">{{ t('proposal.back') }}</RouterLink>
    </div>
</template>

<style scoped>
.proposal { display: flex; align-items: center; gap: 14px; padding: 5px 16px; flex: none; background: var(--selection);
    border-bottom: 2px dashed var(--marigold); }
.text { flex: 1; }
</style>
