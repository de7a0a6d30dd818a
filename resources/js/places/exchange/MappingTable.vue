<script setup lang="ts">
import { NSelect } from 'naive-ui';
import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, type ImportPreview, type Portfolio } from '@/api/client';
import { useResources } from '@/api/queries';
import { entryTree } from '@/codes/entries';
import TreeSelect from '@/ui/TreeSelect.vue';
import type { Mapping } from './model';

type Line = ImportPreview['mapping'][number];

/** What of a file is what here; each can be decided otherwise, which the source's next file remembers. */
const props = defineProps<{ lines: Line[]; portfolio: Portfolio; fixed: boolean }>();
const chosen = defineModel<Mapping>({ required: true });
const { t, n } = useI18n();
const NEW = '-'; // an option must not be empty
const STAYS = '-stays';

const sets = useQuery({ queryKey: ['code-sets'], queryFn: () => ask(http.GET('/code-sets')),
    enabled: computed(() => props.lines.some((l) => l.kind === 'entry' || l.kind === 'codeSet')) });
const known = useResources(() => props.lines.some((l) => l.kind === 'resource'));
const setOf = (uid: string | null) => sets.data.value?.codeSets.find((s) => s.uid === uid);
const named = (list: { uid: string; key: string; name: string }[]) => [{ value: NEW, label: t('exchange.mapping.new') },
    ...list.map((o) => ({ value: o.uid, label: o.name === o.key ? o.key : `${o.key} ${o.name}` }))];
const projects = computed(() => named(props.portfolio.projects.filter((p) => p.mayPlan && !p.archived)));
const calendars = computed(() => named(props.portfolio.calendars));
const codeSets = computed(() => named((sets.data.value?.codeSets ?? []).map((s) => ({ uid: s.uid, key: s.key!, name: s.name! }))));
/** what is here already and out of reach stays as it is, unless it is to come beside that */
const stays = () => ({ value: STAYS, label: t('exchange.mapping.stays') });
const resources = computed(() => named((known.data.value?.resources ?? []).filter((r) => !r.retired)));
const options = (l: Line) => (l.how === 'beyond' ? [stays(), ...projects.value] : l.kind === 'project' ? projects.value
    : l.kind === 'calendar' ? calendars.value : l.kind === 'resource' ? resources.value : codeSets.value);
const entries = (l: Line) => [{ key: NEW, label: t('exchange.mapping.new') }, ...entryTree(setOf(l.within)!, 'uid')];
const valueOf = (l: Line) => chosen.value[l.kind]?.[l.foreign] === undefined && l.how === 'beyond' ? STAYS
    : (chosen.value[l.kind]?.[l.foreign] ?? l.to ?? '') || NEW;
const about = (l: Line) => t(`exchange.mapping.kinds.${l.kind}`, { label: l.label });
function decide(l: Line, value: string): void {
    const others = Object.fromEntries(Object.entries(chosen.value[l.kind] ?? {}).filter(([foreign]) => foreign !== l.foreign));
    chosen.value = { ...chosen.value, [l.kind]: value === STAYS ? others : { ...others, [l.foreign]: value === NEW ? '' : value } };
}
const plain = computed(() => props.lines.every((l) => l.kind === 'project' && (l.how === 'new' || l.how === 'known')));
const here = computed(() => props.lines.filter((l) => l.to !== null || l.how === 'beyond').length);
</script>

<template>
    <details :open="!plain" data-test="mapping">
        <summary>{{ t('exchange.mapping.title', { known: n(here), made: n(lines.length - here) }) }}</summary>
        <div class="lines">
            <table>
                <thead><tr><th>{{ t('exchange.mapping.inFile') }}</th><th>{{ t('exchange.mapping.here') }}</th><th /></tr></thead>
                <tbody>
                    <tr v-for="l in lines" :key="l.kind + l.foreign">
                        <td>{{ about(l) }}</td>
                        <td class="choice"><TreeSelect v-if="l.kind === 'entry' && setOf(l.within)" :label="about(l)" :value="valueOf(l)"
                                               :disabled="fixed" :options="entries(l)" @update:value="(v: string) => decide(l, v)" />
                            <NSelect v-else size="small" filterable :value="valueOf(l)" :disabled="fixed" :options="options(l)"
                                :input-props="{ 'aria-label': about(l) }" :aria-label="about(l)"
                                @update:value="(v: string) => decide(l, v)" /></td>
                        <td class="faint">{{ [...(l.to === null && l.how !== 'beyond' ? [] : [t(`exchange.mapping.how.${l.how}`)]),
                                              ...(l.differs ? [t('exchange.mapping.differs')] : [])].join(', ') }}</td>
                    </tr>
                </tbody>
            </table>
        </div>
        <p v-if="fixed" class="faint">{{ t('exchange.mapping.fixed') }}</p>
    </details>
</template>

<style scoped>
.lines { max-height: 260px; overflow: auto; }
table { width: 100%; border-collapse: collapse; }
th { text-align: left; font-weight: 400; color: var(--faint); font-size: 13px; }
td, th { padding: 2px 10px 2px 0; }
.choice { width: 42%; min-width: 180px; }
p { margin: 4px 0 0; }
</style>
