import { useQuery } from '@tanstack/vue-query';
import { feed } from '@/api/client';
import { setsOf } from './feed';

/** The sets of the feed with their properties and relations. */
export const useFeedModel = () => useQuery({ queryKey: ['feed-model'], staleTime: Infinity,
    queryFn: async () => setsOf(await feed('$metadata?$format=json')) });
