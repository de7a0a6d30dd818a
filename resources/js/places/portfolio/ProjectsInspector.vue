<script setup lang="ts">
import { NButton, NPopconfirm } from 'naive-ui';
import { computed, ref, toRef } from 'vue';
import { useI18n } from 'vue-i18n';
import { type CodeSet, messageOf, type Operation, type Portfolio, type PortfolioProject } from '@/api/client';
import { change, newUid, remove, update } from '@/api/operations';
import { formatDay } from '@/time/instant';
import CodePicker from '@/codes/CodePicker.vue';
import CopyForm from '@/copying/CopyForm.vue';
import StatusDateForm from '@/progress/StatusDateForm.vue';
import RemarksSection from '@/remarks/RemarksSection.vue';
import TreeSelect from '@/ui/TreeSelect.vue';
import MoveWarning from './MoveWarning.vue';
import NewCodeSet from './NewCodeSet.vue';
import OwnValues from './OwnValues.vue';
import ProjectNames from './ProjectNames.vue';
import { branchTree, codedAlike, codingOperations } from '@/codes/entries';

/** One project, or several: figures, codes, own fields, where it hangs; archive, delete. */
const props = defineProps<{ data: Portfolio; projects: PortfolioProject[] }>();
const emit = defineEmits<{ open: [findings?: boolean]; changed: []; gone: [] }>();
const { t } = useI18n();
const projects = toRef(props, 'projects');
const one = computed(() => (projects.value.length === 1 ? projects.value[0]! : null));
const keys = computed(() => projects.value.map((p) => p.key).join(', '));
const mayPlan = computed(() => projects.value.every((p) => p.mayPlan));
const mayRevive = computed(() => projects.value.every((p) => ['planner', 'approver', 'administrator'].includes(p.role ?? '')));
const archived = computed(() => projects.value.every((p) => p.archived));
const error = ref('');
const dating = ref(false);
async function carryOut(_: string, call: (params: object, changeSet: string) => Promise<unknown>): Promise<boolean> {
    await run(() => call({}, newUid()));
    return error.value === '';
}
const moving = ref<string | null>(null);
const copying = ref<'copy' | 'template' | null>(null);
const show = (what: 'copy' | 'template') => (copying.value = copying.value === what ? null : what);
const pairs = computed(() => {
    const p = one.value;
    return p === null ? [] : [
        [t('portfolio.details.start'), formatDay(p.start ?? p.plannedStart)],
        [t('portfolio.details.finish'), p.finish === null ? '–' : formatDay(p.finish)],
        [t('portfolio.details.status'), p.statusDate === null ? '–' : formatDay(p.statusDate)],
        [t('portfolio.details.deadline'), p.deadline === null ? '–' : formatDay(p.deadline)],
        [t('portfolio.details.activities'), String(p.activities)],
    ];
});

async function run(work: () => Promise<unknown>, then: 'changed' | 'gone' = 'changed'): Promise<void> {
    error.value = '';
    try {
        await work();
        if (then === 'gone') emit('gone');
    } catch (e) {
        error.value = messageOf(e);
    }
    emit('changed');
}
const assign = (set: CodeSet, entries: string[]) => run(async () => {
    const operations = codingOperations(projects.value, set, entries);
    if (operations.length) await change(operations, t('edit.code', { name: keys.value }));
});
const alike = computed(() => new Map(props.data.codeSets.map((set) => [set.uid, codedAlike(projects.value, set)])));
const archive = (on: boolean) => run(() => change(projects.value.filter((p) => p.archived !== on).map((p) => update('project', p.uid,
    { archived: on }, { archived: p.archived })), t(on ? 'portfolio.archive.done' : 'portfolio.archive.back', { name: keys.value })));
async function say(operations: Operation[], headline: string): Promise<boolean> {
    await run(() => change(operations, headline));
    return error.value === '';
}
const destroy = () => run(() => change(projects.value.map((p) => remove('project', p.uid)), t('edit.deleted', { name: keys.value })),
    'gone');
</script>

<template>
    <section v-if="one" class="pairs tabular"><template v-for="[name, value] in pairs" :key="name"><span class="faint">{{ name
    }}</span><span>{{ value }}</span></template></section>
    <section class="buttons">
        <NButton size="small" @click="emit('open')">{{ t('portfolio.details.openBoard') }}</NButton>
        <NButton size="small" @click="emit('open', true)">{{ t('portfolio.details.findings') }}</NButton>
    </section>
    <p v-if="archived" class="faint">{{ t('portfolio.archive.rests') }}</p>
    <ProjectNames v-if="one" :key="one.uid" :project="one" :disabled="!mayPlan" :run="run" />
    <section class="codes">
        <h3>{{ t('portfolio.codes.title') }}</h3>
        <CodePicker v-for="set in data.codeSets" :key="set.uid" :set="set" :value="alike.get(set.uid)!.common"
            :mixed="alike.get(set.uid)!.mixed" :disabled="!mayPlan"
            @assign="(v) => assign(set, v)" @made="emit('changed')" />
        <NewCodeSet v-if="mayPlan" @done="emit('changed')" />
    </section>
    <OwnValues v-if="data.ownFields.length" :fields="data.ownFields" :projects="projects" :disabled="!mayPlan" @changed="emit('changed')" />
    <section v-if="one" class="codes">
        <h3>{{ t('portfolio.details.branch') }}</h3>
        <TreeSelect :value="one.branch" :disabled="!mayPlan"
            :label="t('portfolio.details.branch')" :options="branchTree(data.branches, (b) => b.mayPlan)"
            @update:value="(v: string) => (moving = v === one!.branch ? null : v)" />
        <MoveWarning v-if="moving" class="inline" :data="data" :move="{ kind: 'project', uid: one.uid, to: moving }"
            @close="moving = null" @done="(moving = null), emit('changed')" />
    </section>
    <section class="buttons">
        <NButton size="small" @click="show('copy')">{{ t('copy.copy') }}</NButton>
        <NButton size="small" @click="show('template')">{{ t('copy.template') }}</NButton>
    </section>
    <CopyForm v-if="copying" :key="`${copying} ${keys}`" :data="data" :source="projects[0]!" :more="projects.slice(1)"
        :as-template="copying === 'template'" @done="(copying = null), emit('changed')" />
    <section v-if="mayPlan && !archived" class="codes">
        <h3>{{ t('statusDates.title') }} <button class="verb" @click="dating = !dating">{{ t(dating ? 'history.hide' : 'statusDates.set') }}
        </button></h3>
        <StatusDateForm v-if="dating" :projects="projects" :carry-out="carryOut" @done="dating = false" />
    </section>
    <p v-if="error" class="error" role="alert">{{ error }}</p>
    <RemarksSection v-if="one" kind="project" :uid="one.uid" :project="one.uid" :name="one.key" :editable="mayPlan" :send="say"
        :version="one.revision" />
    <section v-if="mayRevive" class="buttons">
        <NButton size="small" @click="archive(!archived)">{{ t(archived ? 'portfolio.archive.bring' : 'portfolio.archive.do') }}</NButton>
        <NPopconfirm v-if="mayPlan" :positive-text="t('portfolio.delete.now')" :negative-text="t('health.cancel')"
            @positive-click="destroy">
            <template #trigger><NButton size="small">{{ t('inspector.delete') }}</NButton></template>
            {{ t('portfolio.delete.about', { name: keys, n: projects.reduce((sum, p) => sum + p.activities, 0) }) }}
        </NPopconfirm>
    </section>
</template>

<style scoped>
.pairs { display: grid; grid-template-columns: 100px 1fr; gap: 4px 8px; }
.codes { display: flex; flex-direction: column; gap: 8px; align-items: stretch; }
.buttons { display: flex; gap: 8px; }
.inline { position: static; width: auto; }
p { margin: 0; }
</style>
