import { MOVEMENT_NAMES } from '@dial/core/formats';
import { entry, inOrder, wishedOf } from '@dial/core/level';
import { sameNumbers, type Lanes } from '@dial/core/players';
import { ledgerOf } from '../state/simulation/lines.ts';
import type { CrowdBands } from '@dial/core/studies';
import type { ShownRun } from '../state/simulation/protocol.ts';
import { peak } from '../drawing/lanes/extremes.ts';
import type { Palette } from '../drawing/palette.ts';
import type { Lane, LaneLine, LaneTarget } from '../drawing/lanes/laneDrawing.ts';
import { changesInForce } from './inForce.ts';

const HEIGHTS = { main: 54, meter: 34, speed: 30, item: 24, bars: 20 } as const;
/** A lane that is folded: enough to see that something happens. */
export const FOLDED_HEIGHT = 16;

/** How lanes are arranged: those first in `order` come first, those in `hidden` are left out, those in `folded` are low. */
export interface Arrangement {
  readonly order: readonly string[];
  readonly hidden: readonly string[];
  readonly folded: readonly string[];
}

/** A lane of one player. */
export interface PlayerLane extends Lane {
  /** What it shows: a meter, `speed`, `item …` or `movement …`. */
  readonly of: string;
  /** Whose changes it shows, as lines name them; null: everybody's. */
  readonly toucher: string | null;
  /** Whether it shows the same number throughout, and no other in the ghost: it takes no more than a line. */
  readonly steady: boolean;
}

/** How lines name a player, counted from nought. */
const toucherOf = (player: number): string => `player ${String(player + 1)}`;

/** Meters and speed of a player, step by step; undefined where the run has no such player. */
const numbersOf = (run: ShownRun, player: number): Lanes | undefined => (player === 0 ? run : run.others[player - 1]);

const carriedKnown = new WeakMap<ShownRun, Map<string, Float32Array>>();

/** How many of an item a player carries after each step; worked out once for a run, since that of the ghost stays. */
function carried(run: ShownRun, item: string, player: number): Float32Array {
  const known = carriedKnown.get(run) ?? new Map<string, Float32Array>();
  carriedKnown.set(run, known);
  const key = `${toucherOf(player)} ${item}`;
  const counts = known.get(key) ?? countCarried(run, item, player);
  known.set(key, counts);
  return counts;
}

function countCarried(run: ShownRun, item: string, player: number): Float32Array {
  const counts = new Float32Array(run.steps + 1);
  const toucher = toucherOf(player);
  const lines = ledgerOf(run).flatMap((line) => (line.type === 'item' && line.item === item && line.toucher === toucher ? [line] : []));
  counts.fill(lines[0]?.before ?? run.outcome.players[player]?.items[item] ?? 0);
  for (const { step, after } of lines) counts.fill(after, step);
  return counts;
}

const line = (values: Float32Array, dashed = false): LaneLine => ({ values, dashed });

/** Whether lines show one and the same number throughout. */
function isSteady(lines: readonly LaneLine[]): boolean {
  const first = lines[0]?.values[0];
  return lines.every(({ values }) => values.every((value) => value === first));
}

/** What stands beside a run: its ghost, the crowd, and that of the ghost's level. */
export interface Beside {
  readonly ghost: ShownRun | null;
  readonly crowd: CrowdBands | null;
  readonly crowdWas: CrowdBands | null;
}

/** What a band adds to the lines of a lane, for whether that changes. */
const edgesOf = (band: Lane['band']): LaneLine[] => (band == null ? [] : [line(band.tenth), line(band.ninetieth)]);

/** Where the targets of a level wish a meter to lie: in the end, or at no moment outside. */
function targetsOf({ level, steps, rate }: ShownRun, meter: string): LaneTarget[] {
  return inOrder(level.targets).flatMap(([, target]) => {
    const { outcome, personas } = target;
    if ((outcome.type !== 'final' && outcome.type !== 'lowest') || outcome.meter !== meter) return [];
    const wished = wishedOf(target);
    const text = personas.map((id) => entry(level.personas, id)?.name ?? id).join(', ');
    return wished === null ? [] : [{ ...wished, at: outcome.type === 'final' ? steps / rate : null, text }];
  });
}

/** The lanes of one player. */
function lanesOfPlayer(now: ShownRun, { ghost, crowd }: Beside, player: number, palette: Palette): PlayerLane[] {
  const { level } = now;
  const numbers = numbersOf(now, player);
  if (numbers === undefined) return [];
  const before = ghost === null ? undefined : numbersOf(ghost, player);
  // A ghost that is the same to the last step lies under the line.
  const beside = (other: Float32Array | undefined, values: Float32Array): LaneLine[] =>
    other === undefined || sameNumbers(other, values) ? [] : [line(other, true)];
  const lane = (
    of: string,
    name: string,
    height: number,
    colour: string,
    rest: Pick<Lane, 'high' | 'lines'> & Partial<Lane>,
  ): PlayerLane => ({
    key: player === 0 ? of : `${toucherOf(player)} ${of}`,
    of,
    toucher: of === 'score' && level.players.sharedScore ? null : toucherOf(player),
    name: player === 0 ? name : `${name} (${String(player + 1)})`,
    height,
    colour,
    filled: false,
    low: 0,
    bars: [],
    ...rest,
    steady: rest.bars === undefined && isSteady([...rest.lines, ...edgesOf(rest.band)]),
  });
  // A score that is shared is shown once.
  const meters = inOrder(level.meters)
    .filter(([id]) => player === 0 || id !== 'score' || !level.players.sharedScore)
    .map(([id, meter]) => {
      const values = numbers.meters[id] ?? new Float32Array(1);
      const other = before?.meters[id];
      const main = id === 'health';
      const band = crowd?.players[player]?.[id] ?? null;
      const colour = main ? palette.role.mend : id === 'score' ? palette.role.score : palette.role.carry;
      return lane(id, meter.name, main ? HEIGHTS.main : HEIGHTS.meter, colour, {
        filled: main,
        low: meter.lower,
        high: meter.upper ?? Math.max(1, peak(values), other === undefined ? 0 : peak(other), band === null ? 0 : peak(band.ninetieth)),
        band,
        wished: targetsOf(now, id),
        lines: [line(values), ...beside(other, values)],
      });
    });
  const speed = lane('speed', 'speed', HEIGHTS.speed, palette.role.movement, {
    high: Math.max(level.body.speed, peak(numbers.speed)) * 1.05 || 1,
    lines: [line(numbers.speed), ...beside(before?.speed, numbers.speed)],
  });
  const items = inOrder(level.items).flatMap(([id, { name }]) => {
    const counts = carried(now, id, player);
    const other = ghost === null ? undefined : carried(ghost, id, player);
    const most = Math.max(peak(counts), other === undefined ? 0 : peak(other));
    // What nobody ever carries needs no room.
    if (most === 0) return [];
    const lines = [line(counts), ...beside(other, counts)];
    return [lane(`item ${id}`, name, HEIGHTS.item, palette.role.carry, { high: Math.max(1, most) * 1.1, lines })];
  });
  const movement = Object.entries(MOVEMENT_NAMES).flatMap(([of, name]) => {
    const bars = changesInForce(now, of, toucherOf(player));
    return bars.length === 0 ? [] : [lane(`movement ${of}`, name, HEIGHTS.bars, palette.role.movement, { high: 1, lines: [], bars })];
  });
  return [...meters, speed, ...items, ...movement];
}

/** How many of a hundred sessions of the crowd have lost no life yet. Its numbers stand for seconds; lanes have one for each step. */
function aliveLane(crowd: CrowdBands, was: CrowdBands | null, { rate, steps }: ShownRun, palette: Palette): PlayerLane {
  const bySteps = ({ alive }: CrowdBands): Float32Array =>
    Float32Array.from({ length: steps + 1 }, (_, step) => alive[Math.min(alive.length - 1, Math.floor(step / rate))] ?? 100);
  const values = bySteps(crowd);
  const before = was === null ? values : bySteps(was);
  const lines = [line(values), ...(sameNumbers(before, values) ? [] : [line(before, true)])];
  return {
    key: 'crowd alive',
    of: 'crowd alive',
    toucher: null,
    name: 'alive, %',
    height: HEIGHTS.meter,
    colour: palette.ink,
    filled: true,
    low: 0,
    high: 100,
    lines,
    bars: [],
    steady: isSteady(lines),
  };
}

/** Every lane a run has: meters, items, speed, and what changes of movement are in force, of each player; and how a crowd fares. */
export function lanesOf(now: ShownRun, beside: Beside, palette: Palette): PlayerLane[] {
  const lanes = [now, ...now.others].flatMap((_, player) => lanesOfPlayer(now, beside, player, palette));
  if (beside.crowd === null) return lanes;
  const [health, ...rest] = lanes;
  return [...(health === undefined ? [] : [health]), aliveLane(beside.crowd, beside.crowdWas, now, palette), ...rest];
}

/** The lanes as they are arranged: chosen, in order, folded. */
export function arranged<One extends Lane & { readonly steady?: boolean }>(
  lanes: readonly One[],
  { order, hidden, folded }: Arrangement,
): One[] {
  const rank = (key: string): number =>
    order.includes(key) ? order.indexOf(key) : order.length + lanes.findIndex((lane) => lane.key === key);
  return lanes
    .filter(({ key }) => !hidden.includes(key))
    .sort((a, b) => rank(a.key) - rank(b.key))
    .map((lane) => (folded.includes(lane.key) || lane.steady === true ? { ...lane, height: FOLDED_HEIGHT } : lane));
}
