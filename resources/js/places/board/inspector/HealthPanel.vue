<script setup lang="ts">
import { NButton, NInput, NSelect } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useQueryClient } from '@tanstack/vue-query';
import { ask, type Finding, http, messageOf } from '@/api/client';
import { remove, update } from '@/api/operations';
import { useHealth, useThresholds } from '@/api/queries';
import { useBoard } from '../store';
import { together } from './findings';
import { useKept } from '@/ui/kept';
import { vWhy } from '@/ui/why';

/** Findings about one project of the working set; a click jumps to the activity. Administrators set the limits. */
const project = defineModel<string>('project', { required: true });
const emit = defineEmits<{ go: [uid: string] }>();
const { t } = useI18n();
const board = useBoard();
const LISTED = 40;
const ALL = '*';
const cache = useQueryClient();
const answer = useHealth(() => board.board, () => board.version);
const thresholds = useThresholds();
const health = answer.data;
const checks = thresholds.data;
const unread = computed(() => { const e = answer.error.value ?? thresholds.error.value; return e ? messageOf(e) : ''; });
const error = ref('');
const adjusting = ref(false);
const open = ref<string | null>(null);
const limits = ref<Record<string, { limit: string; days: string }>>({});

watch(checks, (now) => {
    limits.value = Object.fromEntries((now?.checks ?? [])
        .map((c) => [c.check, { limit: String(c.limit), days: c.days === null ? '' : String(c.days) }]));
}, { immediate: true });

const projects = computed(() => [...(board.keys.length > 1 ? [{ label: t('health.all'), value: ALL }] : []),
    ...board.keys.map((k) => ({ label: k, value: k }))]);
const findings = computed<Finding[]>(() => (project.value === ALL ? together(health.value?.projects.map((p) => p.findings) ?? [])
    : health.value?.projects.find((p) => p.key === project.value)?.findings ?? []));

/** What mends a finding in one change: the words of it, and what it does. */
function fixOf(f: Finding): { text: string; run: () => Promise<boolean> } | null {
    const mine = (uid: string) => { const a = board.model?.activities.get(uid); return a
        && board.model!.projects.get(a.project)?.mayPlan; };
    if (f.check === 'redundant-links') {
        const links = f.links.filter((uid) => { const l = board.model?.links.get(uid); return l?.to && mine(l.to); });
        return links.length === 0 ? null : { text: t('health.fix.redundant-links', links.length), run: () => board.commit(links.map((uid) =>
            remove('link', uid)), t('health.fixed.redundant-links', links.length)) };
    }
    if (f.check === 'unconfirmed-estimates') {
        const own = f.activities.filter(mine);
        return own.length === 0 ? null : { text: t('health.fix.unconfirmed-estimates', own.length), run: () => board.commit(own.map((uid) =>
            update('activity', uid, { estimate: false })), t('health.fixed.unconfirmed-estimates', own.length)) };
    }
    return null;
}

/** the activity that is to be left as it is, with the reason that is typed for it */
const waiving = ref<string | null>(null);
const reason = useKept('waiver', '');
async function waive(f: Finding, uid: string, why: string): Promise<void> {
    error.value = '';
    const of = board.model?.activities.get(uid)?.project;
    if (!of) return;
    try {
        await ask(http.POST('/health/waivers', { body: { project: of, check: f.check, activities: [uid], reason: why } }));
        waiving.value = null;
        reason.value = '';
        await cache.invalidateQueries({ queryKey: ['health'] });
    } catch (e) {
        error.value = messageOf(e);
    }
}
const order = { broken: 0, attention: 1, note: 2 };
const bad = computed(() => findings.value.filter((f) => f.fine === false).sort((x, y) => order[x.severity] - order[y.severity]));
const left = computed(() => findings.value.flatMap((f) => f.waived.map((w) => ({ ...w, check: f.check, of: f }))));
const fine = computed(() => findings.value.filter((f) => f.fine === true));
const unmeasured = computed(() => findings.value.filter((f) => f.fine === null));

function measure(f: Finding): string {
    const values = { n: f.count, of: f.population ?? 0, share: f.value === null ? '' : Math.round(f.value * 10) / 10, limit: f.limit,
        days: f.days ?? 0, value: f.value ?? '' };
    return f.unit === 'index' ? t('health.index', values) : t('health.share', values);
}
const nameOf = (uid: string) => { const a = board.model?.activities.get(uid); return a ? `${a.code}  ${a.name}` : ''; };

async function save(): Promise<void> {
    error.value = '';
    const number = (text: string) => Number(text.replace(',', '.'));
    const changed: Record<string, { limit?: number; days?: number }> = {};
    for (const c of checks.value!.checks) {
        const typed = limits.value[c.check]!;
        if (!Number.isFinite(number(typed.limit))
            || !Number.isFinite(number(typed.days || '0'))) return void (error.value = t('health.needNumber',
            { name: t(`health.checks.${c.check}.title`) }));
        const set: { limit?: number; days?: number } = {};
        if (number(typed.limit) !== c.usualLimit) set.limit = number(typed.limit);
        if (c.usualDays !== null && number(typed.days) !== c.usualDays) set.days = number(typed.days);
        if (Object.keys(set).length > 0) changed[c.check] = set;
    }
    try {
        await ask(http.PUT('/health/thresholds', { body: { checks: changed } }));
        adjusting.value = false;
        await Promise.all([cache.invalidateQueries({ queryKey: ['health'] }), cache.invalidateQueries({ queryKey: ['thresholds'] })]);
    } catch (e) {
        error.value = messageOf(e);
    }
}
</script>

<template>
    <div class="head">
        <NSelect v-model:value="project" class="pick" size="small" :aria-label="t('ripple.project')" :options="projects" />
        <span v-if="health" class="faint"
            role="status">{{ t('health.summary', { bad: bad.length, fine: fine.length, none: unmeasured.length }) }}</span>
    </div>
    <p v-if="error || unread" class="error" role="alert">{{ error || unread }}</p>
    <section v-if="!adjusting" class="findings" data-test="findings">
        <article v-for="f in bad" :key="f.check" :class="f.severity">
            <div class="title"><b>{{ t(`health.checks.${f.check}.title`) }}</b> <span
                class="severity">{{ t(`health.severity.${f.severity}`) }}</span></div>
            <div class="tabular">{{ measure(f) }}</div>
            <div class="faint">{{ t(`health.checks.${f.check}.advice`) }}</div>
            <div class="faint source">{{ f.source }}</div>
            <button v-if="fixOf(f)" class="verb fix" @click="fixOf(f)!.run()">{{ fixOf(f)!.text }}</button>
            <button v-if="f.activities.length" class="verb" :aria-expanded="open === f.check"
                @click="open = open === f.check ? null : f.check">
                {{ t(f.activities.length === 1 ? 'health.showOne' : 'health.show', { n: f.activities.length }) }}
            </button>
            <ul v-if="open === f.check">
                <li v-for="uid in f.activities.slice(0, LISTED)" :key="uid"><button class="verb plain"
                                                                                @click="emit('go', uid)">{{ nameOf(uid) }}</button>
                    <button v-if="f.unit !== 'index'" class="verb leave" @click="waiving = waiving === uid ? null : uid">{{
                        t('health.waive') }}</button>
                    <form v-if="waiving === uid" class="waive" @submit.prevent="waive(f, uid, reason)">
                        <NInput v-model:value="reason" v-begin size="tiny" :placeholder="t('health.reason')"
                            :input-props="{ 'aria-label': t('health.reason') }" />
                        <NButton v-why="reason.trim() === '' && t('why.reason')" size="tiny" attr-type="submit"
                            :disabled="reason.trim() === ''">{{ t('health.waive') }}</NButton>
                    </form></li>
                <li v-if="f.activities.length > LISTED" class="faint">{{ t('health.more', { n: f.activities.length - LISTED }) }}</li>
            </ul>
        </article>
        <details v-if="left.length"><summary>{{ t('health.waived', left.length) }}</summary>
            <div v-for="w in left" :key="`${w.check} ${w.activity}`" class="line">
                <span><button class="verb plain" @click="emit('go', w.activity)">{{ nameOf(w.activity) }}</button><br>
                    <span class="faint">{{ `${t(`health.checks.${w.check}.title`)}: ${w.reason} (${w.author})` }}</span></span>
                <button class="verb" @click="waive(w.of, w.activity, '')">{{ t('health.unwaive') }}</button></div>
        </details>
        <details v-if="fine.length"><summary>{{ t('health.fine', { n: fine.length }) }}</summary><div v-for="f in fine" :key="f.check"
            class="line"><span>{{ t(`health.checks.${f.check}.title`) }}</span><span class="faint tabular">{{ measure(f) }}</span></div>
        </details>
        <details v-if="unmeasured.length"><summary>{{ t('health.unmeasured', { n: unmeasured.length }) }}</summary><div
            v-for="f in unmeasured" :key="f.check" class="line"><span>{{ t(`health.checks.${f.check}.title`) }}</span><span
            class="faint">{{ t(f.population === null ? 'health.noBase' : 'health.nothing') }}</span></div></details>
    </section>
    <form v-else class="limits" @submit.prevent="save">
        <p class="faint">{{ t('health.limitsAbout') }}</p>
        <template v-for="c in checks?.checks ?? []" :key="c.check">
            <span>{{ t(`health.checks.${c.check}.title`) }}<br><span class="faint source">{{ c.source }}</span></span>
            <NInput v-model:value="limits[c.check]!.limit" size="tiny"
                :input-props="{ 'aria-label': t('health.limitOf', { name: t(`health.checks.${c.check}.title`) }) }"><template
                #suffix>{{ c.unit === 'share' ? '%' : '' }}</template></NInput>
            <NInput v-if="c.days !== null" v-model:value="limits[c.check]!.days" size="tiny"
                :input-props="{ 'aria-label': t('health.daysOf', { name: t(`health.checks.${c.check}.title`) }) }"><template
                #suffix>d</template></NInput><span v-else />
        </template>
        <NButton size="small" type="primary" attr-type="submit">{{ t('health.save') }}</NButton>
    </form>
    <button v-if="checks?.mayChange" class="verb"
        @click="adjusting = !adjusting">{{ t(adjusting ? 'health.cancel' : 'health.adjust') }}</button>
</template>

<style scoped>
.head { display: flex; align-items: center; gap: 10px; }
.pick { width: 96px; flex: none; }
.findings { display: flex; flex-direction: column; gap: 10px; }
article { border-left: 3px solid var(--slate); padding-left: 10px; }
article.broken { border-left-color: var(--brick); }
article.attention { border-left-color: var(--marigold); }
.title { display: flex; justify-content: space-between; gap: 8px; }
.severity { font-size: 12px; color: var(--faint); white-space: nowrap; }
.broken .severity { color: var(--brick); }
.source { font-size: 12px; }
.waive { display: flex; gap: 6px; margin: 2px 0 6px; }
.leave { margin-left: 8px; font-weight: 400; }
.fix { margin-right: 12px; }
ul { margin: 2px 0 0; padding-left: 16px; }
summary { cursor: pointer; }
.line { display: flex; justify-content: space-between; gap: 10px; padding: 2px 0; }
.limits { display: grid; grid-template-columns: 1fr 74px 74px; gap: 6px 8px; align-items: center; }
.limits p { grid-column: 1 / -1; margin: 0; }
p { margin: 0; }
</style>
