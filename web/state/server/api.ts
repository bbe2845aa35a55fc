import {
  Health,
  LevelEntry,
  LevelReply,
  ProblemDetails,
  RunEntry,
  StudyEntry,
  StudyReply,
  type RunChange,
  type StudyAsked,
  type StudyChange,
  Saved,
  VersionEntry,
  VersionReply,
} from '@dial/core/api';
import { Run } from '@dial/core/players';
import { sha256Of } from '../../browser/sha256.ts';
import type { Operation } from 'rfc6902';
import { z } from 'zod';

export type { LevelEntry, RunEntry, StudyChange, StudyEntry, StudyReply, VersionEntry } from '@dial/core/api';

/** The server refused, or could not be reached (status 0). The message is fit to be shown. */
export class ApiError extends Error {
  readonly status: number;
  readonly problems: readonly { readonly path: string; readonly message: string }[];
  /** The revision the level has now, when a save was refused for it. */
  readonly revision: number | undefined;

  constructor(status: number, message: string, { problems, revision }: Partial<ProblemDetails> = {}) {
    super(message);
    this.name = 'ApiError';
    this.status = status;
    this.problems = problems ?? [];
    this.revision = revision;
  }
}

/** The page on which the token is asked for. */
export const SIGN_IN = '/sign-in';

/** Leaves for the page that asks for the token; what is not saved yet is kept in the browser. */
function signIn(): void {
  if (location.pathname !== SIGN_IN) location.assign(`${SIGN_IN}?to=${encodeURIComponent(location.pathname + location.search)}`);
}

async function call<Value>(schema: z.ZodType<Value>, path: string, init: RequestInit = {}): Promise<Value> {
  let response: Response;
  try {
    response = await fetch('/api' + path, init);
  } catch {
    throw new ApiError(0, 'Dial’s server cannot be reached. What is on screen is kept; it is sent as soon as the server answers.');
  }
  const body: unknown = await response.json().catch(() => null);
  if (!response.ok) {
    if (response.status === 401) signIn();
    const details = ProblemDetails.safeParse(body);
    if (!details.success) throw new ApiError(response.status, `The server answered ${String(response.status)}.`);
    throw new ApiError(response.status, details.data.detail, details.data);
  }
  const parsed = schema.safeParse(body);
  if (!parsed.success) throw new ApiError(502, 'The server sent an answer this page does not understand. Load the page again.');
  return parsed.data;
}

const json = (method: string, body: string, headers: Record<string, string> = {}): RequestInit => ({
  method,
  body,
  headers: { 'content-type': 'application/json', ...headers },
});

const id = encodeURIComponent;

export const api = {
  health: () => call(Health, '/health'),
  listLevels: () => call(z.array(LevelEntry), '/levels'),
  signIn: (token: string) => call(z.null(), '/session', json('POST', JSON.stringify({ token }))),
  /** Sends the text of a level file as it is; the server says what is wrong with it. The same key adds one level only. */
  addLevel: (text: string, as: 'imported' | 'begun' | 'copied', key: string) =>
    call(Saved, `/levels?as=${as}`, json('POST', text, { 'idempotency-key': key })),
  deleteLevel: (level: string) => call(z.null(), `/levels/${id(level)}`, { method: 'DELETE' }),
  restoreLevel: (level: string) => call(z.null(), `/levels/${id(level)}/restore`, { method: 'POST' }),
  getLevel: (level: string) => call(LevelReply, `/levels/${id(level)}`),
  patchLevel: (level: string, revision: number, key: string, operations: readonly Operation[], keepalive = false) =>
    call(Saved, `/levels/${id(level)}`, {
      ...json('PATCH', JSON.stringify(operations), {
        'content-type': 'application/json-patch+json',
        'if-match': `"${String(revision)}"`,
        'idempotency-key': key,
      }),
      keepalive,
    }),
  listVersions: (level: string) => call(z.array(VersionEntry), `/levels/${id(level)}/versions`),
  getVersion: (level: string, version: number) => call(VersionReply, `/levels/${id(level)}/versions/${String(version)}`),
  keepVersion: (level: string, name: string, key: string) =>
    call(VersionEntry, `/levels/${id(level)}/versions`, json('POST', JSON.stringify({ name }), { 'idempotency-key': key })),
  deleteVersion: (level: string, version: number) =>
    call(z.null(), `/levels/${id(level)}/versions/${String(version)}`, { method: 'DELETE' }),
  restoreVersion: (level: string, version: number) =>
    call(z.null(), `/levels/${id(level)}/versions/${String(version)}/restore`, { method: 'POST' }),
  listRuns: (level: string) => call(z.array(RunEntry), `/levels/${id(level)}/runs`),
  getRun: (level: string, run: string) => call(RunEntry.extend({ run: Run }), `/levels/${id(level)}/runs/${id(run)}`),
  putRun: (level: string, run: string, body: Run) =>
    call(z.object({ id: z.string() }), `/levels/${id(level)}/runs/${id(run)}`, json('PUT', JSON.stringify(body))),
  changeRun: (level: string, run: string, change: RunChange) =>
    call(RunEntry, `/levels/${id(level)}/runs/${id(run)}`, json('PATCH', JSON.stringify(change))),
  listStudies: (level: string) => call(z.array(StudyEntry), `/levels/${id(level)}/studies`),
  getStudy: (level: string, study: string) => call(StudyReply, `/levels/${id(level)}/studies/${id(study)}`),
  putStudy: (level: string, study: string, asked: StudyAsked) =>
    call(StudyEntry, `/levels/${id(level)}/studies/${id(study)}`, json('PUT', JSON.stringify(asked))),
  changeStudy: (level: string, study: string, change: StudyChange) =>
    call(StudyEntry, `/levels/${id(level)}/studies/${id(study)}`, json('PATCH', JSON.stringify(change))),
  resumeStudy: (level: string, study: string) => call(StudyEntry, `/levels/${id(level)}/studies/${id(study)}/resume`, { method: 'POST' }),
  cancelStudy: (level: string, study: string) => call(StudyEntry, `/levels/${id(level)}/studies/${id(study)}/cancel`, { method: 'POST' }),
  /** Keeps a picture; answers the hash it is known by. */
  async putPicture(file: Blob): Promise<string> {
    const bytes = await file.arrayBuffer();
    const hash = sha256Of(bytes);
    const init = { method: 'PUT', body: bytes, headers: { 'content-type': file.type === '' ? 'image/png' : file.type } };
    return (await call(z.object({ hash: z.string() }), `/pictures/${hash}`, init)).hash;
  },
};

/** Where a picture is fetched from. */
export const pictureUrl = (hash: string): string => `/api/pictures/${hash}`;
