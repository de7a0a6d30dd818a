<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query';
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http } from '@/api/client';
import { useOwners, usePortfolio } from '@/api/queries';
import { branchTree } from '@/codes/entries';
import { useAttempt } from '@/ui/attempt';
import TreeSelect from '@/ui/TreeSelect.vue';

/** The branch that something shared belongs to, and the way to give it to another. */
const props = defineProps<{ kind: 'calendar' | 'codeSet' | 'ownField' | 'levelScheme'; uid: string; bare?: boolean }>();
const emit = defineEmits<{ changed: [] }>();
const { t } = useI18n();
const cache = useQueryClient();
const list = useOwners();
const portfolio = usePortfolio();
const owner = computed(() => list.data.value?.owners.find((o) => o.kind === props.kind && o.uid === props.uid));
const { error, run } = useAttempt(() => cache.invalidateQueries({ queryKey: ['owners'] }));
const give = (branch: string | null) => branch !== null && branch !== owner.value?.branch && void run(async () => {
    await ask(http.PUT('/owners/{kind}/{uid}', { params: { path: { kind: props.kind, uid: props.uid } }, body: { branch } }));
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
