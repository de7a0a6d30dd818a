import { formatDuration, parseDuration } from '@/time/duration';

/** What a typed duration makes of an activity, and what that is in words; null when it is none. Without a length it is a milestone. */
export function readWork(text: string, perDay: number, words: { milestone: string; estimate: (text: string) => string }):
{ after: Record<string, unknown>; understood: string; minutes: number } | null {
    if (/^[~≈]?\s*0+(?:[.,]0+)?\s*(?:weeks?|days?|hours?|min|[wdhm])?$/i.test(text.trim())) {
        return { after: { kind: 'finish-milestone' }, understood: words.milestone, minutes: 0 };
    }
    const typed = parseDuration(text, perDay);
    const length = typed && formatDuration(typed.minutes, perDay);
    return typed && { after: { duration: typed.minutes, estimate: typed.estimate }, minutes: typed.minutes,
        understood: typed.estimate ? words.estimate(length!) : length! };
}
