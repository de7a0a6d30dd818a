import { expect, type Locator, type Page } from '@playwright/test';

/** Signs in as one of the demo users. */
export async function signIn(page: Page, name = 'Ilse Marbach'): Promise<void> {
    await page.goto('/');
    await page.getByRole('button', { name }).click();
    await page.waitForURL('**/portfolio');
    await expect(page.getByRole('treegrid')).toBeVisible();
}

/** Opens a working set on the board and waits for its rows. */
export async function openBoard(page: Page, ...keys: string[]): Promise<void> {
    await page.goto(`/board?projects=${keys.join(',')}`);
    await expect(row(page, keys[0]!)).toBeVisible();
}

/** The row whose cells hold the text. */
export function row(page: Page, text: string): Locator {
    return page.getByRole('row').filter({ has: page.getByRole('gridcell', { name: text, exact: true }) });
}

/** A cell of a row by its place: 0 code, 1 name, 2 days, 3 start, 4 float. */
export function cell(page: Page, text: string, at: number): Locator {
    return row(page, text).getByRole('gridcell').nth(at);
}

/** Types into a cell by keyboard alone: select the row, Enter on the column, text, Enter. */
export async function type(page: Page, rowText: string, at: number, text: string): Promise<void> {
    await cell(page, rowText, at).click();
    await page.keyboard.press('Enter');
    const editor = page.locator('input.editor');
    await expect(editor).toBeFocused();
    await editor.fill(text);
    await page.keyboard.press('Enter');
    await expect(editor).toHaveCount(0);
}

export function ripple(page: Page): Locator {
    return page.getByRole('status').last();
}
