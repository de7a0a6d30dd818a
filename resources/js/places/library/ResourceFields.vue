<script setup lang="ts">
import { NButton, NCheckbox, NInput, NPopconfirm, NSelect } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import type { Portfolio } from '@/api/client';
import { useResourceUses } from '@/api/queries';
import { change, remove, update } from '@/api/operations';
import { formatWork } from '@/time/duration';
import { formatDay } from '@/time/instant';
import { useAttempt } from '@/ui/attempt';
import AmountField from './AmountField.vue';
import OwnerField from './OwnerField.vue';
import { KINDS, money, type Resource } from './resource';
import { formatSteps, readSteps, type Step } from './steps';

/** What a resource is, when and how much of it there is, what it costs, and what it is assigned to. */
const props = defineProps<{ resource: Resource; calendars: Portfolio['calendars']; currency: string }>();
const emit = defineEmits<{ changed: []; gone: [] }>();
const { t, n } = useI18n();
const { error, run } = useAttempt(() => emit('changed'));
const r = computed(() => props.resource);
const locked = computed(() => !r.value.mayChange);
const isMaterial = computed(() => r.value.kind === 'material');
const name = computed(() => r.value.name || r.value.key);

type Fields = Partial<Pick<Resource, 'key' | 'name' | 'kind' | 'calendar' | 'units' | 'capacity' | 'rate' | 'rates' | 'costPerUse' | 'unit'
    | 'price' | 'placeholder' | 'from' | 'to' | 'ownBranchOnly' | 'retired'>>;
const set = (after: Fields) => run(() => change([update('resource', r.value.uid, after, Object.fromEntries(Object.keys(after)
    .map((k) => [k, r.value[k as keyof Fields]])))], t('edit.field', { name: name.value,
    field: t(`resource.fields.${Object.keys(after)[0] as keyof Fields}`) })));
const wrongCapacity = ref(false);
const wrongRates = ref(false);
const capacity = (steps: Step[]) => set({ capacity: steps.map((s) => ({ from: s.from, units: s.value })) });
const rates = (steps: Step[]) => set({ rates: steps.map((s) => ({ from: s.from, rate: s.value })) });
const typeCapacity = (text: string) => readSteps(text, 1, wrongCapacity, capacity);
const typeRates = (text: string) => readSteps(text, 100, wrongRates, rates);
/** what the other sort of thing has goes */
const become = (kind: Resource['kind']) => set(kind === 'material' ? { kind, calendar: null, capacity: [], rate: null, rates: [] }
    : isMaterial.value ? { kind, unit: '', price: null, calendar: props.calendars[0]?.uid ?? null } : { kind });
const destroy = () => run(async () => {
    await change([remove('resource', r.value.uid)], t('edit.deleted', { name: name.value }));
    emit('gone');
});
const date = (v: string) => (v.trim() === '' ? null : v.trim());

const uses = useResourceUses(() => r.value.uid, () => r.value.uses + r.value.usesBeyond);
const finishedText = computed(() => t('resource.finished', { n: (uses.data.value?.assignments.length ?? 0) - open.value.length }));
const beyondText = computed(() => t('resource.beyond', { n: uses.data.value?.beyond.assignments ?? 0,
    work: formatWork(uses.data.value?.beyond.remainingWork ?? 0) }));
const open = computed(() => (uses.data.value?.assignments ?? []).filter((a) => !a.finished));
</script>

<template>
    <p v-if="error" class="error" role="alert">{{ error }}</p>
    <div class="field"><label for="resource-name">{{ t('resource.fields.name') }}</label><NInput :default-value="r.name" size="small"
        placeholder="" :disabled="locked" :input-props="{ id: 'resource-name' }" @change="(v: string) => set({ name: v.trim() })" /></div>
    <div class="two">
        <div class="field"><label for="resource-key">{{ t('resource.fields.key') }}</label><NInput :default-value="r.key" size="small"
            placeholder="" :disabled="locked" :input-props="{ id: 'resource-key' }"
            @change="(v: string) => v.trim() && set({ key: v.trim() })" /></div>
        <div class="field"><span class="label">{{ t('resource.kind') }}</span><NSelect :value="r.kind" size="small" :disabled="locked"
            :aria-label="t('resource.kind')" :options="KINDS.map((k) => ({ value: k, label: t(`resource.kinds.${k}`) }))"
            @update:value="become" /></div>
    </div>
    <OwnerField kind="resource" :uid="r.uid" @changed="emit('changed')" />
    <template v-if="isMaterial">
        <div class="two">
            <div class="field"><label for="resource-unit">{{ t('resource.fields.unit') }}</label><NInput :default-value="r.unit"
                size="small" placeholder="" :disabled="locked" :input-props="{ id: 'resource-unit' }"
                @change="(v: string) => set({ unit: v.trim() })" /></div>
            <AmountField id="resource-price" :label="`${t('resource.fields.price')}, ${currency}`" :value="r.price ?? null" :scale="100"
                :disabled="locked" @save="(v) => set({ price: v })" />
        </div>
    </template>
    <template v-else>
        <div class="field"><span class="label">{{ t('resource.fields.calendar') }}</span><NSelect :value="r.calendar" size="small"
            filterable :disabled="locked" :aria-label="t('resource.fields.calendar')"
            :options="calendars.map((c) => ({ value: c.uid, label: c.name === c.key ? c.key : `${c.key} ${c.name}` }))"
            @update:value="(v: string) => set({ calendar: v })" /></div>
        <div class="two">
            <AmountField id="resource-units" :label="t('resource.fields.units')" :value="r.units ?? null" :scale="1"
                :disabled="locked" needed @save="(v) => v !== null && set({ units: v })" />
            <AmountField id="resource-rate" :label="`${t('resource.fields.rate')}, ${currency}`" :value="r.rate ?? null" :scale="100"
                :disabled="locked" @save="(v) => set({ rate: v })" />
        </div>
        <div class="field"><label for="resource-capacity">{{ t('resource.fields.capacity') }}</label><NInput type="textarea" size="small"
            :default-value="formatSteps((r.capacity ?? []).map((s) => ({ from: s.from!, value: s.units! })), 1)"
            :autosize="{ minRows: 1, maxRows: 6 }" :status="wrongCapacity ? 'error' : undefined" :disabled="locked"
            placeholder="2027-03-01 250" :input-props="{ id: 'resource-capacity' }"
            @change="(v: string) => typeCapacity(v)" />
            <p v-if="wrongCapacity" class="error" role="alert">{{ t('resource.wrongSteps') }}</p></div>
        <div class="field"><label for="resource-rates">{{ t('resource.fields.rates') }}</label><NInput type="textarea" size="small"
            :default-value="formatSteps((r.rates ?? []).map((s) => ({ from: s.from!, value: s.rate! })), 100)"
            :autosize="{ minRows: 1, maxRows: 6 }" :status="wrongRates ? 'error' : undefined" :disabled="locked"
            placeholder="2027-01-01 68.50" :input-props="{ id: 'resource-rates' }"
            @change="(v: string) => typeRates(v)" />
            <p v-if="wrongRates" class="error" role="alert">{{ t('resource.wrongSteps') }}</p></div>
        <AmountField id="resource-use" :label="`${t('resource.fields.costPerUse')}, ${currency}`" :value="r.costPerUse ?? null" :scale="100"
            :disabled="locked" @save="(v) => set({ costPerUse: v })" />
    </template>
    <div class="two">
        <div v-for="f in (['from', 'to'] as const)" :key="f" class="field">
            <label :for="`resource-${f}`">{{ t(`resource.fields.${f}`) }}</label>
            <NInput :default-value="(r[f] ?? '').slice(0, 10)" size="small" placeholder="2027-01-04" :disabled="locked"
                :input-props="{ id: `resource-${f}` }" @change="(v: string) => set({ [f]: date(v) })" /></div>
    </div>
    <NCheckbox :checked="r.placeholder" :disabled="locked"
        @update:checked="(v: boolean) => set({ placeholder: v })">{{ t('resource.fields.placeholder') }}</NCheckbox>
    <NCheckbox :checked="r.ownBranchOnly" :disabled="locked"
        @update:checked="(v: boolean) => set({ ownBranchOnly: v })">{{ t('resource.fields.ownBranchOnly') }}</NCheckbox>
    <NCheckbox :checked="r.retired" :disabled="locked"
        @update:checked="(v: boolean) => set({ retired: v })">{{ t('resource.fields.retired') }}</NCheckbox>
    <section>
        <h3>{{ t('resource.usedBy') }}</h3>
        <p v-if="r.uses + r.usesBeyond === 0" class="faint">{{ t('resource.unused') }}</p>
        <ul v-else class="tabular">
            <li v-for="a in open" :key="a.uid">
                <RouterLink :to="{ name: 'board', query: { projects: a.project, row: a.activity } }">{{ a.code }}</RouterLink>
                <bdi>{{ a.name }}</bdi> <span class="faint">{{ formatDay(a.start) }} – {{ formatDay(a.finish) }}<template
                    v-if="a.remainingWork"> · {{ formatWork(a.remainingWork) }}</template><template
                    v-else-if="a.quantity"> · {{ n(a.quantity / 1000) }} {{ r.unit }}</template></span>
            </li>
        </ul>
        <p v-if="(uses.data.value?.assignments.length ?? 0) > open.length" class="faint">{{ finishedText }}</p>
        <p v-if="uses.data.value?.more" class="faint">{{ t('resource.more') }}</p>
        <p v-if="uses.data.value?.beyond.assignments" class="faint">{{ beyondText }}</p>
    </section>
    <p v-if="r.costPerUse" class="faint">{{ t('resource.perUse', { cost: money(r.costPerUse) }) }}</p>
    <NPopconfirm v-if="!locked" :positive-text="t('portfolio.delete.now')" :negative-text="t('health.cancel')" @positive-click="destroy">
        <template #trigger><NButton size="small">{{ t('inspector.delete') }}</NButton></template>
        {{ t('resource.deleteAbout', { name }) }}
    </NPopconfirm>
</template>

<style scoped>
.two { display: grid; grid-template-columns: 1fr 1fr; gap: 8px; }
ul { margin: 0; padding: 0; list-style: none; }
li { padding: 2px 0; overflow-wrap: anywhere; }
p { margin: 2px 0; }
</style>
