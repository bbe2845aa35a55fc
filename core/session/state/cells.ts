/** Sides of the cells of what covers little, and of what covers much. Units. */
const SIDES = [6, 32] as const;
/** What reaches no further from the middle of what it covers is in the smaller cells. Units. */
const LITTLE = 4;

/** Cells of one size. Each is a list that is linked both ways; −1 ends it. */
interface Tier {
  readonly side: number;
  readonly columns: number;
  readonly rows: number;
  readonly head: Int32Array;
  /** Furthest that anything reaches from the middle of what it covers. Units. */
  spread: number;
}

/**
 * Things that travel, by the cell of the level in which the middle of what they cover lies, so that only those near have to be looked
 * at: in small cells, or large ones where they cover much.
 */
export interface Cells {
  readonly tiers: readonly [small: Tier, large: Tier];
  readonly next: Int32Array;
  readonly before: Int32Array;
  /** The cell of each, −1 for none; those of the large tier are numbered on from the small. */
  readonly of: Int32Array;
  /** What `gatherNear` found, up to the count it answered. */
  readonly found: Int32Array;
}

function createTier(side: number, width: number, height: number): Tier {
  const columns = Math.max(1, Math.ceil(width / side));
  const rows = Math.max(1, Math.ceil(height / side));
  return { side, columns, rows, head: new Int32Array(columns * rows).fill(-1), spread: 0 };
}

export function createCells(width: number, height: number, things: number): Cells {
  return {
    tiers: [createTier(SIDES[0], width, height), createTier(SIDES[1], width, height)],
    next: new Int32Array(things).fill(-1),
    before: new Int32Array(things).fill(-1),
    of: new Int32Array(things).fill(-1),
    found: new Int32Array(things),
  };
}

const indexOf = (place: number, side: number, count: number): number => Math.max(0, Math.min(count - 1, Math.floor(place / side)));

/** Takes a thing out of its cell. */
export function leaveCell(cells: Cells, thing: number): void {
  const cell = cells.of[thing] as number;
  if (cell < 0) return;
  const [small, large] = cells.tiers;
  const next = cells.next[thing] as number;
  const before = cells.before[thing] as number;
  if (before >= 0) cells.next[before] = next;
  else if (cell < small.head.length) small.head[cell] = next;
  else large.head[cell - small.head.length] = next;
  if (next >= 0) cells.before[next] = before;
  cells.of[thing] = -1;
}

/** Puts a thing into the cell of the middle of what it covers, from which it reaches so far; what lies outside of the level is in the nearest. */
export function putInCell(cells: Cells, thing: number, x: number, y: number, reach: number): void {
  const [small, large] = cells.tiers;
  const tier = reach <= LITTLE ? small : large;
  if (reach > tier.spread) tier.spread = reach;
  const at = indexOf(y, tier.side, tier.rows) * tier.columns + indexOf(x, tier.side, tier.columns);
  const cell = tier === small ? at : at + small.head.length;
  if (cells.of[thing] === cell) return;
  leaveCell(cells, thing);
  const head = tier.head[at] as number;
  cells.of[thing] = cell;
  cells.next[thing] = head;
  cells.before[thing] = -1;
  if (head >= 0) cells.before[head] = thing;
  tier.head[at] = thing;
}

/** All things that may cover anything of a region. Answers how many; they are in `found`. */
export function gatherNear({ tiers, next, found }: Cells, left: number, bottom: number, right: number, top: number): number {
  let count = 0;
  for (let size = 0; size < 2; size += 1) {
    const { side, columns, rows, head, spread } = tiers[size] as Tier;
    if (spread === 0) continue;
    const firstColumn = indexOf(left - spread, side, columns);
    const lastColumn = indexOf(right + spread, side, columns);
    const lastRow = indexOf(top + spread, side, rows);
    for (let row = indexOf(bottom - spread, side, rows); row <= lastRow; row += 1) {
      for (let column = firstColumn; column <= lastColumn; column += 1) {
        for (let thing = head[row * columns + column] as number; thing >= 0; thing = next[thing] as number) {
          found[count] = thing;
          count += 1;
        }
      }
    }
  }
  return count;
}
