<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { NButton } from 'naive-ui';
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRouter } from 'vue-router';
import { ask, http, type Portfolio } from '@/api/client';
import { user } from '@/session';

/** What an enterprise needs before it works, in an order that works, each with what it is for; what is there is ticked. */
const props = defineProps<{ data: Portfolio }>();
const emit = defineEmits<{ branch: []; project: []; root: []; dismiss: [] }>();
const { t } = useI18n();
const router = useRouter();
const administers = computed(() => user.value?.administers === true);
const users = useQuery({ queryKey: ['users'], queryFn: () => ask(http.GET('/users')), enabled: administers });
const library = (part: string) => void router.push({ name: 'library', query: { part } });
const firstKeys = computed(() => props.data.projects.slice(0, 2).map((p) => p.key).join(','));

const steps = computed(() => [
    { name: 'hierarchy', done: props.data.branches.length > 1, go: () => emit('branch'), more: { name: 'root', go: () => emit('root') } },
    { name: 'calendar', done: props.data.calendars.some((c) => c.days > 0), go: () => library('calendars') },
    { name: 'codes', done: props.data.codeSets.length > 0, go: () => library('codes') },
    ...(administers.value ? [{ name: 'people', done: (users.data.value?.users.length ?? 0) > 1, go: () => library('users') }] : []),
    { name: 'project', done: props.data.projects.length > 0, go: () => emit('project'),
        more: { name: 'file', go: () => void router.push({ name: 'exchange' }) } },
    { name: 'second', done: props.data.projects.length > 1, go: () => emit('project') },
    { name: 'handover', done: props.data.handovers > 0,
        go: () => void router.push({ name: 'board', query: { projects: firstKeys.value || undefined } }),
        wrong: props.data.projects.length < 2 ? t('firstHour.needsTwo') : '' },
] as { name: string; done: boolean; go: () => void; more?: { name: string; go: () => void }; wrong?: string }[]);
const next = computed(() => steps.value.find((s) => !s.done)?.name ?? null);
</script>

<template>
    <p class="faint">{{ t(next === null ? 'firstHour.all' : 'firstHour.about') }}</p>
    <ol>
        <li v-for="s in steps" :key="s.name" :class="{ done: s.done, next: s.name === next }"
            :aria-current="s.name === next ? 'step' : undefined">
            <b><span class="tick" :aria-label="t(s.done ? 'firstHour.done' : 'firstHour.open')">{{ s.done ? '✓' : '·' }}</span>
                {{ t(`firstHour.${s.name}.title`) }}</b>
            <p class="faint">{{ t(`firstHour.${s.name}.why`) }}</p>
            <span class="ways">
                <NButton size="small" :type="s.name === next ? 'primary' : 'default'" :disabled="!!s.wrong" :title="s.wrong"
                    @click="s.go">{{
                        t(`firstHour.${s.name}.go`) }}</NButton>
                <button v-if="s.more" class="verb" @click="s.more.go">{{ t(`firstHour.${s.more.name}.go`) }}</button>
            </span>
        </li>
    </ol>
    <button class="verb" @click="emit('dismiss')">{{ t('card.dismiss') }}</button>
</template>

<style scoped>
p { margin: 0 0 4px; }
ol { list-style: none; margin: 0; padding: 0; display: flex; flex-direction: column; gap: 12px; }
li { border-left: 3px solid var(--hairline); padding-left: 10px; }
.next { border-left-color: var(--marigold); }
.tick { display: inline-block; width: 14px; color: var(--moss); }
.ways { display: flex; gap: 12px; align-items: center; }
.done p, .done .ways { display: none; }
</style>
