import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { refDebounced } from '@vueuse/core';
import { computed, type Ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, type PortfolioProject } from '@/api/client';
import type { RowLook } from '@/rows/table';

/**
 * What the health checks say about projects, as a sign beside their names: how many checks say that dates cannot be trusted (◆), and how
 * many that they may mislead (◇). Asked for those in sight, and again when one of them changed.
 */
export function useHealthSigns(inSight: Ref<readonly PortfolioProject[]>) {
    const { t } = useI18n();
    const asked = refDebounced(computed(() => inSight.value.map((p) => `${p.key}:${p.revision}`).join(',')), 200);
    const answer = useQuery({ queryKey: ['health', 'marks', asked], enabled: computed(() => asked.value !== ''), retry: false,
        placeholderData: keepPreviousData, gcTime: 10_000, queryFn: () => ask(http.GET('/health/marks',
            { params: { query: { projects: asked.value.replace(/:\d+/g, '') } } })) });
    return (project: string): RowLook['sign'] => {
        const mark = answer.data.value?.marks[project];
        if (!mark) return null;
        const { broken, attention } = mark;
        if (broken + attention === 0) return { text: '✓', title: t('health.mark.fine'), strong: false };
        return { text: [broken > 0 ? `◆ ${broken}` : '', attention > 0 ? `◇ ${attention}` : ''].filter(Boolean).join(' '),
            title: [broken > 0 ? t('health.mark.broken', broken) : '', attention > 0 ? t('health.mark.attention', attention) : '']
                .filter(Boolean).join('; '), strong: false };
    };
}
