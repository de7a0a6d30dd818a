<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { NButton, NDataTable, NInput } from 'naive-ui';
import { computed, h, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { ask, http, messageOf, type Person } from '@/api/client';
import { usePortfolio } from '@/api/queries';
import { user } from '@/session';
import { useKept } from '@/ui/kept';
import SidePanel from '@/ui/SidePanel.vue';
import PersonInspector from './PersonInspector.vue';
import { vWhy } from '@/ui/why';

/** Users and access by branch. What else belongs to the library comes beside it. */
const { t } = useI18n();
const route = useRoute();
const router = useRouter();
const cache = useQueryClient();
const users = useQuery({ queryKey: ['users'], queryFn: () => ask(http.GET('/users')),
    enabled: computed(() => user.value?.administers === true) });
const portfolio = usePortfolio();
const branchNames = computed(() => new Map((portfolio.data.value?.branches ?? []).map((b) => [b.uid, b.name])));
const find = ref('');
const list = computed(() => (users.data.value?.users ?? [])
    .filter((p) => `${p.name} ${p.email}`.toLowerCase().includes(find.value.trim().toLowerCase())));
const chosen = computed(() => users.data.value?.users.find((p) => String(p.id) === route.query.user) ?? null);
const history = computed(() => (users.data.value?.history ?? []).filter((item) => item.user === chosen.value?.id));
const choose = (id: number | null) => void router.replace({ query: { ...route.query, user: id === null ? undefined : String(id) } });

const adding = ref(false);
const name = useKept('user name', '');
const email = useKept('user email', '');
const error = ref('');
/** shown once, beside the person it belongs to */
const password = ref<{ id: number; text: string } | null>(null);

async function refresh(): Promise<void> {
    await cache.invalidateQueries({ queryKey: ['users'] });
}

async function add(): Promise<void> {
    error.value = '';
    try {
        const made = await ask(http.POST('/users', { body: { name: name.value.trim(), email: email.value.trim() } }));
        password.value = { id: made.id, text: made.password ?? '' };
        name.value = email.value = '';
        adding.value = false;
        await refresh();
        choose(made.id);
    } catch (e) {
        error.value = messageOf(e);
    }
}

const rolesOf = (p: Person) => p.roles.map((r) => `${t(`roles.${r.role}`)}, ${branchNames.value.get(r.branch) ?? '–'}`).join(' · ');
const columns = computed(() => [
    { key: 'name', title: t('library.name'), width: 220,
        render: (p: Person) => h('button', { class: 'verb', onClick: () => choose(p.id) }, p.name) },
    { key: 'email', title: t('library.email'), width: 240 },
    { key: 'roles', title: t('library.roles'), render: (p: Person) => rolesOf(p) || t('library.noRole') },
    { key: 'active', title: t('library.state'), width: 110, render: (p: Person) => t(p.active ? 'library.active' : 'library.inactive') },
]);
</script>

<template>
    <div class="strip">
        <b>{{ t('library.users') }}</b>
        <NInput v-model:value="find" size="small" class="find" :placeholder="t('library.find')"
            :input-props="{ 'aria-label': t('library.find') }" />
        <span class="grow" />
        <button v-if="user?.administers" class="verb" @click="adding = !adding">{{ t('library.add') }}</button>
    </div>
    <p v-if="!user?.administers" class="empty faint">{{ t('library.notYours') }}</p>
    <div v-else class="middle">
        <div class="list">
            <form v-if="adding" class="new" @submit.prevent="add">
                <div class="field"><label for="u-name">{{ t('library.name') }}</label><NInput v-model:value="name" size="small"
                    placeholder="" :input-props="{ id: 'u-name' }" /></div>
                <div class="field"><label for="u-email">{{ t('library.email') }}</label><NInput v-model:value="email" size="small"
                    placeholder="" :input-props="{ id: 'u-email', type: 'email' }" /></div>
                <NButton v-why="(name.trim() === '' || email.trim() === '') && t('why.person')" type="primary" size="small"
                    attr-type="submit" :disabled="name.trim() === '' || email.trim() === ''">{{ t('library.create') }}</NButton>
                <span v-if="error" class="error" role="alert">{{ error }}</span>
            </form>
            <NDataTable size="small" :bordered="false" :columns="columns" :data="list" :row-key="(p: Person) => p.id"
                :row-class-name="(p: Person) => (p.id === chosen?.id ? 'here' : p.active ? '' : 'out')" />
        </div>
        <SidePanel v-if="chosen" :title="chosen.name" @close="choose(null)">
            <PersonInspector :key="chosen.id" :person="chosen" :history="history" :branches="portfolio.data.value?.branches ?? []"
                :password="password?.id === chosen.id ? password.text : null" @changed="refresh"
                @password="(text) => (password = { id: chosen!.id, text })" />
        </SidePanel>
    </div>
</template>

<style scoped>
.middle { flex: 1; min-height: 0; display: flex; }
.list { flex: 1; min-width: 0; overflow: auto; padding: 0 16px 16px; }
.find { width: 220px; }
.grow { flex: 1; }
.new { display: flex; gap: 12px; align-items: flex-end; padding: 12px 0; border-bottom: 1px solid var(--hairline); }
.new .field { width: 240px; }
.empty { padding: 64px 16px; text-align: center; }
:deep(.here td) { background: var(--selection) !important; }
:deep(.out td) { color: var(--faint) !important; }
</style>
