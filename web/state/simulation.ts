import type { Level, Route } from '@dial/core/level';
import type { Run } from '@dial/core/players';
import type { Outcome } from '@dial/core/session';
import { wrap, type Remote } from 'comlink';
import type { CurveRequest, SimulatedRun, SimulateRequest, SimulationApi } from './protocol.ts';
import { createSending, type LevelAndRun, type Sent } from './sending.ts';

/** A request before it is sent: with all of its level and its run. */
export type Whole<Request> = Omit<Request, keyof Sent> & LevelAndRun;

interface SimulationWorker {
  readonly api: Remote<SimulationApi>;
  readonly worker: Worker;
  readonly lean: ReturnType<typeof createSending>;
}

/**
 * The simulation workers: one for what is on screen, a second for what may be late (the curves behind dials).
 * They are started with the page, so that they are warm when the first dial is turned.
 */
function startWorker(): SimulationWorker {
  const worker = new Worker(new URL('./simulation.worker.ts', import.meta.url), { type: 'module' });
  return { api: wrap<SimulationApi>(worker), worker, lean: createSending() };
}

const main = startWorker();
let aside: SimulationWorker | null = null;

/** What is on screen: simulates it, and answers what is asked about it. */
export const simulation = {
  simulate: (request: Whole<SimulateRequest>): Promise<SimulatedRun> => main.api.simulate(main.lean(request)),
  momentAt: main.api.momentAt,
  practise: main.api.practise,
  why: main.api.why,
};

/** Tells when the worker breaks, so that the page can say so. */
export function onWorkerFailure(listener: (message: string) => void): void {
  main.worker.addEventListener('error', (event) => {
    listener(event.message === '' ? 'The simulation could not be loaded.' : event.message);
  });
}

/** Simulates a run on a level aside, without putting it on screen. */
export async function simulateOnce(level: Level, run: Run): Promise<SimulatedRun> {
  aside ??= startWorker();
  return aside.api.simulate(aside.lean({ side: null, level, run, route: null }));
}

/** What comes of a run on a level, simulated aside. */
export async function outcomeOnce(level: Level, run: Run, route: Route | null = null): Promise<Outcome> {
  aside ??= startWorker();
  return aside.api.outcome(aside.lean({ level, run, route }));
}

/** Closing values of a meter along a dial, computed in the second worker. */
export async function curveAlong(request: Whole<CurveRequest>): Promise<(number | null)[]> {
  aside ??= startWorker();
  return aside.api.curve(aside.lean(request));
}

/**
 * Runs a task with the newest input only: while one is under way, of all the inputs that come in just the last is
 * kept. Inputs turned past are never simulated.
 */
export function newestOnly<Input>(task: (input: Input) => Promise<void>): (input: Input) => void {
  let running = false;
  let next: { readonly input: Input } | null = null;
  const run = async (first: Input): Promise<void> => {
    running = true;
    let input = first;
    try {
      for (;;) {
        await task(input);
        if (next === null) return;
        input = next.input;
        next = null;
      }
    } finally {
      running = false;
    }
  };
  return (input) => {
    if (running) next = { input };
    else void run(input);
  };
}
