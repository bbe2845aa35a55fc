import { kindOf, type Kind, type Level } from '../../level/index.ts';
import { numberedThings, type SessionRow, type TouchRow } from '../../studies/index.ts';
import type { Found, Severity } from '../finding.ts';

/** A placement, and what each session left behind at it; null: it did not touch it. */
interface PlayedThing {
  readonly thing: number;
  readonly placement: string;
  readonly kindId: string;
  readonly kind: Kind;
  readonly touches: readonly (TouchRow | null)[];
}

/** Sessions of a crowd, as evidence is looked for in them. */
export interface Played {
  readonly level: Level;
  readonly rows: readonly SessionRow[];
  readonly things: readonly PlayedThing[];
}

/** A sort of mistake that shows only when it is played. */
export interface Shown {
  readonly code: string;
  readonly title: string;
  readonly severity: Severity;
  readonly find: (played: Played) => Found[];
}

/** Fewer sessions than this show nothing. */
export const LEAST_SESSIONS = 20;
export const LEAST_RUNS = 3;

export function playedBy(level: Level, rows: readonly SessionRow[]): Played {
  const touches = new Map<number, (TouchRow | null)[]>();
  rows.forEach((row, at) => {
    for (const touch of row.touched) {
      const known = touches.get(touch.thing) ?? rows.map(() => null);
      known[at] = touch;
      touches.set(touch.thing, known);
    }
  });
  const none = rows.map(() => null);
  return {
    level,
    rows,
    things: numberedThings(level).flatMap(({ thing, placement, kind: kindId }) => {
      const kind = kindOf(level, kindId);
      return placement === null || kind === undefined ? [] : [{ thing, placement, kindId, kind, touches: touches.get(thing) ?? none }];
    }),
  };
}

interface Spot {
  readonly x: number;
  readonly y: number;
}

/** Places so near to each other are one spot. Units. */
const NEAR = 1.5;
/** Of very many places so many tell where most are. */
const TOLD_BY = 300;

/** Of some places those that lie about the spot where most do; the first of them is its middle. */
export function atOneSpot<Place extends Spot>(places: readonly Place[]): readonly Place[] {
  const near = (at: Spot): Place[] => {
    const about = places.filter(({ x, y }) => (x - at.x) * (x - at.x) + (y - at.y) * (y - at.y) <= NEAR * NEAR);
    return about.sort((a, b) => Number(b === at) - Number(a === at));
  };
  return places.slice(0, TOLD_BY).reduce<readonly Place[]>((most, one) => {
    const some = near(one);
    return some.length > most.length ? some : most;
  }, []);
}

export const share = (count: number, of: number): number => Math.round((100 * count) / Math.max(1, of));
