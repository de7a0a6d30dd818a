/**
 * A table pasted from a spreadsheet (tabs), written with `|`, or with `;`: rows of trimmed cells. Rows of dashes between head and body
 * of a Markdown table, and rows without a cell, are left out.
 */
export function pastedRows(text: string): string[][] {
    const lines = text.split(/\r\n?|\n/).filter((l) => l.trim() !== '');
    const by = lines.some((l) => l.includes('\t')) ? '\t' : lines.every((l) => l.includes('|')) && lines.length ? '|' : ';';
    return lines.filter((l) => by !== '|' || !/^[\s|:-]+$/.test(l))
        .map((l) => (by === '|' ? l.trim().replace(/^\||\|$/g, '') : l).split(by).map((c) => c.trim().replace(/^"(.*)"$/,
            '$1').replaceAll('""', '"')))
        .filter((cells) => cells.some((c) => c !== ''));
}
