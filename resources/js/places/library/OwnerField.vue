<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query';
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http } from '@/api/client';
import { useOwners, usePortfolio } from '@/api/queries';
import { branchTree } from '@/codes/entries';
import { useAttempt } from '@/ui/attempt';
import { stepped } from '@/ui/localSteps';
import TreeSelect from '@/ui/TreeSelect.vue';

/** The branch that something shared belongs to, and the way to give it to another. */
const props = defineProps<{ kind: 'calendar' | 'codeSet' | 'ownField' | 'levelScheme' | 'resource'; uid: string; bare?: boolean }>();
const emit = defineEmits<{ changed: [] }>();
const { t } = useI18n();
const cache = useQueryClient();
const list = useOwners();
const portfolio = usePortfolio();
const owner = computed(() => list.data.value?.owners.find((o) => o.kind === props.kind && o.uid === props.uid));
const branchName = (uid: string) => portfolio.data.value?.branches.find((b) => b.uid === uid)?.name ?? '–';
const { error, run } = useAttempt(() => cache.invalidateQueries({ queryKey: ['owners'] }));
const give = (branch: string | null) => branch !== null && branch !== owner.value?.branch && void run(async () => {
    const params = { path: { kind: props.kind, uid: props.uid } };
    const send = (to: string) => ask(http.PUT('/owners/{kind}/{uid}', { params, body: { branch: to } }));
    const was = owner.value?.branch;
    await send(branch);
    if (was) stepped(t('library.owner.given', { branch: branchName(branch) }), () => send(was), () => send(branch));
    emit('changed');
});
</script>

<template>
    <div v-if="owner" class="field" :title="t('library.owner.about')">
        <span v-if="!bare" class="label">{{ t('library.owner.title') }}</span>
        <TreeSelect :value="owner.branch" :disabled="!owner.mayChange" :label="t('library.owner.title')"
            :placeholder="t('library.owner.beyond')"
            :options="branchTree(portfolio.data.value?.branches ?? [], owner.mayChange ? (b) => b.role === 'administrator' : undefined)"
            @update:value="give" />
        <p v-if="error" class="error" role="alert">{{ error }}</p>
    </div>
</template>

<style scoped>
p { margin: 0; }
</style>
