import { expect, type Page, test } from '@playwright/test';
import { enter, find, intoBranch, openBoard, row, signIn } from './steps';

/** As the browser does for Ctrl V with this text on the clipboard. */
async function paste(page: Page, text: string): Promise<void> {
    await page.evaluate((t) => {
        const clipboardData = new DataTransfer();
        clipboardData.setData('text/plain', t);
        document.activeElement!.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
    }, text);
}

test('a table from elsewhere becomes rows with links, after a look at what was understood', async ({ page }) => {
    await enter(page);
    await openBoard(page, 'CREW');
    await find(page, 'CREW-VE-0030');
    await page.getByRole('treegrid').focus();
    await paste(page, 'No\tTask\tDuration\tPredecessors\tStart\n'
        + '1\tMess rooms\t\t\t\n2\t  Survey of mess rooms\t2d\tCREW-VE-0030\t2027-03-06\n'
        + '3\t  Lockers\t~1w\t2SS+1d; 99\t\n4\t  Loop\t1\t4\t');
    const face = page.getByRole('region', { name: 'Paste rows' });
    await expect(face.getByText('2 SS + 1 d')).toBeVisible();
    await expect(face.getByRole('complementary')).toContainText('starts on 2027-03-06, a day on which nobody works');
    await expect(face.getByRole('complementary')).toContainText('“99” is no row or activity here');
    await expect(face.getByRole('complementary')).toContainText(/“4” \(line \d+\) is the row itself/);
    // a column is meant otherwise
    await face.getByLabel('What column 5 holds').click();
    await page.keyboard.type('deadline');
    await page.keyboard.press('Enter');
    await expect(face.getByRole('complementary')).not.toContainText('a day on which nobody works');
    await face.getByRole('button', { name: 'Make 4 rows' }).click();
    await expect(face).toHaveCount(0);
    await find(page, 'Survey of mess rooms');
    await expect(page.locator('[data-test=why]')).toContainText('CREW-VE-0030');
    await page.getByRole('treegrid').press('Control+z');
    await expect(row(page, 'Survey of mess rooms')).toHaveCount(0);
    await find(page, 'CREW-VE-0030');
});

test('forty activities come from a Markdown table', async ({ page }) => {
    await enter(page);
    await openBoard(page, 'TICK');
    const lines = Array.from({ length: 40 }, (_, i) => `| ${i + 1} | Pasted ${i + 1} | ${1 + (i % 5)} | ${i === 0 ? '' : i} |`);
    await page.getByRole('row').nth(1).getByRole('gridcell').first().click();
    await page.getByRole('button', { name: 'paste', exact: true }).click();
    await page.getByLabel('Pasted text').fill(['| # | Activity | Days | After |', '|---|---|---|---|', ...lines].join('\n'));
    await page.getByRole('button', { name: 'Make 40 rows' }).click();
    await find(page, 'Pasted 40');
    await page.getByRole('treegrid').press('Control+z');
    await expect(row(page, 'Pasted 40')).toHaveCount(0);
});

test('a new project is made from a file, whose recipe reads the next one, which is merged', async ({ page }) => {
    const key = `QUAY${Date.now() % 100_000}`;
    const file = (days: number) => ({ name: 'plan.csv', mimeType: 'text/csv', buffer: Buffer.from(
        `Ref ${key};Step;How long;After\nQ1;Survey;${days}d;\nQ2;Design;4d;Q1\nQ3;Tender;0;Q2\n`) });
    await signIn(page);
    await page.getByRole('button', { name: 'new project' }).first().click();
    await page.getByLabel('Name', { exact: true }).fill(`Quay ${key}`);
    await page.getByLabel('Key', { exact: true }).fill(key);
    await page.getByLabel('Made from').last().click();
    await page.keyboard.type('a table');
    await page.keyboard.press('Enter');
    await intoBranch(page, 'Archive');
    await page.getByRole('button', { name: 'Create project' }).click();
    const face = page.getByRole('region', { name: 'Paste rows' });
    await face.locator('input[type=file]').setInputFiles(file(2));
    await expect(face.getByRole('button', { name: 'Make 3 rows' })).toBeVisible();
    await face.getByLabel('What column 1 holds').click();
    await page.keyboard.type('code');
    await page.keyboard.press('Enter');
    await face.getByRole('button', { name: 'keep as a recipe' }).click();
    await face.getByLabel('Name of the recipe').fill(`Recipe ${key}`);
    await face.getByRole('button', { name: 'Keep', exact: true }).click();
    await expect(face.getByText(`read by the recipe Recipe ${key}`)).toBeVisible();
    await face.getByRole('button', { name: 'Make 3 rows' }).click();
    await find(page, 'Tender');
    await expect(page.locator('[data-test=why]')).toContainText('Q2');

    await page.getByRole('button', { name: 'paste', exact: true }).click();
    await face.locator('input[type=file]').setInputFiles(file(3));
    await expect(face.getByText(`read by the recipe Recipe ${key}`)).toBeVisible();
    await face.getByLabel('What rows are about').click();
    await page.getByText('match rows by code').click();
    await expect(face).toContainText('0 new · 1 changed · 2 unchanged · 0 missing');
    await face.getByRole('button', { name: 'Merge' }).click();
    await expect(face).toHaveCount(0);
    await expect(row(page, 'Survey')).toContainText('3');
    await page.getByRole('treegrid').press('Control+z');
    await expect(row(page, 'Survey')).toContainText('2');
});
