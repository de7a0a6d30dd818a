import { expect, test } from '@playwright/test';
import { intoBranch } from './steps';

/** An enterprise that is empty but for its administrator, who has never signed in: `bin/start --demo=none`. */
const EMPTY = process.env.REIHE_EMPTY_URL;
test.use({ baseURL: EMPTY });

test('the first hour leads from the first password to two projects that can be tied together', async ({ page }) => {
    test.skip(EMPTY === undefined, 'needs an empty enterprise in REIHE_EMPTY_URL');
    await page.goto('/');
    await page.getByLabel('E-mail').fill('admin@reihe.example');
    await page.getByLabel('Password').fill(process.env.REIHE_EMPTY_PASSWORD!);
    await page.keyboard.press('Enter');
    await page.getByLabel('Present password').fill(process.env.REIHE_EMPTY_PASSWORD!);
    await page.getByLabel('New password').fill('harbour lights');
    await page.keyboard.press('Enter');
    // one is where one wanted to go, with what comes next beside it
    const panel = page.getByRole('complementary').first();
    const step = (name: string) => panel.getByRole('listitem').filter({ hasText: name });
    await expect(panel).toContainText('The first hour');
    await expect(page.getByRole('treegrid')).toContainText('Enterprise'); // branches are rows without projects too
    await expect(step('Draw the hierarchy')).toHaveAttribute('aria-current', 'step');
    await panel.getByRole('button', { name: 'name the first one' }).click();
    await panel.getByLabel('Name', { exact: true }).fill('Nordhavn');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('treegrid')).toContainText('Nordhavn');
    for (const name of ['Harbours', 'Fleet']) { // both below the first: what was made last is not meant as the place of the next
        await page.getByRole('button', { name: 'new branch', exact: true }).click();
        await panel.getByLabel('Name', { exact: true }).fill(name);
        await expect(panel.locator('.tree')).toContainText('Nordhavn');
        await panel.getByRole('button', { name: 'Create branch' }).click();
        await expect(page.getByRole('treegrid')).toContainText(name);
    }
    await page.goto('/portfolio');
    await expect(step('Draw the hierarchy').getByLabel('done')).toBeVisible();
    await expect(step('Draw the first handover').getByRole('button', { name: 'Open both' })).toBeDisabled();
    // the calendar that is there takes holidays
    await panel.getByRole('button', { name: 'Calendars' }).click();
    await page.getByRole('button', { name: /^OFFICE/ }).click();
    await page.getByLabel('Days to add').fill('2026-12-24..2026-12-26 Christmas');
    await page.getByRole('button', { name: 'Add 3 days' }).click();
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByRole('button', { name: 'Save' })).toHaveCount(0);
    await page.goto('/portfolio');
    await expect(step('Give the calendar its holidays').getByLabel('done')).toBeVisible();
    // the first project from nothing, the second one from a list
    await step('Make the first project').getByRole('button', { name: 'New project' }).click();
    await panel.getByLabel('Name', { exact: true }).fill('Quay, phase 2');
    await intoBranch(page, 'Harbours', panel);
    await expect(panel.getByLabel('Key')).toHaveValue('QUAY2');
    await panel.getByRole('button', { name: 'Create project' }).click();
    await expect(page.getByRole('treegrid')).toContainText('QUAY2');
    await page.goto('/portfolio');
    await step('Make the first project').getByLabel('done').waitFor();
    await page.goto('/exchange');
    await page.getByLabel('or paste a table').fill('Survey 5d\nDocking (2 weeks)');
    await page.getByLabel('or paste a table').blur();
    await page.getByRole('button', { name: 'Make a project of it' }).click();
    await panel.getByLabel('Name', { exact: true }).fill('Ferry docking');
    await intoBranch(page, 'Fleet', panel);
    await expect(panel.getByLabel('Key')).not.toHaveValue('');
    await panel.getByRole('button', { name: 'Create project' }).click();
    await expect(page).toHaveURL(/board/);
    await expect(page.getByText('Docking · 10 d')).toBeVisible();
    await page.getByRole('region', { name: 'Paste rows' }).getByRole('button', { name: /2 rows/ }).click();
    await expect(page.getByRole('treegrid')).toContainText('Docking');
    await page.goto('/portfolio');
    await expect(step('Make a second one').getByLabel('done')).toBeVisible();
    await step('Draw the first handover').getByRole('button', { name: 'Open both' }).click();
    await expect(page).toHaveURL(/projects=\w+,\w+/);
    // and the guide has the page of it
    await page.keyboard.press('F1');
    await expect(page.locator('[data-test=guide]')).toContainText('Board');
    await page.getByLabel('Search the guide').fill('holidays');
    await page.getByRole('button', { name: 'The first hour' }).click();
    await expect(page.locator('[data-test=guide]')).toContainText('draw its hierarchy');
    await page.keyboard.press('Escape');
});
