import {
  createSession,
  distanceToTouch,
  hasEnded,
  INPUT_WIDTH,
  leastDistanceToTouch,
  placementOf,
  step,
  stepOf,
  type Compiled,
} from '../session/index.ts';
import { readInputs, sessionOptions, type Run } from './run.ts';

/** When somebody came nearest to touching a thing. */
export interface Nearest {
  /** Units; 0: it was touched. */
  readonly distance: number;
  readonly seconds: number;
  readonly step: number;
  /** From 0. */
  readonly player: number;
}

/** When in a run somebody came nearest to a thing, and how near; the first time, where there are several. Null where it was never there. */
export function nearestInRun(compiled: Compiled, run: Run, placementId: string): Nearest | null {
  const session = createSession(compiled, null, sessionOptions(compiled, run));
  const reader = readInputs(run, compiled.rate);
  const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
  let best: Nearest | null = null;
  let placement = -1;
  const look = (): void => {
    // What is spawned is not there from the start, nor to the end.
    if (placement < 0 || placement >= compiled.placedCount) placement = placementOf(session, placementId);
    if (placement < 0) return;
    for (let player = 0; player < compiled.playerCount; player += 1) {
      // Most moments are far off: only what may be nearer is worked out.
      if (best !== null && leastDistanceToTouch(session, player, placement) >= best.distance) continue;
      const distance = distanceToTouch(session, player, placement);
      const at = stepOf(session);
      if (distance < (best?.distance ?? Infinity)) best = { distance, step: at, seconds: at / compiled.rate, player };
    }
  };
  const found = (): number => best?.distance ?? Infinity;
  look();
  while (found() > 0 && !hasEnded(session) && stepOf(session) < reader.steps) {
    reader.read(stepOf(session) + 1, inputs);
    step(session, inputs);
    look();
  }
  return best;
}
