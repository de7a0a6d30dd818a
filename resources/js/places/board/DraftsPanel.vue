<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { NButton, NCheckbox, NInput, NPopconfirm } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { ask, type Draft, http, messageOf } from '@/api/client';
import { BRIEFLY } from '@/api/queries';
import { signedSpan } from '@/time/duration';
import { formatShort, parseIso } from '@/time/instant';
import { useKept } from '@/ui/kept';
import { useAttempt } from '@/ui/attempt';
import { rippleParts } from '@/words/rippleText';
import { useBoard } from './store';
import { vWhy } from '@/ui/why';

/** Drafts: made, switched to, compared with the live plan, shared, proposed whole or in part, thrown away. */
const { t } = useI18n();
const route = useRoute();
const router = useRouter();
const board = useBoard();
const cache = useQueryClient();
const name = useKept('draft', '');
const list = useQuery({ queryKey: ['drafts', computed(() => board.draft?.steps.length ?? 0)], queryFn: () => ask(http.GET('/drafts')) });
const drafts = computed(() => list.data.value?.drafts ?? []);
const { error, run } = useAttempt(() => cache.invalidateQueries({ queryKey: ['drafts'] }));

/** steps that are to be proposed; all of them until one is left out */
const left = ref(new Set<string>());
watch(() => board.draft?.uid, () => (left.value = new Set()));
function choose(uid: string, on: boolean): void {
    const next = new Set(left.value);
    if (on) next.delete(uid); else next.add(uid);
    left.value = next;
}
const wanted = computed(() => (board.draft?.steps ?? []).filter((s) => !left.value.has(s.uid)).map((s) => s.uid));
/** null for all of them */
const ticked = computed(() => (left.value.size ? wanted.value.join(',') : undefined));

const compared = useQuery({ queryKey: ['draft', computed(() => board.draft?.uid ?? ''), computed(() => board.version), ticked],
    retry: false,
    gcTime: BRIEFLY,
    enabled: computed(() => board.draft !== null), placeholderData: (before: unknown) => before as never,
    queryFn: () => ask(http.GET('/drafts/{uid}/board',
        { params: { path: { uid: board.draft!.uid }, query: { projects: '', steps: ticked.value } } })) });
const projects = computed(() => compared.data.value?.comparison.projects ?? []);
const says = computed(() => (compared.data.value ? rippleParts(compared.data.value.comparison, t).map((p) => p.text).join(' · ') : ''));
const day = (iso: string | null) => (iso === null ? '–' : formatShort(parseIso(iso)!));
const days = (minutes: number | null, perDay: number) => (minutes === null ? ''
    : signedSpan(minutes, perDay));

const go = (uid: string | undefined) => router.push({ query: { ...route.query, draft: uid } });
const make = () => run(async () => {
    const made = await ask(http.POST('/drafts', { body: { name: name.value.trim() } }));
    name.value = '';
    await go(made.uid);
});
const path = (d: Draft) => ({ params: { path: { uid: d.uid } } });
const share = (d: Draft, shared: boolean) => run(async () => {
    const now = await ask(http.PATCH('/drafts/{uid}', { ...path(d), body: { shared } }));
    if (board.draft?.uid === d.uid) board.draft = { ...board.draft, shared: now.shared };
});
const rename = (d: Draft, to: string) => run(async () => {
    if (to.trim() === '' || to.trim() === d.name) return;
    const now = await ask(http.PATCH('/drafts/{uid}', { ...path(d), body: { name: to.trim() } }));
    if (board.draft?.uid === d.uid) board.draft = { ...board.draft, name: now.name };
});
const discard = (d: Draft) => run(async () => {
    await ask(http.DELETE('/drafts/{uid}', path(d)));
    if (board.draft?.uid === d.uid) await go(undefined); // after it, so that the list that is read then is without it
});
const propose = () => run(async () => {
    const { changeSet } = await ask(http.POST('/drafts/{uid}/propose', { ...path(board.draft!),
        body: { steps: left.value.size ? wanted.value : null } }));
    await router.push({ name: 'proposal', params: { uid: changeSet } });
});
</script>

<template>
    <section v-if="board.draft" data-test="draft">
        <h3>{{ t('draft.against') }}</h3>
        <p v-if="compared.error.value" class="error" role="alert">{{ messageOf(compared.error.value) }}</p>
        <p v-else>{{ says }}</p>
        <table v-if="projects.length" class="tabular">
            <thead><tr><th>{{ t('draft.project') }}</th><th>{{ t('draft.live') }}</th><th>{{ t('draft.here') }}</th><th>±</th>
                <th>{{ t('draft.margin') }}</th></tr></thead>
            <tbody><tr v-for="p in projects" :key="p.uid"><td :title="p.name">{{ p.key }}</td><td>{{ day(p.finishBefore) }}</td>
                <td>{{ day(p.finishAfter) }}</td><td>{{ days(p.shift, p.minutesPerDay) }}</td>
                <td :class="{ brick: (p.margin ?? 0) < 0 }">{{ days(p.margin, p.minutesPerDay) }}</td></tr></tbody>
        </table>
        <h3>{{ t('draft.steps') }}</h3>
        <p v-if="board.draft.steps.length === 0" class="faint">{{ t('draft.empty') }}</p>
        <ul><li v-for="s in board.draft.steps" :key="s.uid"><NCheckbox :checked="!left.has(s.uid)"
            @update:checked="(on) => choose(s.uid, on)">{{ s.headline || t('history.unnamed') }}</NCheckbox></li></ul>
        <div class="buttons">
            <NButton v-why="wanted.length === 0 && t('why.tick')" size="small" type="primary" :disabled="wanted.length === 0"
                @click="propose">{{ t(left.size ? 'draft.proposeSome'
                : 'draft.propose') }}</NButton>
        </div>
        <div v-if="board.draft.own" class="field"><label for="draft-name">{{ t('draft.name') }}</label><NInput :key="board.draft.uid"
            :default-value="board.draft.name" size="small" :maxlength="120" :input-props="{ id: 'draft-name' }"
            @change="(to: string) => rename(board.draft!, to)" /></div>
        <NCheckbox v-if="board.draft.own" :checked="board.draft.shared"
            @update:checked="(v) => share(board.draft!, v)">{{ t('draft.share') }}
        </NCheckbox>
    </section>
    <section data-test="drafts">
        <h3>{{ t('draft.all') }}</h3>
        <p v-if="drafts.length === 0" class="faint">{{ t('draft.none') }}</p>
        <div v-for="d in drafts" :key="d.uid" class="one">
            <button class="verb name" :aria-current="board.draft?.uid === d.uid" @click="go(d.uid)">{{ d.name }}</button>
            <span class="faint">{{ [d.own ? '' : d.author, t('draft.count', d.steps.length), d.projects.join(' ')].filter(Boolean)
                .join(' · ')
            }}</span>
            <NPopconfirm v-if="d.own" :positive-text="t('draft.discard')" :negative-text="t('health.cancel')" @positive-click="discard(d)">
                <template #trigger><button class="verb">{{ t('draft.discard') }}</button></template>
                {{ t('draft.discardAbout', { name: d.name }) }}
            </NPopconfirm>
        </div>
        <form class="new" @submit.prevent="make">
            <NInput v-model:value="name" size="small" :placeholder="t('draft.new')" :input-props="{ 'aria-label': t('draft.new') }" />
            <NButton v-why="name.trim() === '' && t('why.name')" size="small" attr-type="submit"
                :disabled="name.trim() === ''">{{ t('draft.begin') }}</NButton>
        </form>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
    </section>
</template>

<style scoped>
section { display: flex; flex-direction: column; gap: 8px; }
table { border-collapse: collapse; width: 100%; }
th { text-align: left; font-weight: 600; color: var(--faint); font-size: 13px; }
td, th { padding: 2px 6px 2px 0; border-bottom: 1px solid var(--hairline); }
ul { list-style: none; margin: 0; padding: 0; }
.one { display: flex; flex-wrap: wrap; gap: 2px 10px; align-items: baseline; }
.one .name { text-align: left; }
.one .name[aria-current=true] { text-decoration: underline; }
.one .faint { flex: 1 1 140px; }
.one > .verb:not(.name) { white-space: nowrap; }
.new { display: flex; gap: 8px; }
.brick { color: var(--brick); }
p { margin: 0; }
</style>
