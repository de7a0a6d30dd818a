<script setup lang="ts">
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import type { Composed } from '@/api/client';

/** What the server understood of each row of a table, those it did not first. */
const props = defineProps<{ rows: NonNullable<Composed['rows']> }>();
const { t } = useI18n();
const MOST = 200;
const ORDER = ['wrong', 'new', 'changed', 'same'];
const shown = computed(() => props.rows.map((r, i) => ({ ...r, n: i + 1 }))
    .sort((a, b) => ORDER.indexOf(a.state) - ORDER.indexOf(b.state) || a.n - b.n));
const counts = computed(() => ORDER.map((state) => [state, props.rows.filter((r) => r.state === state).length] as const)
    .filter(([, n]) => n > 0));
</script>

<template>
    <div class="read" data-test="rows-read">
        <p role="status"><span v-for="[state, n] in counts" :key="state" :class="{ error: state === 'wrong' }">{{ t(`read.${state}`, n) }}
        </span></p>
        <ol>
            <li v-for="r in shown.slice(0, MOST)" :key="r.n" :class="r.state"><span class="n tabular">{{ r.n }}</span> <b>{{ r.label }}</b>
                <template v-if="r.why">{{ ` ${r.why}` }}</template><template
                    v-else>{{ ` ${[r.set, r.entry].filter(Boolean).join(': ')}` }}</template>
            </li>
        </ol>
        <p v-if="shown.length > MOST" class="faint">{{ t('health.more', { n: shown.length - MOST }) }}</p>
    </div>
</template>

<style scoped>
.read { border-left: 2px solid var(--hairline); padding-left: 10px; }
ol { margin: 4px 0 0; padding: 0; list-style: none; max-height: 300px; overflow-y: auto; font-size: 13px; }
.n { color: var(--faint); display: inline-block; min-width: 28px; text-align: right; margin-right: 6px; }
.wrong { color: var(--brick); }
.same { color: var(--faint); }
p { margin: 0; display: flex; gap: 12px; }
</style>
