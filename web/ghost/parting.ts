import { inOrder } from '@dial/core/level';
import { plainNumber } from '@dial/core/formats';
import type { Lanes } from '@dial/core/players';
import type { ShownRun } from '../state/simulation/protocol.ts';

/** Where two simulations of a run part first: when, in what, and how. */
export interface Parting {
  readonly step: number;
  readonly seconds: number;
  readonly words: string;
}

/** Places this near are still the same. Units. */
const SAME_PLACE = 1e-4;

/** The first step at which a meter or the place of a player differs; null when none does, or they cannot be set beside each other. */
export function partingOf(now: ShownRun, was: ShownRun): Parting | null {
  if (now.rate !== was.rate) return null;
  const [here, there] = [now, was].map((run) => [run, ...run.others]) as [Lanes[], Lanes[]];
  const several = here.length > 1;
  const lanes = here.flatMap((lane, index) => {
    const before = there[index];
    return before === undefined ? [] : [{ lane, before, who: several ? ` ${String(index + 1)}` : '' }];
  });
  const meters = lanes.flatMap(({ lane, before, who }) =>
    inOrder(now.level.meters).flatMap(([id, { name }]) => {
      const [a, b] = [before.meters[id], lane.meters[id]];
      return a === undefined || b === undefined ? [] : [{ name: several ? `player${who}: ${name}` : name, a, b }];
    }),
  );
  const steps = Math.min(now.steps, was.steps);
  for (let step = 0; step <= steps; step += 1) {
    const meter = meters.find(({ a, b }) => a[step] !== b[step]);
    const at = { step, seconds: step / now.rate };
    if (meter !== undefined) {
      return { ...at, words: `${meter.name} ${plainNumber(meter.b[step] ?? 0)}, was ${plainNumber(meter.a[step] ?? 0)}` };
    }
    const apart = lanes.find(({ lane: { x, y }, before }) => {
      const [right, up] = [(x[step] ?? 0) - (before.x[step] ?? 0), (y[step] ?? 0) - (before.y[step] ?? 0)];
      return right * right + up * up > SAME_PLACE * SAME_PLACE;
    });
    if (apart !== undefined) return { ...at, words: `${several ? 'player' : 'the player'}${apart.who} is elsewhere` };
  }
  if (here.length !== there.length) return { step: 0, seconds: 0, words: `${String(here.length)} players, were ${String(there.length)}` };
  if (now.steps === was.steps) return null;
  return {
    step: steps,
    seconds: steps / now.rate,
    words: now.steps < was.steps ? 'this session ends first' : 'the ghost’s session ends first',
  };
}
