// Lens: a small reporting tool beside Reihe, as a reader of its OData feed would have one. Shares no code with it: it knows the feed's
// address and a token, and asks with a general-purpose client. Keeps nothing.
// node lens/server.mjs PORT FEED-ADDRESS
import { createServer } from 'node:http';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { o } from 'odata';

const [port, feed] = [Number(process.argv[2]), process.argv[3]];
const require = createRequire(import.meta.url);
const here = (name) => new URL(name, import.meta.url);
const FILES = {
    '/': [here('page.html'), 'text/html; charset=utf-8'],
    '/page.js': [here('page.js'), 'text/javascript'],
    '/echarts.js': [require.resolve('echarts/dist/echarts.min.js'), 'text/javascript'],
};

const HEADERS = { 'Cache-Control': 'no-store', 'X-Content-Type-Options': 'nosniff', 'X-Frame-Options': 'DENY',
    'Content-Security-Policy': "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; object-src 'none'; "
        + "base-uri 'none'; form-action 'self'; frame-ancestors 'none'",
    'Referrer-Policy': 'same-origin', 'Permissions-Policy': 'camera=(), microphone=(), geolocation=()',
    'Cross-Origin-Opener-Policy': 'same-origin' };

/** All rows, page by page. */
async function all(token, resource, query) {
    const headers = { Authorization: `Bearer ${token}`, Accept: 'application/json', Prefer: 'odata.maxpagesize=5000' };
    const rows = [];
    let answer = await o(feed, { headers }).get(resource).query(query);
    for (;;) {
        // the client gives the value alone, or the whole answer where it links to more
        const more = Array.isArray(answer) ? undefined : answer['@odata.nextLink'];
        rows.push(...(Array.isArray(answer) ? answer : answer.value));
        if (!more) return rows;
        answer = await (await fetch(more, { headers })).json();
    }
}

/** What the two charts show. */
async function report(token) {
    const ask = { fragment: '' };
    const projects = await all(token, 'Projects', { $select: 'Key,Name,Deadline,DeadlineMarginHours,Finish', $orderby: 'DeadlineMarginHours',
        $filter: 'Deadline ne null', ...ask });
    const work = await all(token, 'Activities', { $apply: "filter(Kind eq 'task' and ActualFinish eq null)/groupby((ProjectKey,Critical),"
        + 'aggregate(DurationHours with sum as Hours,$count as Number))', ...ask });
    return { projects, work };
}

createServer(async (request, response) => {
    const send = (status, type, body) => {
        response.writeHead(status, { 'Content-Type': type, ...HEADERS });
        response.end(body);
    };
    try {
        const file = FILES[request.url];
        if (request.method === 'GET' && file) return send(200, file[1], await readFile(file[0]));
        if (request.method === 'POST' && request.url === '/report') {
            const parts = [];
            for await (const part of request) parts.push(part);
            const token = Buffer.concat(parts).toString().slice(0, 300).trim();
            return send(200, 'application/json', JSON.stringify(await report(token)));
        }
        return send(404, 'text/plain', 'There is nothing here.');
    } catch (e) {
        const status = e?.status ?? 502;
        const why = e?.json ? (await e.json().catch(() => null))?.error?.message : e?.message;
        return send(status, 'text/plain; charset=utf-8', why ?? 'The feed does not answer.');
    }
}).listen(port, '127.0.0.1');
