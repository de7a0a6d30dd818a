<script setup lang="ts">
import { useInfiniteQuery } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, type History, http, messageOf } from '@/api/client';
import { BRIEFLY } from '@/api/queries';
import { formatMoment, formatShort, parseIso } from '@/time/instant';
import { fieldName, valueText } from '@/words/conflictText';
import { useBoard } from '../store';
import { vWhy } from '@/ui/why';

type Entry = History['entries'][number];

/** What happened to a project or a row, the latest first, with before and after; each can be taken back by itself. */
const props = defineProps<{ project: string; object?: string; perDay: number }>();
const emit = defineEmits<{ since: [changeSet: string] }>();
const { t, te } = useI18n();
const board = useBoard();
const shown = ref(false);
const pages = useInfiniteQuery({ queryKey: ['history', computed(() => props.project), computed(() => props.object ?? ''),
    computed(() => board.version)], enabled: shown, initialPageParam: undefined as string | undefined, retry: false, gcTime: BRIEFLY,
queryFn: ({ pageParam }) => ask(http.GET('/history', { params: { query: { project: props.project, object: props.object,
    before: pageParam } } })),
getNextPageParam: (last: History) => (last.next ?? undefined) });
const entries = computed<Entry[]>(() => pages.data.value?.pages.flatMap((p) => p.entries) ?? []);
const moment = (created: string) => new Date(created).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
const about = (i: Entry['items'][number]) => t(`history.${i.verb}`, { kind: te(`history.kinds.${i.kind}`) ? t(`history.kinds.${i.kind}`)
    : i.kind, label: i.label ?? '' });
const at = (iso: string | undefined) => (iso === undefined ? '' : formatShort(parseIso(iso)!));
function shift(m: NonNullable<Entry['moved']>): string {
    if (m.startBefore === undefined) return t('history.moved', { n: m.activities });
    return [[t('board.columns.start'), m.startBefore, m.startAfter], [t('board.columns.finish'), m.finishBefore, m.finishAfter]]
        .filter(([, a, b]) => a !== b)
        .map(([word, a, b]) => t('history.change', { field: word, before: at(a) === at(b) ? formatMoment(parseIso(a!)!) : at(a),
            after: at(a) === at(b) ? formatMoment(parseIso(b!)!) : at(b) })).join(' · ');
}
/** with the object itself goes what stands on it */
const told = (e: Entry) => (e.items.some((i) => i.uid === props.object && i.verb !== 'update')
    ? e.items.filter((i) => i.uid === props.object) : e.items);
const changed = (i: Entry['items'][number]) => i.fields.filter((f) => f.field !== 'position').map((f) => t('history.change',
    { field: fieldName(f.field, t, te), before: valueText(f.field, f.before, t, props.perDay),
        after: valueText(f.field, f.after, t, props.perDay) }));
</script>

<template>
    <section data-test="history">
        <h3>{{ t('history.title') }}
            <button class="verb" :aria-expanded="shown"
                @click="shown = !shown">{{ t(shown ? 'history.hide' : 'history.show') }}</button></h3>
        <template v-if="shown">
            <p v-if="pages.error.value" class="error" role="alert">{{ messageOf(pages.error.value) }}</p>
            <p v-else-if="pages.isFetched.value && entries.length === 0" class="faint">{{ t('history.none') }}</p>
            <div v-for="e in entries" :key="e.uid" class="entry" :class="{ undone: e.state === 'undone' }">
                <div><b>{{ e.reason || t('history.unnamed') }}</b></div>
                <div class="faint tabular">{{ [e.author ?? t('history.nobody'), moment(e.created), t(`history.sources.${e.source}`),
                                               ...(e.state === 'undone' ? [t('history.undone')] : [])].join(' · ') }}</div>
                <ul>
                    <template v-for="i in told(e)" :key="i.kind + i.uid">
                        <li v-if="i.verb !== 'update' || (i.uid !== object && i.fields.length > 0)">{{ about(i) }}</li>
                        <li v-for="text in changed(i)" :key="text" class="tabular">{{ text }}</li>
                    </template>
                    <li v-if="e.more > 0" class="faint">{{ t('history.more', { n: e.more }) }}</li>
                    <li v-if="e.moved" class="tabular moved">{{ shift(e.moved) }}</li>
                </ul>
                <button v-if="e.mayUndo" class="verb" @click="board.undoOne(e.uid, e.reason)">{{ t('history.undoThis') }}</button>
                <button class="verb" @click="emit('since', e.uid)">{{ t('history.since') }}</button>
            </div>
            <button v-if="pages.hasNextPage.value" v-why="pages.isFetching.value && t('why.wait')" class="verb"
                :disabled="pages.isFetching.value"
                @click="pages.fetchNextPage()">{{ t('history.earlier') }}</button>
        </template>
    </section>
</template>

<style scoped>
h3 .verb { margin-left: 8px; font-weight: 400; }
.entry { border-top: 1px solid var(--hairline); padding: 6px 0; overflow-wrap: anywhere; }
.undone b, .undone li { color: var(--faint); text-decoration: line-through; }
.moved { color: var(--petrol); }
ul { margin: 2px 0 2px 16px; padding: 0; }
.entry .verb { margin-right: 12px; }
</style>
