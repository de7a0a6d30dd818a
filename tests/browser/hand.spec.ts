import { expect, type Locator, type Page, test } from '@playwright/test';
import { band, cell, find, openBoard, read, ripple, row, sight, signIn, enter, type } from './steps';

/** What a person does with their hands in a day: taking back, leaving, typing on, going from place to place by keyboard. */

test.beforeEach(({ page }) => enter(page));

const bar = (page: Page) => page.locator('footer.bar').last();
const undo = (page: Page) => bar(page).getByRole('button', { name: 'undo', exact: true });

test('what is done outside the board is undone there, by key and after a reload', async ({ page }) => {
    await signIn(page);
    await page.getByRole('button', { name: 'new branch' }).click();
    await page.getByLabel('Name').fill('Passing works');
    await page.getByRole('button', { name: 'Create branch' }).click();
    await expect(bar(page)).toContainText('Passing works');
    await page.reload();
    await sight(page, band(page, 'Passing works'));
    await page.getByRole('treegrid').focus();
    await page.keyboard.press('Control+z');
    await expect(bar(page)).toContainText('Undone: Passing works');
    await expect(page.getByRole('gridcell', { name: /^Passing works/ })).toHaveCount(0);
    await bar(page).getByRole('button', { name: 'redo', exact: true }).click();
    await sight(page, band(page, 'Passing works'));
    await undo(page).click();
    await expect(page.getByRole('gridcell', { name: /^Passing works/ })).toHaveCount(0);
    // the library, and access, of which no change set is kept
    await page.goto('/library?part=codes');
    await page.getByRole('button', { name: 'new code set' }).click();
    await page.getByPlaceholder('Name of the code set').fill('Passing set');
    await page.getByRole('button', { name: 'Create code set' }).click();
    await expect(page.locator('main').getByText('Passing set').first()).toBeVisible();
    await undo(page).click();
    await expect(page.locator('main').getByText('Passing set')).toHaveCount(0);
    await page.getByRole('tab', { name: 'Users and access' }).click();
    await page.getByRole('button', { name: 'Wen Zhao' }).click();
    const panel = page.getByRole('complementary');
    await panel.locator('.role .n-select').first().click();
    await page.locator('.n-base-select-option').filter({ hasText: /^planner$/ }).click();
    await expect(bar(page)).toContainText('Your last change: Wen Zhao: planner');
    await undo(page).click();
    await expect(panel.locator('.role .n-select').first()).toContainText('viewer');
});

test('a deleted project comes back from where it was deleted, and from the list of what was', async ({ page }) => {
    await signIn(page);
    await (await sight(page, row(page, 'CREW'))).getByRole('gridcell').first().click();
    for (const again of [false, true]) {
        const panel = page.getByRole('complementary');
        await panel.getByRole('button', { name: /^delete$/i }).click();
        await page.locator('.n-popconfirm__action button').last().click();
        await expect(row(page, 'CREW')).toHaveCount(0);
        if (!again) await undo(page).click();
        else {
            await bar(page).getByRole('button', { name: 'recently deleted' }).click();
            const list = page.getByRole('complementary', { name: 'Recently deleted' });
            await expect(list.getByRole('listitem').first()).toContainText('CREW');
            await list.getByRole('listitem').first().getByRole('button', { name: 'Bring back' }).click();
            await expect(list.getByText('CREW')).toHaveCount(0);
        }
        await sight(page, row(page, 'CREW'));
        if (!again) await row(page, 'CREW').getByRole('gridcell').first().click();
    }
});

test('projects that differ in a code are mixed, and one entry for all of them ends that', async ({ page }) => {
    await signIn(page);
    await (await sight(page, row(page, 'GRID'))).getByRole('gridcell').first().click();
    await (await sight(page, row(page, 'CREW'))).getByRole('gridcell').first().click({ modifiers: ['Control'] });
    const panel = page.getByRole('complementary');
    await expect(panel.getByText('mixed').first()).toBeVisible();
    const count = await panel.getByText('mixed').count();
    await panel.getByRole('button', { name: 'clear for all of them' }).first().click();
    await expect(panel.getByText('mixed')).toHaveCount(count - 1);
    await undo(page).click();
    await expect(panel.getByText('mixed')).toHaveCount(count);
});

test('Esc closes the innermost thing only, and what is half-typed is there again', async ({ page }) => {
    await signIn(page);
    await page.getByRole('button', { name: 'new project' }).click();
    const panel = page.getByRole('complementary');
    await page.getByLabel('Name').fill('Half a project');
    await panel.getByLabel('Made from').first().click();
    await expect(page.locator('.n-base-select-menu')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.locator('.n-base-select-menu')).toBeHidden();
    await expect(panel).toBeVisible();
    await page.getByLabel('Name').press('Escape'); // the field
    await expect(panel).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(panel).toHaveCount(0);
    await page.reload();
    await page.getByRole('button', { name: 'new project' }).click();
    await expect(page.getByLabel('Name')).toHaveValue('Half a project');
    await page.getByLabel('Name').fill('');

    await openBoard(page, 'CREW');
    await cell(page, 'CREW-RO-0020', 0).click();
    await page.keyboard.press('i');
    await page.getByRole('complementary').locator('[data-test=remarks] textarea').fill('Half a remark');
    await cell(page, 'CREW-RO-0030', 0).click();
    await expect(page.locator('[data-test=remarks] textarea')).toHaveValue('');
    await cell(page, 'CREW-RO-0020', 0).click();
    await expect(page.locator('[data-test=remarks] textarea')).toHaveValue('Half a remark');
    await page.reload();
    await cell(page, 'CREW-RO-0020', 0).click();
    await page.keyboard.press('i');
    await expect(page.locator('[data-test=remarks] textarea')).toHaveValue('Half a remark');
    await page.locator('[data-test=remarks] textarea').fill('');
    // a cell
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    await cell(page, 'CREW-RO-0020', 1).dblclick();
    await page.locator('input.editor').fill('Half a na');
    await page.reload();
    await expect(page.locator('input.editor')).toHaveValue('Half a na');
    await page.locator('input.editor').press('Escape');
    // pasted rows
    await page.getByRole('button', { name: 'paste', exact: true }).click();
    const face = page.getByRole('region', { name: 'Paste rows' });
    await face.getByRole('textbox').first().fill('Half a table');
    await page.keyboard.press('Escape');
    await expect(face).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(face).toHaveCount(0);
    await page.getByRole('button', { name: 'paste', exact: true }).click();
    await expect(face.getByRole('textbox').first()).toHaveValue('Half a table');
    await face.getByRole('button', { name: 'Cancel' }).click();
});

test('while the server is away what was typed is shown and sent until it answers, also by the page after a reload', async ({ page }) => {
    await openBoard(page, 'CREW');
    const was = await cell(page, 'CREW-RO-0020', 2).innerText();
    let away = true;
    await page.route('**/api/v1/changes?*', (route) => (away ? route.abort('connectionreset') : route.continue()));
    await type(page, 'CREW-RO-0020', 2, '17d');
    await expect(cell(page, 'CREW-RO-0020', 2)).toHaveText('17d');
    await expect(page.getByRole('alert')).toContainText('kept and sent again');
    await page.waitForTimeout(2000); // once more
    await expect(cell(page, 'CREW-RO-0020', 2)).toHaveText('17d');
    away = false;
    await expect(cell(page, 'CREW-RO-0020', 2)).toHaveText('17', { timeout: 30_000 });
    away = true;
    await type(page, 'CREW-RO-0020', 2, '19d');
    await expect(page.getByRole('alert')).toContainText('kept and sent again');
    const other = await cell(page, 'CREW-RO-0010', 2).innerText();
    await type(page, 'CREW-RO-0010', 2, '21d'); // waits for the one before it
    await page.reload();
    await expect(page.getByRole('alert')).toContainText('kept and sent again');
    away = false;
    await expect(cell(page, 'CREW-RO-0020', 2)).toHaveText('19', { timeout: 30_000 });
    await expect(cell(page, 'CREW-RO-0010', 2)).toHaveText('21', { timeout: 30_000 });
    await row(page, 'CREW').getByRole('gridcell').first().click();
    await page.keyboard.press('Control+z');
    await expect(cell(page, 'CREW-RO-0010', 2)).toHaveText(other);
    for (const text of ['17', was]) {
        await page.keyboard.press('Control+z');
        await expect(cell(page, 'CREW-RO-0020', 2)).toHaveText(text);
    }
});

test('what is typed after a new row is its name from the first letter on', async ({ page }) => {
    await openBoard(page, 'CREW');
    await cell(page, 'CREW-RO-0020', 1).click();
    await page.route('**/api/v1/changes?*', async (route) => {
        await new Promise((done) => setTimeout(done, 600));
        await route.continue();
    });
    await page.keyboard.press('n');
    await page.keyboard.type('until done', { delay: 20 }); // u, n, t, i, l, d are commands
    await page.keyboard.press('Enter');
    await expect(page.getByRole('gridcell', { name: 'until done', exact: true })).toBeVisible();
    await expect(ripple(page)).not.toContainText('Saving');
    await page.keyboard.press('Control+z'); // the name and the row, which are one step
    await expect(page.getByRole('gridcell', { name: 'until done', exact: true })).toHaveCount(0);
    await expect(page.getByRole('gridcell', { name: 'New activity', exact: true })).toHaveCount(0);
    await expect(ripple(page)).not.toContainText('Saving');
});

/** Something that tells focused things apart. */
const focused = (page: Page) => page.evaluate(() => {
    const e = document.activeElement as HTMLElement | null;
    if (!e || e === document.body) return null;
    const path: string[] = [];
    for (let at: Element | null = e; at && at !== document.body; at = at.parentElement) {
        path.unshift(`${at.tagName}:${[...at.parentElement!.children].indexOf(at)}`);
    }
    return { path: path.join('/'), role: e.getAttribute('role') ?? e.tagName, text: (e.getAttribute('aria-label') ?? e.textContent
        ?? '').trim().slice(0, 40),
        panel: e.closest('aside.panel') !== null, bar: e.closest('footer') !== null, top: e.closest('header') !== null };
});

const name = (at: Awaited<ReturnType<typeof focused>>) => `${at?.role}: ${at?.text}`;

test('every place can be walked through forwards and back', async ({ page }) => {
    test.setTimeout(240_000);
    const places = ['/portfolio', '/portfolio?face=tree', '/portfolio?face=ranking', '/board?projects=CREW', '/exchange',
        '/exchange?part=feeds',
        ...['calendars', 'codes', 'levels', 'sources', 'fields', 'users'].map((part) => `/library?part=${part}`)];
    for (const place of places) {
        await page.goto(place);
        await page.waitForLoadState('networkidle');
        if (place.startsWith('/board')) {
            await cell(page, 'CREW-RO-0020', 1).click();
            await page.keyboard.press('i');
            expect((await focused(page))?.panel, 'i goes into the inspector').toBe(true);
        }
        await page.evaluate(() => document.querySelector<HTMLElement>('.skip')!.focus());
        const forwards: NonNullable<Awaited<ReturnType<typeof focused>>>[] = [];
        for (let i = 0; i < 250; i++, await page.keyboard.press('Tab')) {
            const at = await focused(page);
            if (at === null || at.path === forwards[0]?.path) break;
            expect(at.path, `${place}: Tab stays on ${at.text}`).not.toBe(forwards.at(-1)?.path);
            forwards.push(at);
        }
        expect(forwards[0]?.text, place).toBe('To the rows');
        expect(forwards.some((f) => f.top), `${place}: the top bar`).toBe(true);
        if (!place.startsWith('/board')) expect(forwards.some((f) => f.bar), `${place}: the bar below`).toBe(true);
        else {
            const grid = forwards.findIndex((f) => f.role === 'treegrid');
            expect(grid).toBeGreaterThan(0);
            expect(forwards.findIndex((f) => f.panel), 'the inspector comes after the table').toBeGreaterThan(grid);
        }
        // and back from the last of them
        await page.keyboard.press('Shift+Tab');
        const back: string[] = [];
        for (let i = 0; i < forwards.length; i++, await page.keyboard.press('Shift+Tab')) back.push(name(await focused(page)));
        expect(back.reverse(), `${place}: back`).toEqual(forwards.map(name));
    }
});

test('the focus stays where one works after find, paste, delete and the command field', async ({ page }) => {
    await openBoard(page, 'CREW');
    const inGrid = () => expect.poll(() => page.evaluate(() => document.activeElement?.closest('[role=treegrid]') !== null)).toBe(true);
    await cell(page, 'CREW-RO-0020', 1).click();
    await page.keyboard.press('f');
    await page.keyboard.type('CREW-RO-0030');
    await expect(page.locator('.n-base-select-option').first()).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(row(page, 'CREW-RO-0030')).toHaveAttribute('aria-selected', 'true');
    await inGrid();
    await page.keyboard.press('Control+k');
    await expect(page.getByRole('listbox')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('listbox')).toBeHidden();
    await inGrid();
    await page.keyboard.press('Control+k');
    await page.keyboard.press('Shift+Tab');
    await expect(page.getByRole('listbox')).toBeHidden();
    await cell(page, 'CREW-RO-0030', 1).click();
    await page.getByRole('button', { name: 'paste', exact: true }).click();
    await page.getByRole('region', { name: 'Paste rows' }).getByRole('textbox').first()
        .fill('Name\tDuration\nPassing row\t2d\nSecond row\t3d');
    await page.getByRole('button', { name: /^Make \d+ rows?$/ }).click();
    await expect(page.getByRole('gridcell', { name: 'Second row', exact: true })).toBeVisible();
    await inGrid();
    await page.keyboard.press('Control+z');
    await expect(page.getByRole('gridcell', { name: 'Second row', exact: true })).toHaveCount(0);
    await expect(ripple(page)).not.toContainText('Saving');
    await (await sight(page, row(page, 'CREW-RO-0030'))).getByRole('gridcell').nth(1).click();
    await page.keyboard.press('Delete');
    await expect(row(page, 'CREW-RO-0030')).toHaveCount(0);
    await inGrid();
    await page.keyboard.press('Control+z');
    await expect(row(page, 'CREW-RO-0030')).toBeVisible();
});

/** Names on the page that are shorter than forty characters and cut all the same. */
const cut = (page: Page) => page.evaluate(() => [...document.querySelectorAll<HTMLElement>('body *')].filter((e) => {
    const text = (e.textContent ?? '').trim();
    const style = getComputedStyle(e);
    return e.children.length === 0 && text !== '' && text.length < 40 && style.textOverflow === 'ellipsis' && style.overflow !== 'visible'
        && e.scrollWidth > e.clientWidth + 1 && e.getClientRects().length > 0 && !e.closest('.n-base-selection, .n-input, aside h2');
}).map((e) => `${e.className}: ${(e.textContent ?? '').trim()}`));

test('no name shorter than forty letters is cut at 1280', async ({ page }) => {
    test.setTimeout(240_000);
    await signIn(page);
    const keys = (await read<{ projects: { key: string }[] }>(page, '/api/v1/portfolio')).projects.map((p) => p.key).sort();
    const found = new Set<string>();
    for (const place of ['/portfolio', '/portfolio?face=tree', '/portfolio?face=ranking', '/exchange', '/exchange?part=feeds',
        ...['calendars', 'codes', 'levels', 'sources', 'fields', 'users'].map((part) => `/library?part=${part}`),
        `/board?projects=${keys.join(',')}`]) {
        await page.goto(place);
        await page.waitForLoadState('networkidle');
        const scroller = page.locator('[role=treegrid] .scroller');
        for (let top = 0, end = false; !end; top += 500) {
            for (const text of await cut(page)) found.add(`${place} ${text}`);
            end = (await scroller.count()) === 0 || await scroller.evaluate(async (box, to) => {
                box.scrollTop = to;
                await new Promise((done) => requestAnimationFrame(() => setTimeout(done)));
                return box.scrollTop + box.clientHeight >= box.scrollHeight - 1 && to >= box.scrollTop;
            }, top);
        }
    }
    expect([...found]).toEqual([]);
});

test('at 700 pixels and at 200 % the axis keeps its room and commands stand in one menu', async ({ page }) => {
    for (const [width, height] of [[700, 800], [640, 400]] as const) {
        await page.setViewportSize({ width, height });
        await openBoard(page, 'GRID');
        expect((await page.locator('.axis canvas').boundingBox())!.width).toBeGreaterThan(width * 0.33);
        await page.getByRole('button', { name: /^more/ }).click();
        for (const what of ['+ activity', 'drafts', 'paste', 'WBS chart', 'print']) {
            await expect(page.locator('.n-dropdown-option').getByText(what, { exact: true })).toBeVisible();
        }
        await page.keyboard.press('Escape');
        for (const place of ['/portfolio', '/board?projects=GRID', '/exchange', '/library?part=calendars']) {
            await page.goto(place);
            await page.waitForLoadState('networkidle');
            expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth), place).toBe(true);
            expect(await page.evaluate(() => document.querySelector('header.bar')!.scrollWidth <= window.innerWidth), place).toBe(true);
        }
    }
});

test('text with a sign changes what is there: in one cell, in the inspector of many rows, and back', async ({ page }) => {
    await openBoard(page, 'CREW');
    const was = await Promise.all(['CREW-RO-0010', 'CREW-RO-0020'].map((key) => cell(page, key, 2).innerText()));
    await cell(page, 'CREW-RO-0010', 2).dblclick();
    await page.locator('input.editor').fill('+25%');
    await expect(page.locator('.cell .hint')).toContainText(String(Number(was[0]) * 1.25));
    await page.keyboard.press('Enter');
    await expect(cell(page, 'CREW-RO-0010', 2)).toHaveText(String(Number(was[0]) * 1.25));
    await cell(page, 'CREW-RO-0010', 0).click();
    await cell(page, 'CREW-RO-0020', 0).click({ modifiers: ['Control'] });
    await page.keyboard.press('i');
    const days = page.locator('[data-test=several]').getByLabel('Days', { exact: true });
    await days.fill('-2d');
    await expect(page.locator('[data-test=several]')).toContainText(`→ ${Number(was[0]) * 1.25 - 2} d, ${Number(was[1]) - 2} d`);
    await days.press('Enter');
    await expect(cell(page, 'CREW-RO-0010', 2)).toHaveText(String(Number(was[0]) * 1.25 - 2));
    await expect(cell(page, 'CREW-RO-0020', 2)).toHaveText(String(Number(was[1]) - 2));
    await page.getByRole('treegrid').focus();
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await expect(cell(page, 'CREW-RO-0010', 2)).toHaveText(was[0]!);
    await expect(cell(page, 'CREW-RO-0020', 2)).toHaveText(was[1]!);
});

test('projects, elements and handovers take remarks with answers; what is to be done stands in one list and is found', async ({ page }) => {
    await enter(page);
    await openBoard(page, 'GRID', 'LYNG');
    const remarks = page.locator('[data-test=remarks]').last();
    const say = async (on: Locator, text: string) => {
        await on.getByLabel('Remark', { exact: true }).fill(text);
        await on.getByRole('button', { name: 'Add remark' }).click();
        await expect(on.locator('.remark').first()).toContainText(text);
    };
    await row(page, 'GRID').getByRole('gridcell').first().click();
    await page.keyboard.press('i');
    await say(remarks, 'Who orders the cranes?');
    await remarks.getByRole('button', { name: 'Answer', exact: true }).click();
    await remarks.getByLabel('Answer', { exact: true }).fill('The quay does');
    await remarks.getByRole('button', { name: 'Add answer' }).click();
    await expect(remarks.locator('.remark.answer')).toContainText('The quay does');
    await row(page, 'CA').getByRole('gridcell').first().click();
    await remarks.getByRole('checkbox', { name: 'to be done' }).last().click();
    await say(remarks, 'Ask for a second drum of cable');
    await expect(row(page, 'CA')).toContainText('✓1'); // its row carries a mark
    // a handover, from the taker's side
    await (await find(page, 'Grid energised')).getByRole('gridcell').first().click();
    const handover = page.locator('.link').filter({ hasText: 'LYNG' }).locator('details.handover').first();
    await handover.locator('summary').click();
    await say(handover.locator('[data-test=remarks]'), 'Handed over with the papers');
    // one list of what is to be done, and search
    await page.getByRole('button', { name: /^Notices/ }).click();
    const todo = page.locator('[data-test=notices] .one').filter({ hasText: 'Ask for a second drum' });
    await expect(todo).toContainText('your own');
    await todo.click();
    await expect(row(page, 'CA')).toHaveAttribute('aria-selected', 'true');
    await page.keyboard.press('Control+k');
    await page.keyboard.type('second drum');
    await expect(page.getByText('Ask for a second drum').first()).toBeVisible();
    await page.keyboard.press('Escape');
    await page.goto('/portfolio'); // as it was found
    for (let n = 0; n < 4; n++) {
        await page.getByRole('button', { name: 'undo', exact: true }).click();
        await expect(page.getByText(/^Undone/)).toBeVisible();
        await expect(page.getByRole('button', { name: 'redo', exact: true })).toBeEnabled();
        await page.waitForTimeout(400);
    }
    expect((await read<{ todos: unknown[] }>(page, '/api/v1/todos')).todos).toEqual([]);
});

test('parts of the inspector fold, are put in order and show the fields one chose, for each person', async ({ page }) => {
    await enter(page);
    await page.goto('/board?projects=GRID&row=act-grid-st-0020');
    const panel = page.getByRole('complementary');
    const parts = () => panel.locator('.fold:visible').evaluateAll((all) => all.map((e) => (e as HTMLElement).dataset.section));
    await expect(panel.locator('[data-section=why]')).toBeVisible();
    expect((await parts()).slice(0, 3)).toEqual(['why', 'dates', 'fields']);
    await panel.getByRole('button', { name: 'Fold or open Links' }).click();
    await expect(panel.locator('[data-section=links] .link:visible')).toHaveCount(0);
    await panel.getByRole('button', { name: 'arrange' }).click();
    const choice = page.locator('[data-test=sections]');
    await choice.getByRole('button', { name: 'Move Fields up' }).press('Enter');
    await choice.getByRole('button', { name: 'Move Fields up' }).press('Enter');
    await expect(choice.getByRole('button', { name: 'Move Fields up' })).toBeDisabled();
    await choice.getByText('interfering float').click();
    await choice.getByRole('button', { name: 'done' }).click();
    await page.reload(); // and at every other activity
    await page.goto('/board?projects=GRID&row=act-grid-st-0030');
    await expect(panel.locator('[data-section=why]')).toBeVisible();
    expect((await parts()).slice(0, 3)).toEqual(['fields', 'why', 'dates']);
    await expect(panel.locator('[data-section=dates]')).not.toContainText('Interfering');
    await expect(panel.locator('[data-section=links] h3:visible')).toHaveText('Links');
    // somebody else has it as it was at first
    await page.context().clearCookies();
    await enter(page, 'Chidi Okafor');
    await page.goto('/board?projects=GRID&row=act-grid-st-0030');
    await expect(panel.locator('[data-section=why]')).toBeVisible();
    expect((await parts()).slice(0, 3)).toEqual(['why', 'dates', 'fields']);
});

test('names of 250 unbroken letters, and such that run from right to left, push nothing off the screen', async ({ page }) => {
    test.setTimeout(240_000);
    await enter(page);
    const csrf = async () => decodeURIComponent((await page.context().cookies()).find((c) => c.name === 'XSRF-TOKEN')!.value);
    const long = 'W'.repeat(250);
    const turned = 'שלום \u202Ealso \u2067';
    const made = (kind: string, uid: string, after: object) => ({ verb: 'create', kind, uid, after });
    const answer = await page.request.post('/api/v1/changes', { headers: { referer: process.env.REIHE_URL!, 'x-xsrf-token': await csrf() },
        data: { reason: long, operations: [
            made('branch', 'w-branch', { parent: 'branch-varnsund', name: long.slice(0, 120) }),
            made('calendar', 'w-cal', { key: 'W'.repeat(40), name: long, week: { 1: '08:00-16:00' } }),
            made('codeSet', 'w-set', { scope: 'project', key: 'W'.repeat(20), name: long.slice(0, 80) }),
            made('entry', 'w-entry', { codeSet: 'w-set', key: 'WIDE', name: long.slice(0, 120) }),
            made('ownField', 'w-own', { scope: 'project', name: long.slice(0, 80) }),
            made('project', 'w-project', { key: 'WIDE', name: long, branch: 'w-branch', calendar: 'w-cal', start: '2026-12-01T08:00', lead:
                long.slice(0, 120) }),
            made('wbs', 'w-wbs', { project: 'w-project', name: long }),
            made('activity', 'w-a', { project: 'w-project', wbs: 'w-wbs', name: long, duration: 480 }),
            made('activity', 'w-b', { project: 'w-project', wbs: 'w-wbs', name: turned, duration: 480 }),
            made('link', 'w-link', { from: 'w-a', to: 'w-b' }),
            made('coding', 'w-coding', { project: 'w-project', entry: 'w-entry' }),
            made('remark', 'w-remark', { project: 'w-project', activity: 'w-b', text: long, todo: true }),
        ] } });
    expect(answer.ok(), await answer.text()).toBeTruthy();
    const { changeSet } = await answer.json() as { changeSet: string };
    const wide = async (where: string) => {
        await page.waitForTimeout(900);
        const found = await page.evaluate(() => {
            const beyond = [...document.querySelectorAll<HTMLElement>('main *, header *, footer *')].filter((e) => {
                const b = e.getBoundingClientRect();
                if (b.width === 0 || b.right <= innerWidth + 1
                    || e.closest('.scroller, table, svg, .n-base-select-menu, pre')) return false;
                for (let up = e.parentElement; up; up = up.parentElement) {
                    if (getComputedStyle(up).overflowX !== 'visible' && up.getBoundingClientRect().right <= innerWidth + 1) {
                        return false; // cut or scrolled where it stands
                    }
                }
                return true;
            });
            const scrolls = [...document.querySelectorAll<HTMLElement>('aside .content, .side, .page section')]
                .filter((e) => e.scrollWidth > e.clientWidth + 1 && e.clientWidth > 0);
            return [...beyond, ...scrolls].slice(0, 5).map((e) => `${e.tagName}.${e.className} ${e.textContent?.slice(0, 30)}`);
        });
        expect(found, where).toEqual([]);
        expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth), where).toBe(true);
    };
    try {
        await page.goto('/portfolio');
        await (await sight(page, row(page, 'WIDE'))).getByRole('gridcell').first().click();
        await expect(page.getByRole('complementary')).toContainText('WWW');
        await wide('portfolio, a project');
        for (const face of ['Tree', 'Ranking']) {
            await page.getByRole('tab', { name: face }).click();
            await wide(face);
        }
        await page.goto('/board?projects=WIDE&row=w-b');
        await expect(page.locator('[data-test=remarks]')).toContainText('WWW');
        await wide('board, an activity');
        await page.goto('/board?projects=WIDE&row=w-project');
        await expect(page.locator('[data-test=settings]')).toBeVisible();
        await wide('board, a project');
        await page.getByRole('button', { name: /^Notices/ }).click();
        await expect(page.locator('[data-test=notices]')).toContainText('WWW');
        await wide('notices');
        for (const part of ['calendars&calendar=w-cal', 'codes', 'fields', 'levels', 'sources', 'users']) {
            await page.goto(`/library?part=${part}`);
            await wide(part);
        }
        await page.goto('/exchange');
        await wide('exchange');
        // a mark that turns what follows it turns only the name that it stands in
        await page.goto('/board?projects=WIDE&row=w-b');
        const days = await row(page, 'W'.repeat(250)).last().getByRole('gridcell').nth(2).textContent();
        expect(days?.trim()).toBe('1');
    } finally {
        await page.request.post(`/api/v1/changes/${changeSet}/undo`, { headers: { referer: process.env.REIHE_URL!,
            'x-xsrf-token': await csrf() } });
    }
});
