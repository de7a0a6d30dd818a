<script setup lang="ts">
import { NButton, NDatePicker, NInput, NSelect } from 'naive-ui';
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, messageOf, type Portfolio, type Token } from '@/api/client';
import { formatDay, parseDate } from '@/time/instant';
import { useKept } from '@/ui/kept';
import { useFiltered } from '@/ui/filtered';
import { vWhy } from '@/ui/why';

/** Tokens that reporting tools and scripts sign in with: what for, limited to what, until when; used when and from where. */
const props = defineProps<{ branches: Portfolio['branches']; sets: string[] }>();
const { t } = useI18n();
const cache = useQueryClient();
const tokens = useQuery({ queryKey: ['tokens'], queryFn: () => ask(http.GET('/tokens')) });

const name = useKept('token', '');
const scopes = ref<('feed' | 'read' | 'write')[]>(['feed']);
const branch = ref<string | null>(null);
const only = ref<string[]>([]);
const expires = ref<string | null>(null);
const made = ref<Token | null>(null);
const copied = ref(false);
const error = ref('');
const isFeed = computed(() => scopes.value.length === 1 && scopes.value[0] === 'feed');
const places = computed(() => props.branches.map((b) => ({ label: b.name, value: b.uid })));

async function create(): Promise<void> {
    error.value = '';
    copied.value = false;
    try {
        const limits = isFeed.value ? { branch: branch.value, sets: only.value.length ? only.value : null } : {};
        made.value = await ask(http.POST('/tokens', { body: { name: name.value.trim(), scopes: scopes.value, expires: expires.value,
            ...limits } }));
        [name.value, branch.value, only.value, expires.value] = ['', null, [], null];
        await cache.invalidateQueries({ queryKey: ['tokens'] });
    } catch (e) {
        error.value = messageOf(e);
    }
}
async function revoke(id: number): Promise<void> {
    error.value = '';
    try {
        await ask(http.DELETE('/tokens/{id}', { params: { path: { id } } }));
        if (made.value?.id === id) made.value = null;
    } catch (e) {
        error.value = messageOf(e);
    }
    await cache.invalidateQueries({ queryKey: ['tokens'] });
}
async function copy(): Promise<void> {
    await navigator.clipboard.writeText(made.value!.token!);
    copied.value = true;
}
const when = (iso: string) => formatDay(parseDate(iso.slice(0, 10))!);
const limits = (token: Token) => [token.scopes.map((s) => t(`exchange.scopes.${s}`)).join(', '),
    ...(token.branch ? [t('exchange.onlyBelow', { branch: token.branch })] : []), ...(token.sets ? [token.sets.join(', ')] : []),
    ...(token.expires ? [t('exchange.until', { date: when(token.expires) })] : [])].join(' · ');
const { asked, some, isLong } = useFiltered(() => tokens.data.value?.tokens ?? [], (token) => token.name);
</script>

<template>
    <section>
        <h2>{{ t('exchange.tokens') }}</h2>
        <form class="token" @submit.prevent="create">
            <div class="field"><label for="t-name">{{ t('exchange.tokenName') }}</label><NInput v-model:value="name" placeholder=""
                :input-props="{ id: 't-name' }" /></div>
            <div class="field"><span class="label">{{ t('exchange.scope') }}</span><NSelect v-model:value="scopes" multiple
                :aria-label="t('exchange.scope')"
                :options="['feed', 'read', 'write'].map((value) => ({ label: t(`exchange.scopes.${value}`), value }))" /></div>
            <template v-if="isFeed">
                <div class="field"><span class="label">{{ t('exchange.below') }}</span><NSelect v-model:value="branch" clearable filterable
                    :placeholder="t('exchange.everything')" :aria-label="t('exchange.below')"
                    :input-props="{ 'aria-label': t('exchange.below') }"
                    :options="places" /></div>
                <div class="field"><span class="label">{{ t('exchange.sets') }}</span><NSelect v-model:value="only" multiple filterable
                    :placeholder="t('exchange.everything')" :aria-label="t('exchange.sets')"
                    :input-props="{ 'aria-label': t('exchange.sets') }"
                    :options="sets.map((value) => ({ label: value, value }))" /></div>
            </template>
            <div class="field"><label for="t-until">{{ t('exchange.expires') }}</label><NDatePicker v-model:formatted-value="expires"
                value-format="yyyy-MM-dd" format="yyyy-MM-dd" type="date" clearable :placeholder="t('exchange.forever')"
                :input-props="{ id: 't-until' }" /></div>
            <NButton v-why="name.trim() === '' ? t('why.name') : scopes.length === 0 && t('why.tick')" attr-type="submit"
                :disabled="name.trim() === '' || scopes.length === 0">{{ t('exchange.create') }}</NButton>
        </form>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
        <div v-if="made?.token" class="made"><code data-test="token">{{ made.token }}</code><button class="verb"
            @click="copy">{{ copied ? t('exchange.copied') : t('exchange.copy') }}</button><div
            class="faint">{{ t('exchange.once') }}</div></div>
        <NInput v-if="isLong" v-model:value="asked" size="small" clearable :placeholder="t('app.some')"
            :input-props="{ 'aria-label': t('app.some') }" />
        <ul class="list">
            <li v-for="token in some" :key="token.id"><b><bdi>{{ token.name }}</bdi></b><span
                class="faint">{{ limits(token) }}<br>{{ token.lastUsed
                ? t('exchange.usedFrom', { date: when(token.lastUsed), from: token.lastUsedFrom ?? '–' }) : t('exchange.never')
            }}</span><button
                class="verb" @click="revoke(token.id)">{{ t('exchange.revoke') }}</button></li>
            <li v-if="tokens.data.value?.tokens.length === 0" class="faint">{{ t('exchange.noTokens') }}</li>
        </ul>
    </section>
</template>

<style scoped src="./panels.css"></style>
