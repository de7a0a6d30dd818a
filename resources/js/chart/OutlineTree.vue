<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue';
import { useI18n } from 'vue-i18n';
import type { ChartNode } from './tree';

/** The same tree as rows: choose, rename, add, move and delete by key, move by drag. */
const props = defineProps<{
    label: string; nodes: ChartNode[]; selected: string | null;
    mayMove?: (id: string, to: string | null) => boolean; mayRename?: (id: string) => boolean;
}>();
const emit = defineEmits<{
    select: [id: string]; move: [id: string, to: string]; rename: [id: string, text: string];
    act: [what: 'below' | 'inside' | 'delete' | 'indent' | 'outdent' | 'up' | 'down', id: string | null];
}>();
const { t } = useI18n();
const box = useTemplateRef<HTMLElement>('box');
const editor = ref<HTMLInputElement | null>(null);
const closed = ref(new Set<string>());
const editing = ref<{ id: string; text: string } | null>(null);
const dragged = ref<string | null>(null);
const over = ref<string | null>(null);

const rows = computed(() => {
    const below = new Map<string | null, ChartNode[]>();
    const known = new Set(props.nodes.map((n) => n.id));
    for (const n of props.nodes) {
        const parent = n.parent !== null && known.has(n.parent) ? n.parent : null;
        below.set(parent, [...(below.get(parent) ?? []), n]);
    }
    const list: { node: ChartNode; depth: number; children: number }[] = [];
    const walk = (parent: string | null, depth: number) => {
        for (const node of below.get(parent) ?? []) {
            list.push({ node, depth, children: below.get(node.id)?.length ?? 0 });
            if (!closed.value.has(node.id)) walk(node.id, depth + 1);
        }
    };
    walk(null, 0);
    return list;
});

function toggle(id: string): void {
    const next = new Set(closed.value);
    if (!next.delete(id)) next.add(id);
    closed.value = next;
}
async function rename(id: string): Promise<void> {
    if (!(props.mayRename?.(id) ?? false)) return;
    editing.value = { id, text: props.nodes.find((n) => n.id === id)?.title ?? '' };
    await nextTick();
    editor.value?.focus();
    editor.value?.select();
}
function commit(keep: boolean): void {
    const done = editing.value;
    editing.value = null;
    const text = done?.text.trim() ?? '';
    if (done && keep && text !== '' && text !== props.nodes.find((n) => n.id === done.id)?.title) emit('rename', done.id, text);
    box.value?.focus();
}
function key(e: KeyboardEvent): void {
    if (editing.value || e.ctrlKey || e.metaKey) return;
    const at = rows.value.findIndex((r) => r.node.id === props.selected);
    const here = rows.value[at];
    if (e.altKey) {
        const what = ({ ArrowLeft: 'outdent', ArrowRight: 'indent', ArrowUp: 'up', ArrowDown: 'down' } as const)[e.key as 'ArrowUp'];
        if (!what || !here) return;
        emit('act', what, here.node.id);
    } else if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
        const to = rows.value[Math.max(0, Math.min(rows.value.length - 1, at + (e.key === 'ArrowDown' ? 1 : -1)))];
        if (to) emit('select', to.node.id);
    } else if (here && here.children && e.key === (closed.value.has(here.node.id) ? 'ArrowRight' : 'ArrowLeft')) toggle(here.node.id);
    else if (e.key === 'n') emit('act', 'below', here?.node.id ?? null);
    else if (e.key === 'N') emit('act', 'inside', here?.node.id ?? null);
    else if (e.key === 'Delete' && here) emit('act', 'delete', here.node.id);
    else if (e.key === 'Enter' && here) void rename(here.node.id);
    else return;
    e.preventDefault();
    e.stopPropagation();
}
function drop(id: string): void {
    if (dragged.value !== null && over.value === id) emit('move', dragged.value, id);
    dragged.value = over.value = null;
}
const dragOver = (id: string) => (over.value = dragged.value !== null && dragged.value !== id && (props.mayMove?.(dragged.value, id)
    ?? false)
    ? id : null);
defineExpose({ rename, focus: () => box.value?.focus() });
</script>

<template>
    <div ref="box" class="outline" tabindex="0" role="tree" :aria-label="label" @keydown="key">
        <div v-for="{ node, depth, children } in rows" :key="node.id" class="row" role="treeitem" :aria-level="depth + 1"
            :aria-selected="selected === node.id" :aria-expanded="children ? !closed.has(node.id) : undefined"
            :class="{ selected: selected === node.id, over: over === node.id, out: node.faint }"
            :style="{ paddingLeft: `${8 + depth * 18}px` }"
            draggable="true" @click="emit('select', node.id), box?.focus()" @dblclick="rename(node.id)" @dragstart="dragged = node.id"
            @dragover.prevent="dragOver(node.id)" @dragend="dragged = over = null" @drop.prevent="drop(node.id)">
            <button v-if="children" class="fold" tabindex="-1" aria-hidden="true" @click.stop="toggle(node.id)">{{ closed.has(node.id) ? '▸'
                : '▾' }}</button><span v-else class="fold" />
            <span class="dot" :style="{ background: node.edge ?? 'transparent' }" />
            <b v-if="node.code" class="code">{{ node.code }}</b>
            <input v-if="editing?.id === node.id" :ref="(el) => (editor = el as HTMLInputElement | null)" v-model="editing.text"
                class="editor"
                :aria-label="t('chart.name')" @keydown.enter.prevent.stop="commit(true)" @keydown.esc.prevent.stop="commit(false)"
                @keydown.stop @blur="commit(true)" @click.stop>
            <span v-else class="title">{{ node.title }}</span>
            <span v-for="line in node.lines ?? []" :key="line" class="faint line">{{ line }}</span>
        </div>
    </div>
</template>

<style scoped>
.outline { flex: 1; min-width: 0; overflow-y: auto; outline: none; }
.outline:focus-visible { box-shadow: inset 0 0 0 2px var(--petrol); }
.row { display: flex; align-items: center; gap: 8px; height: 30px; padding-right: 16px; border-bottom: 1px solid var(--hairline);
    cursor: default; }
.row.selected { background: var(--selection); }
.row.over { box-shadow: inset 0 0 0 2px var(--petrol); }
.row.out .title { color: var(--faint); text-decoration: line-through; }
.fold { width: 16px; flex: none; border: 0; background: none; padding: 0; font: inherit; color: inherit; cursor: pointer; }
.dot { width: 10px; height: 10px; border-radius: 2px; flex: none; }
.title { flex: 1; min-width: 0; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.line { font-size: 13px; white-space: nowrap; }
.editor { flex: 1; min-width: 0; height: 24px; border: 1px solid var(--petrol); border-radius: 3px; background: var(--raised);
    color: var(--ink); font: inherit; padding: 0 6px; outline: none; }
</style>
