import { expect, test } from '@playwright/test';
import { cell, drawLink, enter, onBar, openBoard, ripple, row, type } from './steps';

test.beforeEach(async ({ page }) => enter(page));

test('a changed duration moves linked projects at once, can be undone and done again', async ({ page }) => {
    await openBoard(page, 'GRID', 'OSTV', 'TERN');
    const before = await cell(page, 'GRID-ST-0060', 3).innerText();
    await type(page, 'GRID-CA-0050', 2, '60d');
    await expect(ripple(page)).toContainText('Cable laid and jointed: 12 d → 60 d');
    await expect(ripple(page)).toContainText(/moves \d+ activities in [2-9] projects/);
    await expect(cell(page, 'GRID-ST-0060', 3)).not.toHaveText(before);
    await page.keyboard.press('Control+z');
    await expect(cell(page, 'GRID-ST-0060', 3)).toHaveText(before);
    await expect(cell(page, 'GRID-CA-0050', 2)).toHaveText('12');
    await page.keyboard.press('Control+Shift+z');
    await expect(cell(page, 'GRID-CA-0050', 2)).toHaveText('60');
    await page.keyboard.press('Control+z');
    await expect(cell(page, 'GRID-CA-0050', 2)).toHaveText('12');
});

test('a network is built by keyboard: elements, activities, durations, links', async ({ page }) => {
    await openBoard(page, 'LYNG');
    await row(page, 'LYNG').getByRole('gridcell').first().click();
    await page.keyboard.press('Shift+N');
    await page.locator('input.editor').fill('Spare parts');
    await page.keyboard.press('Enter');
    await expect(row(page, 'Spare parts')).toBeVisible();
    for (const [i, [name, days]] of ([['Order plugs', '5d'], ['Store plugs', '~12h']] as const).entries()) {
        if (i === 0) {
            await page.getByRole('button', { name: '+ activity' }).click();
        } else {
            await page.keyboard.press('n');
        }
        await page.locator('input.editor').fill(name);
        await page.keyboard.press('Tab');
        await page.locator('input.editor').fill(days);
        await page.keyboard.press('Enter');
        await expect(row(page, name)).toBeVisible();
    }
    await expect(cell(page, 'Store plugs', 2)).toHaveText('≈ 1.5');
    // a range begins at the row that was just made
    await page.keyboard.press('Shift+ArrowUp');
    await expect(page.locator('.row[aria-selected=true]')).toHaveCount(2);
    await cell(page, 'Order plugs', 1).click();
    await page.keyboard.press('Shift+ArrowDown');
    await page.keyboard.press('l');
    await expect(ripple(page)).toContainText('linked 2 activities');
    await page.keyboard.press('Shift+ArrowUp');
    await cell(page, 'Store plugs', 1).click();
    await page.keyboard.press('i');
    await expect(page.getByTestId('why').or(page.locator('[data-test=why]'))).toContainText('Order plugs drives it (FS)');
    // type, lag and lag calendar in the inspector
    const lag = page.getByRole('complementary').getByLabel('Lag', { exact: true }).first();
    await lag.fill('2d');
    await lag.press('Tab');
    await expect(page.locator('[data-test=why]')).toContainText('lag 2 d');
    // outline: out of the element and back
    await cell(page, 'Store plugs', 1).click();
    await page.keyboard.press('Alt+ArrowLeft');
    await expect(row(page, 'Store plugs')).toHaveAttribute('aria-level', '2');
    await page.keyboard.press('Alt+ArrowRight');
    await expect(row(page, 'Store plugs')).toHaveAttribute('aria-level', '3');
    await page.keyboard.press('Delete');
    await expect(row(page, 'Store plugs')).toHaveCount(0);
    await page.keyboard.press('Control+z');
    await expect(row(page, 'Store plugs')).toBeVisible();
});

test('a wrong duration is explained while typing and nothing is lost', async ({ page }) => {
    await openBoard(page, 'GRID');
    await cell(page, 'GRID-PE-0010', 2).dblclick();
    await expect(page.locator('input.editor')).toHaveCount(1);
    await page.locator('input.editor').fill('soon');
    await expect(page.getByText('“soon” is not a duration')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(cell(page, 'GRID-PE-0010', 2)).toHaveText('8');
});

test('a loop is refused with the whole chain', async ({ page }) => {
    await openBoard(page, 'GRID', 'OSTV');
    await cell(page, 'GRID-ST-0050', 1).click();
    await cell(page, 'GRID-ST-0040', 1).click({ modifiers: ['Control'] });
    await page.keyboard.press('l');
    await expect(page.getByRole('alert')).toContainText('GRID/GRID-ST-0040 → GRID/GRID-ST-0050 → GRID/GRID-ST-0040');
});

test('bars are dragged: a move holds the start, a link is drawn across projects', async ({ page }) => {
    await openBoard(page, 'CREW', 'GANN');
    const { x: from, y } = await onBar(page, 'CREW-RO-0020', 'grab');
    const start = await cell(page, 'CREW-RO-0020', 3).innerText();
    await page.mouse.move(from + 3, y);
    await page.mouse.down();
    await page.mouse.move(from + 80, y, { steps: 6 });
    await expect(ripple(page)).toContainText('start no earlier than');
    await page.mouse.up();
    await expect(cell(page, 'CREW-RO-0020', 3)).not.toHaveText(start);
    await expect(ripple(page)).toContainText('Dragging a bar holds it');
    await page.keyboard.press('Control+z');
    await expect(cell(page, 'CREW-RO-0020', 3)).toHaveText(start);

    // from the finish dot of one bar to the body of another, in the other project
    await row(page, 'CREW').getByRole('gridcell').first().click();
    await drawLink(page, 'CREW-RO-0020', 'CREW-VE-0010');
    await expect(ripple(page)).toContainText('Union hearing → Familiarisation on board FS');
    await page.keyboard.press('Control+z');
    await expect(ripple(page)).toContainText('Undone');
});

test('the trace shows only the driving chain across projects', async ({ page }) => {
    await page.goto('/board?projects=OSTV,TERN&row=act-ostv-cm-0040');
    await expect(row(page, 'OSTV-CM-0040')).toHaveAttribute('aria-selected', 'true');
    await page.getByRole('treegrid').press('t');
    await expect(page.getByText('Trace of Acceptance test')).toBeVisible();
    await expect(row(page, 'OSTV-TO-0050')).toBeVisible();
    await expect(row(page, 'OSTV-CI-0040')).toHaveCount(0);
    await page.getByRole('button', { name: 'show all' }).click();
    await expect(page.getByText('Trace of Acceptance test')).toHaveCount(0);
});

test('a row is found by typing', async ({ page }) => {
    await openBoard(page, 'GRID', 'OSTV');
    await row(page, 'GRID').getByRole('gridcell').first().click();
    await page.keyboard.press('f');
    await expect(page.locator('.find input')).toBeFocused();
    await page.keyboard.type('charger acc');
    await page.keyboard.press('Enter');
    await expect(row(page, 'OSTV-CM-0050')).toHaveAttribute('aria-selected', 'true');
    await expect(page.getByRole('complementary')).toContainText('Charger accepted');
});

test('the inspector follows reasons across projects', async ({ page }) => {
    await openBoard(page, 'OSTV', 'TERN');
    await cell(page, 'OSTV-CM-0010', 1).click();
    await page.keyboard.press('i');
    await expect(page.locator('[data-test=why]')).toContainText('drives it');
    await page.locator('[data-test=why] button').first().click();
    await expect(page).toHaveURL(/projects=OSTV/);
    await expect(page.getByRole('complementary')).not.toContainText('Commissioning drives');
    await page.keyboard.press('Escape');
    await page.getByRole('treegrid').press('Escape');
    await expect(page.getByRole('complementary')).toHaveCount(0);
});
