<script setup lang="ts">
import { NInput } from 'naive-ui';
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import text from 'docs/guide.md?raw';
import SidePanel from '@/ui/SidePanel.vue';
import { html, pagesOf, search } from './guide';

/** The page of the guide that belongs to the screen, beside it; others by search or from the contents. */
const props = defineProps<{ heading: string | null }>();
const emit = defineEmits<{ close: [] }>();
const { t } = useI18n();
const pages = pagesOf(text);
const titleOf = (heading: string | null) => pages.find((p) => p.title === heading)?.title ?? pages[1]!.title;
const open = ref(titleOf(props.heading));
const asked = ref('');
const article = useTemplateRef<HTMLElement>('article');
const page = computed(() => pages.find((p) => p.title === open.value)!);
const found = computed(() => search(pages, asked.value));
const written = computed(() => html(page.value.text));
watch(() => props.heading, (heading) => (open.value = titleOf(heading)));

function go(title: string): void {
    [open.value, asked.value] = [title, ''];
    void nextTick(() => article.value?.closest('.content')?.scrollTo({ top: 0 }));
}
</script>

<template>
    <SidePanel :title="t('guide.title')" data-test="guide" @close="emit('close')">
        <NInput v-model:value="asked" v-begin size="small" clearable :placeholder="t('guide.search')"
            :input-props="{ 'aria-label': t('guide.search') }" />
        <template v-if="asked.trim() !== ''">
            <p v-if="found.length === 0" class="faint">{{ t('guide.none') }}</p>
            <div v-for="f in found" :key="f.page.at"><button class="verb" @click="go(f.page.title)">{{ f.page.title }}</button>
                <div class="faint around">{{ f.around }}</div></div>
        </template>
        <article v-else ref="article">
            <h3>{{ page.title }}</h3>
            <!-- eslint-disable-next-line vue/no-v-html -- the text comes with the app -->
            <div v-html="written" />
        </article>
        <details v-if="asked.trim() === ''"><summary>{{ t('guide.contents') }}</summary>
            <div v-for="p in pages.slice(1)" :key="p.at" :class="`level${p.level}`"><button class="verb" :aria-current="p.title === open"
                @click="go(p.title)">{{ p.title }}</button></div></details>
    </SidePanel>
</template>

<style scoped>
article { line-height: 1.5; overflow-wrap: anywhere; }
h3 { margin: 0 0 6px; }
article :deep(h3) { margin: 16px 0 4px; font-size: 14px; }
article :deep(p) { margin: 0 0 8px; }
article :deep(ul), article :deep(ol) { margin: 0 0 8px; padding-left: 18px; }
article :deep(li) { margin-bottom: 4px; }
article :deep(code) { font-size: 13px; background: var(--band); padding: 0 3px; border-radius: 2px; }
.around { font-size: 13px; }
.level3 { padding-left: 14px; }
[aria-current=true] { font-weight: 700; }
</style>
