import { writeAll, type Write } from '@dial/core/formats';
import { broughtBy, entry, forgetAt, pathsOf, segmentsOf, type Level } from '@dial/core/level';
import isEqual from 'fast-deep-equal';
import { newId } from '../../browser/ids.ts';
import { questionAbout } from '../../browser/asking.ts';
import { documentActions, type Direction } from '../slices/document.ts';
import { viewActions } from '../slices/view.ts';
import { applyGuarded, edit, previewed, writeTo } from './changes.ts';
import type { AppStore } from '../store.ts';

/** Changes a draft of the level. */
export type Recipe = (draft: Level) => void;

/** Shows the level as a change under way would make it, not yet an edit. */
export function preview(store: AppStore, recipe: Recipe): void {
  const { open } = store.getState().document;
  if (open !== null) store.dispatch(documentActions.turned(previewed(open.level, recipe)));
}

/** Makes an edit of the level. Answers why not, when it is refused; then nothing is changed. */
export function makeEdit(store: AppStore, label: string, recipe: Recipe): string | null {
  const { open, turning } = store.getState().document;
  if (open === null) return null;
  let edited = edit(open.level, label, recipe);
  // What needs something of which there is none yet brings one with it, as one step to be undone.
  const brought: NonNullable<ReturnType<typeof broughtBy>>[] = [];
  while (!edited.ok) {
    const needed = broughtBy(open.level, edited.problem.message);
    if (needed === null || brought.includes(needed)) break;
    brought.push(needed);
    edited = edit(open.level, `${label}, with ${brought.map(({ id }) => id).join(' and ')}`, (draft) => {
      recipe(draft);
      for (const { add } of brought) add(draft);
    });
  }
  if (!edited.ok || edited.change.forward.length === 0) store.dispatch(documentActions.turned(null));
  if (!edited.ok) return edited.problem.message;
  if (edited.change.forward.length > 0) {
    // A dial that is let go where it was turned to leaves the level that is shown: all that was worked out for it holds.
    const level = turning !== null && isEqual(turning, edited.level) ? turning : edited.level;
    store.dispatch(documentActions.edited({ level, change: edited.change, key: newId() }));
    const came = brought.flatMap(({ none, came }) => (none === null ? [] : [`There were ${none} yet: ${came}. `])).join('');
    if (came !== '') store.dispatch(viewActions.troubled(`${came}Undo takes that back too.`));
  }
  return null;
}

/** Undoes or redoes one change, as a new guarded patch. */
function step(store: AppStore, direction: Direction): void {
  const { open, [direction]: changes } = store.getState().document;
  const change = changes.at(-1);
  if (open === null || change === undefined) return;
  const operations = direction === 'undo' ? change.backward : change.forward;
  const level = applyGuarded(open.level, operations);
  if (level === undefined) {
    const words = direction === 'undo' ? 'undone' : 'redone';
    store.dispatch(viewActions.troubled(`“${change.label}” cannot be ${words}: the value has been changed since.`));
  } else store.dispatch(documentActions.stepped({ direction, change, level, operations, key: newId() }));
}

export const undo = (store: AppStore): void => step(store, 'undo');
export const redo = (store: AppStore): void => step(store, 'redo');

/** Makes an edit whose refusal is shown above the Bench. Answers whether it was made. */
export function tryEdit(store: AppStore, label: string, recipe: Recipe): boolean {
  return sayRefused(store, makeEdit(store, label, recipe));
}

/** Shows above the Bench why an edit was refused, if it was. Answers whether it was made. */
export function sayRefused(store: AppStore, refusal: string | null): boolean {
  if (refusal !== null) store.dispatch(viewActions.troubled(`Not done: ${refusal}. The level is as it was.`));
  return refusal === null;
}

/** Shows the level with one number changed, at one place or several, while its dial is being turned. */
export function turnDial(store: AppStore, paths: readonly string[], value: number): void {
  preview(store, (draft) => {
    for (const path of paths) writeTo(draft, path, value);
  });
}

/** Asks, once, about a name that another of its sort has; null when there is nothing to ask. */
function questionOn(level: Level, path: string, value: unknown): string | null {
  const [map, id, part, ...deeper] = segmentsOf(path);
  if (part !== 'name' || deeper.length > 0 || typeof value !== 'string') return null;
  const sorts =
    map === 'kinds' || map === 'variants' ? [level.kinds, level.variants] : [Object.hasOwn(level, map ?? '') ? level[map as 'items'] : {}];
  const taken = sorts.some((sort) => Object.entries(sort).some(([other, { name }]) => other !== id && name === value.trim()));
  return questionAbout(path, taken ? `Another is called “${value.trim()}” already` : null);
}

/** Makes a value of the level another, at one place or several; `undefined` removes it. Answers why not, when it is refused. */
export function setValue(store: AppStore, paths: readonly string[], label: string, value: unknown): string | null {
  const { open } = store.getState().document;
  const question = open === null || paths[0] === undefined ? null : questionOn(open.level, paths[0], value);
  if (question !== null) return question;
  return makeEdit(store, label, (draft) => {
    for (const path of paths) writeTo(draft, path, value);
  });
}

/** Lets values follow their kind again. Answers why not, when it is refused. */
export function forgetValue(store: AppStore, paths: readonly string[], label: string): string | null {
  return makeEdit(store, `${label} back to its kind's`, (draft) => {
    for (const path of paths) forgetAt(draft, path);
  });
}

/** Makes the own value of some things their kind's. Answers why not, when it is refused. */
export function dropOwn(store: AppStore, paths: readonly string[], label: string, value: unknown): string | null {
  return makeEdit(store, `${label} for all of the kind`, (draft) => {
    for (const path of paths) {
      forgetAt(draft, path);
      const [, id = '', , within = ''] = segmentsOf(path);
      const kind = entry(draft.placements, id)?.kind;
      if (kind === undefined) continue;
      for (const to of pathsOf(draft, { kind, placements: [] }, within)) writeTo(draft, to, value);
    }
  });
}

/**
 * Writes many values as one edit. What would make the level invalid is left out; answers what was, and why.
 */
export function writeMany<One extends Write>(
  store: AppStore,
  label: string,
  writes: readonly One[],
): readonly { readonly write: One; readonly why: string }[] {
  const { open } = store.getState().document;
  if (open === null || writes.length === 0) return [];
  const { written, refused } = writeAll(open.level, writes);
  tryEdit(store, label, (draft) => {
    for (const { path, value } of written) writeTo(draft, path, value);
  });
  return refused;
}
