<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { NButton, NCheckbox, NInput, NPopover } from 'naive-ui';
import { ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, messageOf } from '@/api/client';
import { useFiltered } from '@/ui/filtered';
import { useKept } from '@/ui/kept';
import { vWhy } from '@/ui/why';

/** Named views of a place, or recipes for what goes out; one's own and shared ones. */
const props = defineProps<{ place: 'portfolio' | 'board' | 'export'; definition: Record<string, unknown> }>();
const isRecipe = props.place === 'export';
const emit = defineEmits<{ open: [definition: Record<string, unknown>] }>();
const { t } = useI18n();
const cache = useQueryClient();
const views = useQuery({ queryKey: ['views', props.place],
    queryFn: () => ask(http.GET('/views', { params: { query: { place: props.place } } })) });
const { asked, some, isLong } = useFiltered(() => views.data.value?.views ?? [], (v) => `${v.name} ${v.author ?? ''}`);
const named = t(isRecipe ? 'selection.recipeName' : 'selection.viewName');
const shown = ref(false);
const name = useKept('view', '');
const shared = ref(false);
const error = ref('');

async function run(work: () => Promise<unknown>): Promise<void> {
    error.value = '';
    try {
        await work();
    } catch (e) {
        error.value = messageOf(e);
    }
    await cache.invalidateQueries({ queryKey: ['views', props.place] });
}
const save = () => run(async () => {
    await ask(http.POST('/views', { body: { place: props.place, name: name.value.trim(), shared: shared.value,
        definition: props.definition as Record<string, never> } }));
    name.value = '';
});
const path = (uid: string) => ({ params: { path: { uid } } });
const remove = (uid: string) => run(() => http.DELETE('/views/{uid}', path(uid)));
const replace = (uid: string) => run(() => ask(http.PATCH('/views/{uid}', { ...path(uid),
    body: { definition: props.definition as Record<string, never> } })));
const begin = (uid: string, first: boolean) => run(() => ask(http.PUT('/views/{uid}/first', { ...path(uid), body: { first } })));
const share = (uid: string, on: boolean) => run(() => ask(http.PATCH('/views/{uid}', { ...path(uid), body: { shared: on } })));
function choose(definition: Record<string, unknown>): void {
    shown.value = false;
    emit('open', definition);
}
</script>

<template>
    <NPopover v-model:show="shown" trigger="click" placement="bottom-end">
        <template #trigger><button class="verb">{{ t(isRecipe ? 'selection.recipes' : 'selection.views') }}</button></template>
        <div class="views">
            <NInput v-if="isLong" v-model:value="asked" size="small" clearable :placeholder="t('app.some')"
                :input-props="{ 'aria-label': t('app.some') }" />
            <ul v-if="views.data.value?.views.length">
                <li v-for="v in some" :key="v.uid">
                    <button class="verb name" @click="choose(v.definition)"><bdi>{{ v.name }}</bdi></button>
                    <button v-if="!isRecipe" class="verb" :aria-pressed="v.first" @click="begin(v.uid, !v.first)">{{
                        t(v.first ? 'selection.first' : 'selection.makeFirst') }}</button>
                    <span class="faint">{{ v.own ? (v.shared ? t('selection.shared') : '') : v.author }}</span>
                    <template v-if="v.own">
                        <button class="verb" @click="replace(v.uid)">{{ t('selection.replaceView') }}</button>
                        <button class="verb" @click="share(v.uid, !v.shared)">{{ t(v.shared ? 'selection.unshare' : 'selection.share') }}
                        </button>
                        <button class="verb" @click="remove(v.uid)">{{ t('inspector.remove') }}</button>
                    </template>
                </li>
            </ul>
            <p v-else class="faint">{{ t(isRecipe ? 'selection.noRecipes' : 'selection.noViews') }}</p>
            <form @submit.prevent="save">
                <NInput v-model:value="name" size="small" :placeholder="named" :input-props="{ 'aria-label': named }" />
                <NCheckbox v-model:checked="shared">{{ t('selection.shareNew') }}</NCheckbox>
                <NButton v-why="name.trim() === '' && t('why.name')" size="small" attr-type="submit" :disabled="name.trim() === ''">{{
                    t(isRecipe ? 'selection.saveRecipe' : 'selection.saveView') }}</NButton>
            </form>
            <p v-if="error" class="error" role="alert">{{ error }}</p>
        </div>
    </NPopover>
</template>

<style scoped>
.views { width: 400px; display: flex; flex-direction: column; gap: 10px; }
ul { list-style: none; margin: 0; padding: 0; max-height: 320px; overflow-y: auto; }
li { display: flex; flex-wrap: wrap; align-items: baseline; gap: 0 10px; padding: 3px 0; }
.name { flex: 1 0 100%; text-align: left; overflow-wrap: anywhere; }
form { display: flex; align-items: center; gap: 8px; }
form > :not(:first-child) { flex: none; }
p { margin: 0; }
</style>
