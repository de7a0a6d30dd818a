<script setup lang="ts">
import { NButton, NInput } from 'naive-ui';
import { ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { messageOf } from '@/api/client';
import { change, create, newUid } from '@/api/operations';
import { useKept } from '@/ui/kept';
import { vWhy } from '@/ui/why';

/** Makes a code set for projects where it is missed. */
const emit = defineEmits<{ done: [] }>();
const { t } = useI18n();
const making = ref(false);
const name = useKept('new code set', '');
const error = ref('');

async function make(): Promise<void> {
    error.value = '';
    try {
        await change([create('codeSet', newUid(), { scope: 'project', name: name.value.trim() })],
            t('edit.created', { name: name.value.trim() }));
        name.value = '';
        making.value = false;
        emit('done');
    } catch (e) {
        error.value = messageOf(e);
    }
}
</script>

<template>
    <button v-if="!making" class="verb" @click="making = true">{{ t('portfolio.newSet') }}</button>
    <form v-else class="set" @submit.prevent="make">
        <NInput v-model:value="name" v-begin size="small" :placeholder="t('portfolio.codes.setName')" />
        <NButton v-why="name.trim() === '' && t('why.name')" size="small" attr-type="submit"
            :disabled="name.trim() === ''">{{ t('portfolio.codes.setCreate') }}</NButton>
        <span v-if="error" class="error" role="alert">{{ error }}</span>
    </form>
</template>

<style scoped>
.verb { align-self: flex-start; }
.set { display: flex; gap: 6px; flex-wrap: wrap; }
</style>
