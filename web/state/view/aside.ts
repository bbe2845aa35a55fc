import type { Aside } from '../slices/opening.ts';
import { pointer, segmentsOf } from '@dial/core/level';
import { z } from 'zod';
import { lasting, remember } from '../../browser/storage.ts';
import { viewActions, type Selection } from '../slices/view.ts';
import { readText } from '../../browser/reading.ts';
import type { AppStore } from '../store.ts';

const NONE: Aside = { locked: [], hidden: [] };

const Pointers = z.array(z.string().max(300)).max(10_000);
const Stored = z.object({ locked: Pointers, hidden: Pointers });
const keyOf = (level: string): string => `dial.aside.${level}`;

/** What was set aside in a level when it was last looked at here. */
export function readAside(level: string): Aside {
  return readText(lasting.get(keyOf(level)), Stored) ?? NONE;
}

/** The pointers of what is chosen and can be set aside. */
export function chosenPointers({ placements, solid }: Selection): string[] {
  return [...placements.map((id) => pointer(['placements', id])), ...(solid === null ? [] : [pointer(['solids', solid])])];
}

function change(store: AppStore, aside: Aside): void {
  const { open } = store.getState().document;
  if (open === null) return;
  remember(keyOf(open.id), JSON.stringify(aside));
  store.dispatch(viewActions.asideChanged(aside));
}

/** All of these set aside, or all of them back when they are already. */
function toggled(list: readonly string[], these: readonly string[]): readonly string[] {
  const rest = list.filter((one) => !these.includes(one));
  return these.every((one) => list.includes(one)) ? rest : [...rest, ...these];
}

export function toggleLocked(store: AppStore): void {
  const { aside, selection } = store.getState().view;
  change(store, { ...aside, locked: toggled(aside.locked, chosenPointers(selection)) });
}

export function toggleHidden(store: AppStore): void {
  const { aside, selection } = store.getState().view;
  change(store, { ...aside, hidden: toggled(aside.hidden, chosenPointers(selection)) });
}

export function showAll(store: AppStore): void {
  change(store, { ...store.getState().view.aside, hidden: [] });
}

/** The ids of one map among pointers. */
export function idsIn(pointers: readonly string[], map: 'placements' | 'solids'): ReadonlySet<string> {
  return new Set(pointers.map(segmentsOf).flatMap(([of, id]) => (of === map && id !== undefined ? [id] : [])));
}
