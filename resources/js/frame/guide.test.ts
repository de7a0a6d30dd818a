import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { html, pagesOf, search } from './guide';

const root = join(__dirname, '..');
const guide = readFileSync(join(root, '../../docs/guide.md'), 'utf8');
const pages = pagesOf(guide);

describe('the guide', () => {
    it('is cut into pages that hold what stands below their heading', () => {
        const cut = pagesOf('# A\nx\n## B\ny\n### C\nz\n## D\n');
        expect(cut.map((p) => [p.title, p.level, p.text])).toEqual([['A', 1, 'x\n## B\ny\n### C\nz\n## D'], ['B', 2, 'y\n### C\nz'],
            ['C', 3, 'z'], ['D', 2, '']]);
        expect(pages.map((p) => p.title)).toEqual(expect.arrayContaining(['The first hour', 'A planner\'s week', 'Portfolio', 'Board']));
        expect(new Set(pages.map((p) => p.title)).size, 'two pages of one name').toBe(pages.length);
    });
    it('has a page for every part of the screen that says so', () => {
        const asked = new Set<string>();
        for (const file of readdirSync(root, { recursive: true, encoding: 'utf8' }).filter((f) => f.endsWith('.vue'))) {
            const text = readFileSync(join(root, file), 'utf8');
            for (const [, body] of text.matchAll(/useHelp\(([\s\S]*?)\);\n/g)) {
                for (const [, heading] of body!.matchAll(/'([A-Z][^']*)'/g)) asked.add(heading!);
            }
        }
        expect(asked.size).toBeGreaterThan(12);
        for (const heading of asked) expect(pages.map((p) => p.title), heading).toContain(heading);
    });
    it('is found by words, titles first', () => {
        expect(search(pages, '').length).toBe(0);
        expect(search(pages, 'BASELINE settings')[0]!.page.title).toBe('Project settings and baselines');
        expect(search(pages, 'holidays').map((f) => f.page.title)).toContain('The first hour');
        expect(search(pages, 'holidays')[0]!.around.toLowerCase()).toContain('holidays');
        expect(search(pages, 'zeppelin hangar')).toEqual([]);
    });
    it('is shown without its marks', () => {
        expect(html('**a** `b`\n\n* c')).toContain('<strong>a</strong>');
    });
});
