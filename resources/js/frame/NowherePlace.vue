<script setup lang="ts">
import { useI18n } from 'vue-i18n';
import { RouterLink } from 'vue-router';

/** What an address shows that leads nowhere. */
const { t } = useI18n();
</script>

<template>
    <div class="nowhere">
        <h1>{{ t('nowhere.title') }}</h1>
        <p class="faint">{{ t('nowhere.about') }}</p>
        <RouterLink to="/portfolio">{{ t('nowhere.back') }}</RouterLink>
    </div>
</template>

<style scoped>
.nowhere { flex: 1; display: flex; flex-direction: column; gap: 8px; align-items: center; justify-content: center; }
h1, p { margin: 0; }
</style>
