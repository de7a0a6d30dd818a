import { expect, test, type Page } from '@playwright/test';
import { cell, drawLink, find, ripple, row, sight, signIn } from './steps';

/** As a person works who does not touch the mouse, and as one who only draws. */

const ROWS = 40;
const named = (n: number): string => `Step ${String(n).padStart(2, '0')}`;

/** Chooses what the command field finds for a text. */
async function command(page: Page, text: string, option: RegExp): Promise<void> {
    await page.keyboard.press('Control+k');
    await page.keyboard.type(text);
    await expect(page.getByRole('option').first()).toHaveText(option);
    await page.keyboard.press('Enter');
}

test('forty activities are built by keyboard alone, linked to two projects by drag, and all of it is undone after a reload',
    async ({ page }) => {
        test.setTimeout(240_000);
        await signIn(page);
        await command(page, 'new project', /^new project/);
        await expect(page.getByLabel('Name')).toBeFocused();
        await page.keyboard.type('Keyboard only');
        await page.keyboard.press('Tab');
        await page.keyboard.press('Control+a');
        await page.keyboard.type('KEYB');
        await page.keyboard.press('Shift+Tab');
        await page.keyboard.press('Shift+Tab'); // the branch, which nobody guesses
        await page.keyboard.press('Enter');
        await page.keyboard.type('Archive');
        await expect(page.locator('.n-tree-node--highlight').first()).toBeVisible();
        await page.keyboard.press('ArrowDown');
        await page.keyboard.press('Enter');
        await page.getByLabel('Key', { exact: true }).press('Enter');
        await expect(page.getByRole('complementary')).toContainText('Keyboard only');
        await command(page, 'KEYB', /KEYB/);
        await page.waitForURL('**/board?projects=KEYB**');
        await expect(page.getByText('1 project · 0 activities')).toBeVisible();

        await expect(ripple(page)).toContainText('Press n for the first activity');
        for (let n = 1; n <= ROWS; n++) {
            await page.keyboard.press('n');
            await expect(page.locator('input.editor')).toBeFocused();
            await page.keyboard.type(named(n));
            await page.keyboard.press('Tab');
            await expect(page.locator('input.editor')).not.toHaveValue(named(n));
            await page.keyboard.press('Control+a');
            await page.keyboard.type(`${1 + (n % 5)}d`);
            await page.keyboard.press('Enter');
            await expect(page.locator('input.editor')).toHaveCount(0);
        }
        for (let n = 1; n < ROWS; n++) await page.keyboard.press('Shift+ArrowUp');
        await page.keyboard.press('l');
        await expect(ripple(page)).toContainText(`linked ${ROWS} activities`);
        // 1 + (n mod 5) days: eight times 2, 3, 4, 5 and 1
        await expect(cell(page, 'KEYB', 2)).toHaveText(String(8 * 15));

        // a loop: the last one before the first; the message names the chain, and a link of it gives way
        await page.keyboard.press('Escape');
        await find(page, named(1));
        const link = async (from: string, to: string) => {
            await cell(page, from, 1).click();
            await cell(page, to, 1).click({ modifiers: ['Control'] });
            await page.keyboard.press('l');
        };
        await link(named(3), named(1));
        await expect(page.getByRole('alert')).toContainText('KEYB/KEYB-0010 → KEYB/KEYB-0020 → KEYB/KEYB-0030 → KEYB/KEYB-0010');
        await page.getByRole('alert').getByRole('button', { name: 'close' }).click();
        await cell(page, named(1), 1).click();
        await page.keyboard.press('Shift+ArrowDown');
        await page.keyboard.press('u');
        await expect(ripple(page)).toContainText('1 link removed');
        await link(named(3), named(1));
        await expect(ripple(page)).toContainText('linked 2 activities');

        // with two other projects, by drag
        await page.goto('/board?projects=CREW,KEYB,TICK');
        await find(page, named(4));
        await page.keyboard.press('Escape'); // the inspector
        await page.keyboard.press('0');
        await drawLink(page, 'CREW-RO-0050', named(2));
        await expect(ripple(page)).toContainText('Relief crew trained → Step 02 FS');
        await sight(page, row(page, named(ROWS)));
        await page.getByRole('treegrid').hover({ position: { x: 120, y: 200 } });
        await page.mouse.wheel(0, 200);
        await drawLink(page, named(ROWS), 'TICK-SY-0010');
        await expect(ripple(page)).toContainText(`${named(ROWS)} → `);

        await page.goto('/board?projects=KEYB');
        await expect(page.getByText(`1 project · ${ROWS} activities`)).toBeVisible();
        for (let n = 0; n < 3 * ROWS && !(await page.getByText('1 project · 0 activities').isVisible()); n++) {
            await page.keyboard.press('Control+z');
            await expect(ripple(page)).not.toContainText('Saving');
        }
        await expect(page.getByText('1 project · 0 activities')).toBeVisible();
    });
