<script setup lang="ts">
import { NButton, NInput, NSelect } from 'naive-ui';
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, messageOf, type SavedView, type Sheets } from '@/api/client';
import { readSheets } from '@/api/sheets';
import FileField from '@/ui/FileField.vue';
import { vWhy } from '@/ui/why';

/** Where a table comes from, when it is a file; and recipes, which say how tables with the same headings are read. */
export interface Recipe { columns: string[]; unit: 'd' | 'h' | 'w'; hold: boolean; merge: 'code' | 'name' | null;
    numbers?: 'point' | 'comma' | null }
const props = defineProps<{ headings: string[]; recipe: Recipe }>();
const emit = defineEmits<{ text: [text: string]; use: [recipe: Recipe]; failed: [why: string] }>();
const { t, n } = useI18n();
const cache = useQueryClient();

const sheets = ref<Sheets['sheets']>([]);
const sheet = ref(0);
const reading = ref(false);
async function take(file: File): Promise<void> {
    reading.value = true;
    emit('failed', '');
    try {
        sheets.value = await readSheets(file);
        sheet.value = 0;
        emit('text', sheets.value[0]!.text);
    } catch (e) {
        emit('failed', messageOf(e));
    } finally {
        reading.value = false;
    }
}
const choices = computed(() => sheets.value.map((s, value) => ({ value, label: `${s.name} (${n(s.rows)})` })));
function choose(at: number): void {
    sheet.value = at;
    emit('text', sheets.value[at]!.text);
}

const recipes = useQuery({ queryKey: ['views', 'table'], queryFn: () => ask(http.GET('/views', { params: { query: { place: 'table' } } }))
    });
const written = computed(() => props.headings.join('\t').toLowerCase());
const fitting = computed(() => written.value === '' ? null
    : (recipes.data.value?.views ?? []).find((v) => (v.definition as { headings?: string }).headings === written.value) ?? null);
const used = ref<SavedView | null>(null);
watch(fitting, (now) => {
    if (now && now.uid !== used.value?.uid) emit('use', now.definition as unknown as Recipe);
    used.value = now;
}, { immediate: true });
const name = ref<string | null>(null);
async function keep(): Promise<void> {
    const definition = { ...props.recipe, headings: written.value };
    try {
        if (used.value?.own) await ask(http.PATCH('/views/{uid}', { params: { path: { uid: used.value.uid } }, body: { definition:
            definition as never } }));
        else await ask(http.POST('/views', { body: { place: 'table', name: name.value!.trim(), shared: false, definition: definition as
            never } }));
        name.value = null;
    } catch (e) {
        emit('failed', messageOf(e));
    }
    await cache.invalidateQueries({ queryKey: ['views', 'table'] });
}
async function forget(): Promise<void> {
    await ask(http.DELETE('/views/{uid}', { params: { path: { uid: used.value!.uid } } })).catch((e: unknown) => emit('failed',
        messageOf(e)));
    used.value = null;
    await cache.invalidateQueries({ queryKey: ['views', 'table'] });
}
</script>

<template>
    <div class="source">
        <FileField :label="t('paste.file')" :button="reading ? t('paste.reading') : t('paste.file')"
            accept=".xlsx,.ods,.csv,.tsv,.txt,.opml" @take="take" />
        <NSelect v-if="sheets.length > 1" size="tiny" class="sheet" :value="sheet" :options="choices" :aria-label="t('paste.sheet')"
            @update:value="choose" />
        <template v-if="used"><span class="faint">{{ t('paste.recipe', { name: used.name }) }}</span><button v-if="used.own" class="verb"
            @click="keep">{{ t('paste.recipeUpdate') }}</button><button v-if="used.own" class="verb" @click="forget">{{
            t('paste.recipeForget') }}</button></template>
        <template v-else-if="written !== ''">
            <button v-if="name === null" class="verb" @click="name = ''">{{ t('paste.recipeKeep') }}</button>
            <form v-else class="keep" @submit.prevent="keep"><NInput v-model:value="name" v-begin size="tiny" placeholder=""
                :input-props="{ 'aria-label': t('paste.recipeName') }" /><NButton v-why="name.trim() === '' && t('why.name')" size="tiny"
                attr-type="submit" :disabled="name.trim() === ''">{{ t('paste.recipeSave') }}</NButton></form>
        </template>
    </div>
</template>

<style scoped>
.source { display: flex; gap: 6px 14px; align-items: center; flex-wrap: wrap; font-size: 13px; }
.sheet { width: 200px; }
.keep { display: flex; gap: 6px; width: 240px; }
</style>
