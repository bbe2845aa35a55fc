/** So many numbers share one entry. */
const BLOCK = 32;

interface Blocks {
  readonly least: Float32Array;
  readonly most: Float32Array;
}

const known = new WeakMap<Float32Array, Blocks>();

/** The least and the greatest of each block of numbers, worked out once for an array that stays as it is. */
function blocksOf(values: Float32Array): Blocks {
  const found = known.get(values);
  if (found !== undefined) return found;
  const count = Math.ceil(values.length / BLOCK);
  const least = new Float32Array(count).fill(Infinity);
  const most = new Float32Array(count).fill(-Infinity);
  for (let block = 0, at = 0; block < count; block += 1) {
    let low = Infinity;
    let high = -Infinity;
    for (const end = Math.min(values.length, at + BLOCK); at < end; at += 1) {
      const value = values[at] as number;
      if (value < low) low = value;
      if (value > high) high = value;
    }
    least[block] = low;
    most[block] = high;
  }
  const blocks = { least, most };
  known.set(values, blocks);
  return blocks;
}

/** The least and the greatest that was found last; one object, since thousands are asked for in a picture. */
export const extremes = { least: 0, most: 0 };

/** Finds the least and the greatest of the numbers from one place up to, not including, another; left in `extremes`. */
export function findExtremes(values: Float32Array, from: number, to: number): void {
  let least = Infinity;
  let most = -Infinity;
  let at = from;
  while (at < to) {
    if (at % BLOCK === 0 && at + BLOCK <= to) {
      const blocks = blocksOf(values);
      const block = at / BLOCK;
      least = Math.min(least, blocks.least[block] as number);
      most = Math.max(most, blocks.most[block] as number);
      at += BLOCK;
      continue;
    }
    const value = values[at] as number;
    if (value < least) least = value;
    if (value > most) most = value;
    at += 1;
  }
  extremes.least = least;
  extremes.most = most;
}

/** The greatest of some numbers, and nought. */
export function peak(values: Float32Array): number {
  findExtremes(values, 0, values.length);
  return Math.max(0, extremes.most);
}
