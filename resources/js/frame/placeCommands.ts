import { useRouter } from 'vue-router';
import { useCommands } from '@/ui/commands';
import { lastBoard } from './lastBoard';

export const PLACES = ['portfolio', 'board', 'load', 'exchange', 'library'] as const;

const KEYS = { portfolio: 'g p', board: 'g b', load: 'g l', exchange: 'g e', library: 'g y' } as const;

/** Goes to a place, on every screen. */
export function usePlaceCommands(): void {
    const router = useRouter();
    useCommands(PLACES.map((place) => ({ id: `go.${place}`, keys: [KEYS[place]],
        run: () => router.push({ name: place, query: place === 'board' && lastBoard.value ? { projects: lastBoard.value } : {} }) })));
}
