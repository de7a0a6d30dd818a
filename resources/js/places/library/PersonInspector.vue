<script setup lang="ts">
import { NButton, NInput, NPopconfirm, NSelect } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { branchTree } from '@/codes/entries';
import TreeSelect from '@/ui/TreeSelect.vue';
import { stepped } from '@/ui/localSteps';
import { ask, type Branch, http, messageOf, type Person, type UserList } from '@/api/client';
import { vWhy } from '@/ui/why';

/** One person: roles on branches, active or not, first password, and what was done. */
const props = defineProps<{ person: Person; history: UserList['history']; branches: Branch[]; password: string | null }>();
const emit = defineEmits<{ changed: []; password: [text: string] }>();
const { t } = useI18n();
type Role = Branch['role'];
const ROLES = ['viewer', 'contributor', 'planner', 'approver', 'administrator'] as const;
const roles = computed(() => ROLES.map((value) => ({ label: t(`roles.${value}`), value })));
const administered = computed(() => props.branches.filter((b) => b.role === 'administrator'));
const isFree = (b: Branch) => b.role === 'administrator' && !props.person.roles.some((r) => r.branch === b.uid);
const free = computed(() => (administered.value.some(isFree) ? branchTree(props.branches, isFree) : []));
const nameOf = (uid: string) => props.branches.find((b) => b.uid === uid)?.name ?? '–';
const name = ref(props.person.name);
const email = ref(props.person.email);
const branch = ref<string | null>(null);
const error = ref('');

async function run(work: () => Promise<unknown>): Promise<void> {
    error.value = '';
    try {
        await work();
    } catch (e) {
        error.value = messageOf(e);
    }
    emit('changed');
}

const who = computed(() => ({ path: { id: props.person.id } }));
type Changed = { name?: string; email?: string; active?: boolean };
/** Does it and remembers the way back, for the person it was done to. */
function stepping<T>(headline: string, to: T, was: T, send: (value: T) => Promise<unknown>): Promise<void> {
    return run(async () => {
        await send(to);
        stepped(headline, () => send(was), () => send(to));
    });
}
function change(body: Changed): Promise<void> {
    const { name, email, active } = props.person;
    const params = who.value;
    const was = Object.fromEntries(Object.keys(body).map((k) => [k, { name, email, active }[k as keyof Changed]])) as Changed;
    return stepping(t('library.step.person', { name }), body, was, (value) => ask(http.PATCH('/users/{id}', { params, body: value })));
}
const rename = () => (name.value.trim() === ''
    || name.value.trim() === props.person.name ? undefined
    : void change({ name: name.value.trim() }));
const readdress = () => (email.value.trim() === ''
    || email.value.trim() === props.person.email ? undefined
    : void change({ email: email.value.trim() }));
const activate = (active: boolean) => change({ active });
function grant(at: string, role: Role | null): Promise<void> {
    const params = who.value;
    const was = props.person.roles.find((r) => r.branch === at)?.role ?? null;
    return stepping(t('library.step.role', { name: props.person.name, branch: nameOf(at),
        role: role === null ? t('library.step.noRole') : t(`roles.${role}`) }), role, was,
    (value) => ask(http.PUT('/users/{id}/roles', { params, body: { branch: at, role: value } })));
}
const reset = () => run(async () => emit('password', (await ask(http.POST('/users/{id}/password', { params: who.value }))).password));

async function give(role: Role): Promise<void> {
    if (branch.value === null) return;
    await grant(branch.value, role);
    branch.value = null;
}

function said(item: UserList['history'][number]): string {
    return t(`library.history.${item.what}`, { author: item.author ?? '–', detail: item.detail ?? '' });
}
</script>

<template>
    <div class="field"><label for="person-name">{{ t('library.name') }}</label><NInput v-model:value="name" size="small" placeholder=""
        :disabled="!person.mayDecide" :input-props="{ id: 'person-name' }" @change="rename" /></div>
    <div class="field"><label for="person-email">{{ t('library.email') }}</label><NInput v-model:value="email" size="small" placeholder=""
        :disabled="!person.mayDecide" :input-props="{ id: 'person-email', type: 'email' }" @change="readdress" /></div>
    <p v-if="error" class="error" role="alert">{{ error }}</p>
    <section>
        <h3>{{ t('library.roles') }}</h3>
        <p class="faint">{{ t('library.rolesAbout') }}</p>
        <div v-for="r in person.roles" :key="r.branch" class="role">
            <span class="where">{{ nameOf(r.branch) }}</span>
            <NSelect size="small" :value="r.role" :disabled="!r.mayChange" :aria-label="t('library.roleOn', { branch: nameOf(r.branch) })"
                :options="roles" @update:value="(v: Role) => grant(r.branch, v)" />
            <button v-why="!r.mayChange && t('why.administers')" class="verb" :disabled="!r.mayChange"
                @click="grant(r.branch, null)">{{ t('inspector.remove') }}</button>
        </div>
        <p v-if="person.roles.length === 0" class="faint">{{ t('library.noRole') }}</p>
        <div v-if="free.length" class="role">
            <TreeSelect v-model:value="branch" :label="t('library.branch')" :placeholder="t('library.branch')" :options="free" />
            <NSelect size="small" :value="null" :disabled="branch === null" :placeholder="t('library.role')" :aria-label="t('library.role')"
                :options="roles" @update:value="give" />
        </div>
    </section>
    <section>
        <h3>{{ t('library.access') }}</h3>
        <p class="faint">{{ t(person.active ? 'library.activeAbout' : 'library.inactiveAbout') }}</p>
        <div class="buttons">
            <NButton v-why="!person.mayDecide && t('why.decides')" size="small" :disabled="!person.mayDecide"
                @click="activate(!person.active)">{{ t(person.active ? 'library.deactivate' : 'library.activate') }}</NButton>
            <NPopconfirm :positive-text="t('library.resetNow')" :negative-text="t('health.cancel')" @positive-click="reset">
                <template #trigger><NButton v-why="!person.mayDecide && t('why.decides')" size="small"
                    :disabled="!person.mayDecide">{{ t('library.reset') }}</NButton></template>
                {{ t('library.resetAbout') }}
            </NPopconfirm>
        </div>
        <p v-if="password" class="secret" role="status">{{ t('library.password') }} <code>{{ password }}</code></p>
    </section>
    <section v-if="history.length">
        <h3>{{ t('library.historyTitle') }}</h3>
        <ol><li v-for="(item, i) in history" :key="i"><span class="faint">{{ item.at.slice(0, 16) }}</span> {{ said(item) }}</li></ol>
    </section>
</template>

<style scoped>
section { display: flex; flex-direction: column; gap: 8px; border-top: 1px solid var(--hairline); padding-top: 12px; }
p { margin: 0; }
.role { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) auto; gap: 8px; align-items: center; }
.where { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.buttons { display: flex; gap: 8px; }
.secret { padding: 8px 10px; border-left: 3px solid var(--marigold); background: var(--band); }
code { font-size: 15px; user-select: all; }
ol { margin: 0; padding: 0; list-style: none; font-size: 13px; }
</style>
