<script setup lang="ts">
import { NButton } from 'naive-ui';
import { useQueryClient } from '@tanstack/vue-query';
import { ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRouter } from 'vue-router';
import { ask, http, messageOf } from '@/api/client';
import { useJobs } from '@/frame/jobs';
import { useBoard } from './store';

/** A proposal on the board, as it would be: nothing is written until somebody says yes. */
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
const apply = () => decide(async () => {
    const answer = await ask(http.POST('/changes/{uid}/apply', { params: { path: { uid: board.proposal! } } }));
    if ('what' in answer) {
        started(answer);
        return void (await router.push({ name: 'exchange' })); // where it is waited for
    }
    await cache.invalidateQueries({ queryKey: ['portfolio'] });
    await router.push({ name: 'board', query: { projects: board.board } });
});
const reject = () => decide(async () => {
    await ask(http.POST('/changes/{uid}/reject', { params: { path: { uid: board.proposal! } } }));
    await router.push({ name: 'exchange' });
});
</script>

<template>
    <div class="proposal" role="status">
        <span class="text"><b>{{ t('proposal.title') }}</b> {{ t('proposal.about') }}</span>
        <NButton size="small" type="primary" :loading="busy" @click="apply">{{ t('proposal.apply') }}</NButton>
        <button class="verb" :disabled="busy" @click="reject">{{ t('proposal.reject') }}</button>
        <RouterLink class="verb" :to="{ name: 'exchange' }">{{ t('proposal.back') }}</RouterLink>
    </div>
</template>

<style scoped>
.proposal { display: flex; align-items: center; gap: 14px; padding: 5px 16px; flex: none; background: var(--selection);
    border-bottom: 2px dashed var(--marigold); }
.text { flex: 1; }
</style>
