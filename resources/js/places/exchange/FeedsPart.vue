<script setup lang="ts">
import { computed } from 'vue';
import { usePortfolio } from '@/api/queries';
import FeedBuilder from './FeedBuilder.vue';
import { useFeedModel } from './model';
import SubscriptionsPanel from './SubscriptionsPanel.vue';
import TokensPanel from './TokensPanel.vue';

/** What other systems read: the OData feed, tokens for it, and addresses that are subscribed to. */
const portfolio = usePortfolio();
const model = useFeedModel();
const sets = computed(() => (model.data.value ?? []).map((s) => s.name));
</script>

<template>
    <div class="page">
        <FeedBuilder />
        <div class="column">
            <TokensPanel :branches="portfolio.data.value?.branches ?? []" :sets="sets" />
            <SubscriptionsPanel :projects="portfolio.data.value?.projects ?? []" />
        </div>
    </div>
</template>

<style scoped>
.page { flex: 1; overflow: auto; display: grid; grid-template-columns: minmax(0, 1fr) 380px; align-content: start; padding: 8px; }
.column { border-left: 1px solid var(--hairline); min-width: 0; }
@media (max-width: 900px) { .page { grid-template-columns: minmax(0, 1fr); } }
</style>
