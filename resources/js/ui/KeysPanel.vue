<script setup lang="ts">
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { commands, showKeys } from './commands';

/** Every key of what is on the screen. */
const { t } = useI18n();
const listed = computed(() => commands.value.filter((c) => c.keys.length > 0));
</script>

<template>
    <dl>
        <template v-for="command in listed" :key="command.id">
            <dt><kbd v-for="key in command.keys" :key="key">{{ showKeys(key) }}</kbd></dt><dd>{{ t(`keys.${command.id}`) }}</dd>
        </template>
    </dl>
</template>

<style scoped>
dl { display: grid; grid-template-columns: max-content 1fr; gap: 6px 14px; margin: 0; }
dt { display: flex; gap: 6px; }
dd { margin: 0; }
</style>
