import { inOrder } from '@dial/core/level';
import { plainNumber } from '@dial/core/formats';
import type { ShownRun } from '../state/protocol.ts';

/** Where two simulations of a run part first: when, in what, and how. */
export interface Parting {
  readonly step: number;
  readonly seconds: number;
  readonly words: string;
}

/** Places this near are still the same. Units. */
const SAME_PLACE = 1e-4;

/** The first step at which a meter or the place of the first player differs; null when none does, or they cannot be set beside each other. */
export function partingOf(now: ShownRun, was: ShownRun): Parting | null {
  if (now.rate !== was.rate) return null;
  const meters = inOrder(now.level.meters).flatMap(([id, { name }]) => {
    const [a, b] = [was.meters[id], now.meters[id]];
    return a === undefined || b === undefined ? [] : [{ name, a, b }];
  });
  const steps = Math.min(now.steps, was.steps);
  for (let step = 0; step <= steps; step += 1) {
    const meter = meters.find(({ a, b }) => a[step] !== b[step]);
    const apart = Math.hypot((now.x[step] ?? 0) - (was.x[step] ?? 0), (now.y[step] ?? 0) - (was.y[step] ?? 0));
    const at = { step, seconds: step / now.rate };
    if (meter !== undefined) {
      return { ...at, words: `${meter.name} ${plainNumber(meter.b[step] ?? 0)}, was ${plainNumber(meter.a[step] ?? 0)}` };
    }
    if (apart > SAME_PLACE) return { ...at, words: 'the player is elsewhere' };
  }
  if (now.steps === was.steps) return null;
  return {
    step: steps,
    seconds: steps / now.rate,
    words: now.steps < was.steps ? 'this session ends first' : 'the ghost’s session ends first',
  };
}
