<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { NButton, NInput, NPopconfirm } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, type Branch, http, messageOf, type Operation, type Portfolio } from '@/api/client';
import { change, remove, update } from '@/api/operations';
import RemarksSection from '@/remarks/RemarksSection.vue';
import { writeOnBranch } from '@/remarks/onBranch';
import { user } from '@/session';
import { dayLength, formatSpan, formatWork } from '@/time/duration';
import { formatDay } from '@/time/instant';
import TreeSelect from '@/ui/TreeSelect.vue';
import MoveWarning from './MoveWarning.vue';
import { branchTree, isWithin } from '@/codes/entries';

/** A branch: its name and lead, what lies on it rolled up, who reaches it; move, merge, archive, delete. */
const props = defineProps<{ data: Portfolio; branch: Branch }>();
const emit = defineEmits<{ changed: []; gone: [] }>();
const { t } = useI18n();
const cache = useQueryClient();
const name = ref(props.branch.name);
const lead = ref(props.branch.lead ?? '');
const error = ref('');
const moving = ref<string | null>(null);
const merging = ref<string | null>(null);
const administers = computed(() => props.branch.role === 'administrator');
const mayName = computed(() => props.branch.mayPlan);
const isRoot = computed(() => props.branch.parent === null && administers.value);
const band = computed(() => props.data.bands.find((b) => b.field === 'branch' && b.value === props.branch.uid));
const figures = computed(() => {
    const b = band.value;
    return !b || b.start === null ? [] : [
        [t('portfolio.details.projects'), String(b.count)],
        [t('portfolio.details.start'), formatDay(b.start)], [t('portfolio.details.finish'), formatDay(b.finish!)],
        [t('portfolio.columns.done'), `${Math.floor(b.progress * 100)} %`], [t('selection.column.work'), formatWork(b.work)],
        [t('selection.column.cost'), new Intl.NumberFormat('en-GB').format(b.cost / 100)],
        [t('selection.column.totalFloat'), b.totalFloat === null ? '–' : formatSpan(b.totalFloat, 480)],
        [t('selection.column.margin'), b.margin === null ? '–' : formatSpan(b.margin, 480)],
        [t('span.label'), dayLength(480)],
    ];
});
const users = useQuery({ queryKey: ['users'], queryFn: () => ask(http.GET('/users')), enabled: administers.value
    && user.value?.administers === true });
/** who has a role here, from this branch or one above */
const people = computed(() => {
    const above = new Map<string, string>();
    for (let at: Branch | undefined = props.branch; at; at = props.data.branches.find((b) => b.uid === at!.parent)) above.set(at.uid,
        at.name);
    return (users.data.value?.users ?? []).filter((p) => p.active).flatMap((p) => p.roles.filter((r) => above.has(r.branch))
        .map((r) => ({ id: p.id, name: p.name, role: r.role, from: above.get(r.branch)! })));
});
const history = computed(() => (users.data.value?.history ?? []).filter((h) => h.what === 'role'
    && (h.detail ?? '').endsWith(props.branch.name)).slice(0, 8));

async function run(work: () => Promise<unknown>, then: 'changed' | 'gone' = 'changed'): Promise<boolean> {
    error.value = '';
    try {
        await work();
        if (then === 'gone') emit('gone');
    } catch (e) {
        error.value = messageOf(e);
    }
    emit('changed');
    return error.value === '';
}
const say = (operations: Operation[], headline: string) => run(() => writeOnBranch(props.branch.uid, operations, headline,
    () => cache.invalidateQueries({ queryKey: ['remarks'] })));
const set = (after: Record<string, unknown>, before: Record<string, unknown>, reason: string) => run(() => change([update('branch',
    props.branch.uid, after, before)], reason));
const rename = () => name.value.trim() !== '' && name.value.trim() !== props.branch.name && void set({ name: name.value.trim() },
    { name: props.branch.name }, t('edit.name', { name: props.branch.name }));
const setLead = () => lead.value.trim() !== (props.branch.lead ?? '') && void set({ lead: lead.value.trim() || null },
    { lead: props.branch.lead }, t('edit.field', { name: props.branch.name, field: t('portfolio.branch.lead') }));
const archive = (on: boolean) => set({ archived: on }, { archived: !on }, t(on ? 'portfolio.archive.done' : 'portfolio.archive.back',
    { name: props.branch.name }));
const destroy = () => run(() => change([remove('branch', props.branch.uid)], t('edit.deleted', { name: props.branch.name })), 'gone');
</script>

<template>
    <div class="field"><label for="branch-name">{{ t('portfolio.branch.name') }}</label><NInput v-model:value="name" size="small"
        placeholder="" :disabled="!mayName" :input-props="{ id: 'branch-name' }" @change="rename" /></div>
    <div class="field"><label for="branch-lead">{{ t('portfolio.branch.lead') }}</label><NInput v-model:value="lead" size="small"
        placeholder="" :disabled="!mayName" :input-props="{ id: 'branch-lead' }" @change="setLead" /></div>
    <section v-if="figures.length" class="pairs tabular"><template v-for="[label, value] in figures" :key="label"><span
        class="faint">{{ label
    }}</span><span>{{ value }}</span></template></section>
    <p v-if="branch.rests" class="faint">{{ t('portfolio.archive.rests') }}</p>
    <p v-if="error" class="error" role="alert">{{ error }}</p>
    <section v-if="administers && !isRoot">
        <h3>{{ t('portfolio.branch.parent') }}</h3>
        <TreeSelect :value="branch.parent" :label="t('portfolio.branch.parent')"
            :options="branchTree(data.branches, (b) => b.role === 'administrator' && !isWithin(data.branches, b.uid, branch.uid))"
            @update:value="(v: string) => (moving = v === branch.parent ? null : v)" />
        <MoveWarning v-if="moving" class="inline" :data="data" :move="{ kind: 'branch', uid: branch.uid, to: moving }"
            @close="moving = null" @done="(moving = null), emit('changed')" />
    </section>
    <section v-if="administers">
        <h3>{{ t('portfolio.branch.access') }}</h3>
        <ul><li v-for="p in people" :key="`${p.id} ${p.from}`">{{ p.name }} <span class="faint">{{ t('portfolio.branch.roleFrom', { role:
            t(`roles.${p.role}`), branch: p.from }) }}</span></li></ul>
        <template v-if="history.length">
            <h3>{{ t('library.historyTitle') }}</h3>
            <ul><li v-for="(h, i) in history" :key="i"><span
                class="faint">{{ h.at.slice(0, 16) }}</span> {{ h.name }}: {{ h.detail }}</li></ul>
        </template>
        <RouterLink :to="{ name: 'library', query: { part: 'users' } }">{{ t('portfolio.branch.grant') }}</RouterLink>
    </section>
    <section v-if="mayName && !isRoot">
        <h3>{{ t('portfolio.branch.merge') }}</h3>
        <TreeSelect v-model:value="merging" clearable :label="t('portfolio.branch.merge')" :placeholder="t('portfolio.branch.mergeInto')"
            :options="branchTree(data.branches, (b) => b.mayPlan && b.uid !== branch.uid)" />
        <MoveWarning v-if="merging" class="inline" :data="data" :move="{ kind: 'merge', uid: branch.uid, to: merging }"
            @close="merging = null" @done="emit('gone')" />
        <p class="faint">{{ t('portfolio.branch.mergeAbout') }}</p>
    </section>
    <RemarksSection kind="branch" :uid="branch.uid" :name="branch.name" :editable="mayName" :send="say" :version="0" />
    <section v-if="!isRoot && (mayName || branch.archived)" class="buttons">
        <NButton size="small"
            @click="archive(!branch.archived)">{{ t(branch.archived ? 'portfolio.archive.bring' : 'portfolio.archive.do') }}
        </NButton>
        <NPopconfirm v-if="mayName" :positive-text="t('portfolio.delete.now')" :negative-text="t('health.cancel')"
            @positive-click="destroy">
            <template #trigger><NButton size="small">{{ t('inspector.delete') }}</NButton></template>
            {{ t('portfolio.branch.deleteAbout') }}
        </NPopconfirm>
    </section>
</template>

<style scoped>
section { display: flex; flex-direction: column; gap: 8px; }
.pairs { display: grid; grid-template-columns: 100px 1fr; gap: 4px 8px; }
.buttons { flex-direction: row; }
.inline { position: static; width: auto; }
ul { margin: 0; padding: 0; list-style: none; font-size: 13px; }
p { margin: 0; }
</style>
