<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { NPopover } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRouter } from 'vue-router';
import { ask, http } from '@/api/client';
import { formatMoment, parseIso } from '@/time/instant';
import { useCommands } from '@/ui/commands';

/** Who mentioned one where; those not read are counted. */
const { t } = useI18n();
const router = useRouter();
const cache = useQueryClient();
const shown = ref(false);
const answer = useQuery({ queryKey: ['notices'], queryFn: () => ask(http.GET('/notices')), refetchInterval: 15_000, retry: false });
const notices = computed(() => answer.data.value?.notices ?? []);
const unread = computed(() => notices.value.filter((n) => !n.read).length);
const moment = (created: string) => new Date(`${created.replace(' ', 'T')}Z`).toLocaleString('en-GB',
    { dateStyle: 'medium', timeStyle: 'short' });

// looked at is read
watch(shown, async (is) => {
    const last = notices.value[0]?.id;
    if (is || last === undefined || unread.value === 0) return;
    await ask(http.POST('/notices/read', { body: { upTo: last } })).catch(() => undefined);
    await cache.invalidateQueries({ queryKey: ['notices'] });
});
// what one has to do, in all projects
const list = useQuery({ queryKey: ['todos'], queryFn: () => ask(http.GET('/todos')), refetchInterval: 60_000, retry: false });
const todos = computed(() => list.data.value?.todos ?? []);
const more = computed(() => list.data.value?.more ?? false);
watch(shown, (is) => is && void cache.invalidateQueries({ queryKey: ['todos'] }));
useCommands([{ id: 'todos', keys: [], run: () => (shown.value = true) }]);
/** the row of a board, or the branch in the portfolio, that a remark is about */
function go(to: { project: string | null; branch: string | null }, row: string): void {
    shown.value = false;
    void router.push(to.project ? { name: 'board', query: { projects: to.project, row } }
        : { name: 'portfolio', query: { branch: to.branch } });
}
</script>

<template>
    <NPopover v-model:show="shown" trigger="click" placement="bottom-end" :show-arrow="false">
        <template #trigger><button class="bell" :aria-label="t('notices.count', unread)">{{ t('notices.title')
        }}<span v-if="todos.length" class="todos" :title="t('notices.todos', { n: todos.length })">✓{{ todos.length }}</span><span
            v-if="unread"
            class="n">{{ unread }}</span></button></template>
        <div class="list" data-test="notices">
            <template v-if="todos.length > 0">
                <h3>{{ t('notices.todos', { n: todos.length }) }}</h3>
                <button v-for="d in todos" :key="d.uid" class="one" @click="go(d, d.row)">
                    <span><b>{{ d.project }}</b> {{ d.code }} <bdi>{{ d.name }}</bdi> <span
                        class="faint">· {{ t(`notices.why.${d.why}`) }}</span></span>
                    <bdi class="text">{{ d.text.slice(0, 200) }}</bdi>
                    <span class="faint tabular">{{ d.author }}<template v-if="d.written">,
                        {{ formatMoment(parseIso(d.written)!) }}</template></span>
                </button>
                <p v-if="more" class="faint">{{ t('notices.more') }}</p>
                <h3>{{ t('notices.title') }}</h3>
            </template>
            <p v-if="notices.length === 0" class="faint">{{ t('notices.none') }}</p>
            <button v-for="n in notices" :key="n.id" class="one" :class="{ unread: !n.read }" @click="go(n, n.activity)">
                <span><b>{{ n.author }}</b> · {{ n.project }} {{ n.code }} {{ n.name }}</span>
                <span class="text">{{ n.text }}</span>
                <span class="faint tabular">{{ moment(n.created) }}</span>
            </button>
        </div>
    </NPopover>
</template>

<style scoped>
.bell { border: 0; background: none; color: #C3CCD1; font: inherit; cursor: pointer; padding: 0 10px;
    display: flex; align-items: center; gap: 6px; }
.n { background: #D99A00; color: #1E2A32; border-radius: 9px; padding: 0 6px; font-weight: 700; font-size: 12px; line-height: 18px; }
h3 { margin: 8px 8px 4px; font-size: 13px; }
.todos { color: #E8B53A; font-size: 13px; }
.list { width: 380px; max-height: 480px; overflow-y: auto; }
.one { display: flex; flex-direction: column; gap: 2px; width: 100%; text-align: left; border: 0; border-bottom: 1px solid var(--hairline);
    background: none; color: var(--ink); font: inherit; padding: 8px; cursor: pointer; }
.one.unread { border-left: 3px solid var(--marigold); }
.text { overflow-wrap: anywhere; }
p { margin: 8px; }
</style>
