<script setup lang="ts">
import { NCheckbox, NInput, NSelect } from 'naive-ui';
import { useQuery } from '@tanstack/vue-query';
import { refDebounced } from '@vueuse/core';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { feed, messageOf } from '@/api/client';
import { useFeedModel } from './model';
import { addressOf, type FeedChoice, flat, isValue, operators, takesValue } from './feed';

/** An address of the OData feed, put together by clicking, with the first rows that it gives. The choice stands in the page's address. */
const { t, n } = useI18n();
const route = useRoute();
const router = useRouter();
const root = `${location.origin}/odata/v4/`;

const model = useFeedModel();

const START: FeedChoice = { set: 'Activities', properties: ['ProjectKey', 'Code', 'Name', 'Start', 'Finish', 'TotalFloatHours', 'Progress'],
    relations: [], filters: [], orderby: null, descending: false, sums: false };
function fromRoute(): FeedChoice {
    try {
        return { ...START, ...JSON.parse(String(route.query.feed)) as Partial<FeedChoice> };
    } catch {
        return START;
    }
}
const choice = computed<FeedChoice>({ get: fromRoute,
    set: (value) => void router.replace({ query: { ...route.query, feed: JSON.stringify(value) } }) });
const change = (part: Partial<FeedChoice>) => (choice.value = { ...choice.value, ...part });
const set = computed(() => model.data.value?.find((s) => s.name === choice.value.set) ?? null);
const named = (name: string) => set.value?.properties.find((p) => p.name === name);

function choose(name: string): void {
    const next = model.data.value!.find((s) => s.name === name)!;
    choice.value = { ...START, set: name, properties: next.properties.filter((p) => p.name !== 'Id').slice(0, 8).map((p) => p.name) };
}
const toggled = (list: string[], name: string) => list.includes(name) ? list.filter((x) => x !== name) : [...list, name];
function setFilter(at: number, part: Partial<FeedChoice['filters'][number]>): void {
    change({ filters: choice.value.filters.map((f, i) => {
        if (i !== at) return f;
        const next = { ...f, ...part };
        const can = operators(named(next.property)!);
        return can.includes(next.is) ? next : { ...next, is: can[0]!, value: '' };
    }) });
}
const addFilter = () => change({ filters: [...choice.value.filters,
    { property: set.value!.properties[1]!.name, is: operators(set.value!.properties[1]!)[0]!, value: '' }] });

const address = computed(() => set.value === null ? '' : addressOf(set.value, choice.value));
const sampled = refDebounced(computed(() => set.value === null ? '' : addressOf(set.value, choice.value, { $top: '8', $count: 'true' })),
    300);
const sample = useQuery({ queryKey: ['feed', sampled], enabled: () => sampled.value !== '', queryFn: () => feed(sampled.value), retry:
    false });
const rows = computed(() => (sample.data.value?.value as Record<string, unknown>[] | undefined ?? []).map((r) => flat(r)));
const headings = computed(() => [...new Set(rows.value.flatMap((r) => r.map(([name]) => name)))]);
const said = (value: unknown): string => value === null || value === undefined ? '' : typeof value === 'boolean' ? t(value ?
    'exchange.yes' : 'exchange.no')
    : typeof value === 'number' ? String(value) : String(value).replace(/^(\d{4}-\d\d-\d\d)T(\d\d:\d\d):00(?:\.0+)?(?:Z|[+-]\d\d:\d\d)$/,
        '$1 $2');

const copied = ref('');
async function copy(): Promise<void> {
    await navigator.clipboard.writeText(root + address.value);
    copied.value = address.value;
}
</script>

<template>
    <section class="builder">
        <h2>{{ t('exchange.feed') }}</h2>
        <p class="faint">{{ t('exchange.feedsHint') }}</p>
        <div class="address"><code data-test="address">{{ root }}{{ address }}</code><button class="verb" @click="copy">{{ copied ===
            address
            ? t('exchange.copied') : t('exchange.copy') }}</button></div>
        <template v-if="set">
            <div class="line">
                <div class="field set"><span class="label">{{ t('exchange.rowsOf') }}</span><NSelect :value="choice.set" filterable
                    :aria-label="t('exchange.rowsOf')" :input-props="{ 'aria-label': t('exchange.rowsOf') }"
                    :options="(model.data.value ?? []).map((s) => ({ label: s.name, value: s.name }))" @update:value="choose" /></div>
                <div class="field order"><span class="label">{{ t('exchange.orderBy') }}</span><NSelect :value="choice.orderby" clearable
                    filterable
                    placeholder="" :aria-label="t('exchange.orderBy')" :input-props="{ 'aria-label': t('exchange.orderBy') }"
                    :options="set.properties.map((p) => ({ label: p.name, value: p.name }))"
                    @update:value="(orderby: string | null) => change({ orderby })" /></div>
                <NCheckbox v-if="choice.orderby !== null" :checked="choice.descending"
                    @update:checked="(descending: boolean) => change({ descending })">{{ t('exchange.descending') }}</NCheckbox>
                <NCheckbox :checked="choice.sums" @update:checked="(sums: boolean) => change({ sums })">{{ t('exchange.sums') }}</NCheckbox>
            </div>
            <p class="faint">{{ set.meaning }}{{ choice.sums ? ` ${t('exchange.sumsHint')}` : '' }}</p>
            <div class="chips" role="group" :aria-label="t('exchange.properties')">
                <button v-for="p in set.properties" :key="p.name" class="chip" :aria-pressed="choice.properties.includes(p.name)"
                    :title="p.meaning"
                    @click="change({ properties: toggled(choice.properties, p.name) })">{{ p.name }}</button>
                <template v-if="!choice.sums"><button v-for="r in set.relations" :key="r" class="chip along"
                    :aria-pressed="choice.relations.includes(r)" :title="t('exchange.along')"
                    @click="change({ relations: toggled(choice.relations, r) })">+ {{ r }}</button></template>
            </div>
            <div v-for="(f, i) in choice.filters" :key="i" class="line">
                <NSelect class="name" :value="f.property" filterable :aria-label="t('exchange.filterOf')"
                    :input-props="{ 'aria-label': t('exchange.filterOf') }"
                    :options="set.properties.map((p) => ({ label: p.name, value: p.name }))"
                    @update:value="(property: string) => setFilter(i, { property })" />
                <NSelect class="is" :value="f.is" :aria-label="t('exchange.filterIs')"
                    :options="operators(named(f.property)!).map((is) => ({ label: t(`exchange.is.${is}`), value: is }))"
                    @update:value="(is: string) => setFilter(i, { is })" />
                <NInput v-if="takesValue(f.is)" class="value" :value="f.value"
                    :status="f.value === '' || isValue(named(f.property)!, f.value)
                        ? undefined : 'error'" :placeholder="named(f.property)!.type === 'DateTimeOffset' ? '2026-12-31' : ''"
                    :input-props="{ 'aria-label': t('exchange.filterValue') }" @update:value="(value: string) => setFilter(i, { value })" />
                <button class="verb" @click="change({ filters: choice.filters.filter((_, j) => j !== i) })">{{ t('exchange.drop')
                }}</button>
            </div>
            <div><button class="verb" @click="addFilter">{{ t('exchange.addFilter') }}</button></div>
            <p v-if="sample.error.value" class="error" role="alert">{{ messageOf(sample.error.value) }}</p>
            <template v-else-if="sample.data.value">
                <p class="faint" data-test="total">{{ rows.length === 0 ? t('exchange.totalNone')
                    : t('exchange.total', { n: n(Number(sample.data.value['@odata.count'])), shown: rows.length }) }}</p>
                <div class="sample"><table class="tabular" data-test="sample">
                    <thead><tr><th v-for="h in headings" :key="h">{{ h }}</th></tr></thead>
                    <tbody><tr v-for="(r, i) in rows" :key="i"><td v-for="h in headings" :key="h"
                        :class="{ number: typeof r.find(([name]) => name === h)?.[1] === 'number' }">{{ said(r.find(([name]) => name ===
                        h)?.[1])
                    }}</td></tr></tbody>
                </table></div>
            </template>
        </template>
        <p v-else-if="model.error.value" class="error" role="alert">{{ messageOf(model.error.value) }}</p>
    </section>
</template>

<style scoped>
.builder { display: flex; flex-direction: column; gap: 12px; padding: 16px 24px; min-width: 0; }
p { margin: 0; }
.address { display: flex; gap: 12px; align-items: baseline; }
code { font-size: 13px; word-break: break-all; background: var(--band); padding: 2px 6px; border-radius: 3px; }
.line { display: flex; gap: 8px 16px; align-items: flex-end; flex-wrap: wrap; }
.set, .order { width: 200px; }
.name { width: 200px; }
.is { width: 140px; }
.value { width: 180px; }
.chips { display: flex; flex-wrap: wrap; gap: 6px; }
.chip { border: 1px solid var(--hairline); background: none; color: var(--faint); font: inherit; font-size: 13px; line-height: 18px;
    padding: 1px 8px; border-radius: 4px; cursor: pointer; }
.chip[aria-pressed=true] { color: var(--ink); border-color: var(--petrol); background: var(--band); font-weight: 600; }
.along { border-style: dashed; }
.sample { overflow: auto; border-top: 1px solid var(--hairline); }
table { border-collapse: collapse; font-size: 13px; }
th, td { text-align: left; padding: 3px 16px 3px 0; white-space: nowrap; max-width: 260px; overflow: hidden; text-overflow: ellipsis; }
th { font-weight: 600; color: var(--faint); }
tbody tr { border-top: 1px solid var(--hairline); }
.number { text-align: right; }
</style>
