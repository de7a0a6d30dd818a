<script setup lang="ts">
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { useCommands } from '@/ui/commands';
import CalendarsPart from './CalendarsPart.vue';
import CodeSetsPart from './CodeSetsPart.vue';
import LevelCodesPart from './LevelCodesPart.vue';
import OwnFieldsPart from './OwnFieldsPart.vue';
import ResourcesPart from './ResourcesPart.vue';
import SourcesPart from './SourcesPart.vue';
import UsersPart from './UsersPart.vue';
import { useHelp } from '@/ui/help';

/** What the enterprise keeps for all projects: calendars, code sets, level codes, templates and fragments, own fields, users. */
const { t } = useI18n();
const route = useRoute();
const router = useRouter();
const PARTS = { calendars: CalendarsPart, resources: ResourcesPart, codes: CodeSetsPart, levels: LevelCodesPart, sources: SourcesPart,
    fields: OwnFieldsPart,
    users: UsersPart } as const;
type Part = keyof typeof PARTS;
const parts = Object.keys(PARTS) as Part[];
const part = computed<Part>({ get: () => parts.find((p) => p === route.query.part) ?? (route.query.user ? 'users' : 'codes'),
    set: (p) => void router.replace({ query: { part: p } }) });
useCommands(parts.map((p) => ({ id: `library.${p}`, keys: [], run: () => (part.value = p) })));
useHelp(() => ({ calendars: 'Calendars', resources: 'Resources', codes: 'Code sets', levels: 'Level codes, templates, own fields',
    sources: 'Level codes, templates, own fields', fields: 'Own fields', users: 'Users and access' })[part.value]);
</script>

<template>
    <h1 class="visually-hidden">{{ t('places.library') }}</h1>
    <div class="strip parts" role="tablist" :aria-label="t('places.library')">
        <button v-for="p in parts" :key="p" class="verb" role="tab" :aria-selected="part === p" :class="{ here: part === p }"
            @click="part = p">{{ t(`library.part.${p}`) }}</button>
    </div>
    <component :is="PARTS[part]" />
</template>

<style scoped>
.parts { min-height: 38px; padding: 4px 16px; }
.here { color: var(--ink); box-shadow: inset 0 -2px 0 var(--petrol); border-radius: 0; }
.visually-hidden { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
</style>
