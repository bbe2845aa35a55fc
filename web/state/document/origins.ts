import { pointer, segmentsOf, valueAt, type Level } from '@dial/core/level';
import type { Patch } from 'immer';

/** Of a level that was made of another here: which, and at which places it was made another. */
interface Origin {
  readonly base: Level;
  readonly paths: readonly string[];
}

const origins = new WeakMap<Level, Origin>();

/** Notes at which places a level was made another: its patches are known when it is made, and need not be searched for. */
export function noteOrigin(level: Level, base: Level, steps: readonly Patch[]): void {
  if (level !== base) origins.set(level, { base, paths: steps.map(({ path }) => pointer(path)) });
}

/** Whether something stands where a path leads into. */
const hasParent = (level: Level, path: string): boolean => typeof valueAt(level, pointer(segmentsOf(path).slice(0, -1))) === 'object';

/**
 * What in a level is other than in another, by JSON Pointer (undefined: it is gone), where both come of one level, or one of
 * the other; null where that is not known, or a place in one has no place in the other.
 */
export function knownChanges(was: Level, now: Level): readonly { readonly path: string; readonly now: unknown }[] | null {
  const [from, to] = [origins.get(was), origins.get(now)];
  const [baseOfWas, baseOfNow] = [from?.base ?? was, to?.base ?? now];
  let paths: readonly string[];
  if (was === baseOfNow) paths = to?.paths ?? [];
  else if (now === baseOfWas) paths = from?.paths ?? [];
  else if (baseOfWas === baseOfNow) paths = [...(from?.paths ?? []), ...(to?.paths ?? [])];
  else return null;
  const all = [...new Set(paths)];
  if (all.some((path) => !hasParent(was, path) || !hasParent(now, path))) return null;
  return all.flatMap((path) => (valueAt(was, path) === valueAt(now, path) ? [] : [{ path, now: valueAt(now, path) }]));
}
