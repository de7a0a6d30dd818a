<script setup lang="ts">
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { useCommands } from '@/ui/commands';
import FeedsPart from './FeedsPart.vue';
import FilesPart from './FilesPart.vue';
import { useHelp } from '@/ui/help';

/** What goes to other systems and comes from them: files, and what others read by themselves. */
const { t } = useI18n();
const route = useRoute();
const router = useRouter();
const PARTS = { files: FilesPart, feeds: FeedsPart } as const;
type Part = keyof typeof PARTS;
const parts = Object.keys(PARTS) as Part[];
const part = computed<Part>({ get: () => parts.find((p) => p === route.query.part) ?? 'files',
    set: (p) => void router.replace({ query: { part: p } }) });
useCommands(parts.map((p) => ({ id: `exchange.${p}`, keys: [], run: () => (part.value = p) })));
useHelp(() => (part.value === 'feeds' ? 'Feeds' : 'Exchange'));
</script>

<template>
    <h1 class="visually-hidden">{{ t('places.exchange') }}</h1>
    <div class="strip parts" role="tablist" :aria-label="t('places.exchange')">
        <button v-for="p in parts" :key="p" class="verb" role="tab" :aria-selected="part === p" :class="{ here: part === p }"
            @click="part = p">{{ t(`exchange.part.${p}`) }}</button>
    </div>
    <component :is="PARTS[part]" />
</template>

<style scoped>
.parts { min-height: 38px; padding: 4px 16px; }
.here { color: var(--ink); box-shadow: inset 0 -2px 0 var(--petrol); border-radius: 0; }
.visually-hidden { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
</style>
