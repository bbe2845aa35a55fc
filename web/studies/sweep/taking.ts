import { dialName, plainNumber } from '@dial/core/formats';
import { sessionAt, turnedLevel, type CrowdSettings, type Turned } from '@dial/core/studies';
import { writeTo } from '../../state/document/changes.ts';
import { makeEdit } from '../../state/document/edits.ts';
import { sessionOf } from '../../state/slices/simulated.ts';
import type { AppStore } from '../../state/store.ts';

/** What came of taking values: said either way. */
export interface Taken {
  readonly ok: boolean;
  readonly words: string;
}

/** Gives dials of the level that is open other values, as one edit. */
export function takeValues(store: AppStore, turned: readonly Turned[]): Taken {
  const level = store.getState().document.open?.level;
  if (level === undefined) return { ok: false, words: 'No level is open.' };
  const untaken = (why: string): Taken => ({ ok: false, words: `Not taken: ${why}. The level is as it was.` });
  // A study may be of a level that had dials which this one has no more.
  const made = turnedLevel(level, turned);
  if (!made.ok) return untaken(made.problems[0]?.message ?? 'it would not be valid');
  const label = turned.map(({ paths, value }) => `${dialName(level, { paths })} ${plainNumber(value)}`).join(', ');
  const refusal = makeEdit(store, label, (draft) => {
    for (const { paths, value } of turned) for (const path of paths) writeTo(draft, path, value);
  });
  if (refusal !== null) return untaken(refusal);
  if (store.getState().document.open?.level === level) return { ok: true, words: `Nothing to take: ${label} is so already.` };
  return { ok: true, words: `Taken: ${label}. Undo takes it back.` };
}

/** Where one session of a study is seen on the Bench. */
export function sessionPath(level: string, crowd: CrowdSettings, index: number): string {
  const { persona, seed } = sessionAt(crowd, index);
  const asked = sessionOf(crowd.personas[persona]?.persona ?? '', seed, crowd.seconds);
  return `/levels/${encodeURIComponent(level)}?run=${encodeURIComponent(asked)}&at=0&from=${encodeURIComponent(crowd.start ?? '')}`;
}
