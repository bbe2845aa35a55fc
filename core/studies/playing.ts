import type { Persona, StartingState } from '../level/index.ts';
import { beginPlaying, endingOf, readInputs, sessionOptions, type Playing, type Run } from '../players/index.ts';
import {
  createSession,
  deathsOf,
  endOf,
  endSession,
  exists,
  goneOutcome,
  hasEnded,
  INPUT_WIDTH,
  LIFE,
  LINE,
  meterOf,
  placementOutcome,
  step,
  stepOf,
  sumOf,
  type Compiled,
  type PlacementOutcome,
  type Recorder,
  type Session,
} from '../session/index.ts';
import { heatCell, type HeatCounts, type HeatGrid } from './heat.ts';
import type { SessionRow, TouchRow } from './row.ts';
import type { CrowdSession } from './settings.ts';

/** Sessions are looked at so often a second, to tell where players were. */
const LOOKS = 10;

/** Slower than this one stands still. Units a second. */
const STILL = 0.05;

/** What the sessions of a shard add to, beside their rows. */
export interface Tally {
  readonly grid: HeatGrid;
  readonly heat: HeatCounts;
  /** The last session that is over: the next takes its room. */
  over: Session | null;
}

export interface PlayOptions {
  readonly seconds: number;
  readonly start: StartingState | null;
  /** Whether the meters are kept for each second. */
  readonly tracks: boolean;
}

/** What is kept of the lines and contacts of a session. */
interface Kept {
  readonly recorder: Recorder;
  /** What players are refused, by thing and reason. */
  readonly counts: ReadonlyMap<number, Map<number, number>>;
  /** What players were inside of; null: not asked for. */
  readonly inside: SessionRow['inside'];
}

function createKept(compiled: Compiled, tracks: boolean): Kept {
  const counts = new Map<number, Map<number, number>>();
  const inside: NonNullable<SessionRow['inside']> = [];
  return {
    counts,
    inside: tracks ? inside : null,
    recorder: {
      line({ type, toucher, placement, reason }) {
        if (type !== LINE.refused || toucher < 0 || toucher >= compiled.playerCount || placement < 0) return;
        const thing = thingAt(compiled, placement);
        const reasons = counts.get(thing) ?? new Map<number, number>();
        counts.set(thing, reasons);
        reasons.set(reason, (reasons.get(reason) ?? 0) + 1);
      },
      contact(toucher, placement, from, to) {
        if (tracks && toucher < compiled.playerCount) inside.push([thingAt(compiled, placement), from, to]);
      },
    },
  };
}

/** The number by which rows call a thing as lines call it: its place in the level, or the kind of a spawned one, after all places. */
function thingAt({ placedCount, ids }: Compiled, named: number): number {
  if (named < placedCount) return named;
  return placedCount + (Math.floor(named / ids.placements.length) % ids.kinds.length);
}

/** What is seen of the players from look to look. */
interface Seen {
  readonly health: Float64Array;
  readonly x: Float64Array;
  readonly y: Float64Array;
  still: number;
}

function look({ compiled, state }: Session, seen: Seen, lowest: Float64Array, { grid, heat }: Tally): void {
  const meters = compiled.ids.meters.length;
  for (let player = 0; player < compiled.playerCount; player += 1) {
    for (let meter = 0; meter < meters; meter += 1) {
      const at = player * meters + meter;
      const value = state.meter[compiled.meterCell[at] as number] as number;
      if (value < (lowest[at] as number)) lowest[at] = value;
    }
    const [x, y] = [state.playerX[player] as number, state.playerY[player] as number];
    const health = state.meter[compiled.meterCell[player * meters + compiled.meters.health] as number] as number;
    const cell = heatCell(grid, x, y);
    const change = health - (seen.health[player] as number);
    const alive = state.life[player] === LIFE.alive;
    if (change < 0) heat.hurt[cell] = (heat.hurt[cell] as number) - Math.round(1000 * change);
    // Coming back is no healing.
    else if (change > 0 && alive && (seen.health[player] as number) > 0)
      heat.healed[cell] = (heat.healed[cell] as number) + Math.round(1000 * change);
    seen.health[player] = health;
    if (alive) {
      heat.walked[cell] = (heat.walked[cell] as number) + 1;
      const [byX, byY] = [x - (seen.x[player] as number), y - (seen.y[player] as number)];
      if (byX * byX + byY * byY < (STILL / LOOKS) * (STILL / LOOKS)) {
        heat.waited[cell] = (heat.waited[cell] as number) + 1;
        seen.still += 1 / LOOKS;
      }
    }
    seen.x[player] = x;
    seen.y[player] = y;
  }
}

const finals = (session: Session): number[] => {
  const { playerCount, ids } = session.compiled;
  return Array.from({ length: playerCount * ids.meters.length }, (_, at) =>
    meterOf(session, Math.floor(at / ids.meters.length), at % ids.meters.length),
  );
};

/** What was left behind at each thing that anything happened at. */
function touchedIn(session: Session, refusals: ReadonlyMap<number, ReadonlyMap<number, number>>): TouchRow[] {
  const { compiled, state } = session;
  const { placedCount, ids } = compiled;
  const found = new Map<number, PlacementOutcome>();
  const put = (thing: number, one: PlacementOutcome): void => {
    if (one.uses > 0 || one.waitingSeconds > 0) found.set(thing, sumOf(found.get(thing), one));
  };
  for (let placement = 0; placement < ids.placements.length; placement += 1) {
    if (state.uses[placement] === 0 && state.waiting[placement] === 0) continue;
    if (placement < placedCount) put(placement, placementOutcome(session, placement));
    else if (exists(session, placement)) {
      put(placedCount + (compiled.forms.kind[state.form[placement] as number] as number), placementOutcome(session, placement));
    }
  }
  if (ids.placements.length > placedCount) ids.kinds.forEach((_, kind) => put(placedCount + kind, goneOutcome(session, kind)));
  const things = [...new Set([...found.keys(), ...refusals.keys()])].sort((a, b) => a - b);
  return things.map((thing) => {
    const { uses, firstUseSeconds, healed, wasted, hurt, scored, waitingSeconds } = found.get(thing) ?? NOTHING;
    const refused = [...(refusals.get(thing) ?? [])].sort(([a], [b]) => a - b);
    return { thing, uses, firstUseSeconds, healed, wasted, hurt, scored, waitingSeconds, refused };
  });
}

const NOTHING = { uses: 0, firstUseSeconds: null, healed: 0, wasted: 0, hurt: 0, scored: 0, waitingSeconds: 0 };

function endedOf({ session, hands }: Playing): Pick<SessionRow, 'ended' | 'seconds'> {
  const { how, seconds } = endOf(session);
  if (how !== 'inputs ended') return { ended: how === 'time' ? 'time limit' : how, seconds };
  const [first] = hands;
  const ending = first === undefined ? null : endingOf(first);
  return { ended: ending === null || ending === 'time' ? 'cut off' : ending, seconds };
}

/** What a session comes to, step by step: who plays it presses the keys. */
type Watched = Pick<Playing, 'session' | 'inputs' | 'press'>;

/** Watches a session from its beginning to its end, and leaves its room to the next. What its players did where is added to the tally. */
function watch(
  { session, inputs, press }: Watched,
  kept: Kept,
  endedAs: () => Pick<SessionRow, 'ended' | 'seconds'>,
  tally: Tally,
): Omit<SessionRow, 'index' | 'persona' | 'seed'> {
  const { compiled, state } = session;
  const { rate, ids, placedCount, playerCount } = compiled;
  const meterCount = ids.meters.length;
  const lowest = Float64Array.from(finals(session));
  const seen: Seen = {
    health: Float64Array.from({ length: playerCount }, (_, player) => lowest[player * meterCount + compiled.meters.health] as number),
    x: state.playerX.slice(),
    y: state.playerY.slice(),
    still: 0,
  };
  const track: number[] | null = kept.inside === null ? null : finals(session);
  const every = Math.max(1, Math.round(rate / LOOKS));
  while (press()) {
    step(session, inputs);
    const now = stepOf(session);
    if (now % every === 0) look(session, seen, lowest, tally);
    if (track !== null && now % rate === 0) track.push(...finals(session));
  }
  const ended = endedAs();
  endSession(session, 0);
  // What a look has seen already is not counted twice.
  if (stepOf(session) % every !== 0) look(session, seen, lowest, tally);
  for (let player = 0; player < playerCount; player += 1) {
    lowest[player * meterCount + compiled.meters.health] = state.lowestHealth[player] as number;
  }
  const deaths = deathsOf(session).map(({ seconds: at, player, placement, kind, x, y }) => {
    const cell = heatCell(tally.grid, x, y);
    tally.heat.deaths[cell] = (tally.heat.deaths[cell] as number) + 1;
    const placed = placement === null ? -1 : ids.placements.indexOf(placement);
    const thing = placed >= 0 && placed < placedCount ? placed : kind === null ? null : placedCount + ids.kinds.indexOf(kind);
    return { seconds: at, player, thing, x, y };
  });
  const sum = (column: ArrayLike<number>): number => {
    let total = 0;
    for (let player = 0; player < playerCount; player += 1) total += column[player] as number;
    return total;
  };
  tally.over = session;
  return {
    ...ended,
    final: finals(session),
    lowest: [...lowest],
    items: [...state.items],
    deaths,
    deathCount: sum(state.deaths),
    distance: sum(state.distance),
    still: seen.still,
    changed: sum(state.changedSeconds),
    last: [...state.playerX].flatMap((x, player) => [x, state.playerY[player] as number]),
    touched: touchedIn(session, kept.counts),
    inside: kept.inside,
    track,
  };
}

/** Plays one session of a crowd. What its players did where is added to the tally. */
export function playSession(
  compiled: Compiled,
  persona: Persona,
  { index, persona: number, seed }: CrowdSession,
  { seconds, start, tracks }: PlayOptions,
  tally: Tally,
): SessionRow {
  const kept = createKept(compiled, tracks);
  const playing = beginPlaying(compiled, [persona], { seed, start, seconds, recorder: kept.recorder, inPlaceOf: tally.over });
  return { index, persona: number, seed, ...watch(playing, kept, () => endedOf(playing), tally) };
}

/** Plays a run as a session of a crowd: its index, and no persona of any settings. */
export function playRun(compiled: Compiled, run: Run, index: number, tally: Tally): SessionRow {
  const kept = createKept(compiled, false);
  const session = createSession(compiled, kept.recorder, { ...sessionOptions(compiled, run), inPlaceOf: tally.over });
  const reader = readInputs(run, compiled.rate);
  const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
  const press = (): boolean => {
    if (hasEnded(session) || stepOf(session) >= reader.steps) return false;
    reader.read(stepOf(session) + 1, inputs);
    return true;
  };
  const endedAs = (): Pick<SessionRow, 'ended' | 'seconds'> => {
    const { how, seconds } = endOf(session);
    return { ended: how === 'time' ? 'time limit' : how, seconds };
  };
  return { index, persona: 0, seed: run.seed, ...watch({ session, inputs, press }, kept, endedAs, tally) };
}
