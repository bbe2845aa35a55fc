import { BOTTOM, LEFT, Region, RIGHT, TOP, type Box } from '../../geometry/index.ts';
import type { Compiled } from '../../session/index.ts';
import type { Station } from './stations.ts';

/** A stretch on which a body can stand, seen from the side: where its middle may be. Units. */
export interface Surface {
  readonly left: number;
  readonly right: number;
  readonly y: number;
  /** The solid it stands on. */
  readonly item: number;
  /** Of a platform that travels, the station at which it is so; null: it stays. */
  readonly station: Station | null;
  /** Boxes of things that stand in the way here while they are solid. */
  readonly blockers: readonly number[];
}

interface Block {
  readonly left: number;
  readonly right: number;
  readonly item: number;
  /** Whether it is the box of a thing, which may go. */
  readonly goes: boolean;
}

/** How far within the ends of what it stands on the middle of a body is kept. Units. */
const INSET = 0.02;
const HAIR = 1e-6;

/** A box that a body may stand on, and the solid it is of. Units. */
interface Ground {
  readonly x: number;
  readonly y: number;
  readonly halfWidth: number;
  readonly halfHeight: number;
  readonly item: number;
  readonly station: Station | null;
}

/** So far beside what is overhead one stands for certain. Units. */
const BESIDE = 0.15;

const overhead = new Region();

/**
 * The place on a stretch, nearest another, from which a body rises so far without striking a solid that stays; null when there is none.
 * Units.
 */
export function clearOverhead(
  { solids, hull }: Compiled,
  { left, right, y }: Pick<Surface, 'left' | 'right' | 'y'>,
  rise: number,
  near: number,
): number | null {
  const halfWidth = hull.halfWidth + hull.radius;
  const head = y + hull.halfHeight + hull.radius;
  overhead.left = left - halfWidth;
  overhead.right = right + halfWidth;
  overhead.bottom = head;
  overhead.top = head + rise;
  const found = solids.grid.found.subarray(0, solids.grid.query(overhead));
  const spans = Array.from(found).flatMap((item): { readonly from: number; readonly to: number }[] => {
    const under = (solids.y[item] as number) - (solids.halfHeight[item] as number);
    const strikes = ((solids.faces[item] as number) & BOTTOM) !== 0 && (solids.owner[item] as number) < 0;
    if (!strikes || under < head - HAIR || under > head + rise - HAIR) return [];
    const around = (solids.halfWidth[item] as number) + halfWidth;
    return [{ from: (solids.x[item] as number) - around, to: (solids.x[item] as number) + around }];
  });
  const isClear = (x: number): boolean => x >= left && x <= right && spans.every(({ from, to }) => x <= from || x >= to);
  return [near, ...spans.flatMap(({ from, to }) => [from - BESIDE, to + BESIDE])]
    .filter(isClear)
    .reduce<number | null>((best, x) => (best === null || Math.abs(x - near) < Math.abs(best - near) ? x : best), null);
}

/** The stretches of a top on which a body can stand, cut where what stays leaves no room above, and where its middle comes into or out of a box. */
function stretchesOn({ solids, hull, level: { size } }: Compiled, ground: Ground, boxes: readonly Box[]): Surface[] {
  const { item, station } = ground;
  const halfWidth = hull.halfWidth + hull.radius;
  const halfHeight = hull.halfHeight + hull.radius;
  const edges = Array.from({ length: solids.firstMoving - solids.inGrid }, (_, edge) => solids.inGrid + edge);
  const above = new Region();
  if (((solids.faces[item] as number) & TOP) === 0) return [];
  const top = ground.y + ground.halfHeight;
  if (top < -HAIR || top + 2 * halfHeight > size.height + HAIR) return [];
  const from = Math.max(halfWidth, ground.x - ground.halfWidth - halfWidth + INSET);
  const to = Math.min(size.width - halfWidth, ground.x + ground.halfWidth + halfWidth - INSET);
  above.left = from - 2 * halfWidth;
  above.right = to + 2 * halfWidth;
  above.bottom = top;
  above.top = top + 2 * halfHeight;
  const count = solids.grid.query(above);
  const near = [...solids.grid.found.subarray(0, count)].sort((one, other) => one - other);
  const blocks = [...near, ...edges].flatMap((other): Block[] => {
    const y = solids.y[other] as number;
    const half = solids.halfHeight[other] as number;
    const inTheWay = ((solids.faces[other] as number) & (LEFT | RIGHT)) !== 0 && other !== item;
    if (!inTheWay || y + half <= top + HAIR || y - half >= top + 2 * halfHeight - HAIR) return [];
    const around = (solids.halfWidth[other] as number) + halfWidth - HAIR;
    return [
      {
        left: (solids.x[other] as number) - around,
        right: (solids.x[other] as number) + around,
        item: other,
        goes: (solids.owner[other] as number) >= 0,
      },
    ];
  });
  const y = top + halfHeight;
  const crossed = station === null ? boxes.filter(({ bottom, top: over }) => bottom < y && over > y) : [];
  const cuts = [...new Set([from, to, ...[...blocks, ...crossed].flatMap(({ left, right }) => [left, right])])]
    .filter((x) => x >= from && x <= to)
    .sort((a, b) => a - b);
  return cuts.slice(0, -1).flatMap((left, index): Surface[] => {
    const right = cuts[index + 1] as number;
    if (right - left < HAIR) return [];
    const middle = (left + right) / 2;
    const over = blocks.filter((block) => block.left < middle && block.right > middle);
    if (over.some(({ goes }) => !goes)) return [];
    return [{ left, right, y, item, station, blockers: over.map((block) => block.item) }];
  });
}

/**
 * All stretches a body can stand on: the tops of solids that stay, and of platforms at their stations, cut where other solids leave no
 * room above. What a thing that may go blocks is a stretch of its own, and so is what lies within a box, as the middle of a body sees it.
 */
export function surfacesOf(compiled: Compiled, stations: readonly Station[] = [], boxes: readonly Box[] = []): Surface[] {
  const { solids, forms, placements } = compiled;
  const grounds = Array.from({ length: solids.firstMoving }, (_, item): Ground => ({
    x: solids.x[item] as number,
    y: solids.y[item] as number,
    halfWidth: solids.halfWidth[item] as number,
    halfHeight: solids.halfHeight[item] as number,
    item,
    station: null,
  }));
  const passed = stations.map((station): Ground => {
    const { placement, item, x, y } = station;
    const form = placements.form[placement] as number;
    return {
      x: x + (forms.solidX[form] as number),
      y: y + (forms.solidY[form] as number),
      halfWidth: forms.solidHalfWidth[form] as number,
      halfHeight: forms.solidHalfHeight[form] as number,
      item,
      station,
    };
  });
  return [...grounds, ...passed].flatMap((ground) => stretchesOn(compiled, ground, boxes));
}

/** The surfaces that go on at the ends of each at the same height, by number; on and off a platform that travels one leaps. */
export function besideOf(surfaces: readonly Surface[]): number[][] {
  return surfaces.map((surface, at) =>
    surfaces.flatMap((other, index) =>
      index !== at &&
      surface.station === null &&
      other.station === null &&
      Math.abs(other.y - surface.y) < 1e-4 &&
      other.left <= surface.right + 1e-4 &&
      other.right >= surface.left - 1e-4
        ? [index]
        : [],
    ),
  );
}
