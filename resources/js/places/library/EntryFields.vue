<script setup lang="ts">
import { NButton, NCheckbox, NInput, NInputNumber } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, type CodeEntry, type CodeSetList, http } from '@/api/client';
import { change, remove, update } from '@/api/operations';
import { entryTree } from '@/codes/entries';
import TreeSelect from '@/ui/TreeSelect.vue';
import { isDark } from '@/ui/appearance';
import { useAttempt } from '@/ui/attempt';
import { tone } from '@/ui/theme';
import { vWhy } from '@/ui/why';

/** An entry of a code set: what it is, what uses it, and what becomes of that when it goes. */
const props = defineProps<{ set: CodeSetList['codeSets'][number]; entry: CodeEntry; uses: number; beyond: boolean }>();
const emit = defineEmits<{ changed: []; gone: [] }>();
const { t } = useI18n();
const { error, busy, run } = useAttempt(() => emit('changed'));
const into = ref<string | null>(null);
const others = computed(() => entryTree({ ...props.set, entries: props.set.entries.filter((e) => e.uid !== props.entry.uid) }, 'uid'));
type Field = 'key' | 'name' | 'description' | 'steward' | 'weight' | 'colour' | 'retired';
const save = (field: Field, value: unknown) => value !== props.entry[field] && void run(() => change([update('entry', props.entry.uid,
    { [field]: value }, { [field]: props.entry[field] })], t('edit.field', { name: `${props.set.name}: ${props.entry.name}`,
    field: t(`library.codes.fields.${field}`) })));
const text = (field: Field, value: string) => save(field, field === 'steward' && value.trim() === '' ? null : value.trim());

/** Takes the entry away; what has it gets the other one, in one change set. */
async function go(): Promise<void> {
    const done = await run(() => (into.value === null
        ? change([remove('entry', props.entry.uid)], t('edit.deleted', { name: `${props.set.name}: ${props.entry.name}` }))
        : ask(http.POST('/compose/merge', { body: { kind: 'entry', from: props.entry.uid, into: into.value } }))));
    if (done) emit('gone');
}
</script>

<template>
    <div v-for="f in (['name', 'key', 'description', 'steward'] as const)" :key="f" class="field"><label :for="`entry-${f}`">{{
        t(`library.codes.fields.${f}`) }}</label><NInput :default-value="entry[f] ?? ''" size="small" placeholder=""
        :disabled="!set.mayEdit"
        :type="f === 'description' ? 'textarea' : 'text'" :rows="2" :input-props="{ id: `entry-${f}` }"
        @change="(v: string) => text(f, v)" /></div>
    <div class="field"><span class="label">{{ t('library.codes.fields.weight') }}</span><NInputNumber :value="entry.weight" size="small"
        :min="0"
        :max="1000" :disabled="!set.mayEdit" :show-button="false" :input-props="{ 'aria-label': t('library.codes.fields.weight') }"
        @update:value="(v) => save('weight', v ?? 0)" /></div>
    <div class="field"><span class="label">{{ t('library.codes.fields.colour') }}</span><span class="palette" role="radiogroup"
        :aria-label="t('library.codes.fields.colour')"><button v-for="n in 8" :key="n" v-why="!set.mayEdit && t('why.rights')" role="radio"
        :aria-checked="entry.colour === n" :aria-label="t('library.codes.colour', { n })" :disabled="!set.mayEdit"
        :class="{ here: entry.colour === n }"
        :style="{ background: tone(n - 1, isDark).full }" @click="save('colour', entry.colour === n ? null : n)" /></span></div>
    <NCheckbox :checked="entry.retired" :disabled="!set.mayEdit"
        @update:checked="(v) => save('retired', v)">{{ t('library.codes.fields.retired')
    }}</NCheckbox>
    <p class="faint">{{ t('library.codes.uses', uses) }}{{ beyond ? t('library.codes.beyond') : '' }}</p>
    <section v-if="set.mayEdit">
        <h3>{{ t('library.codes.remove') }}</h3>
        <TreeSelect v-model:value="into" clearable :options="others"
            :placeholder="t('library.codes.replaceBy')" :label="t('library.codes.replaceBy')" />
        <p class="faint">{{ t(into === null ? 'library.codes.removeAbout' : 'library.codes.mergeAbout', { n: uses }) }}</p>
        <NButton v-why="(uses > 0 || beyond) && into === null && t('why.into')" size="small"
            :disabled="(uses > 0 || beyond) && into === null" :loading="busy" @click="go">{{ t(into === null
            ? 'inspector.delete' : 'library.codes.merge') }}</NButton>
    </section>
    <p v-if="error" class="error" role="alert">{{ error }}</p>
</template>

<style scoped>
section { display: flex; flex-direction: column; gap: 8px; border-top: 1px solid var(--hairline); padding-top: 12px; align-items: stretch; }
p { margin: 0; }
.palette { display: flex; gap: 6px; }
.palette button { width: 24px; height: 24px; border: 0; border-radius: 4px; cursor: pointer; }
.palette .here { outline: 2px solid var(--ink); outline-offset: 1px; }
</style>
