<script setup lang="ts">
import { computed, ref } from 'vue';
import { dayLength, formatSpan } from '@/time/duration';
import { type Section, sections } from './inspector/arranging';
import CodesSection from './inspector/CodesSection.vue';
import ConstraintsSection from './inspector/ConstraintsSection.vue';
import DatesSection from './inspector/DatesSection.vue';
import FieldsSection from './inspector/FieldsSection.vue';
import FoldSection from './inspector/FoldSection.vue';
import HistorySection from './inspector/HistorySection.vue';
import KnownSection from './inspector/KnownSection.vue';
import LevelSection from './inspector/LevelSection.vue';
import LinksSection from './inspector/LinksSection.vue';
import OpenEndsSection from './inspector/OpenEndsSection.vue';
import PathsSection from './inspector/PathsSection.vue';
import ProgressSection from './inspector/ProgressSection.vue';
import ProjectInspector from './inspector/ProjectInspector.vue';
import ResourcesSection from './inspector/ResourcesSection.vue';
import SectionsChoice from './inspector/SectionsChoice.vue';
import WhySection from './inspector/WhySection.vue';
import { useRowEdit } from './inspector/rowEdit';
import RemarksSection from '@/remarks/RemarksSection.vue';
import TypedField from '@/ui/TypedField.vue';
import type { useBoardLook } from './look';
import type { Row } from './model';
import { showDate } from './typedDate';

/** Everything about the selected row. */
const props = defineProps<{ row: Row; editable: boolean; codes: ReturnType<typeof useBoardLook> }>();
const emit = defineEmits<{ go: [uid: string]; remove: []; trace: []; only: [uids: string[], name: string]; health: [] }>();
const { t, board, perDay, moment, isDate, date, send } = useRowEdit(() => props.row);
const stored = computed(() => board.proposal === null);
const arranges = ref(false);
/** of what is only proposed the server knows no more than the board shows; a hammock has less to say */
const STORED = new Set<Section>(['resources', 'openEnds', 'codes', 'remarks', 'known', 'paths', 'history']);
const NO_HAMMOCK = new Set<Section>(['constraints', 'progress', 'resources', 'paths']);
const shown = computed(() => sections.value.filter((s) => (stored.value || !STORED.has(s)) && props.row.kind === 'activity'
    && !(props.row.activity.kind === 'hammock' && NO_HAMMOCK.has(s)) && !(s === 'paths' && props.row.activity.actualFinish !== null)));
const lastChange = computed(() => { const last = board.undoable.at(-1); return last ? { uid: last.changeSets[0]!, headline: last.headline }
    : null; });
const nameOf = (row: Row) => (row.kind === 'activity' ? row.activity.code : row.kind === 'wbs' ? row.wbs.code || row.wbs.name
    : row.project.key);
</script>

<template>
    <template v-if="row.kind === 'activity'">
        <button class="verb" :aria-expanded="arranges" @click="arranges = !arranges">{{ t('sections.arrange') }}</button>
        <SectionsChoice v-if="arranges" @close="arranges = false" />
        <FoldSection v-for="s in shown" :id="s" :key="s" :title="t(`sections.of.${s}`)" :lazy="s === 'history' || s === 'paths'">
            <WhySection v-if="s === 'why'" :row="row" :editable="editable" @go="(uid) => emit('go', uid)" @trace="emit('trace')" />
            <DatesSection v-else-if="s === 'dates'" :row="row" />
            <FieldsSection v-else-if="s === 'fields'" :row="row" :editable="editable" />
            <ConstraintsSection v-else-if="s === 'constraints'" :row="row" :editable="editable" />
            <ProgressSection v-else-if="s === 'progress'" :row="row" :editable="editable" />
            <ResourcesSection v-else-if="s === 'resources'" :row="row" :editable="editable" />
            <LinksSection v-else-if="s === 'links'" :row="row" :editable="editable" @go="(uid) => emit('go', uid)"
                @only="(uids, name) => emit('only', uids, name)" />
            <OpenEndsSection v-else-if="s === 'openEnds'" :row="row" :editable="editable" />
            <CodesSection v-else-if="s === 'codes'" :rows="[row]" :codes="codes" :editable="editable" />
            <RemarksSection v-else-if="s === 'remarks'" kind="activity" :uid="row.id" :project="row.project.uid" :name="nameOf(row)"
                :editable="editable" :send="board.commit" :version="board.version" :last="lastChange" />
            <KnownSection v-else-if="s === 'known'" :uid="row.id" />
            <PathsSection v-else-if="s === 'paths'" :row="row" @only="(uids, name) => emit('only', uids, name)" />
            <HistorySection v-else :project="row.project.uid" :object="row.id" :per-day="perDay"
                @since="(changeSet) => codes.change({ since: changeSet })" />
        </FoldSection>
    </template>
    <ProjectInspector v-else-if="row.kind === 'project'" :row="row" :editable="editable" @health="emit('health')"
        @go="(uid) => emit('go', uid)" />
    <template v-else>
        <section class="pairs tabular">
            <span>{{ t('inspector.from') }}</span><span>{{ moment(row.wbs.start) }}</span>
            <span>{{ t('inspector.to') }}</span><span>{{ moment(row.wbs.finish) }}</span>
            <span>{{ t('inspector.total') }}</span>
            <span :class="{ brick: (row.wbs.totalFloat ?? 0) < 0 }">
                {{ row.wbs.totalFloat === null ? '–' : formatSpan(row.wbs.totalFloat, perDay) }}
            </span>
            <span>{{ t('span.label') }}</span><span class="faint" data-test="counted">{{ dayLength(perDay) }}</span>
            <template v-if="row.wbs.margin !== null">
                <span>{{ t('inspector.margin') }}</span>
                <span :class="{ brick: row.wbs.margin < 0 }">{{ formatSpan(row.wbs.margin, perDay) }}</span>
            </template>
        </section>
        <p class="faint">{{ t('inspector.wbsNote') }}</p>
        <section class="fields">
            <TypedField wide :label="t('inspector.name')" :value="row.wbs.name" :disabled="!editable"
                @commit="(v) => send(t('inspector.name'), { name: v })" />
            <TypedField :label="t('inspector.code')" :value="row.wbs.code" :disabled="!editable"
                @commit="(v) => send(t('inspector.code'), { code: v })" />
            <TypedField :label="t('inspector.deadline')" :value="showDate(row.wbs.deadline)" :placeholder="t('inspector.none')"
                :disabled="!editable" :check="isDate" @commit="(v) => send(t('inspector.deadline'), { deadline: date(v, 'finish') })" />
        </section>
    </template>
    <CodesSection v-if="row.kind === 'project' && stored" :rows="[row]" :codes="codes" :editable="editable" />
    <LevelSection v-if="row.kind === 'project' && stored" :row="row" :editable="editable" :sets="codes.sets.value"
        @go="(uid) => emit('go', uid)" />
    <RemarksSection v-if="stored && row.kind !== 'activity'" :kind="row.kind" :uid="row.id" :project="row.project.uid"
        :name="nameOf(row)" :editable="editable"
        :send="board.commit" :version="board.version" :last="lastChange" />
    <HistorySection v-if="stored && row.kind !== 'activity'" :project="row.project.uid"
        :object="row.kind === 'project' ? undefined : row.id" :per-day="perDay"
        @since="(changeSet) => codes.change({ since: changeSet })" />
    <section v-if="editable && row.kind !== 'project'"><button class="verb" @click="emit('remove')">{{ t('inspector.delete') }}</button>
    </section>
</template>

<style>
.panel .pairs { display: grid; grid-template-columns: 90px 1fr; gap: 4px 8px; }
.panel .pairs > span:nth-child(odd) { color: var(--faint); }
.panel .fields { display: grid; grid-template-columns: 1fr 1fr; gap: 8px 10px; }
.panel .verb.plain { display: inline; font-weight: 400; text-align: left; }
.panel .content > .verb { align-self: flex-start; }
.panel .brick { color: var(--brick); }
.panel section > h3 { margin-bottom: 2px; }
</style>
