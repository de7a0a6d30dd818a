import { type BrowserContext, expect, type Locator, type Page } from '@playwright/test';

/** What a browser keeps of those who signed in before: a session holds for several tests. */
const sessions = new Map<string, Awaited<ReturnType<BrowserContext['cookies']>>>();

/** Signs in as one of the demo users, as the page does it, and opens nothing; the page itself is tried in places.spec.ts. */
export async function enter(page: Page, name = 'Ilse Marbach'): Promise<void> {
    const context = page.context();
    const headers = { referer: process.env.REIHE_URL!, origin: process.env.REIHE_URL! };
    const email = `${name.split(' ')[0]!.toLowerCase()}@varnsund.example`;
    await context.addCookies(sessions.get(email) ?? []);
    const found = await (await page.request.get('/api/v1/session', { headers })).json() as { user: { email: string } | null };
    if (found.user?.email !== email) {
        const known = (await context.cookies()).find((c) => c.name === 'XSRF-TOKEN')!;
        const answer = await page.request.post('/api/v1/session',
            { headers: { ...headers, 'x-xsrf-token': decodeURIComponent(known.value) },
            data: { email, password: 'varnsund' } });
        expect(answer.ok(), `sign-in: ${answer.status()}`).toBeTruthy();
    }
    sessions.set(email, await context.cookies());
}

/** Signs in and waits for the portfolio. */
export async function signIn(page: Page, name?: string): Promise<void> {
    await enter(page, name);
    await page.goto('/portfolio');
    await expect(page.getByRole('treegrid')).toBeVisible();
}

/** Opens a working set on the board and waits for its rows. */
export async function openBoard(page: Page, ...keys: string[]): Promise<void> {
    await page.goto(`/board?projects=${keys.join(',')}`);
    await expect(row(page, keys[0]!)).toBeVisible();
}

/** The row one of whose cells holds the text; the signs that come behind a name (`✓`, `◆ 1 ◇ 2`, `“3`) are none of it. */
export function row(page: Page, text: string): Locator {
    const exact = text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
    return page.getByRole('row').filter({ has: page.getByRole('gridcell')
        .filter({ hasText: new RegExp(`^\\s*[▾▸]?\\s*${exact}\\s*([✓“◆◇].*)?$`) }) });
}

/** A cell of a row by its place: 0 code, 1 name, 2 days, 3 start, 4 float. */
export function cell(page: Page, text: string, at: number): Locator {
    return row(page, text).getByRole('gridcell').nth(at);
}

/** Brings a row of the board into sight, as typing what it is called does; it is chosen then. */
export async function find(page: Page, text: string): Promise<Locator> {
    await page.getByRole('treegrid').press('f');
    await expect(page.locator('.find input')).toBeFocused();
    await page.keyboard.type(text);
    await expect(page.locator('.n-base-select-option').filter({ hasText: text }).first()).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(row(page, text)).toHaveAttribute('aria-selected', 'true');
    return row(page, text);
}

/** Scrolls until a row is in sight; only those that are have elements. Nothing of it is under way any more when it is. */
export async function sight(page: Page, wanted: Locator): Promise<Locator> {
    const scroller = page.getByRole('treegrid').locator('.scroller');
    const scrolled = (top: number): Promise<boolean> => scroller.evaluate(async (box, to) => {
        box.scrollTop = to;
        for (let i = 0; i < 2; i++) await new Promise((done) => requestAnimationFrame(() => setTimeout(done)));
        return box.scrollTop + box.clientHeight >= box.scrollHeight - 1;
    }, top);
    await expect(async () => {
        for (let top = 0, end = false; !end && (top === 0 || (await wanted.count()) === 0); top += 200) end = await scrolled(top);
        await expect(wanted).toBeVisible({ timeout: 300 });
    }).toPass();
    return wanted;
}

/** A point of a row's bar on the axis, found by its cursor as a person finds it: `grab` its body, `crosshair` a dot beside it. */
export async function onBar(page: Page, text: string, cursor: 'grab' | 'crosshair', after = 0): Promise<{ x: number; y: number }> {
    const canvas = page.locator('.axis canvas');
    const box = (await canvas.boundingBox())!;
    const b = (await row(page, text).boundingBox())!;
    const y = b.y + b.height / 2;
    for (let x = Math.max(box.x + 2, after); x < box.x + box.width; x += 2) {
        await page.mouse.move(x, y);
        if ((await canvas.evaluate((c: HTMLElement) => c.style.cursor)) === cursor) return { x, y };
    }
    throw new Error(`no ${cursor} on ${text}`);
}

/** Draws a link from the finish of one row's bar to the body of another's. */
export async function drawLink(page: Page, from: string, to: string): Promise<void> {
    const target = await onBar(page, to, 'grab');
    const body = await onBar(page, from, 'grab');
    const dot = await onBar(page, from, 'crosshair', body.x);
    await page.mouse.move(dot.x, dot.y);
    await page.mouse.down();
    await page.mouse.move(target.x + 2, target.y, { steps: 8 });
    await page.mouse.up();
}

/** A band of the portfolio; with its count where that matters. */
export const band = (page: Page, name: string, count?: number): Locator =>
    page.getByRole('row').filter({ has: page.getByRole('gridcell').filter({
        hasText: new RegExp(`${name}\\s+·\\s+${count ?? '\\d+'}$`) }) });

/** Types into a cell by keyboard alone: select the row, Enter on the column, text, Enter. */
export async function type(page: Page, rowText: string, at: number, text: string): Promise<void> {
    await cell(page, rowText, at).click();
    await page.keyboard.press('Enter');
    const editor = page.locator('input.editor');
    await expect(editor).toBeFocused();
    await editor.fill(text);
    await page.keyboard.press('Enter');
    await expect(editor).toHaveCount(0);
}

export function ripple(page: Page): Locator {
    return page.getByRole('status').last();
}

/** Reads from the API as the page does. */
export async function read<T>(page: Page, path: string): Promise<T> {
    const answer = await page.request.get(path, { headers: { referer: page.url() } });
    expect(answer.ok(), `${path}: ${answer.status()}`).toBeTruthy();
    return (await answer.json()) as T;
}

/** Chooses what the board's strip keeps under *more*. */
export async function more(page: Page, what: string): Promise<void> {
    await page.getByRole('button', { name: /^more/ }).click();
    await page.locator('.n-dropdown-option').filter({ hasText: new RegExp(`^${what}$`) }).click();
}

/** Chooses the branch of a new project, or of a file; none is guessed. */
export async function intoBranch(page: Page, name: string, around = page.getByRole('complementary')): Promise<void> {
    await around.locator('.n-tree-select, .tree').first().click();
    await page.keyboard.type(name);
    await page.locator('.n-tree-node-content').filter({ hasText: name }).first().click();
}

/** Gives the one door for files a file. */
export const bringIn = (page: Page, file: Parameters<Locator['setInputFiles']>[0]): Promise<void> =>
    page.locator('#x-file').setInputFiles(file);
/** Says which branch the projects of that file go into. */
export const fileInto = (page: Page, branch: string): Promise<void> => intoBranch(page, branch, page.locator('[data-test=import]'));
