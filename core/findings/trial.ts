import { inOrder, type Level } from '../level/index.ts';
import {
  compile,
  createSession,
  hasEnded,
  INPUT_WIDTH,
  LIFE,
  putPlayer,
  restore,
  snapshot,
  step,
  type Compiled,
  type OutsideEvent,
  type Session,
} from '../session/index.ts';

/** A piece of a level with one player in it, played step after step. */
export interface Trial {
  readonly session: Session;
  /** Begins anew, with the player at a place. */
  readonly begin: (x: number, y: number) => void;
  /** Plays a step with the player pressing so much to the right and up, −1 … 1; false: the session has ended. */
  readonly step: (right?: number, up?: number) => boolean;
  readonly isAlive: () => boolean;
  readonly at: () => { readonly x: number; readonly y: number };
  readonly velocity: () => { readonly x: number; readonly y: number };
}

const FULL = 127;

/** Tries out what some things of a level come to by themselves: with its solids, or without; no goal is met, and no time runs out. */
export function trialOf(
  level: Level,
  things: ReadonlySet<string>,
  more: Partial<Level> = {},
  eventsOf: (compiled: Compiled) => readonly OutsideEvent[] = () => [],
): Trial {
  const placements = Object.fromEntries(inOrder(level.placements).filter(([id]) => things.has(id)));
  const piece: Level = {
    ...level,
    placements,
    ends: { goals: {}, timeLimit: null },
    players: { ...level.players, count: 1, starts: [], tags: level.players.tags.slice(0, 1) },
    ...more,
  };
  const compiled = compile(piece);
  const session = createSession(compiled, null, { events: eventsOf(compiled) });
  const beginning = snapshot(session);
  const inputs = new Int8Array(session.compiled.playerCount * INPUT_WIDTH);
  const { state } = session;
  const of = (list: ArrayLike<number>): number => list[0] ?? 0;
  return {
    session,
    begin(x, y) {
      restore(session, beginning);
      putPlayer(session, 0, x, y);
    },
    step(right = 0, up = 0) {
      inputs[0] = right * FULL;
      inputs[1] = up * FULL;
      if (!hasEnded(session)) step(session, inputs);
      return !hasEnded(session);
    },
    isAlive: () => of(state.life) === LIFE.alive,
    at: () => ({ x: of(state.playerX), y: of(state.playerY) }),
    velocity: () => ({ x: of(state.velocityX), y: of(state.velocityY) }),
  };
}
