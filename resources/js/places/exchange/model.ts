import { useQuery } from '@tanstack/vue-query';
import { feed } from '@/api/client';
import { setsOf } from './feed';

/** The sets of the feed with their properties and relations. */
export const useFeedModel = () => useQuery({ queryKey: ['feed-model'], staleTime: Infinity,
    queryFn: async () => setsOf(await feed('$metadata?$format=json')) });

/** What of a file is what here, as somebody decided: kind => what the source calls it => uid, or nothing for one of its own. */
export type Mapping = Partial<Record<'project' | 'calendar' | 'codeSet' | 'entry' | 'resource', Record<string, string>>>;
