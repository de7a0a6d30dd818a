<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, messageOf } from '@/api/client';
import { formatMoment, parseIso } from '@/time/instant';

/** Proposals that wait for a yes of the user: what was said of a file, the board as it would be, or discarded. */
const emit = defineEmits<{ preview: [uid: string, title: string] }>();
const { t, n } = useI18n();
const cache = useQueryClient();
const query = useQuery({ queryKey: ['proposals'],
    queryFn: () => ask(http.GET('/changes', { params: { query: { state: 'proposed' } } })) });
const list = computed(() => query.data.value?.changes ?? []);
const error = ref('');
/** as many as the board takes at once */
const MOST = 20_000;

async function reject(uid: string): Promise<void> {
    error.value = '';
    try {
        await ask(http.POST('/changes/{uid}/reject', { params: { path: { uid } } }));
    } catch (e) {
        error.value = messageOf(e);
    }
    await cache.invalidateQueries({ queryKey: ['proposals'] });
}
const when = (iso: string) => formatMoment(parseIso(iso.slice(0, 16))!);
</script>

<template>
    <section v-if="list.length > 0" data-test="proposals">
        <h2>{{ t('exchange.open') }}</h2>
        <ul>
            <li v-for="p in list" :key="p.uid">
                <b>{{ p.reason || t('exchange.unnamed') }}</b>
                <span class="faint tabular">
                    {{ p.author ?? '–' }} · {{ when(p.created) }} · {{ t('exchange.items', { n: n(p.operations) }, p.operations) }}
                </span>
                <button v-if="p.source === 'import'" class="verb" @click="emit('preview', p.uid, p.reason)">{{
                    t('exchange.reopen') }}</button>
                <RouterLink v-if="p.operations <= MOST" class="verb"
                    :to="{ name: 'proposal', params: { uid: p.uid } }">{{ t('exchange.lookAt') }}</RouterLink>
                <button class="verb" @click="reject(p.uid)">{{ t('exchange.reject') }}</button>
            </li>
        </ul>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
    </section>
</template>

<style scoped>
section { padding: 16px 24px; border-bottom: 1px solid var(--hairline); }
ul { list-style: none; margin: 0; padding: 0; display: flex; flex-direction: column; gap: 6px; }
li { display: flex; gap: 2px 14px; align-items: baseline; flex-wrap: wrap; }
</style>
