<script setup lang="ts">
import { NDropdown } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { RouterLink, useRouter } from 'vue-router';
import { signOut, user } from '@/session';
import { appearance } from '@/ui/appearance';
import BellField from './BellField.vue';
import CommandField from './CommandField.vue';
import JobsField from './JobsField.vue';
import { lastBoard } from './lastBoard';
import OwnPassword from './OwnPassword.vue';

const emit = defineEmits<{ guide: [] }>();
const { t } = useI18n();
const router = useRouter();
const places = computed(() => [
    { name: 'portfolio', to: { name: 'portfolio' } },
    { name: 'board', to: { name: 'board', query: lastBoard.value ? { projects: lastBoard.value } : {} } },
    { name: 'load', to: { name: 'load' } },
    { name: 'exchange', to: { name: 'exchange' } },
    { name: 'library', to: { name: 'library' } },
]);
const looks = ['auto', 'light', 'dark'] as const;
const changing = ref(false);
const menu = computed(() => [
    ...looks.map((look) => ({ key: look, label: (appearance.value === look ? '✓ ' : '') + t(`app.appearance.${look}`) })),
    { type: 'divider', key: 'line' },
    { key: 'guide', label: `${t('guide.title')}  F1` },
    { key: 'password', label: t('ownPassword.title') },
    { key: 'out', label: t('app.signOut') },
]);

async function choose(key: string): Promise<void> {
    if (key === 'password') changing.value = true;
    else if (key === 'guide') emit('guide');
    else if (key === 'out') {
        await signOut();
        await router.push({ name: 'sign-in' });
    } else appearance.value = key as (typeof looks)[number];
}
</script>

<template>
    <header class="bar">
        <span class="wordmark">{{ t('app.name') }}</span>
        <nav :aria-label="t('app.places')">
            <RouterLink v-for="place in places" :key="place.name" :to="place.to" class="to"
                :class="{ here: $route.name === place.name }">{{ t(`places.${place.name}`) }}</RouterLink>
        </nav>
        <CommandField />
        <JobsField />
        <BellField />
        <NDropdown trigger="click" :options="menu" @select="choose">
            <button class="user" :aria-label="t('app.user')"><span class="dot" /><span class="who">{{ user?.name }}</span></button>
        </NDropdown>
        <OwnPassword v-model:open="changing" />
    </header>
</template>

<style scoped>
.bar { display: flex; align-items: stretch; height: 44px; flex: none; padding: 0 16px; background: #1E2A32; color: #F7F6F2; gap: 8px; }
.wordmark { align-self: center; font-size: 19px; font-weight: 700; letter-spacing: 0.3px; margin-right: 24px;
    border-bottom: 2px solid #D99A00; line-height: 26px; }
nav { display: flex; flex: 1; }
.to { display: flex; align-items: center; padding: 0 16px; color: #C3CCD1; text-decoration: none; border-bottom: 3px solid transparent;
    border-top: 3px solid transparent; font-size: 15px; }
.to:hover { color: #fff; }
.to.here { color: #fff; background: #2E3D47; border-bottom-color: #D99A00; }
.to:focus-visible, .user:focus-visible { outline-color: #E8B53A; outline-offset: -3px; }
.user { display: flex; align-items: center; gap: 8px; background: none; border: 0; color: inherit; font: inherit; cursor: pointer;
    padding: 0 8px; }
.who { white-space: nowrap; overflow: hidden; text-overflow: ellipsis; max-width: 160px; }
@media (max-width: 820px) {
    .wordmark { margin-right: 4px; }
    .to { padding: 0 8px; }
    .who { max-width: 60px; }
    .bar { padding: 0 8px; gap: 4px; }
}
.dot { flex: none; width: 8px; height: 8px; border-radius: 50%; background: #D99A00; }
</style>
