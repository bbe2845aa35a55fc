import { patchTooLarge } from '@dial/core/api';
import { differencesOf, parseLevel, pointer, setAt, writeAt, type Level, type Problem } from '@dial/core/level';
import { enablePatches, original, produceWithPatches, type Patch } from 'immer';
import { applyPatch, type Operation } from 'rfc6902';
import { noteOrigin } from './origins.ts';

enablePatches();

/** Shows a level as a change would make it. */
export function previewed(level: Level, recipe: (draft: Level) => void): Level {
  const [next, steps] = produceWithPatches(level, recipe);
  noteOrigin(next, level, steps);
  return next;
}

/** One edit: what it is called, the guarded patch that makes it and the guarded patch that takes it back. */
export interface Change {
  readonly label: string;
  readonly forward: readonly Operation[];
  readonly backward: readonly Operation[];
}

type Edited = { readonly ok: true; readonly level: Level; readonly change: Change } | { readonly ok: false; readonly problem: Problem };

function operation({ op, path, value }: Patch): Operation {
  const at = pointer(path);
  return op === 'remove' ? { op, path: at } : { op, path: at, value: value as unknown };
}

/** Puts a `test` of the value that was before each step that replaces or removes one. */
function guarded(steps: readonly Patch[], before: readonly Patch[]): Operation[] {
  const old = new Map(before.map((step) => [pointer(step.path), step]));
  return steps.flatMap((step) => {
    const was = old.get(pointer(step.path));
    const test: Operation[] =
      step.op === 'add' || was?.op === 'remove' || was === undefined
        ? []
        : [{ op: 'test', path: pointer(step.path), value: was.value as unknown }];
    return [...test, operation(step)];
  });
}

/** Sets the value at a pointer of an immer draft of a level; `undefined` removes it. */
export function writeTo(draft: Level, path: string, value: unknown): void {
  writeAt(original<Level>(draft), draft, path, value);
}

/** Edits a level. A level that would not be valid is refused with its first problem, and nothing changes. */
export function edit(level: Level, label: string, recipe: (draft: Level) => void): Edited {
  let [next, steps, back] = produceWithPatches(level, recipe);
  const parsed = parseLevel(next);
  if (!parsed.ok) return { ok: false, problem: parsed.problems[0] ?? { path: '', message: 'not a valid level' } };
  // The schema fills in what was left out and trims names. That is what the server keeps, so it is part of the edit.
  const filled = differencesOf(next, parsed.value);
  if (filled.length > 0) {
    [next, steps, back] = produceWithPatches(level, (draft) => {
      recipe(draft);
      for (const { path, now } of filled) setAt(draft, path, now);
    });
  }
  noteOrigin(next, level, steps);
  const forward = guarded(steps, back);
  const backward = guarded([...back].reverse(), steps);
  const large = patchTooLarge(forward) ?? patchTooLarge(backward);
  if (large !== null) return { ok: false, problem: { path: '', message: large } };
  return { ok: true, level: next, change: { label, forward, backward } };
}

/** Applies a guarded patch; undefined when a guard does not hold or the result is not a valid level. */
export function applyGuarded(level: Level, operations: readonly Operation[]): Level | undefined {
  const copy = structuredClone(level);
  if (applyPatch(copy, [...operations]).some((error) => error !== null)) return undefined;
  const parsed = parseLevel(copy);
  return parsed.ok ? parsed.value : undefined;
}
