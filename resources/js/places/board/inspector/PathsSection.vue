<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { type FloatPaths, messageOf } from '@/api/client';
import { usePaths } from '@/api/queries';
import { formatSpan } from '@/time/duration';
import type { Row } from '../model';
import { useRowEdit } from './rowEdit';

/** Chains that lead into the activity, or into one of its handovers, the most urgent first. */
const props = defineProps<{ row: Row & { kind: 'activity' }; link?: string }>();
const emit = defineEmits<{ only: [uids: string[], name: string] }>();
const { t, board } = useRowEdit(() => props.row);
const wanted = ref(false);
watch(() => [props.row.id, board.version], () => (wanted.value = false));
const answer = usePaths(() => (props.link ? 'links' : 'activities'), () => props.link ?? props.row.id, () => board.version, wanted);
const paths = computed(() => (wanted.value ? (answer.data.value?.paths ?? null) : null));
const error = computed(() => (wanted.value && answer.error.value ? messageOf(answer.error.value) : ''));
const load = () => void (wanted.value = true);
type Path = FloatPaths['paths'][number];
const codeOf = (label: string | null | undefined) => label?.split('/')[1] ?? t('inspector.elsewhere');
function title(path: Path): string {
    const [first, last] = [path.activities[0]!, path.activities.at(-1)!];
    return path.activities.length === 1 ? codeOf(first.label) : `${codeOf(first.label)} … ${codeOf(last.label)}`;
}
function about(path: Path): string[] {
    return [
        t(path.activities.length === 1 ? 'paths.one' : 'paths.many', { n: path.activities.length }),
        t('paths.float', { d: formatSpan(path.float, path.day) }),
        ...(path.joins ? [t('paths.joins', { name: codeOf(path.joins.label) })] : []),
    ];
}
function show(path: Path, rank: number): void {
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
                    <br>{{ about(path).join(', ') }}
                </span>
            </li>
        </ol>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
    </section>
</template>

<style scoped>
ol { margin: 4px 0 0; padding-left: 22px; }
p { margin: 0 0 4px; }
</style>
