<script setup lang="ts">
import { NButton, NInput } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { type CodeSet, messageOf } from '@/api/client';
import { change, create, newUid } from '@/api/operations';
import TreeSelect from '@/ui/TreeSelect.vue';
import { entryTree } from './entries';

/** Assigns entries of a code set; a missing one is made right here. */
const props = defineProps<{ set: CodeSet; value: string[]; disabled: boolean }>();
const emit = defineEmits<{ assign: [value: string[]]; made: [] }>();
const { t } = useI18n();
const making = ref(false);
const name = ref('');
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
const one = (v: string | null) => emit('assign', v === null ? [] : [v]);
</script>

<template>
    <div class="field">
        <span class="label row"><span :title="set.description">{{ set.name }}</span><button v-if="!disabled" class="verb" type="button"
            @click="making = !making">{{ t('portfolio.codes.newValue') }}</button></span>
        <TreeSelect v-if="set.multiple" multiple :disabled="disabled" clearable
            :label="set.name ?? ''" :placeholder="t('portfolio.codes.none')" :value="value" :options="options"
            @update:value="(v: string[] | null) => emit('assign', v ?? [])" />
        <TreeSelect v-else :disabled="disabled" clearable :label="set.name ?? ''"
            :placeholder="t('portfolio.codes.none')" :value="value[0] ?? null" :options="options" @update:value="one" />
        <form v-if="making" class="make" @submit.prevent="make">
            <NInput v-model:value="name" v-begin size="small" :placeholder="t('portfolio.codes.new', { set: set.name })" />
            <TreeSelect v-model:value="below" clearable :label="t('portfolio.codes.top')"
                :placeholder="t('portfolio.codes.top')" :options="options" />
            <span v-if="error" class="error">{{ error }}</span>
            <NButton size="small" attr-type="submit" :disabled="name.trim() === ''">{{ t('portfolio.codes.create') }}</NButton>
        </form>
    </div>
</template>

<style scoped>
.row { display: flex; justify-content: space-between; }
.make { display: flex; flex-direction: column; gap: 4px; margin: 4px 0 4px 12px; }
</style>
