import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';

const root = join(__dirname, '..');
const templates = readdirSync(root, { recursive: true, encoding: 'utf8' }).filter((f) => f.endsWith('.vue'));

describe('a button that can be grey', () => {
    it('always says why', () => {
        const silent: string[] = [];
        let seen = 0;
        for (const file of templates) {
            const text = readFileSync(join(root, file), 'utf8');
            for (const [tag] of text.matchAll(/<(?:NButton|button)\b(?:[^>"]|"[^"]*")*>/g)) {
                if (!/\s:?disabled\b/.test(tag)) continue;
                seen++;
                if (!/\s(?:v-why|:title)=/.test(tag)) silent.push(`${file}: ${tag}`);
            }
        }
        expect(silent).toEqual([]);
        expect(seen).toBeGreaterThan(60);
    });
});
