import { plainNumber } from '@dial/core/formats';
import { levelHash, readAt, type Level } from '@dial/core/level';
import {
  figureName,
  metStretches,
  replayed,
  sessionCount,
  sweep,
  targetFor,
  turnedLevel,
  type SweepResult,
  type SweepSettings,
} from '@dial/core/studies';
import type { OutcomeCurve } from '../controls/tape/Tape.tsx';
import type { StudyReply } from '../state/server/api.ts';

/** A sweep of one dial that is over. */
interface Swept {
  /** As it was when it was swept. */
  readonly level: Level;
  readonly of: SweepSettings;
  readonly result: SweepResult;
}

/** Tells a sweep again what came of it; null: it is none, or not over. */
function sweptIn({ document: level, answers, settings }: StudyReply): Swept | null {
  if (!('kind' in settings) || settings.kind !== 'sweep') return null;
  const { result } = replayed(sweep(level, settings.of), new Map(answers.map(({ part, answer }) => [part, answer])));
  return result === null ? null : { level, of: settings.of, result };
}

/** The curve of a sweep as a tape shows it: its first figure, how sure it is, and where the target of the level is met. */
function curveOfSweep(now: Level, { of: { dials, figures, crowd }, result }: Swept): OutcomeCurve | null {
  const [dial, figure] = [dials[0], figures[0]];
  if (dial === undefined || figure === undefined) return null;
  const points = result.cells.flatMap(({ at: [at = 0], estimates: [one] }) => {
    return one === undefined ? [] : [{ x: dial.values[at] ?? 0, value: one.value, low: one.low, high: one.high }];
  });
  const target = targetFor(now, figure, crowd);
  return {
    values: points.map(({ x }) => x),
    outcomes: points.map(({ value }) => value),
    band: points.map(({ low, high }) => [low, high] as const),
    met: target === null ? [] : metStretches(points, { from: target.least ?? -Infinity, to: target.most ?? Infinity }),
    says: `swept: ${figureName(now, figure)}, ${plainNumber(sessionCount(crowd))} sessions a value`,
  };
}

/** The curve of a study's sweep for the level as it is now; null: it is none, is not over, or something else than the dial has changed since. */
export function sweptCurve(level: Level, reply: StudyReply): OutcomeCurve | null {
  const swept = sweptIn(reply);
  const dial = swept?.of.dials[0];
  const value = dial === undefined ? null : readAt(level, dial.paths[0] ?? '');
  if (swept === null || dial === undefined || typeof value !== 'number') return null;
  const then = turnedLevel(swept.level, [{ paths: dial.paths, value }]);
  return then.ok && levelHash(then.value) === levelHash(level) ? curveOfSweep(level, swept) : null;
}
