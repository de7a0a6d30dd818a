// Somebody at the API with a session of their own, for the load scripts and benchmarks.

/** Signs in and answers a function `call(method, path, body)` → {status, data, ms}; a body may be FormData. */
export async function session(url, email = 'ilse@varnsund.example') {
    const jar = new Map();
    const call = async (method, path, body) => {
        const headers = { Accept: 'application/json', Origin: url, Cookie: [...jar].map(([k, v]) => `${k}=${v}`).join('; ') };
        if (!(body instanceof FormData)) headers['Content-Type'] = 'application/json';
        if (jar.has('XSRF-TOKEN')) headers['X-XSRF-TOKEN'] = decodeURIComponent(jar.get('XSRF-TOKEN'));
        const begun = performance.now();
        const answer = await fetch(url + path, { method, headers, body: body instanceof FormData ? body : body && JSON.stringify(body) });
        for (const line of answer.headers.getSetCookie()) jar.set(...line.split(';')[0].split(/=(.*)/s).slice(0, 2));
        return { status: answer.status, data: await answer.json().catch(() => null), ms: performance.now() - begun };
    };
    await call('GET', '/sanctum/csrf-cookie');
    await call('POST', '/api/v1/session', { email, password: 'varnsund' });
    return call;
}

/** A token's function `call(method, path, body, at = url)`, path below /api/v1/. */
export async function bearer(url) {
    const call = await session(url);
    const { token } = (await call('POST', '/api/v1/tokens', { name: 'load', scopes: ['write', 'read'] })).data;
    return async (method, path, body, at = url) => {
        const begun = performance.now();
        const answer = await fetch(`${at}/api/v1/${path}`,
            { method, headers: { Accept: 'application/json', Authorization: `Bearer ${token}`, 'Content-Type': 'application/json' },
            body: body && JSON.stringify(body) });
        return { status: answer.status, data: await answer.json().catch(() => null), ms: performance.now() - begun };
    };
}

export const sorted = (times) => [...times].sort((a, b) => a - b);
export const median = (times) => sorted(times)[Math.floor(times.length / 2)] ?? 0;
