import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type Problem = Schemas['Problem'];
export type Session = Schemas['Session'];
export type Portfolio = Schemas['Portfolio'];
export type WaysOut = Schemas['WaysOut'];
export type Levelled = Schemas['Levelled'];
export type Criterion = Schemas['Criterion'];
export type PortfolioProject = Schemas['PortfolioProject'];
export type Band = Schemas['Band'];
export type Branch = Schemas['Branch'];
export type CodeSet = Schemas['CodeSet'];
export type CodeEntry = Schemas['CodeEntry'];
export type CodeSetList = Schemas['CodeSetList'];
export type ViewColumn = Schemas['ViewColumn'];
export type OwnField = Schemas['OwnField'];
export type Source = Schemas['Source'];
export type BoardArrangement = Schemas['BoardArrangement'];
export type BoardCodes = Schemas['BoardCodes'];
export type Copied = Schemas['Copied'];
export type LevelScheme = Schemas['LevelScheme'];
export type LevelCode = Schemas['LevelCode'];
export type FragmentDetails = Schemas['FragmentDetails'];
export type Composed = Schemas['Composed'];
export type Pasted = Schemas['Pasted'];
export type SavedView = Schemas['SavedView'];
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
export type Sheets = Schemas['Sheets'];
export type Token = Schemas['Token'];
export type Subscription = Schemas['Subscription'];
export type Resources = Schemas['Resources'];
export type Load = Schemas['Load'];
export type BoardAssignments = Schemas['BoardAssignments'];
export type BoardResource = Schemas['BoardAssignments']['resources'][number];
/** An assignment of an activity on the board; work in minutes, intensity and quantity in thousandths (of a percent, of a unit). */
export interface Assigned { uid: string; activity: string; resource: string | null; intensity: number | null; remainingWork: number | null;
    actualWork: number | null; quantity: number | null; perHour: boolean; spread: 'even' | 'front' | 'back' | 'bell' | 'hand';
    offset: number;
    cost: number | null }
export type SearchAnswer = Schemas['SearchAnswer'];
export type Operation = Schemas['Operation'];
export type Job = Schemas['Job'];
export type Notices = Schemas['Notices'];
export type Draft = Schemas['Draft'];
export type ProposalBoard = Schemas['ProposalBoard'];
export type DraftBoard = Schemas['DraftBoard'];
export type History = Schemas['History'];
export type Steps = Schemas['Steps'];
export type Deleted = Schemas['Deleted'];
export type SinceColumns = Schemas['SinceColumns'];
export type Objects = Schemas['Objects'];
export type Remark = Schemas['Remarks']['remarks'][number];
export type AssignmentFields = Schemas['AssignmentFields'];
export type OpenEndFields = Schemas['OpenEndFields'];
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

/** Milliseconds after which a change that nobody answered counts as not known. */
const ANSWERED = 30_000;

/** Those who want to know that something was written, whoever asked for it. */
const writtenTo = new Set<(path: string) => void>();
export function whenWritten(then: (path: string) => void): () => void {
    writtenTo.add(then);
    return () => writtenTo.delete(then);
}

/** Sends a request with what the server asks for; again when only the session had to be renewed. */
async function send(request: Request): Promise<Response> {
    const attempt = (): Promise<Response> => {
        const copy = request.clone();
        const token = cookie('XSRF-TOKEN');
        if (copy.method !== 'GET' && token) copy.headers.set('X-XSRF-TOKEN', token);
        // a file may be under way for long
        const patient = copy.method === 'GET' || copy.headers.get('Content-Type')?.startsWith('multipart/');
        return fetch(copy, patient ? {} : { signal: AbortSignal.any([copy.signal, AbortSignal.timeout(ANSWERED)]) });
    };
    try {
        if (request.method !== 'GET' && cookie('XSRF-TOKEN') === null) await fetch('/sanctum/csrf-cookie');
        let response = await attempt();
        if (response.status === 419) {
            // the session changed, and with it the token against forged requests: nothing was done, so ask again
            await fetch('/sanctum/csrf-cookie');
            response = await attempt();
        }
        if (response.status === 401 && !request.url.endsWith('/api/v1/session') && (await signInAgain())) response = await attempt();
        if (request.method !== 'GET' && response.ok) writtenTo.forEach((then) => then(new URL(request.url).pathname));
        return response;
    } catch {
        throw new ApiError({ type: 'urn:reihe:problem:offline', title: 'Offline', status: 0,
            detail: request.method === 'GET' ? 'The server cannot be reached.'
                : 'The server cannot be reached; whether this was saved is not known yet.' });
    }
}

/** Paths, parameters, bodies and answers as `docs/openapi.yaml` describes them. */
export const http = createClient<paths>({ baseUrl: '/api/v1', headers: { Accept: 'application/json' }, fetch: send });

/** What was answered; a problem is thrown. */
export async function ask<T>(sent: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
    const { data, error, response } = await sent;
    if (response.ok) return data as T;
    throw new ApiError(typeof error === 'object' && error !== null ? (error as Problem)
        : { type: 'about:blank', title: 'Error', status: response.status, detail: `The server answered ${response.status}.` });
}

/** What the OData feed answers to those who are signed in; a path with its query, as its own standard writes them. */
export async function feed(path: string): Promise<Record<string, unknown>> {
    const response = await send(new Request(`/api/v1/odata/${path}`, { headers: { Accept: 'application/json' } }));
    const data = await response.json().catch(() => null) as Record<string, unknown> | null;
    return ask(Promise.resolve(response.ok && data ? { data, response } : { error: data, response }));
}

/** Sends a form with a file and tells how much of it has left, 0 … 1. */
export function upload(form: FormData, sent: (share: number) => void): Promise<ImportPreview | Job> {
    const again = () => ask(http.POST('/exchange/import', { body: form as never, bodySerializer: (body) => body as unknown as FormData }));
    return new Promise((resolve, reject) => {
        const x = new XMLHttpRequest();
        x.open('POST', '/api/v1/exchange/import');
        x.setRequestHeader('Accept', 'application/json');
        const token = cookie('XSRF-TOKEN');
        if (token) x.setRequestHeader('X-XSRF-TOKEN', token);
        x.upload.onprogress = (e) => { if (e.lengthComputable) sent(e.loaded / e.total); };
        // signed out or another session meanwhile: the usual way knows what to do
        x.onload = () => {
            if (x.status >= 200 && x.status < 300) resolve(JSON.parse(x.responseText) as ImportPreview | Job);
            else again().then(resolve, reject);
        };
        x.onerror = () => again().then(resolve, reject);
        x.send(form);
    });
}

/** The text to show for whatever was thrown. */
export function messageOf(error: unknown): string {
    return error instanceof Error ? error.message : String(error);
}
