<script setup lang="ts">
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { fold, isClosed } from './arranging';

/** A part of the inspector that folds to its title; nothing of it is asked for while it is folded where it is `lazy`. */
const props = defineProps<{ id: string; title: string; lazy?: boolean }>();
const { t } = useI18n();
const closed = computed(() => isClosed(props.id));
</script>

<template>
    <div class="fold" :data-section="id">
        <button class="toggle verb" :aria-expanded="!closed" :aria-label="t('sections.fold', { title })"
            :title="t('sections.fold', { title })"
            @click="fold(id)">{{ closed ? '▸' : '▾' }}</button>
        <h3 v-if="closed" class="title" @click="fold(id)">{{ title }}</h3>
        <div v-if="!closed || !lazy" v-show="!closed" class="inside"><slot /></div>
    </div>
</template>

<style scoped>
.fold { position: relative; }
.fold:has(> .inside:empty) { display: none; }
.inside { display: flex; flex-direction: column; gap: 14px; }
.toggle { position: absolute; right: 0; top: 0; padding: 0 4px; z-index: 1; opacity: 0.55; }
.toggle:hover, .toggle:focus-visible, .fold:hover > .toggle { opacity: 1; }
.title { margin: 0; cursor: pointer; }
</style>
