<script setup lang="ts">
import { darkTheme, NConfigProvider, NMessageProvider } from 'naive-ui';
import { computed, defineAsyncComponent, nextTick, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { RouterView, useRoute } from 'vue-router';
import { useCommandKeys, useCommands } from '@/ui/commands';
import { useEscape } from '@/ui/escape';
import { usePlaceCommands } from '@/frame/placeCommands';
import FirstPassword from '@/frame/FirstPassword.vue';
import StepsBar from '@/frame/StepsBar.vue';
import TopBar from '@/frame/TopBar.vue';
import SignInAgain from '@/places/signin/SignInAgain.vue';
import { sessionEnded, user } from '@/session';
import { isDark, palette } from '@/ui/appearance';
import { helpHere } from '@/ui/help';
import { overrides } from '@/ui/theme';

const { t } = useI18n();
useEscape();
useCommandKeys();
usePlaceCommands();
const GuidePanel = defineAsyncComponent(() => import('@/frame/GuidePanel.vue'));
/** heading of the page of the guide that is open; undefined while none is */
const guide = ref<string | null>();
const openGuide = () => (guide.value = guide.value === undefined ? helpHere() : undefined);
// at another place it is another page
const route = useRoute();
watch(() => route.name, () => void nextTick(() => guide.value !== undefined && (guide.value = helpHere())));
useCommands([{ id: 'guide', keys: ['F1'], run: openGuide }]);
/** the board has a way back of its own, for its working set */
const PLACES = new Set(['portfolio', 'exchange', 'library']);
/** Where one can go at once instead of through everything before it; the first of them that is there. */
const SKIPS = { rows: '[role=treegrid], [role=tree], main table, main', panel: 'aside.panel .content', strip: 'main .strip button' };
function skip(to: keyof typeof SKIPS): void {
    const there = SKIPS[to].split(', ').map((s) => document.querySelector<HTMLElement>(s)).find((e) => e !== null);
    if (!there) return;
    if (there.tabIndex < 0) there.tabIndex = -1;
    there.focus();
}
const theme = computed(() => (isDark.value ? darkTheme : null));
const themeOverrides = computed(() => overrides(palette.value));
</script>

<template>
    <NConfigProvider :theme="theme" :theme-overrides="themeOverrides" :inline-theme-disabled="true">
        <NMessageProvider placement="bottom">
            <div class="frame">
                <FirstPassword v-if="user?.mustChange" />
                <template v-else>
                    <nav v-if="user" class="skips" :aria-label="t('app.skip.title')">
                        <button v-for="to in (['rows', 'panel', 'strip'] as const)" :key="to" class="skip"
                            @click="skip(to)">{{ t(`app.skip.${to}`) }}</button>
                    </nav>
                    <TopBar v-if="user" @guide="openGuide" />
                    <div class="beside">
                        <main class="place"><RouterView /></main>
                        <GuidePanel v-if="user && guide !== undefined" :heading="guide" @close="guide = undefined" />
                    </div>
                    <StepsBar v-if="user && PLACES.has(String($route.name))" />
                </template>
                <SignInAgain v-if="sessionEnded" />
            </div>
        </NMessageProvider>
    </NConfigProvider>
</template>

<style scoped>
.beside { flex: 1; min-height: 0; display: flex; }
.place { min-width: 0; }
.skips { position: absolute; z-index: 60; left: 8px; top: 6px; display: flex; gap: 8px; }
.skip:not(:focus) { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); padding: 0; border: 0; }
.skip { padding: 6px 12px; border: 0; border-radius: 4px; background: var(--marigold); color: #1E2A32; font: inherit; }
</style>
