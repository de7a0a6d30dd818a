<script setup lang="ts">
import { NTreeSelect } from 'naive-ui';
import { vCalled } from './called';

/** A field that chooses from a tree, also by typing. */
defineProps<{ label: string }>();
defineOptions({ inheritAttrs: false });
</script>

<template>
    <div v-called="label" class="tree"><NTreeSelect size="small" filterable default-expand-all v-bind="$attrs" /></div>
</template>

<style scoped>
.tree { min-width: 0; flex: 1; }
</style>
