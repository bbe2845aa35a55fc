import { MOST_WAIT_SECONDS } from '../waited.ts';
import type { Level } from '../../level/index.ts';
import {
  changeEnds,
  idOf,
  LIFE,
  LINE,
  MOVEMENT,
  stepOf,
  thingId,
  type Compiled,
  type Recorder,
  type Session,
} from '../../session/index.ts';

/** Without coming nearer for this long, a walker is stuck. */
const STUCK_SECONDS = 3;
/** So many deaths on the way to one way-point, or so many times put somewhere else, and a walker gives up. */
const MOST_SETBACKS = 3;

/** What a walker needs of each movement to go at its own pace. */
const OWN_PACE = new Map<number, (body: Level['body']) => number>([
  [MOVEMENT.speed, ({ speed }) => speed],
  [MOVEMENT.acceleration, ({ acceleration }) => acceleration],
  [MOVEMENT.control, () => 1],
]);

/** Why a walker gives up: it died too often, was put elsewhere too often, was slowed to nothing, or came no nearer. */
export interface Reason {
  readonly because: 'died' | 'put elsewhere' | 'slowed' | 'no way';
  /** The thing that did it, where one did. */
  readonly by: string | null;
}

/** What slows the first player below its own pace: whether that ends by itself, and which thing did it. */
function slowedBy(session: Session): { readonly ends: boolean; readonly by: string | null } | null {
  const { compiled, state } = session;
  for (let at = 0; at < (state.changes[0] as number); at += 1) {
    const of = compiled.effects.subject[state.changeEffect[at] as number] as number;
    const least = OWN_PACE.get(of)?.(compiled.level.body) ?? 0;
    if ((state.movement[of] as number) >= least) continue;
    return { ends: changeEnds(session, at), by: idOf(session, state.changePlacement[at] as number) };
  }
  return null;
}

/** How often something has set the first player back, and what did it last. */
interface Setbacks {
  count: number;
  by: string | null;
}

/** A recorder that counts how often the first player died, and was put elsewhere. */
export interface Watch extends Recorder {
  readonly deaths: Setbacks;
  readonly puts: Setbacks;
}

export function createWatch(compiled: Compiled): Watch {
  const deaths: Setbacks = { count: 0, by: null };
  const puts: Setbacks = { count: 0, by: null };
  return {
    deaths,
    puts,
    line({ type, toucher, placement }) {
      // Player 1 walks.
      if ((type !== LINE.moved && type !== LINE.died) || toucher !== 0) return;
      const setbacks = type === LINE.died ? deaths : puts;
      setbacks.count += 1;
      setbacks.by = thingId(compiled, placement);
    },
    contact: () => undefined,
  };
}

/** Judges a walker on its way to one way-point. */
export interface Judge {
  /** Looks at the walker, so far from the way-point, before each step. Answers why it should give up; null while it should not. */
  look(distance: number): Reason | null;
  /** Steps since it last came nearer, or had a reason not to. */
  idleSteps(): number;
}

export function createJudge(session: Session, { deaths, puts }: Watch): Judge {
  const { rate } = session.compiled;
  const { state } = session;
  const before = { deaths: deaths.count, puts: puts.count };
  let putsSeen = puts.count;
  let nearest = Infinity;
  let since = stepOf(session);
  let slowedSince: number | null = null;
  return {
    idleSteps: () => stepOf(session) - since,
    look(distance) {
      const now = stepOf(session);
      const alive = state.life[0] === LIFE.alive;
      const slowed = slowedBy(session);
      slowedSince = slowed === null ? null : (slowedSince ?? now);
      // What ends by itself is waited for, though not for ever.
      const waits = slowed?.ends === true && now - (slowedSince ?? now) < MOST_WAIT_SECONDS * rate;
      const elsewhere = puts.count !== putsSeen;
      putsSeen = puts.count;
      if (!alive || elsewhere) nearest = Infinity;
      if (!alive || elsewhere || waits || distance < nearest - 0.01 || (state.lockUntil[0] as number) > now) {
        nearest = alive ? Math.min(nearest, distance) : Infinity;
        since = now;
      }
      if (!alive) return null;
      if (deaths.count - before.deaths >= MOST_SETBACKS) return { because: 'died', by: deaths.by };
      if (puts.count - before.puts >= MOST_SETBACKS) return { because: 'put elsewhere', by: puts.by };
      if (now - since <= STUCK_SECONDS * rate) return null;
      return slowed === null ? { because: 'no way', by: null } : { because: 'slowed', by: slowed.by };
    },
  };
}
