/** What a file is, told from how it begins; its name only decides between kinds that begin alike. */
export type FileKind = 'plan-xml' | 'icalendar' | 'xcal' | 'jcal' | 'table' | 'workbook' | 'outline' | 'graphml' | 'xml'
    | 'json' | 'unknown';

/** kinds that tell whole projects */
export const isPlan = (kind: FileKind): boolean => ['plan-xml', 'icalendar', 'xcal', 'jcal'].includes(kind);
/** kinds that tell rows of one project */
export const isRows = (kind: FileKind): boolean => ['table', 'workbook', 'outline'].includes(kind);

/** as much of a file as is looked at, in bytes */
export const HEAD = 4096;

const ROOTS: [RegExp, FileKind][] = [[/^(?:\w+:)?plan$/, 'plan-xml'], [/^(?:\w+:)?icalendar$/, 'xcal'], [/^opml$/, 'outline'],
    [/^graphml$/, 'graphml']];

/**
 * @param head the first {@link HEAD} bytes
 * @param name of the file; empty for what was pasted
 */
export function kindOf(head: Uint8Array, name: string): FileKind {
    const suffix = /\.([a-z0-9]+)$/i.exec(name)?.[1]?.toLowerCase() ?? '';
    if (head[0] === 0x50 && head[1] === 0x4b) return ['xlsx', 'ods'].includes(suffix) || inZip(head) ? 'workbook' : 'unknown';
    const wide = head[0] === 0xff && head[1] === 0xfe ? 'utf-16le' : head[0] === 0xfe && head[1] === 0xff ? 'utf-16be' : null;
    const text = new TextDecoder(wide ?? 'utf-8').decode(head).replace(/^\uFEFF/, '').trimStart();
     
    if (/[\u0000-\u0008\u000e-\u001a]/.test(text)) return 'unknown';
    if (/^begin:vcalendar/i.test(text)) return 'icalendar';
    if (text.startsWith('<')) {
        const root = /<(?![?!])([\w:.-]+)/.exec(text.replace(/<!--[\s\S]*?-->/g, ''))?.[1]?.toLowerCase() ?? '';
        return ROOTS.find(([pattern]) => pattern.test(root))?.[1] ?? 'xml';
    }
    if (/^\[\s*"vcalendar"/i.test(text)) return 'jcal';
    if (/^\[\s*["[{]|^\{\s*["}]/.test(text) && suffix !== 'csv') return 'json';
    return text.trim() === '' ? 'unknown' : 'table';
}

/** A spreadsheet names its parts near the beginning of the archive, whatever the file is called. */
function inZip(head: Uint8Array): boolean {
    return /opendocument\.spreadsheet|\[Content_Types\]|xl\//.test(new TextDecoder('latin1').decode(head));
}
