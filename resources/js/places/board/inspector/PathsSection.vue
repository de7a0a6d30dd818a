<script setup lang="ts">
import { ref, watch } from 'vue';
import { api, type FloatPaths, messageOf } from '@/api/client';
import { formatDuration } from '@/time/duration';
import type { Row } from '../model';
import { useRowEdit } from './rowEdit';

/** Chains that lead into the activity, or into one of its handovers, the most urgent first. */
const props = defineProps<{ row: Row & { kind: 'activity' }; link?: string }>();
const emit = defineEmits<{ only: [uids: string[], name: string] }>();
const { t, board, calendars, perDay } = useRowEdit(() => props.row);
const paths = ref<FloatPaths['paths'] | null>(null);
const error = ref('');
watch(() => [props.row.id, board.version], () => void (paths.value = null));

async function load(): Promise<void> {
    error.value = '';
    try {
        paths.value = (await api.get<FloatPaths>(`${props.link ? `links/${props.link}` : `activities/${props.row.id}`}/float-paths`)).paths;
    } catch (e) {
        error.value = messageOf(e);
    }
}
function title(path: FloatPaths['paths'][number]): string {
    const first = path.activities[0]!;
    const last = path.activities.at(-1)!;
    const name = (x: typeof first) => x.label?.split('/')[1] ?? t('inspector.elsewhere');
    return path.activities.length === 1 ? name(first) : `${name(first)} … ${name(last)}`;
}
function show(path: FloatPaths['paths'][number], rank: number): void {
    emit('only', path.activities.flatMap((x) => (x.uid === null ? [] : [x.uid])),
        t(props.link ? 'paths.ofHandover' : 'paths.only', { n: rank + 1, name: props.row.activity.name }));
}
</script>

<template>
    <section :data-test="link ? 'handover-paths' : 'paths'">
        <template v-if="!link"><h3>{{ t('paths.title') }}</h3><p class="faint">{{ t('paths.about') }}</p></template>
        <button v-if="paths === null" class="verb" @click="load">{{ t(link ? 'paths.handover' : 'paths.show') }}</button>
        <ol v-else>
            <li v-for="(path, i) in paths" :key="i">
                <button class="verb plain" @click="show(path, i)">{{ title(path) }}</button>
                <span class="faint tabular">
                    <br>{{ t(path.activities.length === 1 ? 'paths.one' : 'paths.many', { n: path.activities.length }) }}, {{ t('paths.float', { d: formatDuration(path.float, calendars.dayOf(path.activities.at(-1)?.uid, perDay)) }) }}<template v-if="path.joins">, {{ t('paths.joins', { name: path.joins.label?.split('/')[1] ?? t('inspector.elsewhere') }) }}</template></span>
            </li>
        </ol>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
    </section>
</template>

<style scoped>
ol { margin: 4px 0 0; padding-left: 22px; }
p { margin: 0 0 4px; }
</style>
