<script setup lang="ts">
import { NButton, NInput } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { messageOf, type Portfolio } from '@/api/client';
import { change, create as make, newUid } from '@/api/operations';
import { useKept } from '@/ui/kept';
import TreeSelect from '@/ui/TreeSelect.vue';
import { branchTree } from '@/codes/entries';

const props = defineProps<{ data: Portfolio; branch: string | null }>();
const emit = defineEmits<{ done: [uid: string] }>();
const { t } = useI18n();
const planned = computed(() => props.data.branches.filter((b) => b.mayPlan));
// the one that is chosen, else the top of what one plans where there is one top: nobody finds a branch in a place that was guessed
const tops = computed(() => planned.value.filter((b) => !planned.value.some((above) => above.uid === b.parent)));
const parent = ref(planned.value.some((b) => b.uid === props.branch) ? props.branch
    : tops.value.length === 1 ? tops.value[0]!.uid : null);
const name = useKept('branch name', '');
const error = ref('');
const uid = newUid(); // one branch, however often it is sent

async function create(): Promise<void> {
    error.value = '';
    try {
        await change([make('branch', uid, { parent: parent.value, name: name.value.trim() })],
            t('edit.created', { name: name.value.trim() }), `c${uid}`);
        name.value = '';
        emit('done', uid);
    } catch (e) {
        error.value = messageOf(e);
    }
}
</script>

<template>
    <form class="form" @submit.prevent="create">
        <div class="field"><label for="b-name">{{ t('portfolio.branch.name') }}</label><NInput v-model:value="name" v-begin placeholder=""
            :input-props="{ id: 'b-name' }" /></div>
        <div class="field"><span class="label">{{ t('portfolio.branch.parent') }}</span><TreeSelect v-model:value="parent"
            :label="t('portfolio.branch.parent')" :placeholder="t('portfolio.branch.choose')"
            :options="branchTree(data.branches, (b) => b.mayPlan)" /></div>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
        <NButton type="primary" attr-type="submit"
            :title="parent === null ? t('portfolio.branch.choose') : name.trim() === '' ? t('portfolio.project.missing',
                                                                                            { names: t('portfolio.branch.name') })
                : undefined"
            :disabled="name.trim() === '' || parent === null">{{ t('portfolio.branch.create') }}</NButton>
    </form>
</template>

<style scoped>
.form { display: flex; flex-direction: column; gap: 12px; }
</style>
