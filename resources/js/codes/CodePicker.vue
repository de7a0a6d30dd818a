<script setup lang="ts">
import { NButton, NInput } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { type CodeSet, messageOf } from '@/api/client';
import { change, create, newUid } from '@/api/operations';
import { useKept } from '@/ui/kept';
import TreeSelect from '@/ui/TreeSelect.vue';
import { entryTree } from './entries';
import { vWhy } from '@/ui/why';

/** Assigns entries of a code set, to one thing or several that may differ in it (`mixed`); a missing entry is made right here. */
const props = defineProps<{ set: CodeSet; value: string[]; disabled: boolean; mixed?: boolean }>();
const emit = defineEmits<{ assign: [value: string[]]; made: [] }>();
const { t } = useI18n();
const making = ref(false);
const name = useKept(() => `entry ${props.set.uid}`, '');
const below = ref<string | null>(null);
const error = ref('');
const options = computed(() => entryTree(props.set, 'uid'));

async function make(): Promise<void> {
    error.value = '';
    try {
        const uid = newUid();
        await change([create('entry', uid, { codeSet: props.set.uid, name: name.value.trim(), parent: below.value,
            position: 1 + Math.max(0, ...props.set.entries.map((e) => e.position!)) })],
            t('edit.created', { name: `${props.set.name}: ${name.value.trim()}` }));
        making.value = false;
        name.value = '';
        emit('made');
        emit('assign', props.set.multiple ? [...props.value, uid] : [uid]);
    } catch (e) {
        error.value = messageOf(e);
    }
}
const placeholder = computed(() => t(props.mixed ? 'several.mixed' : 'portfolio.codes.none'));
const one = (v: string | null) => emit('assign', v === null ? [] : [v]);
</script>

<template>
    <div class="field">
        <span class="label row"><span :title="set.description">{{ set.name }}</span><button v-if="!disabled" class="verb" type="button"
            @click="making = !making">{{ t('portfolio.codes.newValue') }}</button></span>
        <TreeSelect v-if="set.multiple" multiple :disabled="disabled" clearable
            :label="set.name ?? ''" :placeholder="placeholder" :value="value" :options="options"
            @update:value="(v: string[] | null) => emit('assign', v ?? [])" />
        <TreeSelect v-else :disabled="disabled" clearable :label="set.name ?? ''"
            :placeholder="placeholder" :value="value[0] ?? null" :options="options" @update:value="one" />
        <span v-if="mixed && value.length" class="faint">{{ t('several.mixed') }}</span>
        <button v-if="mixed && !set.multiple && !disabled" class="verb" type="button"
            @click="emit('assign', [])">{{ t('several.clear') }}</button>
        <form v-if="making" class="make" @submit.prevent="make">
            <NInput v-model:value="name" v-begin size="small" :placeholder="t('portfolio.codes.new', { set: set.name })" />
            <TreeSelect v-model:value="below" clearable :label="t('portfolio.codes.top')"
                :placeholder="t('portfolio.codes.top')" :options="options" />
            <span v-if="error" class="error">{{ error }}</span>
            <NButton v-why="name.trim() === '' && t('why.name')" size="small" attr-type="submit"
                :disabled="name.trim() === ''">{{ t('portfolio.codes.create') }}</NButton>
        </form>
    </div>
</template>

<style scoped>
.row { display: flex; justify-content: space-between; }
.make { display: flex; flex-direction: column; gap: 4px; margin: 4px 0 4px 12px; }
</style>
