<script setup lang="ts">
import { NButton, NInput, NSelect } from 'naive-ui';
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, messageOf, type Token } from '@/api/client';
import { usePortfolio } from '@/api/queries';
import { formatDay, parseDate } from '@/time/instant';
import { lastBoard } from '@/frame/lastBoard';
import ImportPanel from './ImportPanel.vue';
import OpenProposals from './OpenProposals.vue';

const { t } = useI18n();
const cache = useQueryClient();
const portfolio = usePortfolio();
const tokens = useQuery({ queryKey: ['tokens'], queryFn: () => ask(http.GET('/tokens')) });

const chosen = ref<string[]>(lastBoard.value.split(',').filter(Boolean));
const format = ref<'plan-xml' | 'icalendar' | 'xcal' | 'graphml'>('plan-xml');
const formats = computed(() => (['plan-xml', 'icalendar', 'xcal', 'graphml'] as const)
    .map((value) => ({ label: t(`exchange.formats.${value}`), value })));
const projects = computed(() => (portfolio.data.value?.projects ?? []).map((p) => ({ label: `${p.key}  ${p.name}`, value: p.key })));
const address = computed(() => `/api/v1/exchange/export?projects=${encodeURIComponent(chosen.value.join(','))}&format=${format.value}`);

const name = ref('');
const scopes = ref<('feed' | 'read' | 'write')[]>(['feed']);
const made = ref<Token | null>(null);
const copied = ref(false);
const tokenError = ref('');
const odata = `${location.origin}/odata/v4/`;

async function create(): Promise<void> {
    tokenError.value = '';
    copied.value = false;
    try {
        made.value = await ask(http.POST('/tokens', { body: { name: name.value.trim(), scopes: scopes.value } }));
        name.value = '';
        await cache.invalidateQueries({ queryKey: ['tokens'] });
    } catch (e) {
        tokenError.value = messageOf(e);
    }
}
async function revoke(id: number): Promise<void> {
    await ask(http.DELETE('/tokens/{id}', { params: { path: { id } } }));
    if (made.value?.id === id) made.value = null;
    await cache.invalidateQueries({ queryKey: ['tokens'] });
}
async function copy(): Promise<void> {
    await navigator.clipboard.writeText(made.value!.token!);
    copied.value = true;
}
const when = (iso: string) => formatDay(parseDate(iso.slice(0, 10))!);
</script>

<template>
    <div class="page">
        <h1 class="visually-hidden">{{ t('places.exchange') }}</h1>
        <section>
            <h2>{{ t('exchange.export') }}</h2>
            <p class="faint">{{ t('exchange.exportHint') }}</p>
            <div class="field"><span class="label">{{ t('exchange.projects') }}</span><NSelect v-model:value="chosen" multiple filterable
                placeholder="" :input-props="{ 'aria-label': t('exchange.projects') }" :aria-label="t('exchange.projects')"
                :options="projects" /></div>
            <div class="field"><span class="label">{{ t('exchange.format') }}</span><NSelect v-model:value="format"
                :aria-label="t('exchange.format')" :options="formats" /></div>
            <div class="row"><NButton tag="a" type="primary" :disabled="chosen.length === 0" :href="chosen.length ? address : undefined"
                                 download>{{ t('exchange.download') }}</NButton><a href="/schema/plan.xsd">{{ t('exchange.schema') }}</a>
                <a href="/schema/plan-xml">{{ t('exchange.reference') }}</a></div>
        </section>
        <div class="column"><ImportPanel :branches="portfolio.data.value?.branches ?? []" /><OpenProposals /></div>
        <section>
            <h2>{{ t('exchange.feeds') }}</h2>
            <p class="faint">{{ t('exchange.feedsHint') }}</p>
            <code>{{ odata }}</code>
            <form class="token" @submit.prevent="create">
                <div class="field"><label for="t-name">{{ t('exchange.tokenName') }}</label><NInput v-model:value="name" placeholder=""
                    :input-props="{ id: 't-name' }" /></div>
                <div class="field"><span class="label">{{ t('exchange.scope') }}</span><NSelect v-model:value="scopes" multiple
                    :aria-label="t('exchange.scope')"
                    :options="['feed', 'read', 'write'].map((value) => ({ label: t(`exchange.scopes.${value}`), value }))" /></div>
                <NButton attr-type="submit" :disabled="name.trim() === '' || scopes.length === 0">{{ t('exchange.create') }}</NButton>
            </form>
            <p v-if="tokenError" class="error" role="alert">{{ tokenError }}</p>
            <div v-if="made?.token" class="made"><code data-test="token">{{ made.token }}</code><button class="verb"
                @click="copy">{{ copied ? t('exchange.copied') : t('exchange.copy') }}</button><div
                class="faint">{{ t('exchange.once') }}</div></div>
            <ul class="tokens">
                <li v-for="token in tokens.data.value?.tokens ?? []" :key="token.id"><b>{{ token.name }}</b><span
                    class="faint">{{ token.scopes.map((s) => t(`exchange.scopes.${s}`)).join(', ') }} · {{ token.lastUsed
                    ? t('exchange.used', { date: when(token.lastUsed) }) : t('exchange.never') }}</span><button class="verb"
                    @click="revoke(token.id)">{{ t('exchange.revoke') }}</button></li>
                <li v-if="tokens.data.value?.tokens.length === 0" class="faint">{{ t('exchange.noTokens') }}</li>
            </ul>
        </section>
    </div>
</template>

<style scoped>
.page { flex: 1; overflow: auto; display: grid; grid-template-columns: repeat(auto-fit, minmax(340px, 1fr)); gap: 0; align-content: start;
    padding: 8px; }
section { display: flex; flex-direction: column; gap: 12px; padding: 16px 24px; min-width: 0; }
.column { border-left: 1px solid var(--hairline); border-right: 1px solid var(--hairline); min-width: 0; }
p { margin: 0; }
.row { display: flex; align-items: center; gap: 16px; }
.tokens { list-style: none; padding: 0; }
.tokens li { display: grid; grid-template-columns: 1fr auto; padding: 6px 0; border-top: 1px solid var(--hairline); }
.tokens .faint { grid-column: 1; }
.tokens .verb { grid-row: 1; grid-column: 2; }
.token { display: flex; flex-direction: column; gap: 10px; align-items: flex-start; }
.token .field { width: 100%; }
.made { border-left: 3px solid var(--marigold); padding-left: 10px; }
code { font-size: 13px; word-break: break-all; background: var(--band); padding: 2px 6px; border-radius: 3px; }
.visually-hidden { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
</style>
