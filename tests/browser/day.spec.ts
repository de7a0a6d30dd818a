import { expect, type Page, test } from '@playwright/test';
import { cell, enter, find, more, onBar, openBoard, ripple, row, signIn } from './steps';

/** A day on the board: cells, rows, history, drafts, paper. */
const bar = (page: Page) => page.locator('footer');
const undo = (page: Page) => page.getByRole('button', { name: 'undo', exact: true });

/** Opens projects with a view. */
async function look(page: Page, projects: string, view: object): Promise<void> {
    await page.goto(`/board?projects=${projects}&view=${encodeURIComponent(JSON.stringify(view))}`);
    await expect(row(page, projects.split(',')[0]!)).toBeVisible();
}

test('columns are chosen and typed over, a block is filled down, and all of it is undone after a reload', async ({ page }) => {
    await enter(page);
    await openBoard(page, 'PLOV');
    await page.getByRole('button', { name: /^columns: / }).click();
    await page.getByLabel('More columns').fill('deadl');
    await page.getByRole('checkbox', { name: 'Deadline' }).click();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('columnheader', { name: 'Deadline' })).toBeVisible();
    await expect(page).toHaveURL(/deadline/);
    await look(page, 'PLOV', { columns: ['code', 'name', 'deadline', 'own:own-risk'] });
    const codes = await page.getByRole('gridcell').filter({ hasText: /^PLOV-\w+-\d+$/ }).allTextContents();
    const [first, , third] = codes as [string, string, string];
    await cell(page, first, 2).dblclick();
    await page.keyboard.type('2028-05-05');
    await expect(page.locator('.cell .hint')).toContainText('5 May 2028');
    await page.keyboard.press('Tab'); // to the next column that can be typed over
    await expect(page.locator('input.editor')).toHaveAttribute('list', 'cell-choices');
    await page.keyboard.type('hi');
    await page.keyboard.press('Enter');
    await expect(cell(page, first, 3)).toHaveText('High');
    await expect(cell(page, first, 2)).toHaveText(/0?5 May 28/);
    await cell(page, first, 2).click();
    await cell(page, third, 3).click({ modifiers: ['Shift'] });
    await page.keyboard.press('Control+d');
    await expect(cell(page, third, 3)).toHaveText('High');
    await expect(cell(page, third, 2)).toHaveText(/0?5 May 28/);
    await page.reload();
    await expect(cell(page, third, 3)).toHaveText('High');
    for (let n = 0; n < 3; n++) {
        await undo(page).click();
        await expect(page.getByText('Saving …')).toHaveCount(0);
    }
    await expect(cell(page, first, 3)).toHaveText('');
    await expect(cell(page, third, 2)).toHaveText('');
});

test('rows are duplicated, cut and put in elsewhere, and several are edited together', async ({ page }) => {
    await enter(page);
    await openBoard(page, 'PLOV');
    const codes = await page.getByRole('gridcell').filter({ hasText: /^PLOV-\w+-\d+$/ }).allTextContents();
    const [first, , second] = codes as [string, string, string]; // the one between is a milestone
    const name = await cell(page, first, 1).textContent();
    await cell(page, first, 1).click();
    await page.keyboard.press('d');
    const copy = `${first}-2`;
    await expect(row(page, copy)).toHaveAttribute('aria-selected', 'true');
    await expect(cell(page, copy, 1)).toHaveText(name!);
    await page.keyboard.press('Control+x');
    await expect(row(page, copy)).toHaveClass(/dim/);
    await cell(page, second, 1).click();
    await page.keyboard.press('Control+v');
    await expect(bar(page)).toContainText('moved in the outline');
    const order = async () => (await page.getByRole('row').locator('[role=gridcell]:nth-of-type(1)').allTextContents());
    expect((await order()).indexOf(copy)).toBe((await order()).indexOf(second) + 1);
    await cell(page, second, 1).click();
    await cell(page, copy, 1).click({ modifiers: ['Shift'] });
    await page.keyboard.press('i');
    const several = page.locator('[data-test=several]');
    await several.getByLabel('Days', { exact: true }).fill('6d');
    await page.keyboard.press('Enter');
    await expect(cell(page, copy, 2)).toHaveText('6');
    await expect(cell(page, second, 2)).toHaveText('6');
    for (let n = 0; n < 3; n++) await undo(page).click();
    await expect(row(page, copy)).toHaveCount(0);
});

test('a row comes to another project by key and by drag, and back by undo', async ({ page }) => {
    await enter(page);
    await openBoard(page, 'GRID', 'PLOV');
    const fold = async () => {
        await row(page, 'GRID').getByRole('gridcell').first().click();
        await page.keyboard.press('ArrowLeft');
        await expect(row(page, 'GRID')).toHaveAttribute('aria-expanded', 'false');
    };
    await fold();
    const first = (await page.getByRole('gridcell').filter({ hasText: /^PLOV-\w+-\d+$/ }).first().textContent())!;
    const name = (await cell(page, first, 1).textContent())!;
    const named = page.getByRole('row').filter({ has: page.getByRole('gridcell', { name, exact: true }) });
    await cell(page, first, 1).click();
    await page.keyboard.press('Control+x');
    await row(page, 'GRID').getByRole('gridcell').first().click();
    await page.keyboard.press('Control+v');
    await expect(bar(page)).toContainText('moved to GRID');
    await expect(row(page, first)).toHaveCount(0);
    await expect(named.getByRole('gridcell').first()).toHaveText(/^GRID-\d+$/); // the code follows the rule there
    await page.reload();
    await undo(page).click();
    await expect(bar(page)).toContainText('Undone');
    await fold();
    await expect(cell(page, first, 1)).toHaveText(name);

    const from = (await cell(page, first, 0).boundingBox())!;
    const to = (await row(page, 'GRID').boundingBox())!;
    await page.mouse.move(from.x + 6, from.y + from.height / 2);
    await page.mouse.down();
    await page.mouse.move(to.x + 60, to.y + to.height / 2, { steps: 8 });
    await page.mouse.up();
    await expect(bar(page)).toContainText('moved to GRID');
    await expect(row(page, first)).toHaveCount(0);
    await page.keyboard.press('Control+z');
    await fold();
    await expect(cell(page, first, 1)).toHaveText(name);
});

test('a row tells why it slipped and who caused it in another project; that change is taken back by itself', async ({ page, browser }) => {
    const other = await (await browser.newContext()).newPage();
    await signIn(other, 'Chidi Okafor');
    await enter(page);
    await openBoard(page, 'OSTV');
    await find(page, 'OSTV-CM-0010');
    const before = await cell(page, 'OSTV-CM-0010', 3).textContent();
    await page.keyboard.press('Escape');
    const answer = await page.evaluate(async () => {
        const token = decodeURIComponent(/XSRF-TOKEN=([^;]+)/.exec(document.cookie)?.[1] ?? '');
        const sent = await fetch('/api/v1/changes',
            { method: 'POST', headers: { 'Content-Type': 'application/json', Accept: 'application/json',
            'X-XSRF-TOKEN': token }, body: JSON.stringify({ reason: 'The cable ship comes late', operations: [{ verb: 'update',
            kind: 'activity', uid: 'act-grid-ca-0050', after: { duration: 60 * 480 } }] }) });
        return sent.status;
    });
    expect(answer).toBe(200);
    await expect(cell(page, 'OSTV-CM-0010', 3)).not.toHaveText(before!, { timeout: 6000 });
    await find(page, 'OSTV-CM-0010');
    const history = page.locator('[data-test=history]');
    await history.getByRole('button', { name: 'show' }).click();
    const entry = history.locator('.entry').first();
    await expect(entry).toContainText('The cable ship comes late');
    await expect(entry).toContainText('Ilse Marbach');
    await expect(entry.locator('.moved')).toContainText('Start');
    await entry.getByRole('button', { name: 'mark what changed since' }).click();
    await expect(page.locator('.mark').first()).toBeVisible();
    await entry.getByRole('button', { name: 'undo this one' }).click();
    await expect(cell(page, 'OSTV-CM-0010', 3)).toHaveText(before!);
    await expect(history.locator('.entry').first()).toContainText('undo');
    await other.context().close();
});

test('two ways out are tried in two drafts, compared, and one is proposed', async ({ page }) => {
    await enter(page);
    await openBoard(page, 'GRID', 'OSTV');
    await find(page, 'GRID-CA-0050');
    const live = await cell(page, 'GRID-CA-0050', 2).textContent();
    for (const [name, days] of [['Second ship', '20d'], ['Wait for the first', '44d']] as const) {
        await page.getByRole('button', { name: 'drafts' }).click();
        await page.getByLabel('Name of a new draft').fill(name);
        await page.getByRole('button', { name: 'Begin' }).click();
        await expect(page.getByText(`Draft “${name}”.`)).toBeVisible();
        await find(page, 'GRID-CA-0050');
        await cell(page, 'GRID-CA-0050', 2).dblclick();
        await page.keyboard.type(days);
        await page.keyboard.press('Enter');
        await expect(page.getByText('1 change that nobody else’s dates feel')).toBeVisible();
        await expect(cell(page, 'GRID-CA-0050', 2)).toHaveText(days.replace('d', ''));
    }
    await page.getByRole('button', { name: 'compare' }).click();
    const compared = page.locator('[data-test=draft]');
    await expect(compared.getByRole('row').filter({ hasText: 'OSTV' })).toContainText('−');
    await page.locator('[data-test=drafts]').getByRole('button', { name: 'Second ship' }).click();
    await expect(page.getByText('Draft “Second ship”.')).toBeVisible();
    await expect(cell(page, 'GRID-CA-0050', 2)).toHaveText('20');
    await page.getByRole('button', { name: 'undo', exact: true }).click();
    await expect(page.getByText('Nothing in it yet')).toBeVisible();
    await page.getByRole('button', { name: 'redo', exact: true }).click();
    await expect(cell(page, 'GRID-CA-0050', 2)).toHaveText('20');
    // what is ticked is what is compared
    await page.locator('[data-test=draft] li').first().getByRole('checkbox').click();
    await expect(compared.getByText('Nothing else moved.')).toBeVisible();
    await page.locator('[data-test=draft] li').first().getByRole('checkbox').click();
    await page.getByRole('button', { name: 'Propose for review' }).click();
    await expect(page.getByText('Proposal.')).toBeVisible();
    // the proposal says who, what with both values, and what it would do
    await expect(page.locator('.proposal')).toContainText('Second ship by Ilse Marbach');
    const items = page.locator('[data-test=items] li');
    await expect(items.first()).toContainText('duration: 12 d → 20 d');
    await expect(row(page, 'GRID-CA-0050')).toContainText('→ 20 d');
    await expect(items.nth(1)).toContainText('remaining work'); // the intensity stays, so the work follows
    await expect(ripple(page)).toContainText('With 2 items');
    await page.getByRole('button', { name: 'tick none' }).click();
    await expect(ripple(page)).toContainText('Nothing ticked');
    await expect(cell(page, 'GRID-CA-0050', 3)).toHaveText(live!); // beside what is proposed
    await page.getByRole('button', { name: 'tick all' }).click();
    await page.getByRole('button', { name: 'Accept 2 items' }).click();
    await expect(page).toHaveURL(/\/board\?/);
    await expect(ripple(page)).toContainText('Second ship: 2 items applied');
    await expect(cell(page, 'GRID-CA-0050', 2)).toHaveText('20');
    await page.keyboard.press('Control+z');
    await expect(cell(page, 'GRID-CA-0050', 2)).toHaveText(live!);
    // the draft no longer holds what was applied
    await page.getByRole('button', { name: 'drafts' }).click();
    await expect(page.locator('[data-test=drafts] .one').filter({ hasText: 'Second ship' })).toContainText('empty');
    await page.locator('[data-test=drafts]').getByRole('button', { name: 'Wait for the first' }).click();
    await page.getByRole('button', { name: 'Propose for review' }).click();
    await expect(page.getByText('Proposal.')).toBeVisible();
    await page.getByRole('button', { name: 'Discard', exact: true }).click();
    await openBoard(page, 'GRID', 'OSTV');
    await find(page, 'GRID-CA-0050');
    await expect(cell(page, 'GRID-CA-0050', 2)).toHaveText(live!);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'drafts' }).click();
    for (const name of ['Second ship', 'Wait for the first']) {
        await page.locator('.one').filter({ hasText: name }).getByRole('button', { name: 'throw away' }).click();
        await page.locator('.n-popconfirm__action').getByRole('button', { name: 'throw away' }).click();
        await expect(page.locator('.one').filter({ hasText: name })).toHaveCount(0);
    }
});

test('two fingers zoom the axis on a touch screen and drag nothing', async ({ browser }) => {
    const context = await browser.newContext({ hasTouch: true, baseURL: process.env.REIHE_URL, viewport: { width: 1280, height: 800 } });
    const touch = await context.newPage();
    await enter(touch);
    await openBoard(touch, 'GRID');
    const zoom = () => new URL(touch.url()).searchParams.get('zoom');
    const before = zoom();
    const start = await cell(touch, 'GRID-CA-0050', 3).innerText();
    const box = (await touch.locator('.axis canvas').boundingBox())!;
    const on = await onBar(touch, 'GRID-CA-0050', 'grab');
    const devtools = await context.newCDPSession(touch);
    const send = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...xs: number[]) => devtools.send('Input.dispatchTouchEvent',
        { type, touchPoints: xs.map((x, id) => ({ x, y: on.y, id })) });
    await send('touchStart', on.x + 4); // the first finger comes down on a bar
    await send('touchStart', on.x + 4, box.x + box.width - 200);
    for (let step = 1; step <= 6; step++) await send('touchMove', on.x + 4 - step * 12, box.x + box.width - 200 + step * 12);
    await send('touchEnd');
    await expect.poll(zoom).not.toBe(before);
    await expect(cell(touch, 'GRID-CA-0050', 3)).toHaveText(start);
    await context.close();
});

test('a board is printed: every page has heads and legend, and the pages are vectors', async ({ page }) => {
    await enter(page);
    await openBoard(page, 'TERN', 'GRID');
    await more(page, 'print');
    await page.getByLabel('Paper', { exact: true }).click();
    await page.locator('.n-base-select-option').filter({ hasText: 'A4' }).click();
    const sheets = page.locator('.sheet svg');
    await expect(sheets.nth(2)).toBeVisible();
    const pages = Number(/^(\d+) pages/.exec((await page.getByText(/^\d+ pages/).textContent())!)![1]);
    for (const sheet of await sheets.all()) {
        await expect(sheet).toContainText('Code');
        await expect(sheet).toContainText('total float');
        await expect(sheet.locator('image')).toHaveCount(0);
    }
    await page.evaluate(() => { window.print = () => undefined; });
    await page.getByRole('button', { name: 'Print or PDF' }).click();
    const pdf = (await page.pdf({ preferCSSPageSize: true, printBackground: true })).toString('latin1');
    expect(pdf.match(/\/Type\s*\/Page\b/g)).toHaveLength(pages);
    const box = /\/MediaBox\s*\[0 0 ([\d.]+) ([\d.]+)\]/.exec(pdf)!;
    expect(Number(box[1])).toBeCloseTo((297 / 25.4) * 72, -1); // A4 across, in points
    const saved = page.waitForEvent('download');
    await page.getByRole('button', { name: 'SVG' }).click();
    expect((await saved).suggestedFilename()).toMatch(/^TERN GRID .*\.svg$/);
});

test('who is mentioned in a remark is told, and a remark to be done marks its row', async ({ page, browser }) => {
    const other = await (await browser.newContext()).newPage();
    await signIn(other, 'Aino Rautio');
    await enter(page);
    await openBoard(page, 'PLOV');
    const code = (await page.getByRole('gridcell').filter({ hasText: /^PLOV-\w+-\d+$/ }).first().textContent())!;
    await cell(page, code, 1).click();
    await page.keyboard.press('i');
    const remarks = page.locator('[data-test=remarks]');
    await remarks.getByRole('textbox').fill('@Aino Rautio please order the crane');
    await remarks.getByRole('checkbox', { name: 'to be done' }).click();
    await remarks.getByRole('button', { name: 'Add remark' }).click();
    await expect(row(page, code).locator('.sign')).toHaveText('✓1');
    await other.reload();
    await expect(other.getByRole('button', { name: 'Notices, 1 unread' })).toBeVisible();
    await other.getByRole('button', { name: 'Notices, 1 unread' }).click();
    await other.locator('[data-test=notices]').locator('.unread').getByText('please order the crane').click();
    await expect(other).toHaveURL(/board.*PLOV/);
    await expect(other.locator('[data-test=remarks]')).toContainText('please order the crane');
    await expect(other.getByRole('button', { name: 'Notices, none unread' })).toBeVisible();
    await remarks.getByRole('button', { name: 'Delete' }).first().click();
    await expect(row(page, code).locator('.sign')).toHaveCount(0);
    await other.context().close();
});
