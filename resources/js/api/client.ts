import type { components } from './schema';

type Schemas = components['schemas'];
export type Problem = Schemas['Problem'];
export type Session = Schemas['Session'];
export type Portfolio = Schemas['Portfolio'];
export type PortfolioProject = Schemas['PortfolioProject'];
export type Band = Schemas['Band'];
export type Branch = Schemas['Branch'];
export type CodeSet = Schemas['CodeSet'];
export type CodeValue = Schemas['CodeValue'];
export type BoardData = Schemas['Board'];
export type BoardProject = Schemas['BoardProject'];
export type BoardDelta = Schemas['BoardDelta'];
export type Ripple = Schemas['Ripple'];
export type ChangeAnswer = Schemas['ChangeAnswer'];
export type Reasons = Schemas['Reasons'];
export type Wait = Schemas['Wait'];
export type Trace = Schemas['Trace'];
export type TraceStep = Schemas['TraceStep'];
export type FloatPaths = Schemas['FloatPaths'];
export type ProgressAnswer = Schemas['ProgressAnswer'];
export type Report = Schemas['Report'];
export type Baseline = Schemas['Baseline'];
export type BaselineList = Schemas['BaselineList'];
export type Comparison = Schemas['Comparison'];
export type Variance = Schemas['Variance'];
export type Health = Schemas['Health'];
export type Finding = Schemas['Finding'];
export type Checks = Schemas['Checks'];
export type ImportPreview = Schemas['ImportPreview'];
export type Token = Schemas['Token'];
export type SearchAnswer = Schemas['SearchAnswer'];
export type Operation = Schemas['Operation'];

/** An answer that is a problem document (RFC 9457). */
export class ApiError extends Error {
    constructor(readonly problem: Problem) {
        super(problem.detail);
    }
}

/** Where the user is sent when the session has ended. Set by the router. */
let onSignedOut: () => void = () => undefined;
export function whenSignedOut(then: () => void): void {
    onSignedOut = then;
}

function cookie(name: string): string | null {
    const found = new RegExp(`(?:^|; )${name}=([^;]*)`).exec(document.cookie);
    return found ? decodeURIComponent(found[1]!) : null;
}

async function request<T>(method: string, path: string, body?: unknown): Promise<T> {
    if (method !== 'GET' && cookie('XSRF-TOKEN') === null) await fetch('/sanctum/csrf-cookie');
    const headers: Record<string, string> = { Accept: 'application/json' };
    const token = cookie('XSRF-TOKEN');
    if (method !== 'GET' && token) headers['X-XSRF-TOKEN'] = token;
    if (body !== undefined && !(body instanceof FormData)) headers['Content-Type'] = 'application/json';
    let response: Response;
    try {
        response = await fetch(`/api/v1/${path}`, { method, headers, body: body instanceof FormData ? body : body === undefined ? undefined : JSON.stringify(body) });
    } catch {
        throw new ApiError({ type: 'urn:reihe:problem:offline', title: 'Offline', status: 0, detail: 'The server cannot be reached; nothing was changed.' });
    }
    if (response.status === 204) return undefined as T;
    const data: unknown = await response.json().catch(() => null);
    if (response.ok) return data as T;
    if (response.status === 401) onSignedOut();
    throw new ApiError((data as Problem | null) ?? { type: 'about:blank', title: 'Error', status: response.status, detail: `The server answered ${response.status}.` });
}

export const api = {
    get: <T>(path: string) => request<T>('GET', path),
    post: <T>(path: string, body: unknown = {}) => request<T>('POST', path, body),
    patch: <T>(path: string, body: unknown) => request<T>('PATCH', path, body),
    put: <T>(path: string, body: unknown) => request<T>('PUT', path, body),
    delete: (path: string) => request<void>('DELETE', path),
};

/** The text to show for whatever was thrown. */
export function messageOf(error: unknown): string {
    return error instanceof Error ? error.message : String(error);
}
