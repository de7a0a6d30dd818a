import { ask, http, type Sheets } from './client';

/** What is in a workbook, a table, a list or an outline, sheet by sheet, as text that can be pasted. */
export async function readSheets(file: File, name = file.name): Promise<Sheets['sheets']> {
    const body = new FormData();
    body.set('file', file, name);
    return (await ask(http.POST('/exchange/sheets', { body: body as never,
        bodySerializer: (form) => form as unknown as FormData }))).sheets;
}
