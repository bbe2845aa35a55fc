import { z } from 'zod';
import { Level, LEVEL_FORMAT } from './schema.ts';

/** Something wrong in a document: where (a JSON Pointer, RFC 6901) and what. */
export interface Problem {
  readonly path: string;
  readonly message: string;
}

export type Parsed<Value> = { readonly ok: true; readonly value: Value } | { readonly ok: false; readonly problems: Problem[] };

const MOST_PROBLEMS = 50;

/** `['kinds', 'a/b']` → `/kinds/a~1b`. */
export function pointer(segments: readonly PropertyKey[]): string {
  return segments.map((segment) => '/' + String(segment).replaceAll('~', '~0').replaceAll('/', '~1')).join('');
}

function problemsOf(error: z.ZodError): Problem[] {
  return error.issues.slice(0, MOST_PROBLEMS).map((issue) => ({ path: pointer(issue.path), message: issue.message }));
}

/** The entry of a map, never something inherited from Object. */
export function entry<Value>(map: Readonly<Record<string, Value>>, id: string): Value | undefined {
  return Object.hasOwn(map, id) ? map[id] : undefined;
}

/** Ids that point nowhere, and the meters every level has. */
function checkReferences(level: Level): Problem[] {
  const problems: Problem[] = [];
  const miss = (path: PropertyKey[], what: string, id: string): void => {
    problems.push({ path: pointer(path), message: `there is no ${what} "${id}"` });
  };
  for (const always of ['health', 'score']) {
    if (entry(level.meters, always) === undefined) miss(['meters'], 'meter', always);
  }
  for (const [id, placement] of Object.entries(level.placements)) {
    if (entry(level.kinds, placement.kind) === undefined) miss(['placements', id, 'kind'], 'kind', placement.kind);
    const path = placement.travel?.path;
    if (path !== undefined && entry(level.paths, path) === undefined) {
      miss(['placements', id, 'travel', 'path'], 'path', path);
    }
  }
  for (const [kindId, kind] of Object.entries(level.kinds)) {
    for (const [ruleId, rule] of Object.entries(kind.rules)) {
      const uses = [
        ...Object.entries(rule.provided).map(([id, { meter }]) => ({ part: 'provided', id, meter })),
        ...Object.entries(rule.effects).map(([id, { meter }]) => ({ part: 'effects', id, meter })),
      ];
      for (const { part, id, meter } of uses) {
        if (entry(level.meters, meter) === undefined) miss(['kinds', kindId, 'rules', ruleId, part, id, 'meter'], 'meter', meter);
      }
    }
  }
  for (const [id, path] of Object.entries(level.paths)) {
    if (roundSeconds(path) * level.rate < 1) {
      problems.push({ path: pointer(['paths', id]), message: 'a round of this path takes less than one step' });
    }
  }
  return problems.slice(0, MOST_PROBLEMS);
}

/** Seconds one round of a path takes, pauses included. */
export function roundSeconds(path: Level['paths'][string]): number {
  let length = 0;
  let pauses = 0;
  const points = path.wayPoints;
  points.forEach((point, index) => {
    const next = points[index + 1] ?? (path.round === 'loop' ? points[0] : undefined);
    if (next !== undefined) length += Math.sqrt((next.x - point.x) * (next.x - point.x) + (next.y - point.y) * (next.y - point.y));
    const between = index > 0 && index < points.length - 1;
    pauses += path.round === 'back and forth' && between ? 2 * point.pause : point.pause;
  });
  return ((path.round === 'loop' ? 1 : 2) * length) / path.speed + pauses;
}

/** Brings a document of an older format up to the present one. Format 1 is the first, so nothing changes yet. */
export function migrate(document: unknown): Parsed<unknown> {
  const format = z.object({ format: z.number() }).safeParse(document);
  if (!format.success) {
    return { ok: false, problems: [{ path: '/format', message: 'this is not a Dial level: it states no format number' }] };
  }
  if (format.data.format !== LEVEL_FORMAT) {
    const message = `format ${String(format.data.format)} is not one this version reads (it reads ${String(LEVEL_FORMAT)})`;
    return { ok: false, problems: [{ path: '/format', message }] };
  }
  return { ok: true, value: document };
}

/** Reads a level document of any known format. Nothing is kept of a document that has a problem. */
export function parseLevel(document: unknown): Parsed<Level> {
  const migrated = migrate(document);
  if (!migrated.ok) return migrated;
  const parsed = Level.safeParse(migrated.value);
  if (!parsed.success) return { ok: false, problems: problemsOf(parsed.error) };
  const problems = checkReferences(parsed.data);
  return problems.length > 0 ? { ok: false, problems } : { ok: true, value: parsed.data };
}

/** Reads JSON text, with a plain message when it is none. */
export function parseJson(text: string): Parsed<unknown> {
  try {
    return { ok: true, value: JSON.parse(text) };
  } catch (error) {
    return { ok: false, problems: [{ path: '', message: `not JSON: ${error instanceof Error ? error.message : String(error)}` }] };
  }
}

/** Reads a level from JSON text. */
export function parseLevelText(text: string): Parsed<Level> {
  const document = parseJson(text);
  return document.ok ? parseLevel(document.value) : document;
}

/** Checks any other document against its schema, with the same kind of answer. */
export function parseWith<Value>(schema: z.ZodType<Value>, document: unknown): Parsed<Value> {
  const parsed = schema.safeParse(document);
  return parsed.success ? { ok: true, value: parsed.data } : { ok: false, problems: problemsOf(parsed.error) };
}
