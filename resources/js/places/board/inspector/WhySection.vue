<script setup lang="ts">
import { computed } from 'vue';
import { useReasons } from '@/api/queries';
import { formatDuration } from '@/time/duration';
import type { Row } from '../model';
import { reasonText, waitText } from '../whyText';
import { useRowEdit } from './rowEdit';

/** Why an activity lies where it lies; of one that is kept outside, where its dates come from. */
const props = defineProps<{ row: Row & { kind: 'activity' }; editable: boolean }>();
const emit = defineEmits<{ go: [uid: string]; trace: [] }>();
const { t, board, model, moment, send } = useRowEdit(() => props.row);
const a = computed(() => props.row.activity);
const stored = computed(() => board.proposal === null); // of what is only proposed the server knows no more than the board shows
const outside = computed(() => model.value.outside.get(a.value.uid));
const { data: reasons } = useReasons(() => a.value.uid, () => board.version, stored, () => board.draft?.uid);
</script>

<template>
    <section v-if="!outside && stored" class="why" data-test="why">
        <h3>{{ t(a.actualFinish !== null ? 'inspector.whyDone' : a.actualStart !== null ? 'inspector.whyRest' : 'inspector.why') }}</h3>
        <div class="moment tabular">{{ moment(a.start) }}</div>
        <ul v-if="reasons">
            <li v-for="(r, i) in reasons.reasons" :key="i">
                <button v-if="r.link?.from && model.activities.has(r.link.from)" class="verb plain"
                    @click="emit('go', r.link.from)">{{ reasonText(r, t) }}</button>
                <template v-else>{{ reasonText(r, t) }}</template>
            </li>
            <li v-for="(w, i) in reasons.waits" :key="`w${i}`" class="faint">{{ waitText(w, t) }}<template
                v-if="w.to > w.from && w.kind !== 'lag'"> ({{ formatDuration(w.to - w.from, 1440) }})</template></li>
        </ul>
        <ul v-if="reasons?.holders?.length" data-test="holders">
            <li v-for="(h, i) in reasons.holders" :key="`h${i}`">
                <template v-if="h.uid === null">{{ t('wait.holderHidden',
                                                     { resource: h.resource, date: moment(h.finish) }) }}</template>
                <template v-else>{{ h.resource }}: <button v-if="model.activities.has(h.uid)" class="verb plain"
                    @click="emit('go', h.uid)">{{ h.label }} {{ h.name }}</button><template
                    v-else>{{ h.label }} {{ h.name }}</template>, {{ t('wait.holderUntil', { date: moment(h.finish) }) }}</template></li>
        </ul>
        <div class="verbs"><button class="verb" @click="emit('trace')">{{ t('inspector.trace') }}</button>
            <button v-if="a.levelDelay > 0 && editable" class="verb"
                @click="send(t('board.columns.levelDelay'), { levelDelay: 0 })">{{ t('inspector.holdNoLonger') }}</button></div>
    </section>
    <section v-if="outside" class="outside" data-test="outside">
        <h3>{{ t('inspector.outside') }}</h3>
        <p>{{ t('inspector.outsideFrom', { source: outside.source ?? t('inspector.unknownSource') }) }}<template
            v-if="outside.asOf !== null">, {{ t('inspector.outsideAsOf', { date: moment(outside.asOf) }) }}</template></p>
        <button v-if="stored" class="verb" @click="emit('trace')">{{ t('inspector.trace') }}</button>
    </section>
</template>

<style scoped>
.why { border-left: 3px solid var(--petrol); padding-left: 10px; }
.why li .verb { vertical-align: top; text-align: left; }
.verbs { display: flex; flex-wrap: wrap; gap: 2px 16px; }
.moment { font-size: 16px; font-weight: 600; }
ul { margin: 2px 0 0; padding-left: 16px; }
.outside { border-left: 3px dashed var(--faint); padding-left: 10px; }
.outside p { margin: 2px 0; }
</style>
