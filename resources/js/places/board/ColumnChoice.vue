<script setup lang="ts">
import { NButton, NCheckbox, NInput, NInputNumber, NPopover } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { type BoardField, columnKeys, type Preset, PRESETS } from './fields/fields';
import type { BoardLook } from './look';
import { vWhy } from '@/ui/why';

/** Which columns show, in which order, and how many stay at the left: a set that goes together, or one's own choice. */
const props = defineProps<{ look: BoardLook; fields: ReadonlyMap<string, BoardField> }>();
const emit = defineEmits<{ change: [more: Partial<BoardLook>] }>();
const { t } = useI18n();
const wanted = ref('');
const keys = computed(() => columnKeys(props.look.preset, props.look.columns, props.fields));
const others = computed(() => [...props.fields.values()].filter((f) => !keys.value.includes(f.key)
    && f.title.toLowerCase().includes(wanted.value.trim().toLowerCase())));
const presets = Object.keys(PRESETS) as Preset[];
const title = computed(() => (props.look.columns.length > 0 ? t('board.columnSets.own') : t(`board.columnSets.${props.look.preset}`)));

const choose = (columns: string[]) => emit('change', { columns });
const take = (preset: string) => emit('change', { preset, columns: [] });
function move(key: string, by: -1 | 1): void {
    const list = [...keys.value];
    const at = list.indexOf(key);
    if (at + by < 0 || at + by >= list.length) return;
    [list[at], list[at + by]] = [list[at + by]!, list[at]!];
    choose(list);
}
</script>

<template>
    <NPopover trigger="click" placement="bottom-end" scrollable style="max-height: 560px">
        <template #trigger><button class="verb">{{ t('board.columnsOf') }}: {{ title }}</button></template>
        <div class="choice" data-test="columns">
            <div class="presets"><NButton v-for="p in presets" :key="p" size="tiny" :type="look.columns.length === 0 && look.preset === p
                ? 'primary' : 'default'" @click="take(p)">{{ t(`board.columnSets.${p}`) }}</NButton></div>
            <ul>
                <li v-for="(key, i) in keys" :key="key">
                    <NCheckbox :checked="true"
                        @update:checked="choose(keys.filter((k) => k !== key))">{{ fields.get(key)!.title }}</NCheckbox>
                    <button v-why="i === 0 && t('why.first')" class="verb" :disabled="i === 0"
                        :aria-label="t('board.columnUp', { name: fields.get(key)!.title })"
                        @click="move(key, -1)">↑</button>
                    <button v-why="i === keys.length - 1 && t('why.last')" class="verb" :disabled="i === keys.length - 1"
                        :aria-label="t('board.columnDown', { name: fields.get(key)!.title })" @click="move(key, 1)">↓</button>
                </li>
            </ul>
            <label class="frozen">{{ t('board.frozen') }} <NInputNumber size="tiny" :value="look.frozen" :min="0" :max="5"
                :input-props="{ 'aria-label': t('board.frozen') }" @update:value="(v) => emit('change', { frozen: v ?? 0 })" /></label>
            <NInput v-model:value="wanted" size="small" :placeholder="t('board.moreColumns')"
                :input-props="{ 'aria-label': t('board.moreColumns') }" />
            <ul class="others">
                <li v-for="f in others" :key="f.key"><NCheckbox :checked="false"
                    @update:checked="choose([...keys, f.key])">{{ f.title }}</NCheckbox></li>
            </ul>
        </div>
    </NPopover>
</template>

<style scoped>
.choice { width: 300px; display: flex; flex-direction: column; gap: 8px; }
.presets { display: flex; flex-wrap: wrap; gap: 6px; }
ul { list-style: none; margin: 0; padding: 0; }
li { display: flex; align-items: center; gap: 8px; padding: 2px 0; }
li > :first-child { flex: 1; }
.others { border-top: 1px solid var(--hairline); padding-top: 4px; }
.frozen { display: flex; align-items: center; gap: 8px; }
.frozen > :last-child { width: 84px; }
</style>
