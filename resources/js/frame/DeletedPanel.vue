<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { NButton } from 'naive-ui';
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, type Deleted, http } from '@/api/client';
import { newUid } from '@/api/operations';
import { untilKnown } from '@/api/untilKnown';
import { useAttempt } from '@/ui/attempt';
import SidePanel from '@/ui/SidePanel.vue';
import { vWhy } from '@/ui/why';

/** What was deleted in the last thirty days as a whole, and the way to bring it back. */
const emit = defineEmits<{ close: []; back: [what: string] }>();
const { t } = useI18n();
const cache = useQueryClient();
const query = useQuery({ queryKey: ['deleted'], queryFn: () => ask(http.GET('/history/deleted')), staleTime: 0, gcTime: 0 });
const list = computed(() => query.data.value?.deleted ?? []);
const { error, busy, run } = useAttempt(() => cache.invalidateQueries());
const called = (d: Deleted) => d.things.map((thing) => thing.label ?? t('steps.nameless')).join(', ')
    + (d.more > 0 ? ` ${t('steps.more', { n: d.more })}` : '');
const kinds = (d: Deleted) => [...new Set(d.things.map((thing) => t(`history.kinds.${thing.kind}`)))].join(', ');

async function bring(d: Deleted): Promise<void> {
    const body = { changeSet: newUid() };
    if (await run(() => untilKnown(() => ask(http.POST('/changes/{uid}/undo', { params: { path: { uid: d.changeSet } }, body })),
        () => undefined))) emit('back', called(d));
}
</script>

<template>
    <SidePanel :title="t('steps.deletedTitle')" class="over" @close="emit('close')">
        <p class="faint">{{ t('steps.deletedAbout') }}</p>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
        <p v-if="query.data.value && list.length === 0" class="faint">{{ t('steps.deletedNone') }}</p>
        <ul>
            <li v-for="d in list" :key="d.changeSet">
                <span class="what"><b><bdi>{{ called(d) }}</bdi></b><span class="faint">{{ kinds(d) }} ·
                    {{ d.deleted.slice(0, 16).replace('T', ' ') }} · <bdi>{{ d.author ?? '–' }}</bdi></span></span>
                <NButton v-why="busy && t('why.wait')" size="small" :disabled="busy" @click="bring(d)">{{ t('steps.bring') }}</NButton>
            </li>
        </ul>
    </SidePanel>
</template>

<style scoped>
.over { position: absolute; right: 0; bottom: 100%; height: min(70vh, 560px); z-index: 5; border-top: 1px solid var(--hairline); }
p { margin: 0; }
ul { margin: 0; padding: 0; list-style: none; }
li { display: flex; gap: 10px; align-items: center; justify-content: space-between; padding: 8px 0;
    border-bottom: 1px solid var(--hairline); }
.what { display: flex; flex-direction: column; min-width: 0; overflow-wrap: anywhere; }
</style>
