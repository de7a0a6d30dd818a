import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { writeFile } from 'node:fs/promises';
import ICAL from 'ical.js';
import { bringIn, fileInto, band, enter, more, openBoard, row, sight, signIn } from './steps';

test('a wrong password is refused in words', async ({ page }) => {
    await page.goto('/');
    await page.getByLabel('E-mail').fill('ilse@varnsund.example');
    await page.getByLabel('Password').fill('wrong');
    await page.getByRole('button', { name: 'Sign in' }).click();
    await expect(page.getByRole('alert')).toContainText('no user with this e-mail and password');
    await expect(page.getByLabel('E-mail')).toHaveValue('ilse@varnsund.example');
    await page.getByLabel('Password').fill('varnsund');
    await page.getByRole('button', { name: 'Sign in' }).click();
    await page.waitForURL('**/portfolio');
    await expect(page.getByRole('treegrid')).toBeVisible();
    await page.getByRole('button', { name: 'User' }).click();
    await page.getByText('Sign out').click();
    await page.getByRole('button', { name: 'Wen Zhao' }).click();
    await page.waitForURL('**/portfolio');
});

test('a branch and a project are made, coded, grouped, filtered and opened together with another', async ({ page }) => {
    await signIn(page);
    await page.getByRole('button', { name: 'new branch' }).click();
    await page.getByLabel('Name').fill('Winter works');
    await page.getByRole('button', { name: 'Create branch' }).click();
    await expect(band(page, 'Winter works', 0)).toBeVisible();
    await expect(page.getByRole('complementary').getByRole('heading', { name: 'Winter works' })).toBeVisible();

    await page.getByRole('button', { name: 'new project' }).click();
    await page.getByLabel('Name').fill('Ice guards for Tern');
    await expect(page.getByLabel('Key', { exact: true })).toHaveValue('TERN2');
    await page.getByLabel('Key', { exact: true }).fill('TERN');
    await expect(page.getByText('This key is taken.')).toBeVisible();
    await page.getByLabel('Key', { exact: true }).fill('ICE');
    await page.getByRole('button', { name: 'Create project' }).click();
    await expect(row(page, 'Ice guards for Tern')).toBeVisible();

    // an entry that does not exist yet is made in the moment of assigning it
    const panel = page.getByRole('complementary');
    await panel.getByRole('button', { name: 'new entry' }).first().click();
    await panel.getByPlaceholder('New entry in District').fill('Skerries');
    await panel.getByRole('button', { name: 'Create and assign' }).click();
    await expect(panel.getByText('Skerries')).toBeVisible();
    await page.goto(`/portfolio?view=${encodeURIComponent('{"group":["code:codeset-district"]}')}`);
    await sight(page, band(page, 'Skerries', 1));
    const building = { filter: { field: 'code:codeset-stage', is: 'is', value: ['entry-stage-build'] } };
    await page.goto(`/portfolio?view=${encodeURIComponent(JSON.stringify(building))}`);
    await expect(row(page, 'Shore power Ostvik')).toBeVisible();
    await expect(row(page, 'Conversion of Gannet')).toHaveCount(0);

    await page.goto('/portfolio');
    await (await sight(page, row(page, 'Ice guards for Tern'))).getByRole('gridcell').first().click();
    await (await sight(page, row(page, 'Conversion of Tern'))).getByRole('gridcell').first().click({ modifiers: ['Control'] });
    await page.getByRole('button', { name: 'open 2 on the board' }).click();
    await expect(page).toHaveURL(/projects=(ICE,TERN|TERN,ICE)/);
    await expect(row(page, 'Ice guards for Tern')).toBeVisible();
});

test('files go out and come in again through a preview', async ({ page }, info) => {
    await enter(page);
    await openBoard(page, 'GRID', 'OSTV');
    await page.getByRole('link', { name: 'Exchange' }).click();
    for (const format of ['plan-xml', 'icalendar', 'xcal']) {
        const answer = await page.request.get(`/api/v1/exchange/export?projects=GRID,OSTV&format=${format}`,
            { headers: { referer: page.url() } });
        expect(answer.ok()).toBeTruthy();
        const path = info.outputPath(`two.${format === 'icalendar' ? 'ics' : 'xml'}`);
        await writeFile(path, await answer.body());
        if (format === 'icalendar') {
            // a reader of its own (ical.js) finds every activity, its parent and its RFC 9253 relations
            const todos = new ICAL.Component(ICAL.parse(await answer.text()) as never).getAllSubcomponents('vtodo');
            const cable = todos.find((c) => c.getFirstPropertyValue('summary') === 'Cable laid and jointed')!;
            const relations = cable.getAllProperties('related-to').map((p) => [p.getFirstParameter('reltype'), p.getFirstValue()]);
            expect(relations).toContainEqual(['FINISHTOSTART', 'act-grid-st-0040']);
            expect(relations).toContainEqual(['PARENT', 'wbs-grid-ca']);
        }
        await bringIn(page, path);
        await expect(page.getByText(/: whole projects, \d+ kB/)).toBeVisible();
        if (format === 'plan-xml') {
            await page.getByText('Update projects that came from there').click(); // as copies
            await fileInto(page, 'Archive');
        }
        await page.getByRole('button', { name: 'Preview' }).click();
        const preview = page.locator('[data-test=preview]');
        await expect(preview).toContainText('2 projects');
        await expect(preview).toContainText('Project key GRID is taken');
        await preview.getByRole('button', { name: format === 'xcal' ? 'Discard' : 'Apply' }).click();
        await expect(page.getByText(format === 'xcal' ? 'nothing was changed' : '2 projects were imported')).toBeVisible();
    }
    const portfolio = (await (await page.request.get('/api/v1/portfolio', { headers: { referer: page.url() } }))
        .json()) as { projects: { key: string; start: number; finish: number; totalFloat: number }[] };
    const of = (key: string) => portfolio.projects.find((p) => p.key === key)!;
    for (const [copy, original] of [['GRID2', 'GRID'], ['OSTV2', 'OSTV'], ['GRID3', 'GRID']] as const) {
        expect([of(copy).start, of(copy).finish]).toEqual([of(original).start, of(original).finish]);
    }
});

test('what goes out is kept as a recipe, also what is left out of it', async ({ page }) => {
    await enter(page);
    await openBoard(page, 'GRID', 'OSTV');
    await page.getByRole('link', { name: 'Exchange' }).click();
    await page.getByLabel('Leave out').first().click();
    await page.getByText('names of people', { exact: true }).click();
    await page.keyboard.press('Escape');
    const name = `For the yard ${Date.now()}`;
    await page.getByRole('button', { name: 'recipes', exact: true }).click();
    await page.getByLabel('Name of a new recipe').fill(name);
    await page.getByRole('button', { name: 'Keep', exact: true }).click();
    await expect(page.getByRole('button', { name })).toBeVisible();

    await page.evaluate(() => localStorage.clear());
    await page.goto('/exchange');
    await expect(page.getByRole('link', { name: 'Download' })).not.toHaveAttribute('href', /without/);
    await page.getByRole('button', { name: 'recipes', exact: true }).click();
    await page.getByRole('button', { name }).click();
    const address = '/api/v1/exchange/export?projects=GRID%2COSTV&format=plan-xml&without=people';
    await expect(page.getByRole('link', { name: 'Download' })).toHaveAttribute('href', address);
    const file = await (await page.request.get(address, { headers: { referer: page.url() } })).text();
    expect(file).toContain('<project ');
    expect(file).not.toMatch(/ lead="/);
});

test('a user is added, given a role, signs in with the first password and chooses another', async ({ page, browser }) => {
    await signIn(page);
    await page.getByRole('link', { name: 'Library' }).click();
    await page.getByRole('tab', { name: 'Users and access' }).click();
    await page.getByRole('button', { name: 'add user' }).click();
    await page.getByLabel('Name', { exact: true }).fill('Ida Moen');
    await page.getByLabel('E-mail').fill('ida@varnsund.example');
    await page.getByRole('button', { name: 'Add user', exact: true }).click();
    const panel = page.getByRole('complementary');
    const first = (await panel.locator('code').textContent())!;
    await panel.locator('.n-base-selection').filter({ hasText: 'Branch' }).click();
    await page.locator('.n-tree-node-content').getByText('Harbours', { exact: true }).click();
    await panel.locator('.n-base-selection').filter({ hasText: 'Role' }).click();
    await page.locator('.n-select-menu:visible').getByText('contributor', { exact: true }).click();
    await expect(page.getByRole('row').filter({ hasText: 'Ida Moen' })).toContainText('contributor, Harbours');

    const hers = await (await browser.newContext()).newPage();
    const enter = async (password: string) => {
        await hers.goto('/sign-in');
        await hers.getByLabel('E-mail').fill('ida@varnsund.example');
        await hers.getByLabel('Password').fill(password);
        await hers.getByRole('button', { name: 'Sign in' }).click();
    };
    await enter(first);
    await expect(hers.getByRole('heading', { name: 'Choose a password of your own' })).toBeVisible();
    await hers.goto('/board'); // nothing else is open before
    await hers.getByLabel('Present password').fill(first);
    await hers.getByLabel('New password').fill('harbour lights');
    await hers.getByRole('button', { name: 'Change password' }).click();
    await hers.getByRole('link', { name: 'Portfolio' }).click();
    await expect(hers.getByRole('treegrid')).toContainText('Harbours');
    await hers.getByRole('button', { name: 'User' }).click();
    await hers.getByText('Change password', { exact: true }).click();
    await hers.getByLabel('Present password').fill('harbour lights');
    await hers.getByLabel('New password').fill('harbour lights at dusk');
    await hers.getByRole('button', { name: 'Change password' }).click();
    await expect(hers.getByText('The password is changed.')).toBeVisible();
    await hers.goto('/nowhere/at/all');
    await expect(hers.getByRole('heading')).toContainText('nothing at this address');

    await page.getByRole('button', { name: 'Deactivate' }).click();
    await expect(page.getByRole('row').filter({ hasText: 'Ida Moen' })).toContainText('deactivated');
    await enter('harbour lights at dusk');
    await expect(hers.getByRole('alert')).toContainText('no user with this e-mail and password');
    await hers.context().close();
});

test('a viewer sees but cannot plan', async ({ page }) => {
    await signIn(page, 'Wen Zhao');
    await expect(page.getByRole('button', { name: 'new project' })).toHaveCount(0);
    await openBoard(page, 'GRID');
    await expect(page.getByRole('button', { name: '+ activity' })).toBeDisabled();
    await row(page, 'GRID-PE-0010').getByRole('gridcell').nth(2).dblclick();
    await expect(page.locator('input.editor')).toHaveCount(0);
});

test('axe finds no serious fault, light or dark', async ({ page }) => {
    test.setTimeout(300_000);
    await page.goto('/');
    const check = async (known = '') => { // where something opens beside a table that was checked already, the table is left out
        for (const look of ['light', 'dark'] as const) {
            await page.emulateMedia({ colorScheme: look });
            await page.waitForTimeout(400);
            const builder = new AxeBuilder({ page }).options({ resultTypes: ['violations'] }).setLegacyMode(); // no frames: no second page
            if (look === 'dark') builder.withRules(['color-contrast', 'link-in-text-block']); // all that the look changes
            if (known) builder.exclude(known);
            const found = await builder.analyze();
            expect(found.violations.filter((v) => v.impact === 'serious' || v.impact === 'critical')
                .map((v) => `${look}, ${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`)).toEqual([]);
        }
    };
    await expect(page.getByLabel('E-mail')).toBeVisible();
    await check();
    await signIn(page);
    await check();
    await row(page, 'GANN').getByRole('gridcell').first().click();
    await expect(page.getByRole('complementary').getByLabel('District')).toBeVisible();
    await check('[role=treegrid]');
    for (const button of ['new project', 'codes from a table']) {
        await page.getByRole('button', { name: button }).click();
        await check('[role=treegrid]');
    }
    for (const face of ['Tree', 'Ranking']) {
        await page.getByRole('tab', { name: face }).click();
        await check();
    }
    await page.getByRole('link', { name: 'Library' }).click();
    for (const part of ['Calendars', 'Code sets', 'Level codes', 'Templates and fragments', 'Own fields', 'Users and access']) {
        await page.getByRole('tab', { name: part }).click();
        await check();
    }
    await openBoard(page, 'GRID', 'OSTV');
    await more(page, 'WBS chart');
    await expect(page.getByRole('tree')).toBeVisible();
    await check();
    await openBoard(page, 'GRID', 'OSTV');
    await row(page, 'GRID-ST-0020').getByRole('gridcell').first().click();
    await page.keyboard.press('i');
    await expect(page.locator('[data-test=why]')).toBeVisible();
    await check();
    await row(page, 'GRID').getByRole('gridcell').first().click();
    await page.getByRole('button', { name: 'compare' }).first().click();
    await expect(page.locator('[data-test=baselines] caption')).toBeVisible();
    await check('[role=treegrid]');
    await page.getByRole('button', { name: 'health', exact: true }).click();
    await page.getByRole('button', { name: 'show 1 activity' }).first().click();
    await check('[role=treegrid]');
    await page.getByRole('button', { name: 'adjust the limits' }).click();
    await expect(page.getByLabel('Limit of Leads')).toBeVisible();
    await check('[role=treegrid]');
    await openBoard(page, 'GRID', 'OSTV');
    await page.getByRole('button', { name: 'drafts' }).click();
    await expect(page.getByLabel('Name of a new draft')).toBeVisible();
    await check('[role=treegrid]');
    await page.getByRole('button', { name: 'view', exact: true }).click();
    await expect(page.getByRole('button', { name: 'labels' })).toBeVisible();
    await check('[role=treegrid]');
    await page.getByRole('button', { name: /^columns: / }).click();
    await expect(page.getByLabel('More columns')).toBeVisible();
    await check('[role=treegrid]');
    await page.keyboard.press('Escape');
    await row(page, 'GRID-ST-0020').getByRole('gridcell').first().click();
    await row(page, 'GRID-ST-0030').getByRole('gridcell').first().click({ modifiers: ['Shift'] });
    await page.keyboard.press('i');
    await expect(page.locator('[data-test=several]')).toBeVisible();
    await check('[role=treegrid]');
    await more(page, 'print');
    await expect(page.locator('.sheet').first()).toBeVisible();
    await check();
    await page.goto('/exchange');
    await expect(page.locator('[data-test=door]')).toBeVisible();
    await check();
    await page.goto('/exchange?part=feeds');
    await expect(page.getByLabel('Token name')).toBeVisible();
    await expect(page.locator('[data-test=sample] tbody tr').first()).toBeVisible();
    await check();
});

test('a large file is read in the background, also when the page is left, and its preview waits', async ({ page }) => {
    await enter(page);
    await page.goto('/exchange');
    const rows = Array.from({ length: 16_000 },
        (_, i) => `<activity code="LARGE-${i}" name="Work number ${i} of a large file" duration="480"/>`).join('');
    const file = `<plan xmlns="urn:reihe:plan:1"><calendar key="LARGE"><day weekday="1" hours="08:00-16:00"/></calendar>
        <project key="LARGE" name="Large" calendar="LARGE" start="2026-12-01">${rows}</project></plan>`;
    await bringIn(page, { name: 'large.xml', mimeType: 'application/xml', buffer: Buffer.from(file) });
    await fileInto(page, 'Archive');
    await page.getByRole('button', { name: 'Preview' }).click();
    await expect(page.locator('[data-test=jobs]')).toBeVisible();
    await page.goto('/portfolio');
    await page.locator('[data-test=jobs]').click();
    await expect(page.getByText('Preview large.xml')).toBeVisible();
    await page.goto('/exchange');
    const preview = page.locator('[data-test=preview]');
    await expect(preview).toContainText('16,000 activities', { timeout: 30_000 });
    await preview.getByRole('button', { name: 'Discard' }).click();
    await expect(page.getByText('The proposal was discarded; nothing was changed.')).toBeVisible();
    await page.reload();
    await page.waitForTimeout(1000);
    await expect(preview).toHaveCount(0);
});

test('some projects of a file are taken now, the others wait', async ({ page }) => {
    await signIn(page);
    const file = await (await page.request.get('/api/v1/exchange/export?projects=CREW,LYNG&format=plan-xml',
        { headers: { referer: page.url() } })).text();
    await page.goto('/exchange');
    await bringIn(page, { name: 'two.xml', mimeType: 'application/xml', buffer: Buffer.from(file) });
    await page.getByText('Update projects that came from there').click(); // as copies
    await fileInto(page, 'Archive');
    await page.getByRole('button', { name: 'Preview' }).click();
    const preview = page.locator('[data-test=preview]');
    await preview.getByRole('checkbox').first().uncheck();
    await preview.getByRole('button', { name: 'Apply 1 of 2 projects' }).click();
    await expect(page.getByText('1 project was imported.')).toBeVisible();
    await expect(preview.getByRole('row')).toHaveCount(2); // the heading, and what waits
    // it is there again when somebody comes back
    await page.goto('/exchange');
    await page.locator('[data-test=proposals] li').first().getByRole('button', { name: 'what it would do' }).click();
    await expect(preview).toContainText('two.xml');
    await expect(preview.locator('.projects').getByRole('row')).toHaveCount(2);
    await preview.getByRole('button', { name: 'Discard' }).click();
    await expect(preview).toHaveCount(0);
});

test('a file that comes back updates the projects that it was written of', async ({ page }) => {
    await signIn(page);
    const csrf = async () => decodeURIComponent((await page.context().cookies()).find((c) => c.name === 'XSRF-TOKEN')!.value);
    const change = async (operations: object[]) => expect((await page.request.post('/api/v1/changes', { data: { operations },
        headers: { referer: page.url(), 'x-xsrf-token': await csrf() } })).ok()).toBeTruthy();
    const nameOf = async (uid: string) => (await (await page.request.get('/api/v1/exchange/export?projects=KALV&format=plan-xml',
        { headers: { referer: page.url() } })).text()).match(new RegExp(`uid="${uid}"[^>]* name="([^"]*)"`))?.[1];
    const file = await (await page.request.get('/api/v1/exchange/export?projects=KALV&format=plan-xml',
        { headers: { referer: page.url() } })).text();
    const [first, second, third] = [...file.matchAll(/<activity uid="([^"]*)"[^>]* name="([^"]*)"/g)];
    const names = [[first, `First there ${Date.now()}`], [second, `Second there ${Date.now()}`], [third, 'Third there']] as const;
    const theirs = names.reduce((text, [a, name]) => text.replace(a![0]!, a![0]!.replace(`name="${a![2]}"`, `name="${name}"`)), file);
    await change([{ verb: 'update', kind: 'activity', uid: first![1], after: { name: `First here ${Date.now()}` } }]);

    await page.goto('/exchange');
    await bringIn(page, { name: 'back.xml', mimeType: 'application/xml', buffer: Buffer.from(theirs) });
    await fileInto(page, 'Archive');
    await page.getByRole('button', { name: 'Preview' }).click();
    const preview = page.locator('[data-test=preview]');
    await expect(preview).toContainText('0 new2 changed1 conflicting0 missing');
    await expect(preview.getByRole('row').filter({ hasText: 'First there' })).toContainText('“First here');
    await preview.getByLabel('The file wins').check();
    await expect(preview.getByRole('button', { name: 'Apply' })).toHaveCount(0); // what was decided must be seen first
    await preview.getByRole('button', { name: 'Preview again' }).click();
    const row = (text: string) => preview.locator('[data-test=update] tbody').first().locator('xpath=..').getByRole('row')
        .filter({ hasText: text });
    await row('Third there').getByRole('checkbox').uncheck();
    await preview.getByRole('button', { name: 'Apply without 1 of them' }).click();
    await expect(page.getByText('The changes that you took were applied')).toBeVisible();
    expect([await nameOf(first![1]!), await nameOf(second![1]!), await nameOf(third![1]!)])
        .toEqual([expect.stringContaining('First there'), expect.stringContaining('Second there'), third![2]]);

    // as a new project, when somebody decides so
    await page.getByRole('button', { name: 'Preview' }).click();
    await expect(preview).toContainText('What is what: 1 known here, 0 new');
    await preview.getByText('What is what').click();
    await preview.locator('[data-test=mapping] .n-base-selection').first().click();
    await page.keyboard.type('new');
    await page.keyboard.press('Enter');
    await preview.getByRole('button', { name: 'Preview again' }).click();
    await expect(preview).toContainText('0 known here, 1 new');
    await preview.getByRole('button', { name: 'Discard' }).click();
});

test('any file comes in by one door, which says what it is and leads on', async ({ page }) => {
    await enter(page);
    await page.goto('/exchange');
    const door = page.locator('[data-test=door]');
    await bringIn(page, { name: 'a.pdf', mimeType: 'application/pdf', buffer: Buffer.from('%PDF-1.7\n\u0001\u0000') });
    await expect(door.getByRole('alert')).toContainText('What this is cannot be told.');
    // an outline that is pasted, where nothing is typed into, becomes rows of a project
    await page.locator('h2').first().click();
    const paste = (text: string) => page.evaluate((data) => {
        const clip = new DataTransfer();
        clip.setData('text/plain', data);
        document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: clip, bubbles: true }));
    }, text);
    await paste('Hull\n  Route survey 5d\n  Trenching (2 weeks)');
    await expect(door).toContainText('A table or list: rows of a project, 1 kB');
    await expect(page.locator('[data-test=rows-way]')).toContainText('Route survey 5d');
    await page.getByLabel('Its rows go into').first().click();
    await page.keyboard.type('GRID');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Show what its rows would do' }).click();
    await expect(page).toHaveURL(/board\?projects=GRID/);
    await expect(page.getByText('Route survey · 5 d')).toBeVisible();
    await page.getByRole('button', { name: 'Cancel', exact: true }).click();
    // a table by drop becomes a project of its own
    await page.goto('/exchange');
    await expect(door).toBeVisible();
    await page.evaluate(() => {
        const clip = new DataTransfer();
        clip.items.add(new File(['Task;Days\nSurvey;2\nDesign;3'], 'plan.csv'));
        document.querySelector('[data-test=door]')!.dispatchEvent(new DragEvent('drop', { dataTransfer: clip, bubbles: true,
            cancelable: true }));
    });
    await expect(door).toContainText('plan.csv');
    await page.getByRole('button', { name: 'Make a project of it' }).click();
    await expect(page.getByRole('complementary')).toContainText('New project');
    await expect(page.getByRole('complementary')).toContainText('a table or list (file or pasted)');
    // what is pasted as text of a plan is a plan
    await page.goto('/exchange');
    await expect(door).toBeVisible();
    await paste('BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:x\nEND:VCALENDAR');
    await expect(door).toContainText('iCalendar: whole projects');
    await expect(page.getByText('Into branch')).toBeVisible();
});
