<script setup lang="ts">
import { NSelect } from 'naive-ui';
import { computed } from 'vue';
import type { Assigned } from '@/api/client';
import { create, newUid, remove, update } from '@/api/operations';
import { useAssignments, useResources } from '@/api/queries';
import { formatWork, parseDuration } from '@/time/duration';
import TypedField from '@/ui/TypedField.vue';
import { ONE, titleOf } from '../fields/resourceFields';
import type { Row } from '../model';
import { useRowEdit } from './rowEdit';

/** Who and what an activity is done with: how much of each, how much work, and how that lies over its time. */
const props = defineProps<{ row: Row & { kind: 'activity' }; editable: boolean }>();
const { t, board, send } = useRowEdit(() => props.row);
const list = useResources();
const resources = computed(() => list.data.value?.resources ?? []);
const told = useAssignments(() => props.row.id, () => board.version);
const assigned = computed<Assigned[]>(() => (told.data.value?.objects ?? []).map((o) => ({
     uid: o.uid, ...(o.fields as Omit<Assigned, 'uid'>) })));
const of = (uid: string | null) => resources.value.find((r) => r.uid === uid);
const isMaterial = (a: Assigned) => of(a.resource)?.kind === 'material';
const choices = (a: Assigned | null) => resources.value.filter((r) => r.uid === a?.resource || (!r.retired && (a === null
    || (r.kind === 'material') === isMaterial(a)))).map((r) => ({ value: r.uid, label: r.name ? `${r.key} ${r.name}` : r.key }));
const SPREADS = ['even', 'front', 'back', 'bell'] as const;
const KEEPS = ['duration', 'work', 'intensity'] as const;
const name = (a: Assigned) => { const r = of(a.resource); return r ? titleOf(r) : t('assigned.nobody'); };
const set = (a: Assigned, after: Record<string, unknown>) => board.commit([update('assignment', a.uid, after)],
    t('assigned.changed', { name: name(a), code: props.row.activity.code }));
const add = (uid: string) => {
    const r = of(uid)!;
    const open = assigned.value.find((a) => a.resource === null);
    return board.commit([r.kind !== 'material' && open ? update('assignment', open.uid, { resource: uid })
        : create('assignment', newUid(), { activity: props.row.id, resource: uid,
            ...(r.kind === 'material' ? { quantity: 1000 } : { intensity: ONE }) })],
    t('assigned.added', { name: titleOf(r), code: props.row.activity.code }));
};
const drop = (a: Assigned) => board.commit([remove('assignment', a.uid)], t('assigned.removed', { name: name(a),
    code: props.row.activity.code }));
const number = (text: string) => (/^\d+([.,]\d+)?\s*%?$/.test(text.trim()) ? Number.parseFloat(text.replace(',', '.')) : null);
const isNumber = (text: string) => (number(text) === null ? t('assigned.needNumber', { text }) : null);
const minutes = (text: string) => (/^0+\s*(h|d|m)?$/.test(text.trim()) ? 0 : parseDuration(text, 480)?.minutes ?? null);
const isWork = (text: string) => (minutes(text) === null ? t('progress.needWork', { text }) : null);
const keeps = computed(() => [{ value: '', label: t('assigned.keepsProject', { what: t(`assigned.keep.${props.row.project.keeps}`) }) },
    ...KEEPS.map((k) => ({ value: k, label: t(`assigned.keep.${k}`) }))]);
</script>

<template>
    <section data-test="assigned">
        <div v-for="a in assigned" :key="a.uid" class="one">
            <NSelect size="small" filterable :value="a.resource" :options="choices(a)" :disabled="!editable"
                :placeholder="t('assigned.nobody')" :aria-label="t('assigned.who')" :input-props="{ 'aria-label': t('assigned.who') }"
                @update:value="(v: string) => set(a, { resource: v })" />
            <button v-if="editable" class="verb" :aria-label="t('assigned.remove', { name: name(a) })"
                @click="drop(a)">{{ t('inspector.delete') }}</button>
            <div class="fields">
                <template v-if="isMaterial(a)">
                    <TypedField :label="t(a.perHour ? 'assigned.perHour' : 'assigned.quantity', { unit: of(a.resource)?.unit ?? '' })"
                        :value="a.quantity === null ? '' : String(a.quantity / 1000)" :disabled="!editable" :check="isNumber"
                        @commit="(v) => set(a, { quantity: Math.round(number(v)! * 1000) })" />
                </template>
                <template v-else>
                    <TypedField :label="t('assigned.intensity')" :value="a.intensity === null ? '' : `${a.intensity / 1000} %`"
                        :disabled="!editable" :check="isNumber"
                        @commit="(v) => set(a, { intensity: Math.round(number(v)! * 1000) })" />
                    <TypedField :label="t('assigned.remaining')" :value="a.remainingWork === null ? '' : formatWork(a.remainingWork)"
                        :disabled="!editable || row.activity.actualStart !== null" :check="isWork"
                        @commit="(v) => set(a, { remainingWork: minutes(v) })" />
                    <div class="field"><span class="label">{{ t('assigned.spread') }}</span><NSelect size="small" :value="a.spread"
                        :disabled="!editable" :aria-label="t('assigned.spread')"
                        :options="[...SPREADS, ...(a.spread === 'hand' ? ['hand'] : [])]
                            .map((s) => ({ value: s, label: t(`assigned.spreads.${s}`) }))"
                        @update:value="(v: string) => set(a, { spread: v, weeks: [] })" /></div>
                    <div v-if="a.actualWork" class="field"><span class="label">{{ t('assigned.actual') }}</span><span
                        class="tabular">{{ formatWork(a.actualWork) }}</span></div>
                </template>
            </div>
        </div>
        <p v-if="assigned.length === 0" class="faint">{{ t('assigned.none') }}</p>
        <template v-if="editable">
            <NSelect size="small" filterable :value="null" :options="choices(null)" :placeholder="t('assigned.add')"
                :aria-label="t('assigned.add')" :input-props="{ 'aria-label': t('assigned.add') }" @update:value="add" />
            <div v-if="assigned.some((a) => a.intensity !== null)" class="field"><span class="label">{{ t('assigned.keeps') }}</span>
                <NSelect size="small" :value="row.activity.keeps ?? ''" :options="keeps" :aria-label="t('assigned.keeps')"
                    @update:value="(v: string) => send(t('assigned.keeps'), { keeps: v || null })" /></div>
        </template>
    </section>
</template>

<style scoped>
.one { display: grid; grid-template-columns: 1fr auto; gap: 4px 8px; padding: 6px 0; border-bottom: 1px solid var(--hairline); }
.one .fields { grid-column: 1 / -1; display: grid; grid-template-columns: 1fr 1fr; gap: 6px 10px; }
section { display: flex; flex-direction: column; gap: 6px; }
p { margin: 2px 0; }
</style>
