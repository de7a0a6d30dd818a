<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { NInput } from 'naive-ui';
import { ref } from 'vue';
import { useI18n } from 'vue-i18n';
import FileField from '@/ui/FileField.vue';
import { type FileKind, HEAD, isPlan, isRows, kindOf } from './kindOf';

/** The one way in: a file that is dropped here, chosen or pasted, or pasted text. It says what that is. */
const props = defineProps<{ title: string }>();
const emit = defineEmits<{ taken: [file: File, kind: FileKind] }>();
const { t, n } = useI18n();
const over = ref(false);
const said = ref('');
const wrong = ref('');
const pasted = ref('');

async function take(file: File): Promise<void> {
    const kind = kindOf(new Uint8Array(await file.slice(0, HEAD).arrayBuffer()), file.name);
    const size = file.size < 1_000_000 ? t('exchange.door.kilobytes', { n: n(Math.max(1, Math.round(file.size / 1000))) })
        : t('exchange.door.megabytes', { n: n(Math.round(file.size / 1e5) / 10) });
    const what = t(`exchange.door.kinds.${kind}`);
    [said.value, wrong.value] = isPlan(kind) || isRows(kind) ? [`${what}, ${size}`, ''] : ['', what];
    if (wrong.value === '') emit('taken', file, kind);
}
function takeText(text: string): void {
    if (text.trim() !== '') void take(new File([text], '', { type: 'text/plain' }));
}
function drop(e: DragEvent): void {
    over.value = false;
    const file = e.dataTransfer?.files[0];
    if (file) void take(file);
    else takeText(e.dataTransfer?.getData('text/plain') ?? '');
}
// also where nothing is typed into
useEventListener('paste', (e: ClipboardEvent) => {
    const field = (e.target as HTMLElement).closest('input, textarea');
    const isDoor = field?.closest('.door') != null;
    const file = e.clipboardData?.files[0];
    if (file) void take(file);
    else if (!field || isDoor) takeText(e.clipboardData?.getData('text/plain') ?? '');
    else return;
    e.preventDefault();
});
</script>

<template>
    <div class="door" :class="{ over }" data-test="door" @dragover.prevent="over = true" @dragleave="over = false" @drop.prevent="drop">
        <div class="choose"><FileField id="x-file" :label="t('exchange.file')" :button="t('exchange.door.choose')" :name="props.title"
                                @take="take" />
            <span class="faint">{{ t('exchange.door.drop') }}</span></div>
        <NInput v-model:value="pasted" type="textarea" size="small" :autosize="{ minRows: 1, maxRows: 6 }"
            :placeholder="t('exchange.door.paste')" :input-props="{ 'aria-label': t('exchange.door.paste') }"
            @change="(takeText(pasted), (pasted = ''))" />
        <p v-if="said" role="status">{{ said }}</p>
        <p v-if="wrong" class="error" role="alert">{{ wrong }}</p>
    </div>
</template>

<style scoped>
.door { display: flex; flex-direction: column; gap: 8px; padding: 14px; border: 1px dashed var(--faint); border-radius: 3px; }
.over { background: var(--selection); border-style: solid; }
.choose { display: flex; gap: 4px 12px; flex-wrap: wrap; align-items: baseline; }
p { margin: 0; }
</style>
