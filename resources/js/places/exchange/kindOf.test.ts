import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { type FileKind, HEAD, isPlan, isRows, kindOf } from './kindOf';

const of = (text: string, name = '') => kindOf(new TextEncoder().encode(text).slice(0, HEAD), name);

describe('a file', () => {
    it('is known from how it begins, whatever it is called', () => {
        const known: [string, FileKind][] = [
            ['<?xml version="1.0"?>\n<!-- a note about <opml> -->\n<plan xmlns="urn:reihe:plan:1">', 'plan-xml'],
            ['\uFEFFBEGIN:VCALENDAR\r\nVERSION:2.0', 'icalendar'], ['\n begin:vcalendar', 'icalendar'],
            ['<icalendar xmlns="urn:ietf:params:xml:ns:icalendar-2.0">', 'xcal'], ['<x:icalendar xmlns:x="a">', 'xcal'],
            ['["vcalendar", []]', 'jcal'], ['[\n  "vcalendar"', 'jcal'], ['<opml version="2.0">', 'outline'],
            ['<graphml xmlns="http://graphml.graphdrawing.org/xmlns">', 'graphml'], ['<html>', 'xml'], ['<svg>', 'xml'],
            ['{"a": 1}', 'json'], ['[[1, 2]]', 'json'], ['', 'unknown'], ['  \n', 'unknown'],
            ['%PDF-1.7\n\u0001\u0002', 'unknown'], ['\u0089PNG\r\n\u001a\n\u0000', 'unknown'],
            ['Task\tDays\nSurvey\t2', 'table'], ['Hull\n  Survey', 'table'], ['| a | b |', 'table'], ['[ ] Survey', 'table'],
            ['[x] Papers', 'table'], ['Größe;Tage', 'table'],
        ];
        for (const [text, kind] of known) {
            for (const name of ['', 'a.xml', 'b.txt', 'C.XLSX', 'noname']) expect(of(text, name), `${name}: ${text}`).toBe(kind);
        }
    });
    it('that is an archive is a workbook where it says so, or is called so', () => {
        expect(of('PK\u0003\u0004…[Content_Types].xml')).toBe('workbook');
        expect(of('PK\u0003\u0004mimetypeapplication/vnd.oasis.opendocument.spreadsheet', 'x.zip')).toBe('workbook');
        expect(of('PK\u0003\u0004pictures', 'x.ods')).toBe('workbook');
        expect(of('PK\u0003\u0004pictures', 'x.zip')).toBe('unknown');
    });
    it('in wide letters is text too', () => {
        const bytes = new Uint8Array([0xff, 0xfe, ...[...'Task\tDays'].flatMap((c) => [c.charCodeAt(0), 0])]);
        expect(kindOf(bytes, 'a.txt')).toBe('table');
    });
    it('of every sample that the formats are tried with is known for what it is', () => {
        const folder = join(__dirname, '../../../../formats/tests/foreign');
        const kinds: Record<string, FileKind> = { ics: 'icalendar', xcal: 'xcal', jcal: 'jcal', opml: 'outline', csv: 'table',
            xlsx: 'workbook',
            ods: 'workbook' };
        let seen = 0;
        for (const name of readdirSync(folder, { recursive: true, encoding: 'utf8' })) {
            const kind = kinds[name.split('.').at(-1)!];
            if (kind === undefined) continue;
            seen++;
            const found = kindOf(new Uint8Array(readFileSync(join(folder, name)).subarray(0, HEAD)), name.replace(/\.(xlsx|ods)$/, ''));
            expect(found, name).toBe(kind);
            expect(isPlan(found) !== isRows(found), name).toBe(true);
        }
        expect(seen).toBeGreaterThan(0);
    });
});
