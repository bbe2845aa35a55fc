import { useEffect, useState } from 'react';
import { curveAlong } from '../state/simulation/simulation.ts';
import { runTried } from '../state/simulation/startFrom.ts';
import { useAppSelector } from '../state/store.ts';
import { snap } from '../controls/tape/quantity.ts';
import type { OutcomeCurve } from '../controls/tape/Tape.tsx';
import type { DialSpec } from '../state/document/dialList.ts';

const SAMPLES = 21;
/** The tape shows about this many steps to either side. */
const STEPS_AROUND = 30;
const SETTLE_MILLISECONDS = 120;

/** Simulated at a time: what is no longer wanted is given up after so many, and takes no more time from what is. */
const AT_A_TIME = 3;

/** The closing health for values around the dial in hand, simulated aside once it has come to rest. */
export function useOutcomeCurve(spec: DialSpec | null): OutcomeCurve | null {
  const level = useAppSelector((state) => state.document.open?.level ?? null);
  const run = useAppSelector(runTried);
  const route = useAppSelector((state) => state.simulated.run?.route);
  const personas = useAppSelector((state) => state.simulated.run?.personas);
  const [curve, setCurve] = useState<(OutcomeCurve & { readonly path: string }) | null>(null);
  const path = spec?.path;
  const kept = spec?.paths.join(' ') ?? '';
  const centre = spec?.value;
  const min = spec?.range.min;
  const max = spec?.range.max;
  const step = spec?.range.step;

  useEffect(() => {
    if (level === null || run === null || path === undefined || centre === undefined) return;
    if (min === undefined || max === undefined || step === undefined) return;
    let wanted = true;
    const timer = setTimeout(() => {
      const around = Array.from({ length: SAMPLES }, (_, index) => {
        const share = (2 * index) / (SAMPLES - 1) - 1;
        return Math.max(min, Math.min(max, snap(centre + share * STEPS_AROUND * step, step)));
      });
      const values = [...new Set(around)];
      const simulateAll = async (): Promise<void> => {
        const outcomes: (number | null)[] = [];
        while (wanted && outcomes.length < values.length) {
          const some = values.slice(outcomes.length, outcomes.length + AT_A_TIME);
          outcomes.push(
            ...(await curveAlong({ level, run, walks: { route, personas }, paths: kept.split(' '), values: some, meter: 'health' })),
          );
        }
        if (wanted) setCurve({ path, meter: 'health', values, outcomes });
      };
      // The curve is an extra: without it the dial turns just the same.
      simulateAll().catch(() => wanted && setCurve(null));
    }, SETTLE_MILLISECONDS);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [level, run, route, personas, path, kept, centre, min, max, step]);

  return curve !== null && curve.path === path ? curve : null;
}
