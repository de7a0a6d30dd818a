<script setup lang="ts">
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { dragPointer } from '@/ui/pointerDrag';
import { spans } from '@/axis/workdays';
import { drawn } from './calendar';

/** The hours of one weekday: drawing over free hours makes them work, drawing over work frees it. The field beside it is typed. */
const props = defineProps<{ periods: string; inherited: boolean; disabled: boolean }>();
const emit = defineEmits<{ draw: [periods: string] }>();
const { t } = useI18n();
const STEP = 30;
const stretch = ref<{ from: number; to: number; works: boolean } | null>(null);
const shown = computed(() => spans(stretch.value ? drawn(props.periods, stretch.value.from, stretch.value.to, stretch.value.works)
    : props.periods));
const share = (minutes: number) => `${(minutes / 1440) * 100}%`;
function begin(e: PointerEvent): void {
    if (props.disabled || e.button !== 0) return;
    const box = (e.currentTarget as HTMLElement).getBoundingClientRect();
    const at = (x: number) => Math.max(0, Math.min(1440, ((x - box.left) / box.width) * 1440));
    const from = Math.floor(at(e.clientX) / STEP) * STEP;
    const works = !spans(props.periods).some(([a, b]) => from >= a && from < b);
    stretch.value = { from, to: from + STEP, works };
    dragPointer(e, (dx) => {
        const now = at(e.clientX + dx);
        stretch.value = now >= from ? { from, to: Math.max(from + STEP, Math.ceil(now / STEP) * STEP), works }
            : { from: Math.floor(now / STEP) * STEP, to: from + STEP, works };
    }, () => {
        if (stretch.value) emit('draw', drawn(props.periods, stretch.value.from, stretch.value.to, stretch.value.works));
        stretch.value = null;
    });
}
</script>

<template>
    <div class="bar" :class="{ inherited, disabled }" :title="disabled ? undefined : t('calendar.draw')" aria-hidden="true"
        @pointerdown.prevent="begin">
        <span v-for="h in [6, 12, 18]" :key="h" class="hour" :style="{ left: share(h * 60) }" />
        <span v-for="([a, b], i) in shown" :key="i" class="work" :style="{ left: share(a), width: share(b - a) }" />
    </div>
</template>

<style scoped>
.bar { position: relative; height: 22px; background: var(--veil); border-radius: 3px; overflow: hidden; cursor: crosshair;
    touch-action: none; }
.bar.disabled { cursor: default; }
.hour { position: absolute; top: 0; bottom: 0; width: 1px; background: var(--hairline); }
.work { position: absolute; top: 3px; bottom: 3px; background: var(--petrol); border-radius: 2px; }
.inherited .work { background: none; border: 1px solid var(--petrol); box-sizing: border-box; }
</style>
