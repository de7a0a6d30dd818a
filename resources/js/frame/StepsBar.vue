<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, onScopeDispose, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, whenWritten } from '@/api/client';
import { newUid } from '@/api/operations';
import { useAttempt } from '@/ui/attempt';
import { useCommands } from '@/ui/commands';
import { localSteps, nextLocal, topIs, turnLocal } from '@/ui/localSteps';
import { untilKnown } from '@/api/untilKnown';
import DeletedPanel from './DeletedPanel.vue';

/** The way back and forth outside the board, whatever was done and wherever, and to what was deleted lately. */
const { t } = useI18n();
const cache = useQueryClient();
const query = useQuery({ queryKey: ['steps'], queryFn: () => ask(http.GET('/history/steps')) });
const undo = computed(() => nextLocal('undo', localSteps.value) ?? query.data.value?.undo.at(-1) ?? null);
const redo = computed(() => nextLocal('redo', localSteps.value) ?? query.data.value?.redo.at(-1) ?? null);
watch(() => query.data.value, (now) => now && topIs(now.undo.at(-1)?.changeSets.at(-1) ?? null), { immediate: true });
/** what was done last in this visit; null before that */
const said = ref<string | null>(null);
const listing = ref(false);
const { error, busy, run } = useAttempt();
/** nothing that one would take back */
const QUIET = /\/(board\/news|notices\/read|session)\b/;
onScopeDispose(whenWritten((path) => {
    if (QUIET.test(path)) return;
    if (!busy.value) said.value = null; // something else was done
    void query.refetch();
}));

async function turn(way: 'undo' | 'redo'): Promise<void> {
    const next = way === 'undo' ? undo.value : redo.value;
    if (!next || busy.value) return;
    await run(async () => {
        if (await turnLocal(way) === null) {
            const sets = 'changeSets' in next ? [...next.changeSets].reverse() : [];
            for (const uid of sets) {
                const body = { changeSet: newUid() };
                await untilKnown(() => ask(http.POST('/changes/{uid}/undo', { params: { path: { uid } }, body })), () => undefined);
            }
        }
        said.value = t(`steps.${way}ne`, { what: next.headline || t('steps.hidden') });
    });
    await cache.invalidateQueries();
}
useCommands([
    { id: 'undo', keys: ['Ctrl+z'], enabled: () => undo.value !== null, run: () => turn('undo') },
    { id: 'redo', keys: ['Ctrl+Z', 'Ctrl+y'], enabled: () => redo.value !== null, run: () => turn('redo') },
    { id: 'deleted', keys: [], run: () => (listing.value = !listing.value) },
]);
</script>

<template>
    <footer class="bar" :class="{ broken: error }">
        <span v-if="error" class="text" role="alert">{{ error }}</span>
        <span v-else class="text" role="status">{{ said || (undo ? t('steps.last', { what: undo.headline || t('steps.hidden') })
            : t('steps.none')) }}</span>
        <span v-if="busy" class="faint">{{ t('board.saving') }}</span>
        <button v-if="error" class="verb" @click="error = ''">{{ t('app.close') }}</button>
        <button class="verb" :disabled="!undo || busy" :title="undo ? undo.headline : t('steps.noUndo')"
            @click="turn('undo')">{{ t('ripple.undo') }}</button>
        <button class="verb" :disabled="!redo || busy" :title="redo ? redo.headline : t('steps.noRedo')"
            @click="turn('redo')">{{ t('ripple.redo') }}</button>
        <button class="verb" :aria-expanded="listing" @click="listing = !listing">{{ t('steps.deleted') }}</button>
        <DeletedPanel v-if="listing" @close="listing = false" @back="(what) => (said = t('steps.back', { what }))" />
    </footer>
</template>

<style scoped>
.bar { position: relative; display: flex; align-items: center; gap: 14px; min-height: 34px; padding: 2px 16px; flex: none;
    border-top: 1px solid var(--hairline); background: var(--paper); }
.bar.broken { border-top: 2px solid var(--brick); color: var(--brick); }
.text { flex: 1; min-width: 0; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; color: var(--faint); }
.broken .text { color: var(--brick); white-space: normal; }
</style>
