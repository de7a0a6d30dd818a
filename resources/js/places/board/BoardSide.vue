<script setup lang="ts">
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import type { ChangeAnswer, Job } from '@/api/client';
import StatusDateForm from '@/progress/StatusDateForm.vue';
import KeysPanel from '@/ui/KeysPanel.vue';
import SidePanel from '@/ui/SidePanel.vue';
import BoardInspector from './BoardInspector.vue';
import type { TypedCell } from './cells';
import DraftsPanel from './DraftsPanel.vue';
import { type BoardField, nameOf } from './fields/fields';
import FragmentPanel from './inspector/FragmentPanel.vue';
import HealthPanel from './inspector/HealthPanel.vue';
import ProposalPanel from './inspector/ProposalPanel.vue';
import SeveralInspector from './inspector/SeveralInspector.vue';
import MarksLegend from './MarksLegend.vue';
import { useBoard } from './store';
import type { BoardView } from './view';

/** What stands beside the rows: the inspector of one row or several, or one of the other panels. */
const props = defineProps<{ view: BoardView; context: { fields: ReadonlyMap<string,
    BoardField>; remove: () => unknown; trace: () => unknown;
    fill: (cells: readonly TypedCell[], headline: string) => Promise<boolean> } }>();
const emit = defineEmits<{ decided: [answer: ChangeAnswer | Job | { state?: string }, n: number] }>();
const { t } = useI18n();
const board = useBoard();
const view = props.view;
const { panel, examined, chosen, current, only, arranged, mayPlan } = view;
const datable = computed(() => [...(board.model?.projects.values() ?? [])].filter((p) => p.mayPlan && p.kept === 'here'));
</script>

<template>
    <SidePanel v-if="panel === 'keys'" :title="t('keys.title')" @close="panel = null"><KeysPanel /></SidePanel>
    <SidePanel v-else-if="panel === 'legend'" :title="t('legend.title')" @close="panel = null"><MarksLegend /></SidePanel>
    <SidePanel v-else-if="panel === 'health'" :title="t('health.title')" @close="panel = null">
        <HealthPanel v-model:project="examined" @go="view.goTo" />
    </SidePanel>
    <SidePanel v-else-if="panel === 'fragment'" :title="t('fragment.title')" @close="panel = null">
        <FragmentPanel :chosen="chosen" />
    </SidePanel>
    <SidePanel v-else-if="panel === 'drafts'" :title="t('draft.all')" @close="panel = null"><DraftsPanel /></SidePanel>
    <SidePanel v-else-if="panel === 'proposal' && board.proposed" :title="t('proposal.itemsTitle')" @close="panel = null">
        <ProposalPanel @go="view.goTo" @decided="(answer, n) => emit('decided', answer, n)" />
    </SidePanel>
    <SidePanel v-else-if="panel === 'status'" :title="t('statusDates.title')" @close="panel = null">
        <StatusDateForm :projects="datable"
            :carry-out="(headline, call) => board.compose(headline, call)" @done="panel = null" />
    </SidePanel>
    <SidePanel v-else-if="panel === 'row' && chosen.length > 1 && board.proposal === null" :title="t('portfolio.selected',
                                                                                                     { n: chosen.length })"
        @close="panel = null">
        <SeveralInspector :rows="chosen" :fields="context.fields" :codes="arranged" :editable="chosen.every(mayPlan)"
            :fill="context.fill" />
    </SidePanel>
    <SidePanel v-else-if="panel === 'row'" :title="current ? nameOf(current) : t('inspector.title')" @close="panel = null">
        <BoardInspector v-if="current" :key="current.id" :row="current" :codes="arranged" :editable="mayPlan(current)"
            @go="view.goTo"
            @remove="context.remove" @trace="context.trace" @only="(uids, name) => (only = { what: 'chain', uids, name })"
            @health="view.examine" />
        <p v-else class="faint">{{ t('inspector.empty') }}</p>
    </SidePanel>
</template>
