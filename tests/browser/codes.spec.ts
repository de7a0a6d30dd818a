import AxeBuilder from '@axe-core/playwright';
import { expect, type Page, test } from '@playwright/test';
import { band, enter, find, intoBranch, more, openBoard, read, row, sight, signIn } from './steps';

/** Names that no other run has used. */
const fresh = (name: string) => `${name} ${Date.now().toString(36).slice(-5)}`;
const undoLast = async (page: Page, n: number) => {
    const changes = await read<{ changes: { uid: string; state: string }[] }>(page, '/api/v1/changes');
    const token = decodeURIComponent((await page.context().cookies()).find((c) => c.name === 'XSRF-TOKEN')!.value);
    for (const c of changes.changes.filter((x) => x.state === 'applied').slice(0, n)) {
        expect((await page.request.post(`/api/v1/changes/${c.uid}/undo`, { headers: { 'X-XSRF-TOKEN': token, referer: page.url() } })).ok())
            .toBeTruthy();
    }
};
const view = (v: object) => encodeURIComponent(JSON.stringify(v));
async function pickFrom(page: Page, label: string, text: string, tree = false): Promise<void> {
    await page.getByLabel(label, { exact: true }).last().click();
    await page.keyboard.type(text);
    for (let i = 0; i < (tree ? 2 : 0); i++) await page.keyboard.press('ArrowDown'); // the branch above it, and it
    await page.keyboard.press('Enter');
}

test('two code sets with sub-entries and a steward are set up by keyboard', async ({ page }) => {
    await signIn(page);
    await page.getByRole('link', { name: 'Library' }).click();
    for (const [name, entries] of [[fresh('Berth'), ['North', 'South']], [fresh('Campaign'), ['Early', 'Late']]] as const) {
        await page.getByRole('button', { name: 'new code set' }).click();
        await page.getByLabel('Name of the code set').fill(name);
        await page.getByRole('button', { name: 'Create code set' }).click();
        const tree = page.getByRole('tree', { name });
        await expect(tree).toBeVisible();
        await page.getByLabel('Steward').fill('Aino Rautio');
        await page.getByLabel('Steward').press('Tab');
        await tree.focus();
        for (const entry of entries) {
            await page.keyboard.press('n');
            await expect(tree.getByLabel('Name')).toBeFocused();
            await page.keyboard.type(entry);
            await page.keyboard.press('Enter');
            await expect(tree.getByRole('treeitem', { name: new RegExp(entry) })).toBeVisible();
        }
        // the second one goes below the first by key
        await expect(tree).toBeFocused();
        await page.keyboard.press('Alt+ArrowRight');
        await expect(tree.getByRole('treeitem', { name: new RegExp(entries[1]) })).toHaveAttribute('aria-level', '2');
        await page.getByRole('complementary').getByRole('button', { name: 'Close' }).click();
        await expect(page.getByLabel('Steward')).toHaveValue('Aino Rautio');
    }
    expect((await new AxeBuilder({ page }).exclude('.n-base-selection').analyze()).violations.filter((v) => v.impact === 'serious'
        || v.impact === 'critical')).toEqual([]);
});

test('eight projects are coded, one entry made while assigning, and grouped by three levels', async ({ page }) => {
    await signIn(page);
    const entry = fresh('Wave');
    const keys = ['TERN', 'GANN', 'PLOV', 'EIDR', 'OSTV', 'LYNG', 'KALV', 'TRES'];
    for (const [i, key] of keys.entries()) {
        await (await sight(page, row(page, key))).getByRole('gridcell').first().click({ modifiers: i === 0 ? [] : ['Control'] });
    }
    const panel = page.getByRole('complementary');
    await expect(panel.getByRole('heading', { name: '8 selected' })).toBeVisible();
    await panel.getByRole('button', { name: 'new entry' }).first().click();
    await panel.getByPlaceholder('New entry in District').fill(entry);
    await panel.getByRole('button', { name: 'Create and assign' }).click();
    await expect(panel.getByText(entry)).toBeVisible();

    await page.goto(`/portfolio?view=${view({ group: ['code:codeset-district', 'code:codeset-kind', 'critical'] })}`);
    await sight(page, band(page, entry, 8));
    // the roll-up of the band is that of its projects
    const answer = await read<{ bands: { name: string; finish: number; projects: string[] }[];
        projects: { uid: string; finish: number; key: string }[] }>(page, `/api/v1/portfolio?view=${view({
        group: ['code:codeset-district'] })}`);
    const found = answer.bands.find((b) => b.name === entry)!;
    expect(found.projects).toHaveLength(8);
    expect(found.finish).toBe(Math.max(...answer.projects.filter((p) => keys.includes(p.key)).map((p) => p.finish)));
    await sight(page, band(page, 'Vessel', 4));

    // levels change places by key, the address keeps them
    await page.getByLabel('Asset kind, level 2; arrow keys move it').focus();
    await page.keyboard.press('ArrowLeft');
    await expect(page.getByLabel('Asset kind, level 1; arrow keys move it')).toBeVisible();
    await expect(page).toHaveURL(/codeset-kind.*codeset-district/);
    await undoLast(page, 2);
});

test('filters are sentences, saved and shared', async ({ page }) => {
    await signIn(page);
    await page.getByRole('button', { name: '+ condition' }).click();
    await page.getByLabel('Field', { exact: true }).last().fill('deadline margin');
    await page.keyboard.press('Enter');
    await page.getByLabel('Value').last().fill('8');
    await page.getByRole('button', { name: 'Apply' }).click();
    await expect(page.getByText('deadline margin is at most 8 d')).toBeVisible();
    await expect(row(page, 'TERN')).toBeVisible();
    await expect(row(page, 'PLOV')).toHaveCount(0);
    await page.getByRole('button', { name: 'Turn into its opposite' }).click();
    await expect(page.getByText('deadline margin is not at most 8 d')).toBeVisible();
    await expect(row(page, 'PLOV')).toBeVisible();
    await expect(row(page, 'TERN')).toHaveCount(0);
    const name = fresh('Enough time');
    await page.getByRole('button', { name: 'views' }).click();
    await page.getByLabel('Name of a new view').fill(name);
    await page.getByText('shared', { exact: true }).last().click();
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await page.goto('/portfolio');
    await expect(row(page, 'TERN')).toBeVisible();
    await page.getByRole('button', { name: 'views' }).click();
    await page.getByRole('button', { name }).click();
    await expect(row(page, 'TERN')).toHaveCount(0);
    await expect(row(page, 'PLOV')).toBeVisible();
});

test('weights are tried out with a slider, and put back', async ({ page }) => {
    await signIn(page);
    await page.getByRole('tab', { name: 'Ranking' }).click();
    const first = page.getByRole('listitem').first();
    const before = await first.innerText();
    const slider = page.getByRole('slider').first();
    await slider.focus();
    for (let i = 0; i < 18; i++) await page.keyboard.press('ArrowRight');
    await expect(page.getByText(/was \d+(st|nd|rd|th), now 1st/)).toBeVisible();
    expect(await first.innerText()).not.toBe(before);
    await page.getByRole('button', { name: 'Put back' }).click();
    await expect.poll(() => first.innerText()).toBe(before);
    await page.getByRole('button', { name: 'compare two by two' }).click();
    await expect(page.getByRole('status').filter({ hasText: 'consistency ratio 0.00' })).toBeVisible();
});

test('a WBS is built from pasted level codes, and codes are put together again', async ({ page }) => {
    await enter(page);
    await openBoard(page, 'GANN');
    await page.getByRole('row').nth(1).getByRole('gridcell').first().click();
    await page.keyboard.press('i');
    const levels = page.locator('[data-test=levels]');
    await levels.getByRole('button', { name: 'WBS from a table of level codes' }).click();
    await levels.getByLabel('WBS from a table of level codes').fill(['GANN-EL-0010\t\t\tEL\tZ03',
        'GANN-EL-0040\t\t\tEL\tZ04', 'X1\tNew work\t4d\tEL\tZ04', 'X2\tLost\t4d\tQQ'].join('\n'));
    await levels.getByRole('button', { name: 'Preview' }).click();
    await expect(levels.locator('[data-test=rows-read]')).toContainText('QQ is not in the list of Discipline');
    await levels.getByRole('button', { name: 'Build the WBS' }).click();
    await expect(row(page, 'Zone 4')).toBeVisible();
    await find(page, 'X1');
    await expect(row(page, 'New work')).toBeVisible();
    await page.getByRole('treegrid').press('Home');
    await levels.getByRole('button', { name: /Put \d+ codes together again/ }).click();
    await expect(row(page, 'X1')).toHaveCount(0);
    const made = await find(page, 'GANN-EL-Z04-0020');
    await expect(made).toContainText('New work');
    await page.getByRole('treegrid').press('Control+z');
    await expect(row(page, 'GANN-EL-Z04-0020')).toHaveCount(0);
    await find(page, 'X1');
    await page.getByRole('treegrid').press('Control+z');
    await expect(row(page, 'New work')).toHaveCount(0);
    await page.getByRole('treegrid').press('Home');
    await find(page, 'GANN-EL-0010');
});

test('a WBS chart is drawn from nothing by keyboard', async ({ page }) => {
    await signIn(page);
    const name = fresh('Scope');
    await page.getByRole('button', { name: 'new project' }).click();
    await page.getByLabel('Name').fill(name);
    await expect(page.getByLabel('Key', { exact: true })).not.toHaveValue('');
    await page.getByLabel('Start', { exact: true }).fill('mon');
    await intoBranch(page, 'Archive');
    await page.getByRole('button', { name: 'Create project' }).click();
    await page.getByRole('button', { name: 'open 1 on the board' }).click();
    await expect(row(page, name)).toBeVisible();
    await row(page, name).getByRole('gridcell').first().click();
    await page.keyboard.press('w');
    const tree = page.getByRole('tree');
    await expect(tree).toBeFocused();
    for (const [key, text] of [['n', 'Hull'], ['N', 'Steel'], ['n', 'Paint'], ['n', 'Papers']]) {
        await page.keyboard.press(key!);
        await expect(page.getByLabel('Name', { exact: true })).toBeFocused();
        await page.keyboard.type(text!);
        await page.keyboard.press('Enter');
        await expect(tree.getByRole('treeitem', { name: new RegExp(text!) })).toBeVisible();
    }
    await page.keyboard.press('Alt+ArrowUp'); // outdent in a chart from the top down
    await expect(tree.getByRole('treeitem', { name: /Papers/ })).toHaveAttribute('aria-level', '2');
    await page.keyboard.press('Delete');
    await expect(tree.getByRole('treeitem', { name: /Papers/ })).toHaveCount(0);
    expect(await tree.getByRole('treeitem').count()).toBe(4);
    await page.getByRole('button', { name: 'files' }).click();
    const [svg] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'SVG' }).click()]);
    expect(svg.suggestedFilename()).toMatch(/WBS\.svg$/);
    const [png] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'PNG' }).click()]);
    expect(png.suggestedFilename()).toMatch(/WBS\.png$/);
    await page.getByLabel(/OPML, or text/).fill('A1: Trials\n\tHarbour\n\tSea');
    await page.getByRole('button', { name: 'Take in' }).click();
    await expect(tree.getByRole('treeitem', { name: /A1, Trials/ })).toBeVisible();
});

test('three projects are made from one template, tied together, and the bottleneck is found', async ({ page }) => {
    await signIn(page);
    await page.getByRole('link', { name: 'Library' }).click();
    await page.getByRole('tab', { name: 'Templates and fragments' }).click();
    const keys: string[] = [];
    for (const n of [1, 2, 3]) {
        await page.goto('/library?part=sources');
        await page.getByRole('button', { name: /T-VESSEL/ }).click();
        const panel = page.getByRole('complementary');
        const key = `S${Date.now().toString(36).slice(-4).toUpperCase()}${n}`;
        keys.push(key);
        await expect(panel.getByLabel('Key from T-VESSEL')).not.toHaveValue('');
        await panel.getByLabel('Key from T-VESSEL').fill(key);
        await panel.getByLabel('Start', { exact: true }).fill(`+${n * 4}w`);
        await panel.getByRole('button', { name: 'Preview' }).click();
        await expect(panel.getByRole('status')).toContainText(`${key}-`);
        await panel.getByRole('button', { name: 'Create project' }).click();
        await page.waitForURL(`**/board?projects=${key}`);
        await expect(row(page, `${key}-HU-0010`)).toBeVisible();
    }
    // one dock: each vessel enters when the one before has left, tied at the open ends that the template left
    await openBoard(page, ...keys);
    for (const [from, to] of [[keys[0], keys[1]], [keys[1], keys[2]]]) {
        await find(page, `${from}-HU-0070`);
        const ends = page.locator('[data-test=open-ends]');
        await ends.getByLabel('tie to …').first().click();
        await page.keyboard.type(`${to}-HU-0020`);
        await page.keyboard.press('Enter');
        await expect(page.getByText('tied to Dock, vessel enters').first()).toBeVisible();
        await page.keyboard.press('Escape');
    }
    await find(page, `${keys[2]}-HU-0020`);
    await expect(page.locator('[data-test=why]')).toContainText('Vessel leaves the dock drives it');
    await page.getByRole('treegrid').focus();
    await page.keyboard.press('t');
    await expect(page.getByText(/Trace of Dock, vessel enters/)).toBeVisible();
    await expect(row(page, `${keys[1]}-HU-0070`)).toBeVisible();
});

test('a fragment is put in twice, and the undo takes it out', async ({ page }) => {
    await enter(page);
    await openBoard(page, 'TRES');
    await row(page, 'Commissioning').first().getByRole('gridcell').first().click();
    await more(page, 'fragment');
    const panel = page.getByRole('complementary');
    await pickFrom(page, 'Fragment', 'F-TRIAL');
    await panel.getByLabel('Times').fill('2');
    await panel.getByLabel('Codes begin with').fill('TRES-{n}-');
    await panel.getByRole('button', { name: 'Preview' }).click();
    await expect(panel.getByRole('status').first()).toContainText('12 activities');
    await panel.getByRole('button', { name: 'Insert' }).click();
    await find(page, 'TRES-2-TR-0030');
    await page.getByRole('treegrid').focus();
    await page.keyboard.press('Control+z');
    await expect(row(page, 'TRES-2-TR-0030')).toHaveCount(0);
});

test('moving a branch says first who loses access', async ({ page }) => {
    await signIn(page);
    await (await sight(page, band(page, 'Crew'))).getByRole('gridcell').first().click();
    await pickFrom(page, 'Parent branch', 'Harbours', true);
    const warning = page.getByRole('dialog');
    await expect(warning).toContainText('Move Crew to Harbours');
    await expect(warning).toContainText('Teodor Lindqvist gains access: planner');
    await warning.getByRole('button', { name: 'Cancel' }).click();
    await (await sight(page, band(page, 'Dry dock'))).getByRole('gridcell').first().click();
    await pickFrom(page, 'Parent branch', 'Harbours', true);
    await expect(warning).toContainText('Aino Rautio loses access, was planner');
    await expect(warning).toContainText('Noor Haddad loses access, was contributor');
    await warning.getByRole('button', { name: 'Move' }).click();
    await expect(warning).toHaveCount(0);
    await undoLast(page, 1);
});

test('who may not see a branch never meets its name', async ({ page }) => {
    await signIn(page, 'Noor Haddad');
    const hidden = ['Harbours', 'Shore power', 'Grid and energy', 'Ostvik grid connection', 'OSTV'];
    for (const path of [`/portfolio?view=${view({ group: ['branch', 'code:codeset-kind', 'lead'] })}`, '/portfolio?face=tree',
        '/portfolio?face=ranking']) {
        await page.goto(path);
        await expect(page.getByText('Conversion of Tern').first()).toBeVisible();
        const text = await page.locator('#app').innerText();
        for (const name of hidden) expect(text, `${path}: ${name}`).not.toContain(name);
    }
    await page.goto('/portfolio');
    await page.getByRole('button', { name: '+ condition' }).click();
    await page.getByLabel('Field', { exact: true }).last().fill('hierarchy');
    await page.keyboard.press('Enter');
    await page.locator('form.test .n-base-selection').last().click();
    await expect(page.getByText('Vessel conversions').last()).toBeVisible();
    for (const name of hidden) await expect(page.getByText(name, { exact: true })).toHaveCount(0);
});
