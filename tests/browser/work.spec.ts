import { expect, test } from '@playwright/test';
import { cell, enter, find, ripple, row } from './steps';

/** Who does it, and is it too much: crews on activities, the week that breaks, and which projects cause it. */
test.beforeEach(async ({ page }) => enter(page));

const WORK = `&view=${encodeURIComponent(JSON.stringify({ preset: 'work' }))}`;

test('a crew is put on an activity by typing, takes the work over, and what stayed is said', async ({ page }) => {
    await page.goto(`/board?projects=KGRD${WORK}`);
    await page.locator('[role=treegrid] [role=row]').nth(3).waitFor();
    const code = 'KGRD-PE-0020';
    await (await find(page, code)).click();
    const before = (await cell(page, code, 3).textContent())!.trim();
    await cell(page, code, 3).dblclick();
    await page.keyboard.press('Control+a');
    await page.keyboard.type('nobody knows them');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('alert').filter({ hasText: 'There is no resource “nobody knows them”' }).first()).toBeVisible();
    await page.keyboard.press('Control+a');
    await page.keyboard.type('Cable jointers 200 %; Diesel 40/h');
    await page.keyboard.press('Enter');
    await expect(cell(page, code, 3)).toHaveText('Cable jointers 200 %; Diesel 40/h');
    await expect(ripple(page)).toContainText('stayed');
    await row(page, code).click();
    await page.keyboard.press('i');
    const assigned = page.locator('[data-test=assigned]');
    await expect(assigned.getByLabel('Intensity')).toHaveValue('200 %');
    await ripple(page).getByRole('button', { name: 'undo' }).click();
    await expect(cell(page, code, 3)).toHaveText(before);
});

test('the load tells the overloaded week, the projects behind it and leads to them', async ({ page }) => {
    await page.goto('/load?from=2026-11-25');
    const grid = page.getByRole('grid', { name: 'Load' });
    await expect(grid.getByRole('rowheader', { name: /Marine electricians/ })).toBeVisible();
    // what stands above a column is its period
    const [head, below] = [grid.getByRole('columnheader').nth(12), grid.getByRole('row').nth(2).getByRole('gridcell').nth(11)];
    expect(Math.abs((await head.boundingBox())!.x - (await below.boundingBox())!.x)).toBeLessThan(2);
    await page.keyboard.press('o');
    const panel = page.getByRole('complementary');
    await expect(panel).toContainText('Overloaded on');
    await expect(panel.locator('[data-test=behind] .project').first()).toBeVisible();
    // by keyboard: the cell beside it, and what is behind it
    await grid.locator('[tabindex="0"]').focus();
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.press('Enter');
    await expect(panel.getByText('There are')).toBeVisible();
    await page.keyboard.press('o');
    await expect(panel).toContainText('Overloaded on');
    const first = panel.locator('[data-test=behind] a').first();
    const code = (await first.textContent())!;
    await first.click();
    await expect(page).toHaveURL(/\/board\?/);
    await expect(row(page, code)).toBeVisible();
});

test('a resource is made, changed, deleted, and taken back step by step', async ({ page }) => {
    await page.goto('/library?part=resources');
    await page.getByLabel('Name of a new resource').fill('Riggers');
    await page.getByRole('button', { name: 'Add resource' }).click();
    const panel = page.getByRole('complementary');
    await expect(panel.getByLabel('Key')).toHaveValue('RIGGERS');
    await panel.getByLabel('There are, %').fill('250');
    await panel.getByLabel('There are, %').press('Tab');
    await expect(page.getByRole('row', { name: /RIGGERS/ })).toContainText('250 %');
    await panel.getByLabel('From later days on, %', { exact: true }).fill('next week 3');
    await panel.getByLabel('From later days on, %', { exact: true }).press('Tab');
    await expect(panel.getByRole('alert')).toContainText('Each line is a day and a number');
    await panel.getByRole('button', { name: 'Delete' }).click();
    await page.getByRole('button', { name: 'Delete it' }).click();
    await expect(page.getByRole('row', { name: /RIGGERS/ })).toHaveCount(0);
    await page.getByRole('button', { name: 'undo', exact: true }).click();
    await expect(page.getByRole('row', { name: /RIGGERS/ })).toBeVisible();
    await page.getByRole('button', { name: 'undo', exact: true }).click();
    await expect(page.getByRole('row', { name: /RIGGERS/ })).not.toContainText('250 %');
    await page.getByRole('button', { name: 'undo', exact: true }).click();
    await expect(page.getByRole('row', { name: /RIGGERS/ })).toHaveCount(0);
});

test('the load of a resource stands under the rows and follows what is changed', async ({ page }) => {
    await page.goto(`/board?projects=GANN${WORK}`);
    await page.locator('[role=treegrid] [role=row]').nth(3).waitFor();
    const code = 'GANN-EL-0050';
    await (await find(page, code)).click();
    await row(page, code).click();
    await page.keyboard.press('k');
    const strip = page.locator('[data-test=load-strip]');
    await expect(strip).toContainText('Marine electricians');
    await expect(strip.getByRole('status')).toContainText('overloaded on');
    const before = (await strip.getByRole('status').textContent())!;
    await cell(page, code, 3).dblclick();
    await page.keyboard.press('Control+a');
    await page.keyboard.type('Marine electricians 1500 %');
    await page.keyboard.press('Enter');
    await expect(strip.getByRole('status')).not.toHaveText(before);
    await ripple(page).getByRole('button', { name: 'undo' }).click();
    await expect(strip.getByRole('status')).toHaveText(before);
    await strip.getByRole('button', { name: 'Close' }).click();
    await expect(strip).toHaveCount(0);
});

test('resources come in as a table: wrong rows are told, the others are taken in and back', async ({ page }) => {
    await page.goto('/library?part=resources');
    await page.getByRole('button', { name: 'as a table' }).click();
    await page.getByLabel('Take in a table').fill('key\tname\tkind\tunits\nEL\tMarine electricians\tcrew\t700\nTIDE\tTide readers\tcrew'
        + '\t200\nX\tRobot\trobot\t1');
    const read = page.locator('[data-test=rows-read]');
    await expect(read.getByRole('status')).toContainText('1 not understood');
    await expect(read.getByRole('status')).toContainText('1 new');
    await expect(read).toContainText('is one of person, crew, equipment, material');
    await page.getByRole('button', { name: 'Take in', exact: true }).click();
    await expect(page.getByRole('row', { name: /TIDE/ })).toBeVisible();
    await page.getByRole('button', { name: 'undo', exact: true }).click();
    await expect(page.getByRole('row', { name: /TIDE/ })).toHaveCount(0);
});

test('ways out of an overloaded week are compared, one is applied and taken back', async ({ page }) => {
    await page.goto('/load?from=2026-11-25');
    await page.getByRole('grid', { name: 'Load' }).waitFor();
    await page.keyboard.press('o');
    await page.getByRole('button', { name: 'Seek ways out' }).click();
    const [level, lower, more] = ['level', 'intensity', 'capacity'].map((way) => page.locator(`[data-test=way-${way}]`));
    await expect(level!).toContainText('0 days overloaded then', { timeout: 90_000 });
    await expect(lower!).toContainText('to ');
    await expect(more!).toContainText('no project ends at another time');
    const over = page.getByRole('gridcell', { name: /Dry-dock berths.*Overloaded/ });
    const before = await over.count();
    await level!.getByRole('button', { name: 'its load' }).click();
    await expect.poll(() => over.count()).toBeLessThan(before);
    for (const way of [lower!, more!]) {
        await way.getByRole('button', { name: 'throw away' }).click();
        await expect(way).toContainText('thrown away');
    }
    // the draft tells why each waits, and becomes a change like any other
    await level!.getByRole('link', { name: 'open on the board' }).click();
    await expect(page.getByText(/^Draft “Dry-dock berths/)).toBeVisible();
    await page.getByRole('button', { name: 'compare' }).click();
    await page.getByRole('button', { name: 'Propose for review' }).click();
    await expect(page.getByText('Proposal.')).toBeVisible();
    await page.getByRole('button', { name: /^Accept \d+ items?$/ }).click();
    await expect(ripple(page)).toContainText('applied');
    await page.goto('/load?from=2026-11-25');
    await page.getByRole('grid', { name: 'Load' }).waitFor();
    await expect.poll(() => over.count()).toBeLessThan(before);
    await page.goBack();
    await expect(page.getByRole('treegrid')).toBeVisible();
    await page.keyboard.press('Control+z');
    await expect(ripple(page)).toContainText('Undone');
    await page.goto('/load?from=2026-11-25');
    await expect.poll(() => over.count()).toBe(before);
});

test('a levelling is put together on one page, runs in the background and says what does not fit', async ({ page }) => {
    const name = `Within float ${Date.now()}`;
    await page.goto('/load?from=2026-11-25');
    await page.getByRole('button', { name: 'level …' }).click();
    const form = page.locator('[data-test=level]');
    await form.getByLabel('From').fill('someday');
    await form.getByLabel('From').press('Enter');
    await expect(form).toContainText('“someday” is no day');
    await form.getByLabel('From').fill('2027-01-04');
    await form.getByLabel('From').press('Enter');
    await form.getByText('Only within their float').click();
    await form.getByRole('group', { name: 'Goes first' }).locator('.chip').nth(1).press('ArrowLeft');
    await expect(form.getByRole('group', { name: 'Goes first' }).locator('.chip').first()).toContainText('late finish');
    await form.getByLabel('Name of the draft').fill(name);
    await form.getByRole('button', { name: 'Level into a draft' }).click();
    const done = page.locator('[data-test=levelled]');
    await expect(done).toContainText('Overloaded days', { timeout: 90_000 });
    await expect(done).toContainText('Who waits for whom');
    await done.getByRole('link', { name: 'open the draft on the board' }).click();
    await expect(page.getByText(`Draft “${name}”.`)).toBeVisible();
    await page.getByRole('button', { name: 'drafts' }).click();
    await page.locator('.one').filter({ hasText: name }).getByRole('button', { name: 'throw away' }).click();
    await page.locator('.n-popconfirm__action').getByRole('button', { name: 'throw away' }).click();
    await expect(page.locator('.one').filter({ hasText: name })).toHaveCount(0);
});
