<script setup lang="ts">
import { onClickOutside, watchDebounced } from '@vueuse/core';
import { computed, ref, useTemplateRef } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { ask, http, type SearchAnswer } from '@/api/client';
import { commands, showKeys, useCommands } from '@/ui/commands';
import { lastBoard } from './lastBoard';

interface Choice { id: string; text: string; detail: string; run: () => void }

const { t } = useI18n();
const route = useRoute();
const router = useRouter();
const root = useTemplateRef<HTMLElement>('root');
const input = useTemplateRef<HTMLInputElement>('input');
const text = ref('');
const open = ref(false);
const at = ref(0);
const found = ref<SearchAnswer | null>(null);

/** where the focus was, to go back to */
let from: HTMLElement | null = null;
useCommands([{ id: 'command', keys: ['Ctrl+k'], run: () => {
    from = document.activeElement as HTMLElement | null;
    input.value?.focus();
    input.value?.select();
} }]);
onClickOutside(root, () => (open.value = false));

watchDebounced(text, async (q) => {
    at.value = 0;
    found.value = q.trim() === '' ? null : await ask(http.GET('/search', { params: { query: { q: q.trim() } } })).catch(() => null);
}, { debounce: 150 });

/** saved views and drafts, by name; read when the field is used */
const named = ref<Choice[]>([]);
async function readNames(): Promise<void> {
    const board = () => (route.name === 'board' ? route.query : { projects: lastBoard.value || undefined });
    const [onBoard, onPortfolio, drafts] = await Promise.all([ask(http.GET('/views', { params: { query: { place: 'board' } } })),
        ask(http.GET('/views', { params: { query: { place: 'portfolio' } } })), ask(http.GET('/drafts'))]).catch(() => [null, null, null]);
    named.value = [
        ...(onBoard?.views ?? []).map((v): Choice => ({ id: v.uid, text: v.name, detail: t('keys.viewOf.board'),
            run: () => void router.push({ name: 'board', query: { ...board(), view: JSON.stringify(v.definition) } }) })),
        ...(onPortfolio?.views ?? []).map((v): Choice => ({ id: v.uid, text: v.name, detail: t('keys.viewOf.portfolio'),
            run: () => void router.push({ name: 'portfolio', query: { view: JSON.stringify(v.definition) } }) })),
        ...(drafts?.drafts ?? []).map((d): Choice => ({ id: d.uid, text: d.name, detail: t('draft.one'), run: () => void router.push({
            name: 'board', query: { projects: d.projects.join(',') || lastBoard.value || undefined, draft: d.uid } }) })),
    ];
}

const choices = computed<Choice[]>(() => {
    const list: Choice[] = [];
    for (const p of found.value?.projects ?? []) list
        .push({ id: p.uid, text: p.key, detail: p.name, run: () => void router.push({ name: 'board', query: { projects: p.key } }) });
    for (const a of found.value?.activities ?? []) list
        .push({ id: a.uid, text: a.code, detail: a.name,
        run: () => void router.push({ name: 'board', query: { projects: a.project, row: a.uid } }) });
    for (const o of found.value?.objects ?? []) list
        .push({ id: o.uid, text: o.label, detail: `${t(`history.kinds.${o.kind}`)}, ${o.branch?.name ?? o.project}`,
        run: () => void router.push(o.branch ? { name: 'portfolio', query: { branch: o.branch.uid } }
            : { name: 'board', query: { projects: o.project, row: o.activity ?? (o.kind === 'wbs' ? o.uid : undefined) } }) });
    const q = text.value.trim().toLowerCase();
    for (const one of q === '' ? [] : named.value) {
        if (one.text.toLowerCase().includes(q)) list.push(one);
    }
    for (const command of commands.value) {
        const label = t(`keys.${command.id}`);
        if (command.listed || command.id === 'command' || !(command.enabled?.() ?? true)) continue;
        if (q === '' || label.toLowerCase().includes(q)) list
            .push({ id: command.id, text: label, detail: command.keys.map(showKeys).join(', '), run: () => void command.run() });
    }
    return list;
});

function run(choice: Choice | undefined): void {
    if (!choice) return;
    open.value = false;
    text.value = '';
    input.value?.blur();
    from?.focus({ preventScroll: true });
    choice.run();
}

function key(e: KeyboardEvent): void {
    if (e.key === 'ArrowDown') at.value = Math.min(choices.value.length - 1, at.value + 1);
    else if (e.key === 'ArrowUp') at.value = Math.max(0, at.value - 1);
    else if (e.key === 'Enter') run(choices.value[at.value]);
    else if (e.key === 'Escape') {
        open.value = false;
        input.value?.blur();
        from?.focus({ preventScroll: true });
    } else return;
    e.preventDefault();
    e.stopPropagation();
}
</script>

<template>
    <div ref="root" class="command">
        <input ref="input" v-model="text" role="combobox" aria-autocomplete="list" aria-controls="command-list" :aria-expanded="open"
            :aria-label="t('app.find')" :aria-activedescendant="open && choices[at] ? `command-${at}` : undefined"
            :placeholder="t('app.find')" @focus="((open = true), readNames())" @blur="open = false" @keydown="key">
        <span class="hint" aria-hidden="true">Ctrl K</span>
        <ul v-show="open" id="command-list" tabindex="-1" role="listbox" :aria-label="t('command.commands')">
            <li v-for="(choice, i) in choices" :id="`command-${i}`" :key="choice.id" role="option" :aria-selected="i === at"
                :class="{ at: i === at }" @mousedown.prevent="run(choice)" @mousemove="at = i">
                <b>{{ choice.text }}</b> <span class="faint">{{ choice.detail }}</span>
            </li>
            <li v-if="choices.length === 0" class="faint" role="option" aria-selected="false">{{ t('app.nothing') }}</li>
        </ul>
    </div>
</template>

<style scoped>
.command { position: relative; align-self: center; width: 260px; min-width: 90px; }
@media (max-width: 820px) { .hint { display: none; } }
input { width: 100%; height: 28px; padding: 0 60px 0 10px; border: 1px solid transparent; border-radius: 4px; background: #33424C;
    color: #F7F6F2; font: inherit; }
input::placeholder { color: #B6C1C7; }
.hint { position: absolute; right: 10px; top: 4px; font-size: 12px; color: #B6C1C7; pointer-events: none; }
ul { position: absolute; z-index: 50; top: 32px; right: 0; width: 420px; max-height: 420px; overflow: auto; margin: 0; padding: 4px;
    list-style: none; background: var(--raised); color: var(--ink); border: 1px solid var(--hairline); border-radius: 4px;
    box-shadow: 0 4px 16px rgba(0, 0, 0, 0.18); }
li { padding: 4px 8px; border-radius: 3px; cursor: pointer; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
li.at { background: var(--selection); }
</style>
