<script setup lang="ts">
import { NCheckbox } from 'naive-ui';
import { useI18n } from 'vue-i18n';
import { vWhy } from '@/ui/why';
import { asUsual, FIELDS, fold, hide, isClosed, move, sections, shows } from './arranging';

/** How one has the inspector: which parts are open, in which order, with which fields. Kept for each person. */
const emit = defineEmits<{ close: [] }>();
const { t } = useI18n();
</script>

<template>
    <section class="choice" data-test="sections">
        <p class="faint">{{ t('sections.about') }}</p>
        <ol>
            <li v-for="(s, i) in sections" :key="s">
                <NCheckbox size="small" :checked="!isClosed(s)" @update:checked="fold(s)">{{ t(`sections.of.${s}`) }}</NCheckbox>
                <span><button v-why="i === 0 && t('why.first')" class="verb" :disabled="i === 0"
                          :aria-label="t('sections.up', { title: t(`sections.of.${s}`) })" @click="move(s, -1)">↑</button>
                    <button v-why="i === sections.length - 1 && t('why.last')" class="verb" :disabled="i === sections.length - 1"
                        :aria-label="t('sections.down', { title: t(`sections.of.${s}`) })" @click="move(s, 1)">↓</button></span>
            </li>
        </ol>
        <h3>{{ t('sections.fields') }}</h3>
        <div class="fieldnames"><NCheckbox v-for="f in FIELDS" :key="f" size="small" :checked="shows(f)" @update:checked="hide(f)">{{
            t(`sections.field.${f}`) }}</NCheckbox></div>
        <span><button class="verb" @click="asUsual">{{ t('sections.usual') }}</button>
            <button class="verb" @click="emit('close')">{{ t('sections.done') }}</button></span>
    </section>
</template>

<style scoped>
.choice { border: 1px solid var(--hairline); background: var(--raised); padding: 8px 12px; display: flex; flex-direction: column;
    gap: 8px; }
ol { list-style: none; margin: 0; padding: 0; }
li { display: flex; justify-content: space-between; align-items: center; }
.fieldnames { display: grid; grid-template-columns: 1fr 1fr; }
p, h3 { margin: 0; }
</style>
