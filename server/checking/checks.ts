/**
 * What is checked of a body before it is kept. It runs in threads of its own (`checker`), since a body may be made so
 * that checking it takes long. Texts of JSON go in and out: nothing large is read by the server's own thread.
 */
import { createHash } from 'node:crypto';
import { gunzipSync, gzipSync } from 'node:zlib';
import { JsonPatch, LEVEL_BYTES, RUN_ENTRIES } from '@dial/core/api';
import { canonicalText, documentHash, levelJsonSchema, parseLevel, parseWith, type Level, type Parsed } from '@dial/core/level';
import { Run, withEvents, type Outside } from '@dial/core/players';
import { askingOf, crowdProblems, judgingCost, judgingProblems, sessionCount, type CrowdSettings, type Judging } from '@dial/core/studies';
import { z } from 'zod';
import { applyWithin } from './patching.ts';
import { readJson, type Checked } from './reading.ts';

const checked = <Value>(parsed: Parsed<Value>): Checked<Value> =>
  parsed.ok ? parsed : { ok: false, what: 'not valid', problems: parsed.problems };

/** A level as the text that is kept: every default filled in. */
function levelText(level: Level): Checked<string> {
  const text = JSON.stringify(level);
  return Buffer.byteLength(text) <= LEVEL_BYTES
    ? { ok: true, value: text }
    : { ok: false, what: 'not valid', problems: [{ path: '', message: `a level has at most ${String(LEVEL_BYTES / 1024 / 1024)} MB` }] };
}

/** Reads a level from the bytes of its JSON; answers the text to be kept. */
export function readLevel(bytes: Uint8Array): Checked<string> {
  const document = readJson(bytes);
  if (!document.ok) return document;
  const level = checked(parseLevel(document.value));
  return level.ok ? levelText(level.value) : level;
}

/** Applies a JSON Patch to the text of a level; answers the texts of both as they are to be kept. */
export function patchLevel({ document, patch }: { readonly document: string; readonly patch: Uint8Array }): Checked<{
  readonly document: string;
  readonly operations: string;
}> {
  const body = readJson(patch);
  if (!body.ok) return body;
  const operations = checked(parseWith(JsonPatch, body.value));
  if (!operations.ok) return operations;
  const changed: unknown = JSON.parse(document);
  const applied = applyWithin(changed, operations.value);
  if (!applied.ok) return { ok: false, what: applied.clash ? 'clash' : 'not valid', problems: [applied] };
  const level = checked(parseLevel(changed));
  if (!level.ok) return level;
  const text = levelText(level.value);
  return text.ok ? { ok: true, value: { document: text.value, operations: JSON.stringify(operations.value) } } : text;
}

export interface CheckedRun {
  /** The gzipped text of its JSON. */
  readonly bytes: Uint8Array;
  /** Digest of all but the name, which may be changed later. */
  readonly content: string;
  readonly name: string;
  readonly level: string;
  readonly rate: number;
  readonly simulation: number;
  readonly steps: number;
}

/** Reads a run from the bytes of its JSON; answers the bytes to be kept, and what lists say of it. */
export function readRun(body: Uint8Array): Checked<CheckedRun> {
  const document = readJson(body, RUN_ENTRIES);
  if (!document.ok) return document;
  const run = checked(parseWith(Run, document.value));
  return run.ok ? { ok: true, value: packed(run.value) } : run;
}

function packed(run: Run): CheckedRun {
  const { name, ...rest } = run;
  const { level, rate, simulation, steps } = rest;
  const content = createHash('sha256').update(JSON.stringify(rest)).digest('hex');
  const bytes = new Uint8Array(gzipSync(JSON.stringify(run), { level: 1 }));
  return { bytes, content, name, level, rate, simulation, steps };
}

/** A kept run with other events from outside. */
export function runWithEvents({ events, ...kept }: KeptRun & { readonly events: readonly Outside[] }): Checked<CheckedRun> {
  const text = runText(kept);
  if (!text.ok) return text;
  const run = checked(parseWith(Run, JSON.parse(text.value)));
  return run.ok ? { ok: true, value: packed(withEvents(run.value, events)) } : run;
}

/** A run as the database keeps it. */
interface KeptRun {
  readonly bytes: Uint8Array;
  readonly name: string;
}

/** The text of a run's JSON as it is kept, under the name it has now. */
export function runText({ bytes, name }: KeptRun): Checked<string> {
  // Runs kept by an older version that could not be read anew are plain text.
  const gzipped = bytes[0] === 0x1f && bytes[1] === 0x8b;
  const text = (gzipped ? gunzipSync(bytes) : Buffer.from(bytes)).toString('utf8');
  const run = JSON.parse(text) as object;
  return { ok: true, value: JSON.stringify({ ...run, name }) };
}

/** What a study asks for, checked against the text of the level it is to be played on; answers the text of its settings. */
export function readStudy({ document, settings }: { readonly document: string; readonly settings: CrowdSettings | Judging }): Checked<{
  readonly settings: string;
  readonly sessions: number;
  /** By which version of its sort its parts are asked for. */
  readonly asking: number;
  /** Names of versions that it speaks of. */
  readonly versions: readonly string[];
}> {
  const level = checked(parseLevel(JSON.parse(document)));
  if (!level.ok) return level;
  const judged = 'kind' in settings;
  const found = judged ? judgingProblems(level.value, settings) : crowdProblems(level.value, settings);
  const problems = found.map((one) => ({ ...one, path: `/settings${one.path}` }));
  if (problems.length > 0) return { ok: false, what: 'not valid', problems };
  const sessions = judged ? judgingCost(level.value, settings) : sessionCount(settings);
  const targets = judged && settings.kind === 'check' ? Object.values(level.value.targets) : [];
  const versions = [...new Set(targets.flatMap(({ than }) => (than === null ? [] : [than])))];
  return { ok: true, value: { settings: JSON.stringify(settings), sessions, asking: askingOf(settings), versions } };
}

/** A study as it is answered: its entry, the levels and all parts, put together of their texts. */
export function studyText({
  entry,
  document,
  versions,
  judged,
  parts,
}: {
  readonly entry: string;
  readonly document: string;
  readonly versions: string;
  readonly judged: boolean;
  readonly parts: readonly { readonly first: number; readonly summary: Uint8Array }[];
}): Checked<string> {
  const texts = parts.map(({ first, summary }) => {
    const text = gunzipSync(summary).toString('utf8');
    return judged ? `{"part":${String(first)},"answer":${text}}` : text;
  });
  const [summaries, answers] = judged ? ['', texts.join(',')] : [texts.join(','), ''];
  const value = `${entry.slice(0, -1)},"document":${document},"versions":${versions},"parts":[${summaries}],"answers":[${answers}]}`;
  return { ok: true, value };
}

/** What tells documents written now from those written by another version: it is another when a field is. */
export function presentDocuments(): Checked<string> {
  return { ok: true, value: documentHash([levelJsonSchema(), z.toJSONSchema(Run, { unrepresentable: 'any' })]) };
}

/** Brings the text of a stored level up to the present format; null when it is there already. */
export function upToDate(text: string): Checked<string | null> {
  const document: unknown = JSON.parse(text);
  const parsed = checked(parseLevel(document));
  if (!parsed.ok) return parsed;
  return { ok: true, value: canonicalText(parsed.value) === canonicalText(document) ? null : JSON.stringify(parsed.value) };
}

/** Plays part of a log of patches over a level; answers the text it leads to. One that does not fit is no log of it. */
export function replay({ document, patches }: { readonly document: string; readonly patches: readonly string[] }): Checked<string> {
  let level: unknown = JSON.parse(document);
  for (const text of patches) {
    const applied = applyWithin(level, JsonPatch.parse(JSON.parse(text)));
    if (!applied.ok) return { ok: false, what: 'clash', problems: [applied] };
    const parsed = checked(parseLevel(level));
    if (!parsed.ok) return parsed;
    level = structuredClone(parsed.value);
  }
  return { ok: true, value: JSON.stringify(level) };
}

/** Whether two texts are of the same document, in whatever order their fields stand. */
export function sameDocument([one, other]: readonly [string, string]): Checked<boolean> {
  return { ok: true, value: canonicalText(JSON.parse(one)) === canonicalText(JSON.parse(other)) };
}
