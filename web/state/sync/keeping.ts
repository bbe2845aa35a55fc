import { reasonOf } from '@dial/core/level';
import type { Unsent } from '../slices/opening.ts';
import type { Level } from '@dial/core/level';
import { applyPatch } from 'rfc6902';
import { z } from 'zod';
import { newId } from '../../browser/ids.ts';
import { lasting, ofThisTab } from '../../browser/storage.ts';
import { viewActions } from '../slices/view.ts';
import type { Change } from '../document/changes.ts';
import { readText } from '../../browser/reading.ts';
import type { AppStore } from '../store.ts';

/** Steps to undo that outlive a reload, at most: so many, and so many characters. */
const MOST_STEPS = 100;
const MOST_TEXT = 1_500_000;

const path = z.string().max(1000);
export const Operations = z
  .array(
    z.discriminatedUnion('op', [
      z.object({ op: z.literal('add'), path, value: z.json() }),
      z.object({ op: z.literal('replace'), path, value: z.json() }),
      z.object({ op: z.literal('test'), path, value: z.json() }),
      z.object({ op: z.literal('remove'), path }),
      z.object({ op: z.literal('move'), from: path, path }),
      z.object({ op: z.literal('copy'), from: path, path }),
    ]),
  )
  .max(20_000);
const Changes = z.array(z.object({ label: z.string(), forward: Operations, backward: Operations }));
const Steps = z.object({ undo: Changes, redo: Changes });
const UnsentEdits = z.array(z.object({ key: z.string().min(8).max(100), operations: Operations }));

const stepsOf = (level: string): string => `dial.steps.${level}`;
const unsentOf = (level: string): string => `dial.unsent.${level}.`;
const lockOf = (page: string): string => `dial.page.${page}`;

/** Locks by name, where the browser has them: on secure addresses only. */
const locks = (): LockManager | undefined => (navigator as Partial<Navigator>).locks;

/** The newest steps that there is room for, oldest first. */
function newest(steps: readonly Change[]): readonly Change[] {
  const kept: Change[] = [];
  let length = 0;
  for (const step of steps.slice(-MOST_STEPS).reverse()) {
    length += JSON.stringify(step).length;
    if (length > MOST_TEXT) break;
    kept.unshift(step);
  }
  return kept;
}

/** The steps to undo and redo that this window had when the page was left. */
export function keptSteps(level: string): { readonly undo: readonly Change[]; readonly redo: readonly Change[] } {
  return readText(ofThisTab.get(stepsOf(level)), Steps) ?? { undo: [], redo: [] };
}

/**
 * Takes over the edits that pages which are there no more could not send. They go out again under the keys they had, so
 * that one whose answer was lost is not made twice.
 */
export async function takeUnsent(level: string): Promise<readonly Unsent[]> {
  const { held = [] } = (await locks()?.query()) ?? {};
  const alive = new Set(held.map(({ name }) => name));
  const names = lasting.names().filter((name) => name.startsWith(unsentOf(level)));
  const orphaned = names.filter((name) => !alive.has(lockOf(name.slice(unsentOf(level).length)))).sort();
  const edits = orphaned.flatMap((name) => readText(lasting.get(name), UnsentEdits) ?? []);
  for (const name of orphaned) lasting.remove(name);
  return edits;
}

/** A level with edits made whatever their guards say: what the person saw who made them. */
export function withEdits(level: Level, edits: readonly Unsent[]): Level {
  if (edits.length === 0) return level;
  const copy = structuredClone(level);
  for (const { operations } of edits) {
    applyPatch(
      copy,
      operations.filter(({ op }) => op !== 'test'),
    );
  }
  return copy;
}

/**
 * Keeps in the browser what the server does not have yet, from the moment an edit is made until it is saved; and, as the
 * page is left, the steps to undo. Runs for as long as the page does.
 */
export function startKeeping(store: AppStore): void {
  const page = newId();
  // Held until the page is gone: so that no other page takes over edits that this one is still sending.
  void locks()?.request(lockOf(page), () => new Promise(() => undefined));
  let known: readonly Unsent[] = [];
  let said = false;
  store.subscribe(() => {
    const { open } = store.getState().document;
    const { unsent } = store.getState().saving;
    if (open === null || unsent === known) return;
    known = unsent;
    const name = unsentOf(open.id) + page;
    if (unsent.length === 0) {
      lasting.remove(name);
      return;
    }
    try {
      lasting.set(name, JSON.stringify(unsent));
      if (lasting.blocked()) throw new Error('its storage is blocked');
    } catch (error) {
      if (said) return;
      said = true;
      const why = reasonOf(error);
      store.dispatch(
        viewActions.troubled(
          `This browser cannot keep edits while they are on their way (${why}); leave this page open until they are saved. Undo steps are lost on leaving too.`,
        ),
      );
    }
  });
  addEventListener('pagehide', () => {
    const { open, undo, redo } = store.getState().document;
    if (open === null) return;
    try {
      ofThisTab.set(stepsOf(open.id), JSON.stringify({ undo: newest(undo), redo: newest(redo) }));
    } catch {
      ofThisTab.remove(stepsOf(open.id)); // The page is being left; older steps than these would undo what is not there.
    }
  });
}
