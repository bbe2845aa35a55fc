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
  /** Plays a step with the player pressing so much to the right, −1 … 1; false: the session has ended. */
  readonly step: (right?: number) => boolean;
  /** Plays on for some seconds. */
  readonly go: (seconds: number, right?: number) => void;
  readonly isAlive: () => boolean;
  readonly at: () => { readonly x: number; readonly y: number };
  readonly velocity: () => { readonly x: number; readonly y: number };
}

const FULL = 127;

/** The placements of some things alone. */
export const only = (level: Level, things: ReadonlySet<string>): Level['placements'] =>
  Object.fromEntries(inOrder(level.placements).filter(([id]) => things.has(id)));

/** Tries out what some placements come to by themselves: with the solids of a level, or without; no goal is met, and no time runs out. */
export function trialOf(
  level: Level,
  placements: Level['placements'],
  more: Partial<Level> = {},
  eventsOf: (compiled: Compiled) => readonly OutsideEvent[] = () => [],
): Trial {
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
  const take = (right: number): boolean => {
    inputs[0] = right * FULL;
    if (!hasEnded(session)) step(session, inputs);
    return !hasEnded(session);
  };
  return {
    session,
    begin(x, y) {
      restore(session, beginning);
      putPlayer(session, 0, x, y);
    },
    step: (right = 0) => take(right),
    go(seconds, right = 0) {
      for (let at = 0; at < seconds * compiled.rate; at += 1) take(right);
    },
    isAlive: () => of(state.life) === LIFE.alive,
    at: () => ({ x: of(state.playerX), y: of(state.playerY) }),
    velocity: () => ({ x: of(state.velocityX), y: of(state.velocityY) }),
  };
}
