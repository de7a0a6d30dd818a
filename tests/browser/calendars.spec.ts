import { expect, test } from '@playwright/test';
import { cell, enter, openBoard } from './steps';

test('hours and holidays of a calendar are typed, drawn and pasted; what would move is said before it is saved', async ({ page }) => {
    await enter(page);
    await page.goto('/library?part=calendars');
    await page.getByRole('button', { name: /^OFFICE/ }).click();
    await expect(page.getByRole('complementary', { name: 'Office' })).toContainText('CREW, ');
    const status = page.getByRole('status').filter({ hasText: /moves|Nothing/ });

    // hours that cannot be meant are said, and nothing is lost
    const saturday = page.getByLabel('Hours of Saturday');
    await saturday.fill('8-25');
    await saturday.press('Tab');
    await expect(page.getByRole('alert')).toContainText('The hours of Saturday are written like');
    await expect(saturday).toHaveValue('8-25');
    await saturday.fill('8-12');
    await saturday.press('Tab');
    await expect(saturday).toHaveValue('08:00-12:00');
    await expect(status).toContainText(/moves \d+ activities/);

    // drawing over the free hours of Sunday
    const bar = (await page.locator('.week .bar').nth(6).boundingBox())!;
    await page.mouse.move(bar.x + bar.width / 4, bar.y + 8);
    await page.mouse.down();
    await page.mouse.move(bar.x + bar.width / 2, bar.y + 8, { steps: 4 });
    await page.mouse.up();
    await expect(page.getByLabel('Hours of Sunday')).toHaveValue('06:00-12:00');

    await page.getByLabel('Days to add').fill('2026-12-28..2026-12-31 Between the years\nEaster');
    await page.getByRole('button', { name: 'Add 4 days' }).click();
    await expect(page.getByLabel('Days to add')).toHaveValue('Easter');
    await expect(page.getByLabel('Name of 2026-12-31')).toHaveValue('Between the years');
    // what was typed stays while one looks elsewhere
    await page.getByRole('button', { name: /^DOCK/ }).click();
    await expect(page.getByLabel('Hours of Sunday')).toHaveValue('07:00-19:00');
    await page.getByRole('button', { name: /^OFFICE/ }).click();
    await expect(page.getByLabel('Hours of Sunday')).toHaveValue('06:00-12:00');
    // hours of a day that cannot be meant hold back the rest
    await page.getByLabel('Hours of 2026-12-31').fill('noon');
    await page.getByLabel('Hours of 2026-12-31').press('Tab');
    await expect(page.getByRole('button', { name: 'Save' })).toBeDisabled();
    await page.getByRole('button', { name: 'Cancel' }).click();
    await expect(page.getByLabel('Hours of Sunday')).toHaveValue('');
    await expect(page.getByLabel('Name of 2026-12-31')).toHaveCount(0);

    // one half holiday, saved, and the dates follow
    await openBoard(page, 'CREW');
    const before = await cell(page, 'CREW-CO-0020', 3).innerText();
    await page.goto('/library?part=calendars');
    await page.getByRole('button', { name: /^OFFICE/ }).click();
    for (const day of ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday']) {
        await page.getByLabel(`Hours of ${day}`).fill('8-10');
        await page.getByLabel(`Hours of ${day}`).press('Tab');
    }
    await expect(status).toContainText(/ends .* later/);
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByRole('button', { name: 'Save' })).toHaveCount(0);
    await page.reload();
    await expect(page.getByLabel('Hours of Monday')).toHaveValue('08:00-10:00');
    await openBoard(page, 'CREW');
    await expect(cell(page, 'CREW-CO-0020', 3)).not.toHaveText(before);

    await page.goto('/library?part=calendars');
    await page.getByRole('button', { name: /^OFFICE/ }).click();
    for (const day of ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday']) {
        await page.getByLabel(`Hours of ${day}`).fill('8-12 13-17');
        await page.getByLabel(`Hours of ${day}`).press('Tab');
    }
    await page.getByRole('button', { name: 'Save' }).click();
    await openBoard(page, 'CREW');
    await expect(cell(page, 'CREW-CO-0020', 3)).toHaveText(before);
});

test('a calendar is derived from another, says what it has from it, and goes again', async ({ page }) => {
    await enter(page);
    await page.goto('/library?part=calendars');
    await page.getByRole('button', { name: /^DOCK/ }).click();
    await page.getByLabel('Key of a new calendar').fill('NIGHTS');
    await page.getByRole('checkbox', { name: 'derived from DOCK' }).click();
    await page.getByRole('button', { name: 'Create calendar' }).click();
    await expect(page.getByRole('complementary', { name: 'NIGHTS' })).toContainText('No project uses it.');
    await expect(page.locator('.week')).toContainText('from DOCK');
    await page.getByLabel('Hours of Monday').fill('off');
    await page.getByLabel('Hours of Monday').press('Tab');
    await page.getByRole('button', { name: 'Save' }).click();
    await page.getByRole('button', { name: 'as the base' }).click();
    await expect(page.getByLabel('Hours of Monday')).toHaveValue('07:00-19:00');
    await page.getByRole('button', { name: 'Save' }).click();
    await page.getByRole('button', { name: 'Delete', exact: true }).click();
    await page.getByRole('button', { name: 'Delete it' }).click();
    await expect(page.getByRole('button', { name: /^NIGHTS/ })).toHaveCount(0);
});

test('who administers nothing looks at calendars and changes none', async ({ page }) => {
    await enter(page, 'Wen Zhao');
    await page.goto('/library?part=calendars');
    await expect(page.getByLabel('Hours of Monday')).toBeDisabled();
    await expect(page.getByRole('button', { name: 'Create calendar' })).toHaveCount(0);
    await expect(page.getByLabel('Days to add')).toHaveCount(0);
});

test('holidays come from a file, a calendar goes out as a table, is retired and gives its place to another', async ({ page }) => {
    await enter(page);
    await page.goto('/library?part=calendars');
    await page.getByRole('button', { name: 'OFFICE Office', exact: true }).click();
    const side = page.getByRole('complementary').first();
    await side.getByRole('button', { name: 'Copy', exact: true }).click();
    await expect(page.getByRole('button', { name: /^OFFICE-2/ })).toHaveAttribute('aria-current', 'true');
    await side.locator('input[type=file]').setInputFiles({ name: 'holidays.ics', mimeType: 'text/calendar', buffer: Buffer.from(
        ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:x', 'BEGIN:VEVENT', 'UID:1', 'DTSTART;VALUE=DATE:20261225', 'RRULE:FREQ=YEARLY',
            'SUMMARY:Christmas Day', 'END:VEVENT', 'BEGIN:VEVENT', 'UID:2', 'DTSTART;VALUE=DATE:20270326', 'SUMMARY:Good Friday',
            'END:VEVENT', 'END:VCALENDAR', ''].join('\r\n')) });
    await expect(side.getByLabel('Days to add')).toHaveValue('12-25 Christmas Day\n2027-03-26 Good Friday');
    await side.getByRole('button', { name: 'Add 2 days' }).click();
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByRole('button', { name: 'Save' })).toHaveCount(0);
    const [table] = await Promise.all([page.waitForEvent('download'), side.getByText('as a table (CSV)').click()]);
    expect(table.suggestedFilename()).toBe('OFFICE-2.csv');
    const text = (await (await table.createReadStream()).toArray()).join('');
    expect(text).toContain('Monday;08:00-12:00 13:00-17:00;');
    expect(text).toContain('2027-03-26;off;Good Friday');
    // what is retired is not offered any more
    await side.getByRole('button', { name: 'Retire' }).click();
    await expect(page.getByRole('button', { name: /^OFFICE-2/ })).toContainText('retired');
    await side.getByRole('button', { name: 'Use again' }).click();
    await expect(page.getByRole('button', { name: /^OFFICE-2/ })).not.toContainText('retired');
    await side.locator('.n-base-selection').filter({ hasText: 'another calendar' }).click();
    await page.locator('.n-base-select-option').filter({ hasText: /^OFFICE Office$/ }).click();
    await side.getByRole('button', { name: 'Merge', exact: true }).click();
    await expect(page.getByRole('button', { name: /^OFFICE-2/ })).toHaveCount(0);
    await expect(page.getByRole('button', { name: 'OFFICE Office', exact: true })).toHaveAttribute('aria-current', 'true');
});
