<script setup lang="ts">
import { watchDebounced } from '@vueuse/core';
import { NButton, NSelect } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, type CodeSet, http, messageOf } from '@/api/client';
import type { Weights } from './ranking';
import { vWhy } from '@/ui/why';

/** Weights of code sets from comparing them two by two, with how far the comparisons agree. */
const props = defineProps<{ sets: readonly CodeSet[] }>();
const emit = defineEmits<{ use: [weights: Weights]; close: [] }>();
const { t } = useI18n();
const chosen = ref<string[]>(props.sets.filter((s) => s.weight! > 0).map((s) => s.uid));
const compared = computed(() => props.sets.filter((s) => chosen.value.includes(s.uid)));
/** `one other` → how many times as much the one counts */
const judged = ref<Record<string, number>>({});
const pairs = computed(() => compared.value.flatMap((one, i) => compared.value.slice(i + 1).map((other) => ({ one, other,
    key: `${one.uid} ${other.uid}` }))));
const result = ref<{ weights: number[]; ratio: number; sound: boolean } | null>(null);
const error = ref('');
const TIMES = [9, 7, 5, 3, 1, 1 / 3, 1 / 5, 1 / 7, 1 / 9];
const options = (one: string, other: string) => TIMES.map((v) => ({ value: v, label: v === 1 ? t('ranking.alike')
    : t('ranking.more', { name: v > 1 ? one : other, n: Math.round(v > 1 ? v : 1 / v) }) }));

watchDebounced([compared, judged], async () => {
    result.value = null;
    error.value = '';
    if (compared.value.length < 2) return;
    const at = (uid: string) => compared.value.findIndex((s) => s.uid === uid);
    try {
        result.value = await ask(http.POST('/ranking/judge', { body: { count: compared.value.length,
            judgements: pairs.value.map((p) => [at(p.one.uid), at(p.other.uid), judged.value[p.key] ?? 1]) } }));
    } catch (e) {
        error.value = messageOf(e);
    }
}, { debounce: 150, deep: true, immediate: true });
/** so that the heaviest stands at 10 */
function use(): void {
    const heaviest = Math.max(...result.value!.weights);
    emit('use', Object.fromEntries(compared.value.map((s, i) => [s.uid, Math.round((result.value!.weights[i]! / heaviest) * 100) / 10])));
    emit('close');
}
</script>

<template>
    <div class="comparison">
        <NSelect v-model:value="chosen" multiple size="small" :aria-label="t('ranking.compared')"
            :options="sets.map((s) => ({ label: s.name!,
                                         value: s.uid }))" />
        <div v-for="p in pairs" :key="p.key" class="pair">
            <span class="faint">{{ p.one.name }} – {{ p.other.name }}</span>
            <NSelect size="small" :value="judged[p.key] ?? 1" :options="options(p.one.name!, p.other.name!)"
                :aria-label="`${p.one.name} – ${p.other.name}`" @update:value="(v: number) => (judged = { ...judged, [p.key]: v })" />
        </div>
        <p v-if="result" :class="{ error: !result.sound }" role="status">{{ t(result.sound ? 'ranking.sound' : 'ranking.unsound',
                                                                              { ratio: result.ratio.toFixed(2) }) }}</p>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
        <NButton v-why="!result && t('why.compare')" size="small" :disabled="!result" @click="use">{{ t('ranking.use') }}</NButton>
    </div>
</template>

<style scoped>
.comparison { display: flex; flex-direction: column; gap: 8px; padding: 10px; background: var(--band); border-radius: 4px; }
.pair { display: flex; flex-direction: column; font-size: 13px; }
p { margin: 0; font-size: 13px; }
</style>
