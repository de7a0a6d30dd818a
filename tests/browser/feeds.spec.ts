import { expect, test } from '@playwright/test';
import { o } from 'odata';
import csdl from 'odata-csdl';
import { csdl2openapi } from 'odata-openapi';
import buildQuery from 'odata-query';
import { enter, signIn } from './steps';

async function token(page: import('@playwright/test').Page, name: string): Promise<string> {
    await page.goto('/exchange?part=feeds');
    await page.getByLabel('Token name').fill(name);
    await page.getByRole('button', { name: 'Create token' }).click();
    return await page.locator('[data-test=token]').innerText();
}

test('a feed token opens the OData feed and nothing else', async ({ page, playwright, baseURL }) => {
    await signIn(page);
    const made = await token(page, 'reporting');
    const outside = await playwright.request.newContext({ baseURL, httpCredentials: { username: 'any', password: made, send: 'always' } });
    const bearer = await playwright.request.newContext({ baseURL,
        extraHTTPHeaders: { authorization: `Bearer ${made}`, accept: 'application/json' } });
    expect((await outside.get('/odata/v4/Projects')).status()).toBe(200);
    expect((await bearer.get('/odata/v4/')).status()).toBe(200);
    expect((await bearer.get('/api/v1/portfolio')).status()).toBe(403);
    await bearer.dispose();
    await page.reload();
    const listed = page.getByRole('listitem').filter({ hasText: 'reporting' });
    await expect(listed).toContainText(/last used .* from 127\.0\.0\.1/);
    await listed.getByRole('button', { name: 'Revoke' }).click();
    await expect(listed).toHaveCount(0);
    expect((await outside.get('/odata/v4/Projects')).status()).toBe(401);
    await outside.dispose();
});

test('four general OData libraries read the feed', async ({ page, playwright, baseURL }) => {
    await signIn(page);
    const made = await token(page, 'libraries');
    const outside = await playwright.request.newContext({ baseURL, extraHTTPHeaders: { authorization: `Bearer ${made}` } });
    // metadata: odata-csdl reads both forms alike
    const xml = csdl.xml2json(Buffer.from(await (await outside.get('/odata/v4/$metadata')).body()), { strict: true }) as Csdl;
    const json = await (await outside.get('/odata/v4/$metadata?$format=json')).json() as Csdl;
    type Csdl = Record<string, Record<string, Record<string, unknown>>>;
    const shape = (model: Csdl) => Object.fromEntries(Object.entries(model.Reihe!).filter(([name]) => !name.startsWith('$'))
        .map(([name, type]) => [name, Object.entries(type).filter(([key]) => !/[@$]/.test(key)).map(([key, e]) => {
            const { $Type, $Nullable, $Collection, $Partner, $ReferentialConstraint } = e as Record<string, unknown>;
            return [key, $Type ?? 'Edm.String', $Nullable ?? false, $Collection ?? false, $Partner, $ReferentialConstraint];
        })]));
    const [fromXml, fromJson] = [shape(xml), shape(json)];
    for (const [name, rows] of Object.entries(fromJson)) {
        // a relation to one may be nothing, which CSDL XML says by leaving Nullable out
        const told = (list: unknown[][]) => list.map(([key, type, , many, partner, constraint]) => [key, type, many, partner, constraint]);
        expect(told(fromXml[name]!), name).toEqual(told(rows));
    }
    expect(Object.keys(fromJson)).toEqual(expect.arrayContaining(['Project', 'Activity', 'Handover', 'Baseline', 'Feed']));
    // odata-openapi describes it
    const described = csdl2openapi(json, {}) as { paths: Record<string, unknown> };
    expect(Object.keys(described.paths)).toEqual(expect.arrayContaining(['/Projects', '/Activities', '/Projects/{Id}/Activities']));
    // odata-query writes, the feed answers
    interface Row { Key: string; Finish: Date; Activities: { Code: string }[] }
    const query = buildQuery<Row>({ select: ['Key', 'Finish'], orderBy: ['Key'], top: 50, count: true,
        filter: { and: [{ Key: { ne: 'NONE' } }, { not: { Archived: true } }, { Finish: { ge: new Date('2026-01-01T00:00:00Z') } },
            { Activities: { any: [{ Kind: 'task' }] } }, { 'tolower(Name)': { contains: 'tern' } }] } as never,
        expand: { Activities: { select: ['Code'], top: 1, orderBy: 'Code' } } });
    const answer = await outside.get(`/odata/v4/Projects${query}`);
    expect(answer.status(), await answer.text()).toBe(200);
    expect(((await answer.json()) as { value: { Key: string; Activities: unknown[] }[] }).value
        .map((p) => [p.Key, p.Activities.length])).toEqual([['TERN', 1]]);
    // o.js asks
    const client = o(`${baseURL}/odata/v4/`, { headers: { Authorization: `Bearer ${made}`, Accept: 'application/json' } });
    expect(await client.get("Projects('prj-TERN')").query({ $select: 'Key' })).toMatchObject({ Key: 'TERN' });
    expect(await client.get('Projects').query({ $filter: "Key eq 'TERN'", $select: 'Key' })).toEqual([{ Key: 'TERN' }]);
    await outside.dispose();
});

test('an address is put together by clicking, shows its rows and is answered outside', async ({ page, playwright, baseURL }) => {
    await signIn(page);
    const made = await token(page, 'clicked');
    const sample = page.locator('[data-test=sample]');
    await expect(sample.locator('tbody tr')).toHaveCount(8);
    await page.getByRole('button', { name: 'Kind', exact: true }).click();
    await page.getByRole('button', { name: '+ Project', exact: true }).click();
    await page.getByRole('button', { name: 'add a condition' }).click();
    await page.getByLabel('Property', { exact: true }).first().click();
    await page.keyboard.type('ProjectKey');
    await page.keyboard.press('Enter');
    await page.getByLabel('Value').fill('GRID');
    await expect(sample.getByRole('columnheader', { name: 'Project/Key' })).toBeVisible();
    await expect(sample.locator('tbody')).not.toContainText('AUK');
    const address = await page.locator('[data-test=address]').innerText();
    expect(address).toContain("$filter=ProjectKey%20eq%20'GRID'");
    const outside = await playwright.request.newContext({ baseURL, extraHTTPHeaders: { authorization: `Bearer ${made}` } });
    const { value } = await (await outside.get(address)).json() as { value: { ProjectKey: string; Kind: string; Project: { Key: string }
        }[] };
    expect(new Set(value.map((a) => a.ProjectKey + a.Project.Key))).toEqual(new Set(['GRIDGRID']));
    await expect(page.locator('[data-test=total]')).toContainText(`${value.length} rows in all`);
    // the page's own address keeps the choice
    await page.reload();
    await expect(page.locator('[data-test=address]')).toHaveText(address);
    await page.getByText('add numbers up').click();
    await expect(sample.getByRole('columnheader', { name: 'TotalFloatHoursSum' })).toBeVisible();
    await outside.dispose();
});

test('a calendar is subscribed to and revoked', async ({ page, playwright }) => {
    await enter(page);
    await page.goto('/exchange?part=feeds');
    await page.getByLabel('Project', { exact: true }).first().click();
    await page.keyboard.type('Ostvik grid');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Create address' }).click();
    const address = await page.locator('[data-test=subscription]').innerText();
    const outside = await playwright.request.newContext();
    const answer = await outside.get(address);
    expect(await answer.text()).toContain('BEGIN:VEVENT');
    expect((await outside.get(address, { headers: { 'if-none-match': answer.headers().etag! } })).status()).toBe(304);
    const listed = page.getByRole('listitem').filter({ hasText: 'Calendar of a project' });
    await listed.getByRole('button', { name: 'Revoke' }).click();
    await expect(listed).toHaveCount(0);
    expect((await outside.get(address)).status()).toBe(404);
    await outside.dispose();
});

test('Lens draws two charts from the feed', async ({ page, baseURL }) => {
    await signIn(page);
    const made = await token(page, 'lens');
    const url = new URL(baseURL!);
    await page.goto(`http://${url.hostname}:${Number(url.port) + 2}/`);
    await page.getByLabel('Token').fill('wrong');
    await page.getByRole('button', { name: 'Read the feed' }).click();
    await expect(page.getByRole('alert')).toContainText('feed token');
    await page.getByLabel('Token').fill(made);
    await page.getByRole('button', { name: 'Read the feed' }).click();
    await expect(page.getByText(/projects with a deadline, \d+ open activities/)).toBeVisible();
    await expect(page.locator('.chart canvas')).toHaveCount(2);
});
