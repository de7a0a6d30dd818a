import { marked } from 'marked';

/** A page of the guide: what stands below one heading, down to the next of its level. */
export interface Page { title: string; level: number; text: string; at: number }

/** Pages of a text in Markdown, in order. */
export function pagesOf(markdown: string): Page[] {
    const lines = markdown.split('\n');
    const heads = lines.flatMap((line, at) => {
        const found = /^(#{1,3}) (.+)$/.exec(line);
        return found ? [{ level: found[1]!.length, title: found[2]!.trim(), at }] : [];
    });
    return heads.map((head, i) => {
        const end = heads.slice(i + 1).find((next) => next.level <= head.level)?.at ?? lines.length;
        return { ...head, text: lines.slice(head.at + 1, end).join('\n').trim() };
    });
}

/** As it is read. */
export const html = (markdown: string): string => marked.parse(markdown, { async: false });

const plain = (markdown: string): string => markdown.replace(/[*`#>|]/g, '').replace(/\s+/g, ' ').trim();

/** Pages that have all the words, those with them in the title first, each with what stands around the first of them. */
export function search(pages: readonly Page[], asked: string): { page: Page; around: string }[] {
    const words = asked.toLowerCase().split(/\s+/).filter((w) => w !== '');
    if (words.length === 0) return [];
    const own = (page: Page) => page.text.split(/^#{1,3} /m, 1)[0]!; // without the pages inside it
    return pages.filter((page) => page.level > 1).map((page) => ({ page, text: plain(own(page)) }))
        .filter(({ page, text }) => words.every((w) => `${page.title} ${text}`.toLowerCase().includes(w)))
        .map(({ page, text }) => {
            const at = Math.max(0, text.toLowerCase().indexOf(words[0]!) - 40);
            return { page, around: `${at > 0 ? '… ' : ''}${text.slice(at, at + 140)}${at + 140 < text.length ? ' …' : ''}`,
                titled: words.every((w) => page.title.toLowerCase().includes(w)) };
        })
        .sort((a, b) => Number(b.titled) - Number(a.titled)).map(({ page, around }) => ({ page, around }));
}
