import { inOrder, type Level } from '../level/index.ts';
import { lyingOf, type Lying } from './intervals.ts';
import { finalOf, finishes } from './measures.ts';
import type { SessionRow } from './row.ts';
import { numberedThings } from './things.ts';

/** Where a number lies over the sessions of a crowd, second by second: eight of ten between the tenth and the ninetieth. */
export interface Band {
  readonly tenth: Float32Array;
  readonly median: Float32Array;
  readonly ninetieth: Float32Array;
}

/** What a crowd that was tracked comes to, for the Strip and the outcome line. */
export interface CrowdBands {
  readonly sessions: number;
  /** Of each player, each meter by id. */
  readonly players: readonly Readonly<Record<string, Band>>[];
  /** Of a hundred sessions, how many have lost no life yet, second by second. */
  readonly alive: Float32Array;
  /** Of a hundred sessions, in how many somebody is inside a placement at some time of a second; by id, where anybody ever is. */
  readonly inside: Readonly<Record<string, Float32Array>>;
  /** Shares of sessions. */
  readonly finish: number;
  readonly loseALife: number;
  /** Of each meter in the end, by id. */
  readonly finals: Readonly<Record<string, Lying>>;
}

/** A session that has ended stays as it ended: so a band closes on what the crowd comes to in the end. */
function bandOf(rows: readonly SessionRow[], cell: number, cells: number, seconds: number): Band {
  const band: Band = { tenth: new Float32Array(seconds), median: new Float32Array(seconds), ninetieth: new Float32Array(seconds) };
  for (let second = 0; second < seconds; second += 1) {
    const at = lyingOf(rows.map(({ track, final }) => track?.[second * cells + cell] ?? final[cell] ?? 0));
    band.tenth[second] = at.tenth;
    band.median[second] = at.median;
    band.ninetieth[second] = at.ninetieth;
  }
  return band;
}

/** Where each meter lies in the end, by id. */
export const finalsOf = (level: Level, rows: readonly SessionRow[]): CrowdBands['finals'] =>
  Object.fromEntries(inOrder(level.meters).map(([id], meter) => [id, lyingOf(rows.map(finalOf(level, meter)))]));

/** In how many of a hundred sessions somebody is inside of what, second by second. */
function insideOf(level: Level, rows: readonly SessionRow[], seconds: number): Record<string, Float32Array> {
  const ids = numberedThings(level).map(({ placement }) => placement);
  const found: Record<string, Float32Array> = {};
  // The session that was counted last in each second: twice within a second, or two players at once, are one session.
  const counted = new Map<string, Int32Array>();
  rows.forEach(({ inside }, index) => {
    for (const [thing, from, to] of inside ?? []) {
      const id = ids[thing] ?? null;
      if (id === null) continue;
      const counts = (found[id] ??= new Float32Array(seconds));
      const last = counted.get(id) ?? new Int32Array(seconds).fill(-1);
      counted.set(id, last);
      for (let second = Math.floor(from); second <= to && second < seconds; second += 1) {
        if (last[second] === index) continue;
        last[second] = index;
        counts[second] = (counts[second] as number) + 100 / rows.length;
      }
    }
  });
  return found;
}

/** Sums up sessions that were played with tracks. There has to be at least one. */
export function bandsOf(level: Level, rows: readonly SessionRow[]): CrowdBands {
  const meters = inOrder(level.meters).map(([id]) => id);
  const cells = level.players.count * meters.length;
  const seconds = 1 + Math.ceil(rows.reduce((most, row) => Math.max(most, row.seconds), 0));
  const players = Array.from({ length: level.players.count }, (_, player) =>
    Object.fromEntries(meters.map((id, meter) => [id, bandOf(rows, player * meters.length + meter, cells, seconds)])),
  );
  const alive = new Float32Array(seconds).fill(100);
  for (const { deaths } of rows) {
    const first = deaths[0]?.seconds ?? Infinity;
    for (let second = Math.ceil(first); second < seconds; second += 1) alive[second] = (alive[second] as number) - 100 / rows.length;
  }
  const finished = finishes(level);
  return {
    sessions: rows.length,
    players,
    alive,
    inside: insideOf(level, rows, seconds),
    finish: rows.filter(finished).length / rows.length,
    loseALife: rows.filter(({ deathCount }) => deathCount > 0).length / rows.length,
    finals: finalsOf(level, rows),
  };
}
