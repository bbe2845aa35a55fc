import type { Finding } from '@dial/core/findings';
import type { Level } from '@dial/core/level';
import type { Fit, Run, Walker } from '@dial/core/players';
import type { Outcome } from '@dial/core/session';
import { wrap, type Remote } from 'comlink';
import type {
  CurveRequest,
  MomentRequest,
  ShownMoment,
  SimulatedRun,
  SimulateRequest,
  SimulationApi,
  Why,
  WhyRequest,
} from './protocol.ts';
import { createSending, type LevelAndRun, type Sent } from './sending.ts';
import { createWorkerClient, startedFrom, type Started } from './workerClient.ts';

/** A request before it is sent: with all of its level and its run. */
export type Whole<Request> = Omit<Request, keyof Sent> & LevelAndRun;

function startWorker(): Started<Remote<SimulationApi>> {
  const worker = new Worker(new URL('./simulation.worker.ts', import.meta.url), { type: 'module' });
  return startedFrom(worker, wrap<SimulationApi>(worker));
}

const restarts = new Set<() => void>();

/**
 * The simulation workers: one for what is on screen, a second for what may be late (the curves behind dials). The first is
 * started with the page, so that it is warm when the first dial is turned.
 */
const main = createWorkerClient(startWorker, createSending, () => {
  for (const listener of restarts) listener();
});
const background = createWorkerClient(startWorker, createSending);
main.ready();

/** What is on screen: simulates it, and answers what is asked about it. */
export const simulation = {
  simulate: (request: Whole<SimulateRequest>): Promise<SimulatedRun> => main.ask((api, asChanges) => api.simulate(asChanges(request))),
  momentAt: (request: MomentRequest): Promise<ShownMoment> => main.ask((api) => api.momentAt(request)),
  warmUp: (): Promise<void> => main.ask((api) => api.warmUp()),
  why: (request: WhyRequest): Promise<Why | null> => main.ask((api) => api.why(request)),
};

/** Tells when the worker of what is on screen was started anew: it then holds no run to be asked about. */
export function onWorkerRestart(listener: () => void): void {
  restarts.add(listener);
}

/** Simulates a run on a level, or lets somebody walk it in its place, in the second worker and without putting it on screen. */
export function simulateOnce(level: Level, run: Run, walker: Walker | null = null): Promise<SimulatedRun> {
  return background.ask((api, asChanges) => api.simulate(asChanges({ side: null, level, run, walker })));
}

/** What comes of a run on a level, simulated in the second worker. */
export function outcomeOnce(level: Level, run: Run, walker: Walker | null = null): Promise<Outcome> {
  return background.ask((api, asChanges) => api.outcome(asChanges({ level, run, walker })));
}

/** What can be told of a player from plays of a level. */
export function fitOnce(level: Level, runs: readonly Run[]): Promise<Fit> {
  return background.ask((api) => api.fit({ level, runs: [...runs] }));
}

/** What is wrong with a level, or what runs of it show to be, looked for in the second worker. */
export function findingsIn(level: Level, runs: readonly Run[] | null = null): Promise<readonly Finding[]> {
  return background.ask((api) => api.findings({ level, runs: runs === null ? null : [...runs] }));
}

/** Closing values of a meter along a dial, computed in the second worker. */
export function curveAlong(request: Whole<CurveRequest>): Promise<(number | null)[]> {
  return background.ask((api, asChanges) => api.curve(asChanges(request)));
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
