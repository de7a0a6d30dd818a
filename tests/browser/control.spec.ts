import { expect, type Page, test } from '@playwright/test';
import { band, cell, enter, openBoard, ripple, row, type } from './steps';

/** Progress, settings, baselines, health, traces: what keeps a schedule honest. */
test.beforeEach(async ({ page }) => enter(page));

const panel = (page: Page) => page.getByRole('complementary');

async function inspect(page: Page, text: string): Promise<void> {
    await cell(page, text, 1).click();
    if ((await panel(page).count()) === 0) await page.keyboard.press('i');
    await expect(panel(page)).toBeVisible();
}

/** Chooses from a select of the inspector. */
async function choose(page: Page, label: string, option: string): Promise<void> {
    await panel(page).getByLabel(label, { exact: true }).first().click();
    await page.locator('.n-select-menu:visible').getByText(option, { exact: true }).click();
    await expect(page.locator('.n-select-menu:visible')).toHaveCount(0);
}

test('progress is told by percent, and what was assumed is said', async ({ page }) => {
    await page.goto('/board?projects=LYNG&columns=progress');
    await type(page, 'LYNG-CI-0010', 2, '40');
    await expect(cell(page, 'LYNG-CI-0010', 2)).toHaveText('40 %');
    await expect(ripple(page)).toContainText('Start set to');
    await expect(cell(page, 'LYNG-CI-0010', 3)).not.toHaveText('');
    await type(page, 'LYNG-CI-0010', 2, '100');
    await expect(cell(page, 'LYNG-CI-0010', 4)).not.toHaveText('');
    await type(page, 'LYNG-CI-0010', 2, '0');
    await expect(cell(page, 'LYNG-CI-0010', 3)).toHaveText('');
    await cell(page, 'LYNG-CI-0010', 2).dblclick();
    await page.locator('input.editor').fill('140');
    await expect(page.getByText('“140” is not a percentage')).toBeVisible();
    await page.keyboard.press('Escape');
    for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
    await expect(cell(page, 'LYNG-CI-0010', 2)).toHaveText('0 %');
});

test('a checklist gives the physical progress; a date in the future is refused', async ({ page }) => {
    await page.goto('/board?projects=OSTV&columns=progress&row=act-ostv-to-0030');
    await panel(page).getByText('Switchgear placed').click();
    await expect(cell(page, 'OSTV-TO-0030', 2)).toHaveText('33.3 %');
    await panel(page).getByLabel('Step × weight').fill('Name plates × 3');
    await panel(page).getByRole('button', { name: 'Add', exact: true }).click();
    await expect(cell(page, 'OSTV-TO-0030', 2)).toHaveText('25 %');
    const started = panel(page).getByLabel('Actual start', { exact: true });
    await started.fill('2099-01-04');
    await started.press('Tab');
    await expect(page.getByRole('alert')).toContainText('lies after the status date');
    await expect(started).toHaveValue('2099-01-04');
});

test('constraints of every kind are set where the dates show', async ({ page }) => {
    await openBoard(page, 'GRID');
    await inspect(page, 'GRID-ST-0030');
    await choose(page, 'Constraint', 'as late as possible');
    await expect(page.locator('[data-test=why]')).toContainText('as late as possible');
    await choose(page, 'Second constraint', 'finish no later than');
    await expect(panel(page).getByLabel('Date', { exact: true })).toBeVisible();
    await choose(page, 'Constraint', 'start pinned to');
    await expect(page.getByRole('alert')).toContainText('a pin stands alone');
    await page.getByRole('alert').getByRole('button').click();
    await choose(page, 'Second constraint', 'none');
    await choose(page, 'Constraint', 'none');
    await expect(page.locator('[data-test=why]')).not.toContainText('as late as possible');
    // a hammock needs links on both sides, and says so
    await choose(page, 'Kind', 'Hammock');
    await expect(page.getByRole('alert')).toContainText('a hammock needs at least one FS or SS link');
});

test('project settings say what they mean and act at once', async ({ page }) => {
    await openBoard(page, 'CREW');
    await inspect(page, 'CREW');
    const settings = page.locator('[data-test=settings]');
    await expect(settings.locator('.hint')).toHaveCount(13);
    const near = settings.getByLabel('Near-critical when total float is at most (days)');
    await near.fill('soon');
    await near.press('Tab');
    await expect(settings).toContainText('“soon” is not a number of days');
    await near.fill('60');
    await near.press('Tab');
    await expect(ripple(page)).toContainText('Near-critical when total float is at most (days) changed');
    // the status date takes unfinished work with it
    const status = settings.getByLabel('Status date', { exact: true });
    const before = await status.inputValue();
    const later = new Date(Date.parse(`${before.slice(0, 10)}T00:00Z`) + 14 * 86_400_000).toISOString().slice(0, 10);
    await status.fill(later);
    await status.press('Tab');
    await expect(ripple(page)).toContainText('CREW: status date');
    await expect(ripple(page)).toContainText(/moves \d+ activit/);
    await page.getByRole('button', { name: 'undo' }).click();
    await expect(status).toHaveValue(before);
    await page.getByRole('button', { name: 'undo' }).click();
});

test('a baseline is taken, made current and compared', async ({ page }) => {
    await page.goto('/board?projects=GANN&columns=baseline');
    await inspect(page, 'GANN');
    const baselines = page.locator('[data-test=baselines]');
    const effect = baselines.locator('[data-test=baseline-effect]');
    await expect(effect).toHaveText('Variances go on counting from “Approved plan”.');
    await baselines.getByLabel('Name of a new baseline').fill('After the review');
    await baselines.getByText('Make it the current one').click();
    await expect(effect).toContainText('instead of from “Approved plan”');
    await baselines.getByRole('button', { name: 'Take baseline' }).click();
    await expect(baselines.locator('.baseline').first()).toContainText('After the review current');
    await expect(cell(page, 'GANN-HU-0010', 3)).toHaveText('0');
    await page.goto('/board?projects=GANN');
    await type(page, 'GANN-HU-0010', 2, '20d');
    await page.goto('/board?projects=GANN&columns=baseline');
    await expect(cell(page, 'GANN-HU-0010', 4)).toHaveText('+6');
    await inspect(page, 'GANN');
    await baselines.getByRole('button', { name: 'compare' }).first().click();
    await expect(baselines.locator('caption')).toContainText('activities differ');
    await expect(baselines.getByRole('row').filter({ hasText: 'Stability study' })).toContainText('+6 d');
    await baselines.getByRole('button', { name: 'make current' }).click();
    await expect(baselines.locator('.baseline').nth(1)).toContainText('Approved plan current');
    const strip = baselines.getByRole('button', { name: 'strip on the axis' });
    await strip.click();
    await expect(strip).toHaveAttribute('aria-pressed', 'true');
    await expect(baselines.locator('.sample')).toHaveCount(1);
    await page.reload();
    await inspect(page, 'GANN');
    await expect(baselines.locator('.sample')).toHaveCount(1); // it stays until it is taken away
    await baselines.getByRole('button', { name: 'delete' }).click();
    await expect(page.getByText('cannot be brought back')).toBeVisible();
    await page.getByRole('button', { name: 'Delete it' }).click();
    await expect(baselines.locator('.baseline')).toHaveCount(1);
});

test('health findings lead to their activities, limits are set by the administrator', async ({ page }) => {
    await openBoard(page, 'GRID', 'OSTV');
    await page.getByRole('button', { name: 'health', exact: true }).click();
    const finding = page.locator('article').filter({ hasText: 'No successor' });
    await expect(finding).toContainText('at most 5 %');
    await expect(finding).toContainText('14-point');
    await finding.getByRole('button', { name: 'show 1 activity' }).click();
    await finding.getByRole('button', { name: /Route reinstated/ }).click();
    await expect(row(page, 'GRID-CA-0060')).toHaveAttribute('aria-selected', 'true');
    await page.getByRole('button', { name: 'adjust the limits' }).click();
    await page.getByLabel('Limit of No successor').fill('30');
    await page.getByRole('button', { name: 'Save the limits' }).click();
    await expect(page.locator('[data-test=findings]')).toBeVisible();
    await expect(finding).toHaveCount(0);
    await page.getByRole('button', { name: 'adjust the limits' }).click();
    await page.getByLabel('Limit of No successor').fill('5');
    await page.getByRole('button', { name: 'Save the limits' }).click();
    await expect(finding).toBeVisible();
});

test('the portfolio marks the health of projects and leads to the findings', async ({ page }) => {
    await page.goto('/portfolio');
    const sign = row(page, 'LYNG').getByRole('img');
    await expect(sign).toHaveAccessibleName(/health checks? says? that dates cannot be trusted/);
    await row(page, 'LYNG').getByRole('gridcell').first().click();
    await page.getByRole('button', { name: 'Health findings' }).click();
    await expect(page).toHaveURL(/board\?projects=LYNG/);
    await expect(page.locator('[data-test=findings]')).toBeVisible();
});

test('a trace tells the waiting in words and opens what lies elsewhere', async ({ page }) => {
    await page.goto('/board?projects=OSTV&row=act-ostv-cm-0040');
    await panel(page).getByRole('button', { name: 'trace it on the board' }).click();
    await expect(page.getByText(/\d+ more in .*TERN/)).toBeVisible();
    await expect(cell(page, 'OSTV-CM-0040', 2)).toContainText('OSTV-CM-0010 FS');
    await page.getByRole('button', { name: 'open them too' }).click();
    await expect(row(page, 'TERN-TR-0020')).toBeVisible();
    await expect(cell(page, 'CREW-VE-0030', 2)).toContainText('waits 2 d (lag)');
    await page.getByRole('button', { name: 'show all' }).click();
    await expect(page.getByText('Trace of Acceptance test')).toHaveCount(0);
});

test('chains into an activity are ranked, and one can stand alone', async ({ page }) => {
    await page.goto('/board?projects=OSTV,TERN&row=act-tern-tr-0020');
    await panel(page).getByRole('button', { name: 'Show paths' }).click();
    const chains = page.locator('[data-test=paths] li');
    await expect(chains.first()).toContainText('float 0 d');
    await expect(chains.nth(1)).toContainText('into');
    await chains.nth(1).getByRole('button').click();
    await expect(page.getByText('Path 2 into Charging trials')).toBeVisible();
    await page.getByRole('button', { name: 'show all' }).click();
    await panel(page).locator('details.handover summary').first().click();
    await panel(page).getByRole('button', { name: 'paths into this handover' }).first().click();
    await expect(page.locator('[data-test=handover-paths] li').first()).toContainText('OSTV-CM-0050');
});

test('what a handover promises is written with the taker', async ({ page }) => {
    await page.goto('/board?projects=TERN&row=act-tern-tr-0040');
    await panel(page).locator('details.handover summary').first().click();
    const agreed = panel(page).getByLabel('Agreed date');
    await agreed.fill('2026-01-05');
    await agreed.press('Tab');
    await expect(panel(page).locator('details.handover summary').first()).toContainText(/late, forecast .*, margin −/);
    await agreed.fill('2099-01-05');
    await agreed.press('Tab');
    await expect(panel(page).locator('details.handover summary').first()).not.toContainText('late,');
});

test('a remark is written, shown to others, deleted and brought back', async ({ page }) => {
    await openBoard(page, 'GRID');
    await cell(page, 'GRID-PE-0020', 1).click();
    await page.keyboard.press('i');
    const remarks = page.locator('[data-test=remarks]');
    await remarks.getByLabel('Remark').fill('Permit office is closed in May');
    await remarks.getByRole('button', { name: 'Add remark' }).click();
    await expect(remarks).toContainText('Ilse Marbach');
    await expect(remarks.getByLabel('Remark')).toHaveValue('');
    await remarks.getByRole('button', { name: 'Delete' }).click();
    await expect(remarks).toContainText('No remarks yet.');
    await ripple(page).getByRole('button', { name: 'undo' }).click();
    await expect(remarks).toContainText('Permit office is closed in May');
    await remarks.getByRole('button', { name: 'Delete' }).click();
    await expect(remarks).toContainText('No remarks yet.');
});

test('a branch takes remarks: found from the command field, done, deleted and brought back with undo', async ({ page }) => {
    await page.goto('/portfolio');
    const chosen = page.getByRole('complementary');
    const remarks = chosen.locator('[data-test=remarks]');
    await band(page, 'Dry dock').click();
    await remarks.getByLabel('Remark').fill('Gate survey before the summer');
    await remarks.locator('form').getByText('to be done', { exact: true }).click();
    await remarks.getByRole('button', { name: 'Add remark' }).click();
    await expect(remarks).toContainText('Ilse Marbach');
    await band(page, 'Fleet').click();
    await expect(remarks).toContainText('No remarks yet.');
    await page.keyboard.press('Control+k');
    await page.keyboard.type('gate survey');
    await page.getByRole('option', { name: /Gate survey before the summer.*Dry dock/ }).click();
    await expect(remarks).toContainText('Gate survey before the summer');
    await remarks.getByRole('button', { name: 'Delete' }).click();
    await expect(remarks).toContainText('No remarks yet.');
    await page.getByRole('button', { name: 'undo', exact: true }).click();
    await expect(remarks).toContainText('Gate survey before the summer');
    await remarks.getByRole('button', { name: 'Delete' }).click();
    await expect(remarks).toContainText('No remarks yet.');
});
