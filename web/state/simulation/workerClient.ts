import { createBreakage, type Breakage } from '@dial/core/api';
import { BASE_MISSING, type createSending } from './sending.ts';

/** A worker as this side sees it. */
export interface Started<Api> {
  readonly api: Api;
  /** Is called once when the worker breaks down; nothing it was asked is answered then. */
  readonly onBreak: (listener: (why: string) => void) => void;
  readonly end: () => void;
}

/** A worker of the browser, with what it is asked through. */
export const startedFrom = <Api>(worker: Worker, api: Api): Started<Api> => ({
  api,
  onBreak(listener) {
    worker.addEventListener('error', (event) => listener(event.message === '' ? 'it could not be loaded' : event.message));
    worker.addEventListener('messageerror', () => listener('a message could not be read'));
  },
  end: () => worker.terminate(),
});

type AsChanges = ReturnType<typeof createSending>;

interface Running<Api> {
  readonly api: Api;
  readonly asChanges: AsChanges;
  readonly breakage: Breakage;
  isBroken: boolean;
  readonly end: () => void;
}

/** A worker broke down, and again each time it was started anew. */
class WorkerBroken extends Error {
  constructor(why: string) {
    super(`the simulation broke down (${why})`);
    this.name = 'WorkerBroken';
  }
}

/** So often one question may break a worker before it is given up. */
const MOST_BREAKS = 2;

export interface WorkerClient<Api> {
  /** Asks the worker something. Every question is answered or rejected, also when the worker breaks down. */
  ask<Answer>(question: (api: Api, asChanges: AsChanges) => PromiseLike<Answer>): Promise<Answer>;
  /** Starts the worker if it is not running, so that it is ready when it is asked. */
  ready(): void;
}

/**
 * Keeps one worker going: started when first needed, and anew when it breaks down; the question under way is then asked
 * again. `onRestart` is told, since a new worker knows nothing of what the old one held.
 */
export function createWorkerClient<Api>(
  start: () => Started<Api>,
  sending: typeof createSending,
  onRestart: () => void = () => undefined,
): WorkerClient<Api> {
  let running: Running<Api> | null = null;
  const begin = (): Running<Api> => {
    const started = start();
    const one: Running<Api> = { api: started.api, asChanges: sending(), breakage: createBreakage(), isBroken: false, end: started.end };
    started.onBreak((why) => {
      one.isBroken = true;
      one.end();
      if (running === one) running = null;
      one.breakage.happen(new WorkerBroken(why));
    });
    return one;
  };
  const now = (): Running<Api> => (running ??= begin());
  return {
    ready: () => void now(),
    async ask(question) {
      for (let breaks = 0, sentWhole = false; ;) {
        const one = now();
        try {
          return await one.breakage.orElse(question(one.api, one.asChanges));
        } catch (error) {
          if (one.isBroken) {
            breaks += 1;
            if (breaks > MOST_BREAKS) throw error;
            onRestart();
          } else if (error instanceof Error && error.name === BASE_MISSING && !sentWhole) {
            sentWhole = true;
            one.asChanges.forget();
          } else throw error;
        }
      }
    },
  };
}
