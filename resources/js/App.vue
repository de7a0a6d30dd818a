<script setup lang="ts">
import { darkTheme, NConfigProvider, NMessageProvider } from 'naive-ui';
import { computed } from 'vue';
import { RouterView } from 'vue-router';
import { useCommandKeys } from '@/ui/commands';
import { usePlaceCommands } from '@/frame/placeCommands';
import FirstPassword from '@/frame/FirstPassword.vue';
import StepsBar from '@/frame/StepsBar.vue';
import TopBar from '@/frame/TopBar.vue';
import SignInAgain from '@/places/signin/SignInAgain.vue';
import { sessionEnded, user } from '@/session';
import { isDark, palette } from '@/ui/appearance';
import { overrides } from '@/ui/theme';

useCommandKeys();
usePlaceCommands();
/** the board has a way back of its own, for its working set */
const PLACES = new Set(['portfolio', 'exchange', 'library']);
const theme = computed(() => (isDark.value ? darkTheme : null));
const themeOverrides = computed(() => overrides(palette.value));
</script>

<template>
    <NConfigProvider :theme="theme" :theme-overrides="themeOverrides" :inline-theme-disabled="true">
        <NMessageProvider placement="bottom">
            <div class="frame">
                <FirstPassword v-if="user?.mustChange" />
                <template v-else>
                    <TopBar v-if="user" />
                    <main class="place"><RouterView /></main>
                    <StepsBar v-if="user && PLACES.has(String($route.name))" />
                </template>
                <SignInAgain v-if="sessionEnded" />
            </div>
        </NMessageProvider>
    </NConfigProvider>
</template>
