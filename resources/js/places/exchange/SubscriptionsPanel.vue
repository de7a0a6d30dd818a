<script setup lang="ts">
import { NButton, NInput, NSelect } from 'naive-ui';
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, messageOf, type Portfolio, type Subscription } from '@/api/client';
import { formatDay, parseDate } from '@/time/instant';
import { useFiltered } from '@/ui/filtered';
import { vWhy } from '@/ui/why';

/** Addresses that calendars and news readers fetch; each has a secret of its own and is revoked by itself. */
const props = defineProps<{ projects: Portfolio['projects'] }>();
const { t } = useI18n();
const cache = useQueryClient();
const list = useQuery({ queryKey: ['subscriptions'], queryFn: () => ask(http.GET('/subscriptions')) });
const codes = useQuery({ queryKey: ['codes'], queryFn: () => ask(http.GET('/code-sets')) });

const KINDS = ['project', 'person', 'entry', 'handovers', 'changes', 'risks', 'baselines'] as const;
const kind = ref<typeof KINDS[number]>('project');
const about = ref<string | null>(null);
const made = ref<Subscription | null>(null);
const copied = ref(false);
const error = ref('');
watch(kind, () => (about.value = null));
const needs = computed(() => ['project', 'person', 'entry'].includes(kind.value));
const projects = computed(() => props.projects.map((p) => ({ label: `${p.key}  ${p.name}`, value: p.uid })));
const entries = computed(() => (codes.data.value?.codeSets ?? []).flatMap((s) => s.entries
    .map((e) => ({ label: `${s.name}: ${e.name}`, value: e.uid }))));

async function create(): Promise<void> {
    error.value = '';
    copied.value = false;
    try {
        made.value = await ask(http.POST('/subscriptions', { body: { kind: kind.value, about: about.value?.trim() || null } }));
        about.value = null;
        await cache.invalidateQueries({ queryKey: ['subscriptions'] });
    } catch (e) {
        error.value = messageOf(e);
    }
}
async function revoke(id: number): Promise<void> {
    error.value = '';
    try {
        await ask(http.DELETE('/subscriptions/{id}', { params: { path: { id } } }));
        if (made.value?.id === id) made.value = null;
    } catch (e) {
        error.value = messageOf(e);
    }
    await cache.invalidateQueries({ queryKey: ['subscriptions'] });
}
async function copy(): Promise<void> {
    await navigator.clipboard.writeText(made.value!.address!);
    copied.value = true;
}
const when = (iso: string) => formatDay(parseDate(iso.slice(0, 10))!);
const { asked, some, isLong } = useFiltered(() => list.data.value?.subscriptions ?? [], (s) => `${t(`exchange.kinds.${s.kind}`)} ${s.name
    ?? ''}`);
</script>

<template>
    <section>
        <h2>{{ t('exchange.subscriptions') }}</h2>
        <p class="faint">{{ t('exchange.subscriptionsHint') }}</p>
        <form class="token" @submit.prevent="create">
            <div class="field"><span class="label">{{ t('exchange.kind') }}</span><NSelect v-model:value="kind"
                :aria-label="t('exchange.kind')"
                :options="KINDS.map((value) => ({ label: t(`exchange.kinds.${value}`), value }))" /></div>
            <div v-if="kind === 'person'" class="field"><label for="s-person">{{ t('exchange.person') }}</label><NInput
                v-model:value="about"
                placeholder="" :input-props="{ id: 's-person' }" /></div>
            <div v-else class="field"><span class="label">{{ t(kind === 'entry' ? 'exchange.entry' : 'exchange.project') }}</span><NSelect
                v-model:value="about" filterable clearable :placeholder="needs ? '' : t('exchange.everything')"
                :aria-label="t(kind === 'entry' ? 'exchange.entry' : 'exchange.project')"
                :input-props="{ 'aria-label': t(kind === 'entry' ? 'exchange.entry' : 'exchange.project') }"
                :options="kind === 'entry' ? entries : projects" /></div>
            <NButton v-why="needs && !about?.trim() && t('why.about')" attr-type="submit"
                :disabled="needs && !about?.trim()">{{ t('exchange.subscribe') }}</NButton>
        </form>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
        <div v-if="made?.address" class="made"><code data-test="subscription">{{ made.address }}</code><button class="verb"
            @click="copy">{{ copied ? t('exchange.copied') : t('exchange.copy') }}</button><div
            class="faint">{{ t('exchange.secret') }}</div></div>
        <NInput v-if="isLong" v-model:value="asked" size="small" clearable :placeholder="t('app.some')"
            :input-props="{ 'aria-label': t('app.some') }" />
        <ul class="list">
            <li v-for="s in some" :key="s.id"><b>{{ t(`exchange.kinds.${s.kind}`) }}</b><span
                class="faint">{{ s.name || t('exchange.everything') }} · {{ s.lastUsed
                ? t('exchange.usedFrom', { date: when(s.lastUsed), from: s.lastUsedFrom ?? '–' }) : t('exchange.never') }}</span><button
                class="verb" @click="revoke(s.id)">{{ t('exchange.revoke') }}</button></li>
            <li v-if="list.data.value?.subscriptions.length === 0" class="faint">{{ t('exchange.noSubscriptions') }}</li>
        </ul>
    </section>
</template>

<style scoped src="./panels.css"></style>
