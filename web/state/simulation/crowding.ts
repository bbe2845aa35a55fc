import { reasonOf } from '@dial/core/level';
import type { AppStore, RootState } from '../store.ts';
import { lasting, remember } from '../../browser/storage.ts';
import { CROWD_SIZES, crowdActions } from '../slices/crowd.ts';
import type { CrowdAsked } from './crowd.ts';
import type { Side } from './protocol.ts';
import { runTried } from './startFrom.ts';

/** The size that was chosen last is kept in this browser. */
const KEY = 'dial crowd';

/** Fewer sessions than this say nothing yet: what was shown before stays. */
const LEAST_SHOWN = 20;
/** When more than this share has come in, the rest is so near that all are drawn at once. */
const MOST_SHOWN = 0.7;
/** Milliseconds between two times that a crowd is drawn while it comes in. */
const DRAWN_EVERY = 250;

/** The crowd of a side as it should be; null where there should be none. It follows the run: it is asked for once that is shown. */
function askedOn({ document, simulated, crowd }: RootState, run: CrowdAsked['run'] | null, side: Side): CrowdAsked | null {
  const level = side === 'now' ? simulated.shown.now?.level : document.compared?.level;
  if (crowd.size === 0 || run === null || level === undefined || simulated.shown.now === null) return null;
  return { level, run, sessions: crowd.size, start: simulated.startFrom };
}

const same = (a: CrowdAsked | null, b: CrowdAsked | null): boolean =>
  a === b || (a !== null && b !== null && a.level === b.level && a.sessions === b.sessions && a.start === b.start);

/** Keeps a small crowd beside the run true to the level: it is played anew whenever the run has been, and an older one is dropped. */
export function startCrowding(store: AppStore): void {
  const asked: Record<Side, CrowdAsked | null> = { now: null, compared: null };
  let crowds: typeof import('./crowd.ts') | null = null;

  /** Whether all of the crowd that a side should have has been played. */
  const isThere = (side: Side): boolean => {
    const shown = store.getState().crowd.shown[side];
    return asked[side] === null || (shown?.level === asked[side].level && shown.asked === asked[side].sessions && shown.took !== null);
  };

  const play = async (side: Side, wished: CrowdAsked): Promise<void> => {
    const wanted = (): boolean => asked[side] === wished;
    const began = performance.now();
    let drawn = began;
    try {
      // Once it is there it is asked at once, before the page draws the run.
      crowds ??= await import('./crowd.ts');
      const { playCrowd, summedUp, warmUp } = crowds;
      await playCrowd(wished, wanted, (come, all) => {
        const at = performance.now();
        const done = come.rows.length === all;
        const isSoonDone = come.rows.length > MOST_SHOWN * all;
        if (!done && (isSoonDone || come.rows.length < Math.min(LEAST_SHOWN, all) || at - drawn < DRAWN_EVERY)) return;
        drawn = at;
        const took = done ? performance.now() - began : null;
        // Frozen, as what the run comes to is.
        const crowd = Object.freeze({ level: wished.level, ...summedUp(wished.level, come), asked: all, took });
        store.dispatch(crowdActions.arrived({ side, crowd }));
      });
      const { now, compared } = asked;
      if (isThere('now') && isThere('compared')) await warmUp(wished, () => asked.now === now && asked.compared === compared);
    } catch (error) {
      if (wanted()) store.dispatch(crowdActions.failed(`No crowd: ${reasonOf(error)}.`));
    }
  };

  const kept = CROWD_SIZES.find((size) => String(size) === lasting.get(KEY)) ?? 0;
  if (kept !== 0) store.dispatch(crowdActions.sizeChosen(kept));
  let sizeBefore = kept;
  store.subscribe(() => {
    const state = store.getState();
    const run = runTried(state);
    if (state.crowd.size !== sizeBefore) {
      sizeBefore = state.crowd.size;
      remember(KEY, String(sizeBefore));
    }
    for (const side of ['now', 'compared'] as const) {
      const wished = askedOn(state, run, side);
      // The other version waits until this one's crowd is there.
      if (side === 'compared' && !isThere('now') && !same(wished, asked.compared)) continue;
      if (same(wished, asked[side])) continue;
      if (side === 'now' && !isThere('compared')) asked.compared = null;
      asked[side] = wished;
      if (wished === null) {
        if (state.crowd.shown[side] !== null) store.dispatch(crowdActions.arrived({ side, crowd: null }));
      } else void play(side, wished);
    }
  });
}
