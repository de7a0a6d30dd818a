<script setup lang="ts">
import { NInput, NInputNumber } from 'naive-ui';
import { useI18n } from 'vue-i18n';
import type { LevelScheme } from '@/api/client';
import { isDark } from '@/ui/appearance';
import { tone } from '@/ui/theme';
import { vWhy } from '@/ui/why';

/** The levels of a scheme: name, colour, length of their codes, what stands before them in a path. */
type Level = NonNullable<LevelScheme['levels']>[number];
const props = defineProps<{ levels: readonly Level[]; disabled: boolean }>();
const emit = defineEmits<{ save: [levels: Level[]] }>();
const { t } = useI18n();
const fresh = (): Level => ({ name: t('library.levels.nth', { n: props.levels.length + 1 }), colour: (props.levels.length % 8) + 1 });
const set = (at: number, more: Partial<Level>) => emit('save', props.levels.map((l, i) => (i === at ? { ...l, ...more } : l)));
</script>

<template>
    <section>
        <h3>{{ t('library.levels.fields.levels') }}</h3>
        <div v-for="(l, i) in levels" :key="i" class="level">
            <button v-why="disabled && t('why.rights')" class="colour" :disabled="disabled"
                :aria-label="t('library.levels.colour', { name: l.name })"
                :style="{ background: l.colour ? tone(l.colour - 1, isDark).full : 'var(--band)' }"
                @click="set(i, { colour: ((l.colour ?? 0) % 8) + 1 })" />
            <NInput :default-value="l.name" size="small" :disabled="disabled" placeholder=""
                :input-props="{ 'aria-label': t('library.name') }"
                @change="(v: string) => v.trim() && set(i, { name: v.trim() })" />
            <NInputNumber :value="l.length ?? null" size="small" :min="1" :max="20" clearable :disabled="disabled" :show-button="false"
                :placeholder="t('library.levels.length')" :input-props="{ 'aria-label': t('library.levels.length') }"
                @update:value="(v) => set(i, { length: v })" />
            <NInput :default-value="l.separator" size="small" :disabled="disabled || i === 0" placeholder="" :maxlength="5"
                :input-props="{ 'aria-label': t('library.levels.separator') }" @change="(v: string) => set(i, { separator: v })" />
            <button v-why="disabled && t('why.rights')" class="verb" :disabled="disabled"
                :aria-label="t('selection.removeLevel', { name: l.name })"
                @click="emit('save', levels.filter((_, n) => n !== i))">×</button>
        </div>
        <button v-why="disabled ? t('why.rights') : levels.length >= 12 && t('why.levels')" class="verb"
            :disabled="disabled || levels.length >= 12"
            @click="emit('save', [...levels, fresh()])">
            {{ t('selection.addLevel') }}</button>
    </section>
</template>

<style scoped>
section { display: flex; flex-direction: column; gap: 6px; align-items: stretch; }
.level { display: grid; grid-template-columns: 22px minmax(0, 1fr) 70px 46px auto; gap: 6px; align-items: center; }
.colour { width: 20px; height: 20px; border: 0; border-radius: 4px; cursor: pointer; }
section > .verb { align-self: flex-start; }
</style>
