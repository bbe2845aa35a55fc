import { inOrder } from '@dial/core/level';
import { sameNumbers } from '@dial/core/players';
import { ledgerOf } from '../state/lines.ts';
import type { ShownRun } from '../state/protocol.ts';
import { peak } from '../ui/extremes.ts';
import type { Palette } from '../ui/palette.ts';
import type { Lane, LaneLine } from '../ui/laneDrawing.ts';
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

const MOVEMENT_NAMES: Readonly<Record<string, string>> = {
  speed: 'walk speed',
  jump: 'jump speed',
  gravity: 'gravity',
  acceleration: 'acceleration',
  control: 'control',
};

const carriedKnown = new WeakMap<ShownRun, Map<string, Float32Array>>();

/** How many of an item the first player carries after each step; worked out once for a run, since that of the ghost stays. */
function carried(run: ShownRun, item: string): Float32Array {
  const known = carriedKnown.get(run) ?? new Map<string, Float32Array>();
  carriedKnown.set(run, known);
  const counts = known.get(item) ?? countCarried(run, item);
  known.set(item, counts);
  return counts;
}

function countCarried(run: ShownRun, item: string): Float32Array {
  const counts = new Float32Array(run.steps + 1);
  const lines = ledgerOf(run).flatMap((line) => (line.type === 'item' && line.item === item && line.toucher === 'player 1' ? [line] : []));
  counts.fill(lines[0]?.before ?? run.outcome.players[0]?.items[item] ?? 0);
  for (const { step, after } of lines) counts.fill(after, step);
  return counts;
}

const line = (values: Float32Array, dashed = false): LaneLine => ({ values, dashed, beginsAt: 0 });

/** Every lane a run has: meters, items, speed, and what changes of movement are in force. */
export function lanesOf(now: ShownRun, ghost: ShownRun | null, palette: Palette): Lane[] {
  const { level } = now;
  const common = { filled: false, bars: [], low: 0 } as const;
  // A ghost that is the same to the last step lies under the line.
  const beside = (other: Float32Array | undefined, values: Float32Array): LaneLine[] =>
    other === undefined || sameNumbers(other, values) ? [] : [line(other, true)];
  const meters = inOrder(level.meters).map(([id, meter]): Lane => {
    const values = now.meters[id] ?? new Float32Array(1);
    const other = ghost?.meters[id];
    const main = id === 'health';
    return {
      ...common,
      key: id,
      name: meter.name,
      height: main ? HEIGHTS.main : HEIGHTS.meter,
      colour: main ? palette.role.mend : id === 'score' ? palette.role.score : palette.role.carry,
      filled: main,
      low: meter.lower,
      high: meter.upper ?? Math.max(1, peak(values), other === undefined ? 0 : peak(other)),
      lines: [line(values), ...beside(other, values)],
    };
  });
  const speed: Lane = {
    ...common,
    key: 'speed',
    name: 'speed',
    height: HEIGHTS.speed,
    colour: palette.role.movement,
    high: Math.max(level.body.speed, peak(now.speed)) * 1.05 || 1,
    lines: [line(now.speed), ...beside(ghost?.speed, now.speed)],
  };
  const items = inOrder(level.items).flatMap(([id, { name }]): Lane[] => {
    const counts = carried(now, id);
    const other = ghost === null ? undefined : carried(ghost, id);
    // What nobody ever carries needs no room.
    if (peak(counts) === 0 && (other === undefined || peak(other) === 0)) return [];
    return [
      {
        ...common,
        key: `item ${id}`,
        name,
        height: HEIGHTS.item,
        colour: palette.role.carry,
        high: Math.max(1, peak(counts), other === undefined ? 0 : peak(other)) * 1.1,
        lines: [line(counts), ...beside(other, counts)],
      },
    ];
  });
  const movement = Object.entries(MOVEMENT_NAMES).flatMap(([of, name]): Lane[] => {
    const bars = changesInForce(now, of);
    return bars.length === 0
      ? []
      : [{ ...common, key: `movement ${of}`, name, height: HEIGHTS.bars, colour: palette.role.movement, high: 1, lines: [], bars }];
  });
  return [...meters, speed, ...items, ...movement];
}

/** The lanes as they are arranged: chosen, in order, folded. */
export function arranged(lanes: readonly Lane[], { order, hidden, folded }: Arrangement): Lane[] {
  const rank = (key: string): number =>
    order.includes(key) ? order.indexOf(key) : order.length + lanes.findIndex((lane) => lane.key === key);
  return lanes
    .filter(({ key }) => !hidden.includes(key))
    .sort((a, b) => rank(a.key) - rank(b.key))
    .map((lane) => (folded.includes(lane.key) ? { ...lane, height: FOLDED_HEIGHT } : lane));
}
