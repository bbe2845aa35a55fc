import { plainNumber } from '@dial/core/formats';
import { levelHash, readAt, type DialSpec, type Level } from '@dial/core/level';
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
import { useMemo } from 'react';
import type { OutcomeCurve } from '../controls/tape/Tape.tsx';
import type { StudyReply } from '../state/server/api.ts';
import { useStudiesQuery } from '../state/server/lists.ts';
import { useAppSelector } from '../state/store.ts';
import { OF_VALUES, useStudy } from '../state/view/useStudy.ts';

interface Swept {
  /** As it was when it was swept. */
  readonly level: Level;
  readonly of: SweepSettings;
  readonly result: SweepResult;
}

function sweptIn({ document: level, answers, settings }: StudyReply): Swept | null {
  if (!('kind' in settings) || settings.kind !== 'sweep') return null;
  const { result } = replayed(sweep(level, settings.of), new Map(answers.map(({ part, answer }) => [part, answer])));
  return result === null ? null : { level, of: settings.of, result };
}

/** The curve of a sweep as a tape shows it: its first figure, how sure it is, and where the target of the level is met. */
export function curveOfSweep(now: Level, { of: { dials, figures, crowd }, result }: Swept): OutcomeCurve | null {
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

/** The curve of the last sweep of a dial, as long as nothing else of the level has changed since. */
export function useSweptCurve(spec: DialSpec | null): OutcomeCurve | null {
  const open = useAppSelector((state) => state.document.open);
  const { data: studies = [] } = useStudiesQuery(open?.id ?? '', { skip: open === null });
  const key = spec?.paths.join(' ');
  const newest = studies.find(({ settings }) => {
    if (!('kind' in settings) || settings.kind !== 'sweep') return false;
    return settings.of.dials.length === 1 && settings.of.dials[0]?.paths.join(' ') === key;
  });
  const { result: swept } = useStudy(open?.id ?? '', newest?.id ?? null, sweptIn, OF_VALUES);
  const level = open?.level ?? null;
  return useMemo(() => {
    const dial = swept?.of.dials[0];
    const value = dial === undefined || level === null ? null : readAt(level, dial.paths[0] ?? '');
    if (swept === null || level === null || dial === undefined || typeof value !== 'number') return null;
    const then = turnedLevel(swept.level, [{ paths: dial.paths, value }]);
    return then.ok && levelHash(then.value) === levelHash(level) ? curveOfSweep(level, swept) : null;
  }, [swept, level]);
}
