<script setup lang="ts">
import { NPopover, NSelect } from 'naive-ui';
import { useElementSize } from '@vueuse/core';
import { computed, useTemplateRef } from 'vue';
import { useI18n } from 'vue-i18n';
import { usePortfolio } from '@/api/queries';
import type { Tone } from '@/ui/theme';
import { useBoard } from './store';

/** The projects that are open together, as chips; those that do not fit stand in a list. */
defineProps<{ tones: Map<string, Tone> }>();
const emit = defineEmits<{ open: [keys: string[]] }>();
const { t } = useI18n();
const board = useBoard();
const portfolio = usePortfolio();
const addable = computed(() => (portfolio.data.value?.projects ?? []).filter((p) => !board.keys.includes(p.key))
    .map((p) => ({ label: `${p.key}  ${p.name}`, value: p.key })));

const chips = useTemplateRef<HTMLElement>('chips');
const { width } = useElementSize(chips);
const open = computed(() => board.keys.flatMap((k) => [...(board.model?.projects.values() ?? [])].filter((p) => p.key === k)));
/** whole names, or none: keys alone are shorter, and their names show where the pointer rests */
const named = computed(() => open.value.reduce((sum, p) => sum + 64 + 8.2 * p.key.length + 7.2 * p.name.length, 0) <= width.value);
const fitting = computed(() => {
    const n = named.value ? open.value.length : Math.max(1, Math.floor(width.value / 106));
    return open.value.length <= n ? open.value.length : Math.max(1, n - 1);
});
const close = (key: string) => emit('open', board.keys.filter((k) => k !== key));
</script>

<template>
    <div ref="chips" class="chips">
        <span v-for="project in open.slice(0, fitting)" :key="project.uid" class="chip" :class="{ outside: project.kept === 'outside' }"
            :style="{ '--tone': tones.get(project.uid)?.full }"
            :title="[named ? '' : project.name, project.kept === 'outside' ? t('board.outside') : ''].filter(Boolean).join(' · ')
                || undefined">
            <span class="dot" /><b>{{ project.key }}</b><span v-if="named" class="name">{{ project.name }}</span><button
                v-if="!board.proposal"
                :aria-label="t('board.remove', { key: project.key })" @click="close(project.key)">×</button>
        </span>
        <NPopover v-if="open.length > fitting" trigger="click" placement="bottom-start" scrollable style="max-height: 420px">
            <template #trigger><button class="chip more">{{ t('board.moreProjects', { n: open.length - fitting }) }}</button></template>
            <ul class="list">
                <li v-for="project in open" :key="project.uid" :style="{ '--tone': tones.get(project.uid)?.full }">
                    <span class="dot" /><b>{{ project.key }}</b><span class="name">{{ project.name }}</span><button v-if="!board.proposal"
                        class="verb" :aria-label="t('board.remove', { key: project.key })"
                        @click="close(project.key)">{{ t('board.close') }}</button>
                </li>
            </ul>
        </NPopover>
    </div>
    <NSelect v-if="!board.proposal" class="add" size="small" filterable :input-props="{ 'aria-label': t('board.add') }" :value="null"
        :aria-label="t('board.add')" :placeholder="`+ ${t('board.add')}`" :options="addable"
        @update:value="(v: string) => emit('open', [...board.keys, v])" />
</template>

<style scoped>
.chips { display: flex; gap: 6px; min-width: 140px; flex: 1 1 0; overflow: hidden; }
.chip { display: inline-flex; align-items: center; gap: 7px; height: 28px; padding: 0 4px 0 10px; border: 1px solid var(--tone);
    border-radius: 14px; background: var(--raised); min-width: 84px; flex: 0 1 auto; white-space: nowrap; overflow: hidden; }
.chip.outside { border-style: dashed; }
.chip .name { overflow: hidden; text-overflow: ellipsis; min-width: 0; flex: 0 1 auto; }
.chip.more { padding: 0 12px; border-color: var(--faint); min-width: 0; font: inherit; color: var(--ink); cursor: pointer; flex: none; }
.chip button { border: 0; background: none; color: var(--faint); font-size: 16px; line-height: 20px; cursor: pointer; padding: 0 6px; }
.dot { width: 9px; height: 9px; border-radius: 50%; background: var(--tone); flex: none; }
.list { list-style: none; margin: 0; padding: 0; min-width: 280px; }
.list li { display: flex; align-items: center; gap: 8px; padding: 4px 0; }
.list .name { flex: 1; }
.add { width: 132px; flex: none; }
</style>
