import { apart, isClear, type Box, type Place } from '../../geometry/index.ts';
import { cellAt } from '../navigation/index.ts';
import type { Vantage, World } from './world.ts';

/** The square of the level in which a place lies. */
export function areaAt({ side, columns }: World['areas'], { x, y }: Place): number {
  return Math.floor(y / side) * columns + Math.floor(x / side);
}

export function isSeen(seen: Uint32Array, area: number): boolean {
  return (((seen[area >> 5] as number) >>> (area & 31)) & 1) === 1;
}

export function markSeen(seen: Uint32Array, area: number): void {
  seen[area >> 5] = (seen[area >> 5] as number) | (1 << (area & 31));
}

/** Side of the squares from whose middles one looks. Units. */
const SPOT = 1;

const within = (value: number, low: number, high: number): number => Math.max(low, Math.min(high, value));

/**
 * What is seen from about a place, as far as a sight reaches: from the middle of the square the place is in, or from as near to that as
 * the cell of the mesh allows, so that nobody looks out of a wall.
 */
export function vantageFrom(world: World, sight: number, x: number, y: number): Vantage {
  const { last } = world.known;
  // Asked again and again from where one stands.
  if (last.vantage !== null && last.x === x && last.y === y && last.sight === sight) return last.vantage;
  last.vantage = vantageAt(world, sight, x, y);
  last.sight = sight;
  last.x = x;
  last.y = y;
  return last.vantage;
}

function vantageAt(world: World, sight: number, x: number, y: number): Vantage {
  const column = Math.floor(x / SPOT);
  const row = Math.floor(y / SPOT);
  const cell = cellAt(world.bare, x, y);
  const { vantages } = world.known;
  const spots = vantages.get(sight) ?? new Map<number, Vantage>();
  vantages.set(sight, spots);
  const key = (cell * 65536 + column) * 65536 + row;
  const known = spots.get(key);
  if (known !== undefined) return known;
  const box = world.bare.cells[cell];
  const [middleX, middleY] = [(column + 0.5) * SPOT, (row + 0.5) * SPOT];
  const vantage =
    box === undefined
      ? lookFrom(world, sight, x, y)
      : lookFrom(world, sight, within(middleX, box.left, box.right), within(middleY, box.bottom, box.top));
  spots.set(key, vantage);
  return vantage;
}

const NO_EXTENT: Box = { left: 0, bottom: 0, right: 0, top: 0 };

function lookFrom({ compiled, stills, areas, walls, extents }: World, sight: number, x: number, y: number): Vantage {
  const { placements } = compiled;
  const things = stills.filter((placement) => {
    const [atX, atY] = [placements.x[placement] as number, placements.y[placement] as number];
    const { left, right, bottom, top } = extents[placements.form[placement] as number] ?? NO_EXTENT;
    // Its near edge is enough to be seen, or its middle.
    const near = { x: within(x, atX + left, atX + right), y: within(y, atY + bottom, atY + top) };
    if (apart({ x, y }, near) > sight) return false;
    return isClear(walls, x, y, near.x, near.y) || (apart({ x, y }, { x: atX, y: atY }) <= sight && isClear(walls, x, y, atX, atY));
  });
  const bits = new Uint32Array(Math.ceil((areas.columns * areas.rows) / 32));
  const index = (at: number, most: number): number => within(Math.floor(at / areas.side), 0, most);
  for (let row = index(y - sight, areas.rows - 1); row <= index(y + sight, areas.rows - 1); row += 1) {
    for (let column = index(x - sight, areas.columns - 1); column <= index(x + sight, areas.columns - 1); column += 1) {
      const area = row * areas.columns + column;
      const [toX, toY] = [areas.x[area] as number, areas.y[area] as number];
      // A square is seen with all that may stand in it.
      const far = Math.sqrt((toX - x) * (toX - x) + (toY - y) * (toY - y)) + (areas.side * Math.SQRT2) / 2;
      if (far > sight || !isClear(walls, x, y, toX, toY)) continue;
      markSeen(bits, area);
    }
  }
  return {
    x,
    y,
    things: Int32Array.from(things),
    areas: bits,
    lengths: new Float64Array(placements.form.length).fill(-1),
    toAreas: new Map(),
  };
}
