<script setup lang="ts">
import { useI18n } from 'vue-i18n';

const { t } = useI18n();
const keys: [string, string][] = [['↑ ↓ ← →', 'move'], ['⇧ ↑ ↓', 'range'], ['← →', 'fold'], ['Enter', 'edit'], ['Esc', 'leave'],
    ['n', 'below'], ['⇧ n', 'inside'], ['Alt ← →', 'outline'], ['Alt ↑ ↓', 'order'], ['l', 'link'], ['u', 'unlink'], ['Delete', 'del'],
    ['t', 'trace'], ['i', 'inspector'], ['f', 'find'], ['+ − 0', 'zoom'], ['Ctrl Z, ⇧ Ctrl Z', 'undo'], ['Ctrl K', 'command'],
    ['g p b e y', 'go'], ['?', 'this']];
</script>

<template>
    <dl><template v-for="[key, name] in keys" :key="name"><dt><kbd>{{ key }}</kbd></dt><dd>{{ t(`keys.${name}`) }}</dd></template></dl>
</template>

<style scoped>
dl { display: grid; grid-template-columns: max-content 1fr; gap: 6px 14px; margin: 0; }
dd { margin: 0; }
</style>
