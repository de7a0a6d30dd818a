<script setup lang="ts">
import { NPopover, type TreeSelectOption } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import type { ViewColumn } from '@/api/client';
import { type Expression, type Group, groupOf, isGroup, isTest, partsOf, sentence, type Test, type Wording } from './expression';
import TestEditor from './TestEditor.vue';

/** A filter as a sentence of chips joined by and / or, with groups in parentheses; every word in it can be clicked. */
const props = defineProps<{
    group: Group; columns: ViewColumn[]; wording: Wording; treeOf: (column: string) => TreeSelectOption[]; inner?: boolean;
}>();
const emit = defineEmits<{ change: [group: Group]; remove: [] }>();
const { t } = useI18n();
const how = computed(() => ('all' in props.group ? 'all' : 'any'));
const parts = computed(() => partsOf(props.group));
/** the chip that is open, or the end of the list for a new one */
const open = ref<number | null>(null);

function set(at: number, part: Expression | null): void {
    const next = [...parts.value];
    if (part === null) next.splice(at, 1);
    else next[at] = part;
    emit('change', groupOf(how.value, next));
}
const turn = () => emit('change', groupOf(how.value === 'all' ? 'any' : 'all', parts.value));
const inside = (part: Expression): Expression => ('not' in part ? part.not : part);
const isNot = (part: Expression) => 'not' in part;
const negate = (part: Expression): Expression => ('not' in part ? part.not : { not: part });
function done(at: number, test: Test): void {
    const before = parts.value[at];
    set(at, before && isNot(before) ? { not: test } : test);
    open.value = null;
}
</script>

<template>
    <span class="group" :class="{ inner }">
        <span v-if="inner" class="faint">(</span>
        <template v-for="(part, at) in parts" :key="at">
            <button v-if="at > 0" class="verb joiner" :title="t('selection.turn')" @click="turn">{{ t(`selection.${how}`) }}</button>
            <span v-if="isTest(inside(part))" class="chip">
                <NPopover trigger="click" :show="open === at" placement="bottom-start" @update:show="(v) => (open = v ? at : null)">
                    <template #trigger>
                        <button class="words">{{ sentence(inside(part) as Test, isNot(part), wording) }}</button>
                    </template>
                    <TestEditor :test="inside(part) as Test" :columns="columns" :name-of="wording.column" :tree-of="treeOf"
                        @done="(test) => done(at, test)" />
                </NPopover>
                <button class="small" :title="t('selection.negate')" :aria-label="t('selection.negate')"
                    @click="set(at, negate(part))">{{ t('selection.notWord') }}</button>
                <button class="small" :aria-label="t('selection.removeChip')" @click="set(at, null)">×</button>
            </span>
            <template v-else-if="isGroup(inside(part))">
                <button v-if="isNot(part)" class="verb joiner" @click="set(at, negate(part))">{{ t('selection.notWord') }}</button>
                <FilterGroup :group="inside(part) as Group" :columns="columns" :wording="wording" :tree-of="treeOf" inner
                    @change="(g: Group) => set(at, isNot(part) ? { not: g } : g)" @remove="set(at, null)" />
            </template>
        </template>
        <NPopover trigger="click" :show="open === parts.length" placement="bottom-start"
            @update:show="(v) => (open = v ? parts.length : null)">
            <template #trigger>
                <button class="verb add">{{ t(parts.length || inner ? 'selection.add' : 'selection.addFirst') }}</button>
            </template>
            <TestEditor :key="parts.length" :test="null" :columns="columns" :name-of="wording.column" :tree-of="treeOf"
                @done="(test) => done(parts.length, test)" />
        </NPopover>
        <button v-if="!inner && parts.length > 0" class="verb add"
            @click="set(parts.length, how === 'all' ? { any: [] } : { all: [] })">{{ t('selection.addGroup') }}</button>
        <template v-if="inner">
            <button class="small" :aria-label="t('selection.removeChip')" @click="emit('remove')">×</button><span class="faint">)</span>
        </template>
    </span>
</template>

<style scoped>
.group { display: inline-flex; flex-wrap: wrap; align-items: center; gap: 4px 8px; }
.chip { display: inline-flex; align-items: center; height: 26px; border: 1px solid var(--hairline); border-radius: 13px;
    background: var(--raised); padding: 0 6px 0 2px; max-width: 420px; }
.chip button { border: 0; background: none; font: inherit; color: var(--ink); cursor: pointer; }
.words { padding: 0 6px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.small { border: 0; background: none; font: inherit; color: var(--faint) !important; padding: 0 4px; cursor: pointer; }
.joiner { font-weight: 400; }
.add { white-space: nowrap; }
</style>
