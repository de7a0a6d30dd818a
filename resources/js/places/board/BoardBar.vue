<script setup lang="ts">
import { NPopover, NSelect } from 'naive-ui';
import { computed, useTemplateRef, watch } from 'vue';
import { typeAhead } from '@/ui/typeAhead';
import { narrow } from '@/ui/narrow';
import { useI18n } from 'vue-i18n';
import type { Scale } from '@/axis/scale';
import OverviewBand from './OverviewBand.vue';
import { useBoard } from './store';
import { vWhy } from '@/ui/why';

/** What is open, adding and finding rows, and the overview of the whole horizon. */
defineProps<{ editable: boolean; axisWidth: number; leftWidth: number }>();
const emit = defineEmits<{ add: [kind: 'activity' | 'wbs']; go: [uid: string] }>();
const scale = defineModel<Scale>('scale', { required: true });
const finding = defineModel<boolean>('finding', { required: true });
const { t } = useI18n();
const board = useBoard();

const finder = useTemplateRef<InstanceType<typeof NSelect>>('finder');
/** what is typed before the field is there is looked for too */
let ahead: ReturnType<typeof typeAhead> | null = null;
watch(finding, (now) => {
    ahead?.end();
    ahead = now ? typeAhead() : null;
});
watch(finder, (select) => select && focusFinder(performance.now() + 2000));
/** The popover can be typed into once it stands, however busy the page is. */
function focusFinder(until: number): void {
    const input = (finder.value?.$el as HTMLElement | undefined)?.querySelector('input');
    finder.value?.focusInput();
    if (finder.value && document.activeElement !== input && performance.now() < until) requestAnimationFrame(() => focusFinder(until));
    else if (ahead) {
        const { text, entered } = ahead.end();
        ahead = null;
        if (!input || text === null) return;
        input.value = text;
        input.dispatchEvent(new Event('input', { bubbles: true }));
        if (entered) setTimeout(() => input.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true })), 100);
    }
}
const choices = computed(() => [...(board.model?.activities.values() ?? []), ...(board.model?.wbs.values() ?? [])]
    .map((a) => ({ label: `${a.code}  ${a.name}`, value: a.uid })));
const count = computed(() => {
    const [projects, activities] = [board.model?.projects.size ?? 0, board.model?.activities.size ?? 0];
    return t('board.count', { state: t(board.proposal ? 'board.proposed' : board.busy > 0 ? 'board.saving' : 'board.current'),
        projects: projects === 1 ? t('ripple.project') : t('ripple.projects', { n: projects }),
        activities: activities === 1 ? t('board.oneActivity') : t('board.activities', { n: activities }) });
});
</script>

<template>
    <div class="second">
        <div class="left" :style="{ width: `${leftWidth}px` }">
            <span class="faint count" :title="count">{{ count }}</span>
            <button v-if="!narrow" v-why="!editable && t('why.rights')" class="verb" :disabled="!editable"
                @click="emit('add', 'activity')">+ {{ t('board.activity') }}</button>
            <button v-if="!narrow" v-why="!editable && t('why.rights')" class="verb" :disabled="!editable"
                @click="emit('add', 'wbs')">+ {{ t('board.wbs') }}</button>
            <NPopover v-model:show="finding" trigger="click" placement="bottom-start">
                <template #trigger><button class="verb">{{ t('keys.find') }}</button></template>
                <NSelect v-if="finding" ref="finder" class="find" size="small" filterable placeholder="" :value="null" :options="choices"
                    :input-props="{ 'aria-label': t('keys.find') }" :aria-label="t('keys.find')"
                    @update:value="(v: string) => ((finding = false), emit('go', v))" />
            </NPopover>
        </div>
        <div class="right">
            <OverviewBand v-model:scale="scale" :model="board.model!" :version="board.version" :width="axisWidth" />
        </div>
    </div>
</template>

<style scoped>
.second { display: flex; flex: none; border-bottom: 1px solid var(--hairline); }
.left { display: flex; align-items: center; gap: 14px; padding: 0 12px 0 16px; box-sizing: border-box; flex: none; overflow: hidden;
    white-space: nowrap; }
.right { flex: 1; min-width: 0; }
.count { overflow: hidden; text-overflow: ellipsis; flex: 1; }
.find { width: 360px; }
</style>
