<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { NButton } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { leaves } from '@/ui/escape';
import { ask, http, messageOf, type Portfolio } from '@/api/client';
import { change, update } from '@/api/operations';
import { vWhy } from '@/ui/why';

/** Says who gains and who loses access before a branch or a project is hung somewhere else, or a branch goes into another one. */
const props = defineProps<{ data: Portfolio; move: { kind: 'branch' | 'project' | 'merge'; uid: string; to: string } }>();
const emit = defineEmits<{ close: []; done: [] }>();
const { t } = useI18n();
const error = ref('');
const busy = ref(false);
const branch = computed(() => props.data.branches.find((b) => b.uid === props.move.uid));
const project = computed(() => props.data.projects.find((p) => p.uid === props.move.uid));
const name = computed(() => (props.move.kind === 'project' ? project.value?.key : branch.value?.name) ?? '');
const to = computed(() => props.data.branches.find((b) => b.uid === props.move.to)?.name ?? '');
const title = computed(() => t(props.move.kind === 'merge' ? 'shift.merge' : 'shift.title', { name: name.value, to: to.value }));
const shift = useQuery({ queryKey: ['shift', computed(() => props.move)], gcTime: 0,
    queryFn: () => ask(http.GET('/access/shift', { params: { query: props.move } })) });
const people = computed(() => shift.data.value?.people ?? []);
const RANK = ['viewer', 'contributor', 'planner', 'approver', 'administrator'];
const gains = (p: { was: string | null; will: string | null }) => RANK.indexOf(p.will ?? '') > RANK.indexOf(p.was ?? '');
const words = (p: { was: string | null; will: string | null }) => t(p.was === null ? 'shift.new' : p.will === null ? 'shift.gone'
    : 'shift.changed', { was: p.was ? t(`roles.${p.was}`) : '', will: p.will ? t(`roles.${p.will}`) : '' });

async function go(): Promise<void> {
    busy.value = true;
    error.value = '';
    const { kind, uid } = props.move;
    try {
        if (kind === 'merge') await ask(http.POST('/compose/merge', { body: { kind: 'branch', from: uid, into: props.move.to } }));
        else await change([kind === 'branch' ? update('branch', uid, { parent: props.move.to }, { parent: branch.value?.parent ?? null })
            : update('project', uid, { branch: props.move.to }, { branch: project.value?.branch })], t('shift.reason', { name: name.value,
            to: to.value }));
        emit('done');
    } catch (e) {
        error.value = messageOf(e);
    } finally {
        busy.value = false;
    }
}
</script>

<template>
    <div class="warning" role="dialog" :aria-label="title" @keydown.esc="leaves($event) && emit('close')">
        <b>{{ title }}</b>
        <span v-if="shift.isPending.value" class="faint">…</span>
        <span v-else-if="shift.error.value" class="error">{{ messageOf(shift.error.value) }}</span>
        <span v-else-if="people.length === 0">{{ t('shift.nobody') }}</span>
        <ul v-else>
            <li v-for="p in people" :key="p.name"><span :class="gains(p) ? 'more' : 'less'">{{ gains(p) ? '+' : '−' }}</span> <b>{{ p.name
            }}</b> {{ words(p) }}</li>
        </ul>
        <span v-if="error" class="error" role="alert">{{ error }}</span>
        <span class="buttons">
            <NButton v-begin v-why="!shift.data.value && t('why.wait')" type="primary" size="small" :disabled="!shift.data.value"
                :loading="busy"
                @click="go">{{ t(move.kind === 'merge' ? 'portfolio.branch.mergeNow' : 'shift.move') }}
            </NButton>
            <NButton size="small" @click="emit('close')">{{ t('health.cancel') }}</NButton>
        </span>
    </div>
</template>

<style scoped>
.warning { position: absolute; right: 16px; bottom: 16px; z-index: 5; width: 380px; max-height: calc(100% - 32px); overflow-y: auto;
    display: flex; flex-direction: column; gap: 8px; padding: 14px 16px; background: var(--raised); border: 1px solid var(--hairline);
    border-left: 3px solid var(--marigold); border-radius: 4px; }
ul { margin: 0; padding: 0; list-style: none; }
.more { color: var(--moss); font-weight: 700; }
.less { color: var(--brick); font-weight: 700; }
.buttons { display: flex; gap: 8px; }
</style>
