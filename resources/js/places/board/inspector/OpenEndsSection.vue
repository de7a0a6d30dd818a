<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query';
import { NSelect } from 'naive-ui';
import { computed } from 'vue';
import type { OpenEndFields } from '@/api/client';
import { create, newUid, remove } from '@/api/operations';
import { useOpenEnds } from '@/api/queries';
import type { Row } from '../model';
import { useRowEdit } from './rowEdit';

/** Links that wait for their other activity: tied to one that is open on the board, or dropped. */
const props = defineProps<{ row: Row & { kind: 'activity' }; editable: boolean }>();
const { t, board, model } = useRowEdit(() => props.row);
const cache = useQueryClient();
const query = useOpenEnds(() => props.row.id, () => board.version);
const ends = computed(() => (query.data.value?.objects ?? []).map((o) => ({ uid: o.uid, ...(o.fields as OpenEndFields) })));
const choices = computed(() => [...model.value.activities.values()].filter((a) => a.uid !== props.row.id)
    .map((a) => ({ label: `${a.code}  ${a.name}`, value: a.uid })));
const what = (e: { label?: string; name?: string }) => [e.label, e.name].filter(Boolean).join(' ') || t('openEnd.unnamed');

async function tie(end: (typeof ends.value)[number], other: string): Promise<void> {
    const [from, to] = end.side === 'predecessor' ? [other, props.row.id] : [props.row.id, other];
    await board.commit([create('link', newUid(), { from, to, type: end.type, lag: end.lag, lagCalendar: end.lagCalendar ?? null,
        ...(end.note ? { note: end.note } : {}) }), remove('openEnd', end.uid)], t('openEnd.tied', { name: props.row.activity.name,
        other: model.value.activities.get(other)?.name ?? '' }));
    await cache.invalidateQueries({ queryKey: ['openEnds'] });
}
async function drop(uid: string): Promise<void> {
    await board.commit([remove('openEnd', uid)], t('openEnd.dropped', { name: props.row.activity.name }));
    await cache.invalidateQueries({ queryKey: ['openEnds'] });
}
</script>

<template>
    <section v-if="ends.length" data-test="open-ends">
        <h3>{{ t('openEnd.title') }}</h3>
        <div v-for="e in ends" :key="e.uid" class="end">
            <span>{{ t(e.side === 'predecessor' ? 'openEnd.waits' : 'openEnd.gives', { what: what(e) }) }} <span
                class="faint">{{ e.type }}</span></span>
            <template v-if="editable">
                <NSelect size="small" filterable :value="null" :options="choices" :placeholder="t('openEnd.tie')"
                    :input-props="{ 'aria-label': t('openEnd.tie') }"
                    @update:value="(v: string) => tie(e, v)" />
                <button class="verb" @click="drop(e.uid)">{{ t('openEnd.drop') }}</button>
            </template>
        </div>
    </section>
</template>

<style scoped>
.end { display: grid; grid-template-columns: 1fr auto; gap: 4px 8px; padding: 4px 0; border-bottom: 1px dashed var(--hairline); }
.end > span { grid-column: 1 / -1; }
</style>
