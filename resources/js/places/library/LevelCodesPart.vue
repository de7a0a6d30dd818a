<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { NButton, NInput, NPopconfirm } from 'naive-ui';
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { ask, http } from '@/api/client';
import { change, create, newUid, remove, update } from '@/api/operations';
import OutlineTree from '@/chart/OutlineTree.vue';
import { movedBy, positionAfter } from '@/chart/order';
import type { ChartNode } from '@/chart/tree';
import { useKept } from '@/ui/kept';
import { isDark } from '@/ui/appearance';
import { useAttempt } from '@/ui/attempt';
import SidePanel from '@/ui/SidePanel.vue';
import { tone } from '@/ui/theme';
import LevelCodeFields from './LevelCodeFields.vue';
import OwnerField from './OwnerField.vue';
import SchemeLevels from './SchemeLevels.vue';
import SegmentEditor from './SegmentEditor.vue';
import { vWhy } from '@/ui/why';

/** Level schemes: which codes may stand on which WBS level, and what activity codes and names are put together from. */
const { t } = useI18n();
const route = useRoute();
const router = useRouter();
const cache = useQueryClient();
const list = useQuery({ queryKey: ['levelSchemes'], queryFn: () => ask(http.GET('/level-schemes')) });
const { error, run } = useAttempt(() => cache.invalidateQueries({ queryKey: ['levelSchemes'] }));
const scheme = computed(() => list.data.value?.schemes.find((s) => s.uid === route.query.scheme) ?? list.data.value?.schemes[0] ?? null);
const codes = computed(() => (list.data.value?.codes ?? []).filter((c) => c.scheme === scheme.value?.uid)
    .map((c) => ({ ...c, parent: c.parent ?? null, position: c.position! })));
const chosen = ref<string | null>(null);
const code = computed(() => codes.value.find((c) => c.uid === chosen.value) ?? null);
const mayEdit = computed(() => scheme.value?.mayEdit ?? false);
const mayAdd = computed(() => list.data.value?.mayAdd ?? false);
const tree = useTemplateRef<{ rename: (id: string) => Promise<void> }>('tree');
const name = useKept('level scheme', '');
watch(() => scheme.value?.uid, () => (chosen.value = null));
const choose = (uid: string) => void router.replace({ query: { part: 'levels', scheme: uid } });

/** general lists stand under a heading per level, own lists under their code */
const nodes = computed<ChartNode[]>(() => {
    const levels = scheme.value?.levels ?? [];
    return [
        ...levels.map((l, i) => ({ id: `level ${i + 1}`, parent: null, title: l.name!, lines: [t('library.levels.anyBelow')],
            edge: l.colour ? tone(l.colour - 1, isDark.value).full : null })),
        ...codes.value.map((c) => ({ id: c.uid, parent: c.parent ?? `level ${c.level}`, title: c.name!, code: c.code,
            lines: c.below ? [t('library.levels.belowIs', { name: c.below })] : [] })),
    ];
});
const add = () => run(async () => {
    const uid = newUid();
    await change([create('levelScheme', uid, { name: name.value.trim(), levels: [{ name: t('library.levels.first'), colour: 1 }],
        activityCode: [{ kind: 'project-key' }, { kind: 'literal', text: '-' }, { kind: 'levels' }, { kind: 'literal', text: '-' },
            { kind: 'counter', width: 4, step: 10 }] })], t('edit.created', { name: name.value.trim() }));
    name.value = '';
    choose(uid);
});
const save = (field: 'name' | 'levels' | 'activityCode' | 'activityName', value: unknown) => run(() => change([update('levelScheme',
    scheme.value!.uid, { [field]: value }, { [field]: scheme.value![field] })], t('edit.field', { name: scheme.value!.name,
    field: t(`library.levels.fields.${field}`) })));
const destroy = () => run(() => change([...codes.value.map((c) => remove('levelCode', c.uid)), remove('levelScheme', scheme.value!.uid)],
    t('edit.deleted', { name: scheme.value!.name })));

async function act(what: 'below' | 'inside' | 'delete' | 'indent' | 'outdent' | 'up' | 'down', id: string | null): Promise<void> {
    if (!scheme.value || id === null) return;
    const here = codes.value.find((c) => c.uid === id);
    const level = here?.level ?? Number(id.replace('level ', ''));
    if (what === 'below' || what === 'inside') {
        if (!here && what === 'below' && !id.startsWith('level ')) return;
        const inside = here && what === 'inside';
        const parent = inside ? here.uid : (here?.parent ?? null);
        const at = inside ? level + 1 : level;
        const uid = newUid();
        const free = freeCode(parent, at);
        const place = codes.value.filter((c) => c.level === at).map((c) => ({ ...c }));
        if (!await run(() => change([create('levelCode', uid, { scheme: scheme.value!.uid, parent, level: at, code: free, name: free,
            position: positionAfter(place, parent, here && !inside ? here.uid : null) })], t('edit.created', { name: free })))) return;
        chosen.value = uid;
        await nextTick();
        await tree.value?.rename(uid);
    } else if (what === 'delete' && here) {
        await run(() => change([remove('levelCode', here.uid)], t('edit.deleted', { name: here.code })));
    } else if ((what === 'up' || what === 'down') && here) {
        const to = movedBy(codes.value.filter((c) => c.level === here.level), here.uid, what);
        if (to) await run(() => change([update('levelCode', here.uid, { position: to.position })], t('edit.moved', { name: here.code })));
    }
}
function freeCode(parent: string | null, level: number): string {
    const taken = new Set(codes.value.filter((c) => c.parent === parent && c.level === level).map((c) => c.code));
    const length = scheme.value?.levels![level - 1]?.length ?? 2;
    for (let n = 1; ; n++) if (!taken.has(String(n).padStart(length, '0'))) return String(n).padStart(length, '0');
}
const rename = (id: string, text: string) => run(() => change([update('levelCode', id, { name: text })], t('edit.name', { name: text })));
</script>

<template>
    <div v-if="list.data.value" class="part">
        <nav class="list" :aria-label="t('library.part.levels')">
            <button v-for="s in list.data.value.schemes" :key="s.uid" class="item" :class="{ here: s.uid === scheme?.uid }"
                @click="choose(s.uid)">
                {{ s.name }}</button>
            <form v-if="mayAdd" class="new" @submit.prevent="add">
                <NInput v-model:value="name" size="small" :placeholder="t('library.levels.newName')"
                    :input-props="{ 'aria-label': t('library.levels.newName') }" />
                <NButton v-why="name.trim() === '' && t('why.name')" size="small" attr-type="submit"
                    :disabled="name.trim() === ''">{{ t('library.levels.add') }}</NButton>
            </form>
        </nav>
        <div v-if="scheme" class="middle">
            <p v-if="error" class="error" role="alert">{{ error }}</p>
            <div class="tools">
                <button v-why="!mayAdd ? t('why.rights') : chosen === null && t('why.choose')" class="verb"
                    :disabled="!mayAdd || chosen === null"
                    @click="act('below', chosen)">{{ t('library.levels.addCode') }}</button>
                <button v-why="!mayAdd ? t('why.rights') : !code && t('why.choose')" class="verb" :disabled="!mayAdd || !code"
                    @click="act('inside', chosen)">{{ t('library.levels.addOwn') }}</button>
            </div>
            <OutlineTree ref="tree" :label="scheme.name!" :nodes="nodes" :selected="chosen"
                :may-rename="(id) => mayEdit && !id.startsWith('level ')"
                @select="(id) => (chosen = id)" @rename="rename" @act="act" />
            <p class="faint hint">{{ t('library.levels.about') }}</p>
        </div>
        <p v-else class="faint empty">{{ t('library.levels.empty') }}</p>
        <SidePanel v-if="scheme" :title="code ? `${code.code} ${code.name}` : scheme.name!" @close="chosen = null">
            <LevelCodeFields v-if="code" :key="code.uid" :code="code" :may-edit="mayEdit"
                @changed="cache.invalidateQueries({ queryKey: ['levelSchemes'] })" />
            <template v-else>
                <div class="field"><label for="scheme-name">{{ t('library.name') }}</label><NInput :key="scheme.uid"
                    :default-value="scheme.name"
                    size="small" placeholder="" :disabled="!mayEdit" :input-props="{ id: 'scheme-name' }"
                    @change="(v: string) => v.trim() && save('name', v.trim())" /></div>
                <SchemeLevels :levels="scheme.levels!" :disabled="!mayEdit" @save="(v) => save('levels', v)" />
                <SegmentEditor v-for="f in (['activityCode', 'activityName'] as const)" :key="f" :title="t(`library.levels.fields.${f}`)"
                    :segments="scheme[f]!" :levels="scheme.levels!" :disabled="!mayEdit" :names="f === 'activityName'"
                    @save="(v) => save(f, v)" />
                <OwnerField kind="levelScheme" :uid="scheme.uid"
                    @changed="cache.invalidateQueries({ queryKey: ['levelSchemes'] })" />
                <NPopconfirm v-if="mayEdit" :positive-text="t('portfolio.delete.now')" :negative-text="t('health.cancel')"
                    @positive-click="destroy">
                    <template #trigger><NButton size="small">{{ t('inspector.delete') }}</NButton></template>
                    {{ t('library.levels.deleteAbout', { name: scheme.name }) }}
                </NPopconfirm>
            </template>
        </SidePanel>
    </div>
</template>

<style scoped>
.part { flex: 1; min-height: 0; display: flex; }
.list { width: 220px; flex: none; padding: 12px; border-right: 1px solid var(--hairline); display: flex; flex-direction: column; gap: 2px; }
.item { border: 0; background: none; font: inherit; color: inherit; padding: 4px 8px; border-radius: 4px; cursor: pointer;
    text-align: left; }
.item.here { background: var(--selection); font-weight: 600; }
.new { display: flex; flex-direction: column; gap: 6px; margin-top: 12px; }
.middle { flex: 1; min-width: 0; display: flex; flex-direction: column; }
.tools { display: flex; gap: 14px; padding: 8px 16px; border-bottom: 1px solid var(--hairline); }
.error { padding: 6px 16px; margin: 0; }
.hint { padding: 6px 16px; margin: 0; border-top: 1px solid var(--hairline); font-size: 13px; }
.empty { flex: 1; padding: 48px 16px; text-align: center; }
</style>
