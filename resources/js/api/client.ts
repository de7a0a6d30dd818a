import type { components } from './schema';

type Schemas = components['schemas'];
export type Problem = Schemas['Problem'];
export type Session = Schemas['Session'];
export type Portfolio = Schemas['Portfolio'];
export type PortfolioProject = Schemas['PortfolioProject'];
export type Band = Schemas['Band'];
export type Branch = Schemas['Branch'];
export type CodeSet = Schemas['CodeSet'];
export type CodeEntry = Schemas['CodeEntry'];
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
export type Job = Schemas['Job'];
export type Objects = Schemas['Objects'];
export type RemarkFields = Schemas['RemarkFields'];
export type Conflict = Schemas['Conflict'];
export type Person = Schemas['Person'];
export type UserList = Schemas['UserList'];

/** An answer that is a problem document (RFC 9457). */
export class ApiError extends Error {
    constructor(readonly problem: Problem) {
        super(problem.detail);
    }
}

/** Asks the user to sign in again while everything stays as it is; resolves to whether the same person did. Set by the session. */
let signInAgain: () => Promise<boolean> = () => Promise.resolve(false);
export function whenSignedOut(then: () => Promise<boolean>): void {
    signInAgain = then;
}

function cookie(name: string): string | null {
    const found = new RegExp(`(?:^|; )${name}=([^;]*)`).exec(document.cookie);
    return found ? decodeURIComponent(found[1]!) : null;
}

/** Problems after which it is not known whether a request was carried out. */
export function isUnknown(error: unknown): boolean {
    return error instanceof ApiError && [0, 502, 503, 504].includes(error.problem.status);
}

async function ask(method: string, path: string, body: unknown): Promise<Response> {
    if (method !== 'GET' && cookie('XSRF-TOKEN') === null) await fetch('/sanctum/csrf-cookie');
    const headers: Record<string, string> = { Accept: 'application/json' };
    const token = cookie('XSRF-TOKEN');
    if (method !== 'GET' && token) headers['X-XSRF-TOKEN'] = token;
    if (body !== undefined && !(body instanceof FormData)) headers['Content-Type'] = 'application/json';
    return fetch(`/api/v1/${path}`, { method, headers,
        body: body instanceof FormData ? body : body === undefined ? undefined : JSON.stringify(body) });
}

async function request<T>(method: string, path: string, body?: unknown): Promise<T> {
    let response: Response;
    try {
        response = await ask(method, path, body);
        if (response.status === 419) {
            // the session changed, and with it the token against forged requests: nothing was done, so ask again
            await fetch('/sanctum/csrf-cookie');
            response = await ask(method, path, body);
        }
        if (response.status === 401 && path !== 'session' && (await signInAgain())) response = await ask(method, path, body);
    } catch {
        throw new ApiError({ type: 'urn:reihe:problem:offline', title: 'Offline', status: 0,
            detail: method === 'GET' ? 'The server cannot be reached.'
            : 'The server cannot be reached; whether this was saved is not known yet.' });
    }
    if (response.status === 204) return undefined as T;
    const data: unknown = await response.json().catch(() => null);
    if (response.ok) return data as T;
    throw new ApiError((data as Problem | null)
        ?? { type: 'about:blank', title: 'Error', status: response.status, detail: `The server answered ${response.status}.` });
}

/** Sends a form with a file and tells how much of it has left, 0 … 1. */
function upload<T>(path: string, form: FormData, sent: (share: number) => void): Promise<T> {
    return new Promise((resolve, reject) => {
        const x = new XMLHttpRequest();
        x.open('POST', `/api/v1/${path}`);
        x.setRequestHeader('Accept', 'application/json');
        const token = cookie('XSRF-TOKEN');
        if (token) x.setRequestHeader('X-XSRF-TOKEN', token);
        x.upload.onprogress = (e) => { if (e.lengthComputable) sent(e.loaded / e.total); };
        // signed out or another session meanwhile: the usual way knows what to do
        x.onload = () => {
            if (x.status >= 200 && x.status < 300) resolve(JSON.parse(x.responseText) as T);
            else request<T>('POST', path, form).then(resolve, reject);
        };
        x.onerror = () => request<T>('POST', path, form).then(resolve, reject);
        x.send(form);
    });
}

export const api = {
    get: <T>(path: string) => request<T>('GET', path),
    post: <T>(path: string, body: unknown = {}) => request<T>('POST', path, body),
    patch: <T>(path: string, body: unknown) => request<T>('PATCH', path, body),
    put: <T>(path: string, body: unknown) => request<T>('PUT', path, body),
    upload,
    delete: (path: string) => request<void>('DELETE', path),
};

/** The text to show for whatever was thrown. */
export function messageOf(error: unknown): string {
    return error instanceof Error ? error.message : String(error);
}
