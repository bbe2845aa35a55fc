import type { Level, DialSpec } from '@dial/core/level';
import type { Run } from '@dial/core/players';
import { useEffect, useState } from 'react';
import type { Walks } from '../state/slices/opening.ts';
import { curveAlong } from '../state/simulation/simulation.ts';
import { runTried } from '../state/simulation/startFrom.ts';
import { useAppSelector } from '../state/store.ts';
import { snap } from '../controls/tape/quantity.ts';
import type { OutcomeCurve } from '../controls/tape/Tape.tsx';

const SAMPLES = 21;
/** The tape shows about this many steps to either side. */
const STEPS_AROUND = 30;
const SETTLE_MILLISECONDS = 120;

/** Simulated at a time: what is no longer wanted is given up after so many, and takes no more time from what is. */
const AT_A_TIME = 3;

/** Values along a dial with a crowd for each, and sessions of each of those. */
const CROWD_SAMPLES = 9;
const CROWD_SESSIONS = 25;

/** Values around a dial, as many as there shall be samples, as far as its limits let them. */
function valuesAround({ value, range: { min, max, step } }: Pick<DialSpec, 'value' | 'range'>, samples: number): number[] {
  const around = Array.from({ length: samples }, (_, index) => {
    const share = (2 * index) / (samples - 1) - 1;
    return Math.max(min, Math.min(max, snap(value + share * STEPS_AROUND * step, step)));
  });
  return [...new Set(around)];
}

type Curve = OutcomeCurve & { readonly path: string };

interface Wish {
  readonly level: Level;
  readonly run: Run;
  readonly walks: Walks;
  readonly path: string;
  readonly paths: readonly string[];
  readonly values: readonly number[];
}

/** The closing health of the one run for each value. Null when it is not wanted any more. */
async function curveOfRun({ level, run, walks, path, paths, values }: Wish, wanted: () => boolean): Promise<Curve | null> {
  const outcomes: (number | null)[] = [];
  while (wanted() && outcomes.length < values.length) {
    const some = values.slice(outcomes.length, outcomes.length + AT_A_TIME);
    outcomes.push(...(await curveAlong({ level, run, walks, paths: [...paths], values: some, meter: 'health' })));
  }
  return wanted() ? { path, values, outcomes, band: null } : null;
}

/** The closing health of a small crowd for each value: the middle, and where eight of ten lie. */
async function curveOfCrowd({ level, run, path, paths, values }: Wish, start: string | null, wanted: () => boolean): Promise<Curve | null> {
  const { crowdAlong } = await import('../state/simulation/crowd.ts');
  const points = await crowdAlong({ level, run, sessions: CROWD_SESSIONS, start }, { paths, values, meter: 'health' }, wanted);
  if (!wanted()) return null;
  return {
    path,
    values: points.map(({ value }) => value),
    outcomes: points.map(({ spread }) => spread?.median ?? null),
    band: points.map(({ spread }) => (spread === null ? null : ([spread.tenth, spread.ninetieth] as const))),
  };
}

/** The closing health for values around the dial in hand, simulated aside once it has come to rest; of the crowd, where there is one. */
export function useOutcomeCurve(spec: DialSpec | null): OutcomeCurve | null {
  const level = useAppSelector((state) => state.document.open?.level ?? null);
  const run = useAppSelector(runTried);
  const route = useAppSelector((state) => state.simulated.run?.route);
  const personas = useAppSelector((state) => state.simulated.run?.personas);
  const start = useAppSelector((state) => state.simulated.startFrom);
  const crowded = useAppSelector((state) => state.crowd.size > 0);
  // The crowd at the needle comes first.
  const waits = useAppSelector(({ crowd }) => crowd.size > 0 && (crowd.shown.now?.took == null || crowd.shown.now.level !== level));
  const [curve, setCurve] = useState<Curve | null>(null);
  const path = spec?.path;
  const kept = spec?.paths.join(' ') ?? '';
  const around = spec === null ? '' : valuesAround(spec, crowded ? CROWD_SAMPLES : SAMPLES).join(' ');

  useEffect(() => {
    if (level === null || run === null || path === undefined || waits) return;
    let isWanted = true;
    const wanted = (): boolean => isWanted;
    const timer = setTimeout(() => {
      const wish = { level, run, walks: { route, personas }, path, paths: kept.split(' '), values: around.split(' ').map(Number) };
      const found = crowded ? curveOfCrowd(wish, start, wanted) : curveOfRun(wish, wanted);
      // The curve is an extra: without it the dial turns just the same.
      found.then(
        (one) => one !== null && setCurve(one),
        () => isWanted && setCurve(null),
      );
    }, SETTLE_MILLISECONDS);
    return () => {
      isWanted = false;
      clearTimeout(timer);
    };
  }, [level, run, route, personas, start, crowded, waits, path, kept, around]);

  return curve !== null && curve.path === path ? curve : null;
}
