import { reasonOf } from '@dial/core/level';
import { shareLanes, type Run } from '@dial/core/players';
import isEqual from 'fast-deep-equal';
import { simulatedActions } from '../slices/simulated.ts';
import { viewActions } from '../slices/view.ts';
import { runTried } from './startFrom.ts';
import { walkerOn } from './walker.ts';
import { newestOnly, onWorkerRestart, simulation, type Whole } from './simulation.ts';
import type { Side, SimulateRequest } from './protocol.ts';
import type { AppStore } from '../store.ts';

type Request = Omit<Whole<SimulateRequest>, 'side'>;

/**
 * Keeps the simulated runs and the moment under the needle true to the level, the run and the needle: whenever one of
 * them changes, the newest state is sent to the worker and what comes back is put into the store.
 */
export function startSimulating(store: AppStore): void {
  const fail = (error: unknown): void => {
    const reason = reasonOf(error);
    store.dispatch(viewActions.troubled(`The run could not be simulated: ${reason}. The level is kept; undo the last change or reload.`));
  };

  const last: Partial<Record<Side, Request>> = {};
  const underWay = new Set<Side>();
  const simulateSide = (side: Side): ((request: Request) => void) =>
    newestOnly(async (request) => {
      last[side] = request;
      underWay.add(side);
      try {
        const run = await simulation.simulate({ side, ...request });
        const state = store.getState();
        if (runTried(state) !== request.run) return;
        const past = state.simulated.shown[side];
        const others = run.others.map((lanes, index) => shareLanes(past?.others[index], lanes));
        // Frozen: the store does not look through all of them for what might still be changed.
        Object.freeze(run.walk?.run);
        const shown = Object.freeze({ ...run, ...shareLanes(past, run), others, level: request.level });
        store.dispatch(simulatedActions.simulatedRun({ side, run: shown }));
        if (side === 'now' && past === null) await simulation.warmUp();
      } catch (error) {
        fail(error);
      } finally {
        underWay.delete(side);
      }
    });
  const simulate = { now: simulateSide('now'), compared: simulateSide('compared') };
  // A new worker holds no run: what is on screen is simulated again, unless it is what the old one broke on.
  onWorkerRestart(() => {
    for (const side of ['now', 'compared'] as const) {
      const request = last[side];
      if (request !== undefined && !underWay.has(side)) simulate[side](request);
    }
  });
  const showMoment = newestOnly(async (step: number) => {
    try {
      const shown = await simulation.momentAt({ side: 'now', step });
      const { moment, thought } = store.getState().simulated;
      // What is the same moment to the last value is on screen already.
      if (!isEqual(shown, { moment, thought })) store.dispatch(simulatedActions.momentShown(shown));
    } catch (error) {
      fail(error);
    }
  });

  let before = store.getState();
  let runBefore: Run | null = null;
  store.subscribe(() => {
    const now = store.getState();
    const past = before;
    before = now;
    const run = runTried(now);
    const otherRun = run !== runBefore;
    runBefore = run;
    const level = now.document.turning ?? now.document.open?.level;
    if (level === undefined || run === null) return;
    const levelBefore = past.document.turning ?? past.document.open?.level;
    const drawn = now.simulated.run;
    if (level !== levelBefore || otherRun) simulate.now({ level, run, walker: walkerOn(level, drawn) });
    const { compared } = now.document;
    if (compared !== null && (compared !== past.document.compared || otherRun))
      simulate.compared({ level: compared.level, run, walker: walkerOn(compared.level, drawn, level) });
    const { needleStep } = now.playback;
    const shown = now.simulated.shown.now;
    if (shown !== null && (shown !== past.simulated.shown.now || needleStep !== past.playback.needleStep)) showMoment(needleStep);
  });
}
