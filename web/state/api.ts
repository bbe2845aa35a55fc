import type { Level } from '@dial/core/level';
import { Run } from '@dial/core/players';
import type { Operation } from 'rfc6902';
import { z } from 'zod';

const document = z.custom<Level>((value) => typeof value === 'object' && value !== null && 'kinds' in value);
const LevelReply = z.object({ id: z.string(), revision: z.number(), document, updatedAt: z.string() });
const ListedLevel = LevelReply.extend({ latestRun: z.string().nullable() });
const Version = z.object({ id: z.number(), name: z.string(), document, createdAt: z.string() });
const RunEntry = z.object({ id: z.string(), name: z.string(), starred: z.boolean(), seconds: z.number(), createdAt: z.string() });
const Saved = z.object({ id: z.string(), revision: z.number() });
const Details = z.object({
  title: z.string(),
  detail: z.string(),
  revision: z.number().optional(),
  problems: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
});

export type ListedLevel = z.infer<typeof ListedLevel>;
export type LevelReply = z.infer<typeof LevelReply>;
export type Version = z.infer<typeof Version>;
export type RunEntry = z.infer<typeof RunEntry>;

/** The server refused, or could not be reached (status 0). The message is fit to be shown. */
export class ApiError extends Error {
  readonly status: number;
  readonly problems: readonly { readonly path: string; readonly message: string }[];

  constructor(status: number, message: string, problems: ApiError['problems'] = []) {
    super(message);
    this.name = 'ApiError';
    this.status = status;
    this.problems = problems;
  }
}

/** Why something failed, fit to be shown. */
export const reasonOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

async function call<Value>(schema: z.ZodType<Value>, path: string, init: RequestInit = {}): Promise<Value> {
  let response: Response;
  try {
    response = await fetch('/api' + path, init);
  } catch {
    throw new ApiError(0, 'Dial’s server cannot be reached. What is on screen is kept; it is sent as soon as the server answers.');
  }
  const body: unknown = await response.json().catch(() => null);
  if (!response.ok) {
    const details = Details.safeParse(body);
    if (!details.success) throw new ApiError(response.status, `The server answered ${String(response.status)}.`);
    throw new ApiError(response.status, details.data.detail, details.data.problems ?? []);
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
  listLevels: () => call(z.array(ListedLevel), '/levels'),
  /** Sends the text of a level file as it is; the server says what is wrong with it. */
  addLevel: (text: string, as: 'imported' | 'begun' | 'copied') => call(Saved, `/levels?as=${as}`, json('POST', text)),
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
  listVersions: (level: string) => call(z.array(Version), `/levels/${id(level)}/versions`),
  keepVersion: (level: string, name: string) => call(Version, `/levels/${id(level)}/versions`, json('POST', JSON.stringify({ name }))),
  deleteVersion: (level: string, version: number) =>
    call(z.null(), `/levels/${id(level)}/versions/${String(version)}`, { method: 'DELETE' }),
  restoreVersion: (level: string, version: number) =>
    call(z.null(), `/levels/${id(level)}/versions/${String(version)}/restore`, { method: 'POST' }),
  listRuns: (level: string) => call(z.array(RunEntry), `/levels/${id(level)}/runs`),
  getRun: (level: string, run: string) => call(RunEntry.extend({ run: Run }), `/levels/${id(level)}/runs/${id(run)}`),
  putRun: (level: string, run: string, body: Run) =>
    call(z.object({ id: z.string() }), `/levels/${id(level)}/runs/${id(run)}`, json('PUT', JSON.stringify(body))),
  changeRun: (level: string, run: string, change: { name?: string; starred?: boolean; deleted?: boolean }) =>
    call(RunEntry, `/levels/${id(level)}/runs/${id(run)}`, json('PATCH', JSON.stringify(change))),
  /** Keeps a picture; answers the hash it is known by. */
  async putPicture(file: Blob): Promise<string> {
    const bytes = await file.arrayBuffer();
    const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
    const hash = [...digest].map((byte) => byte.toString(16).padStart(2, '0')).join('');
    const init = { method: 'PUT', body: bytes, headers: { 'content-type': file.type === '' ? 'image/png' : file.type } };
    return (await call(z.object({ hash: z.string() }), `/pictures/${hash}`, init)).hash;
  },
};

/** Where a picture is fetched from. */
export const pictureUrl = (hash: string): string => `/api/pictures/${hash}`;
