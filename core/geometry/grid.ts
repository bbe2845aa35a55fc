/** An upright box. Regions are passed as one object, kept by the caller: loose numbers would each be put on the heap. */
export class Region {
  left = 0;
  bottom = 0;
  right = 0;
  top = 0;
}

/** The box with a number in a list of them, left, bottom, right and top of each, as a region. */
export function readBox(boxes: Float64Array, index: number, into: Region): void {
  into.left = boxes[index * 4] as number;
  into.bottom = boxes[index * 4 + 1] as number;
  into.right = boxes[index * 4 + 2] as number;
  into.top = boxes[index * 4 + 3] as number;
}

/** Puts a region, and so far around it, into a list of boxes. */
export function writeBox(boxes: Float64Array, index: number, { left, bottom, right, top }: Region, around: number): void {
  boxes[index * 4] = left - around;
  boxes[index * 4 + 1] = bottom - around;
  boxes[index * 4 + 2] = right + around;
  boxes[index * 4 + 3] = top + around;
}

/** Whether the box with a number in a list has anything in common with a region. */
export function boxMeets(boxes: Float64Array, index: number, { left, bottom, right, top }: Region): boolean {
  const at = index * 4;
  return (
    (boxes[at] as number) <= right &&
    (boxes[at + 2] as number) >= left &&
    (boxes[at + 1] as number) <= top &&
    (boxes[at + 3] as number) >= bottom
  );
}

/**
 * A uniform grid over boxes that do not move: built once, then asked which boxes may meet a region.
 * Items are numbered as they were added; an answer lists each once, in no particular order.
 */
export interface Grid {
  /** Fills `found` and returns how many items may meet the region. */
  query(region: Region): number;
  /** Answers of the last query, valid up to the count it returned. */
  readonly found: Int32Array;
}

const MOST_CELLS = 16384;

/** `boxes` holds left, bottom, right, top for each item. */
export function createGrid(boxes: Float64Array): Grid {
  const count = boxes.length / 4;
  let left = 0;
  let bottom = 0;
  let right = 0;
  let top = 0;
  let extent = 0;
  for (let item = 0; item < count; item += 1) {
    const l = boxes[item * 4] as number;
    const b = boxes[item * 4 + 1] as number;
    const r = boxes[item * 4 + 2] as number;
    const t = boxes[item * 4 + 3] as number;
    left = item === 0 ? l : Math.min(left, l);
    bottom = item === 0 ? b : Math.min(bottom, b);
    right = item === 0 ? r : Math.max(right, r);
    top = item === 0 ? t : Math.max(top, t);
    extent += r - l + t - b;
  }
  // Cells about as large as a middling item, but never so many that the table itself is slow.
  const wanted = count === 0 ? 1 : Math.max(extent / (2 * count), 0.25);
  const area = Math.max((right - left) * (top - bottom), 0);
  const cell = Math.max(wanted, Math.sqrt(area / MOST_CELLS), (right - left) / MOST_CELLS, (top - bottom) / MOST_CELLS);
  const columns = Math.min(Math.floor((right - left) / cell) + 1, MOST_CELLS);
  const rows = Math.min(Math.floor((top - bottom) / cell) + 1, MOST_CELLS);

  const clamp = (value: number, most: number): number => (value < 0 ? 0 : value > most ? most : value);
  const column = (x: number): number => clamp(Math.floor((x - left) / cell), columns - 1);
  const row = (y: number): number => clamp(Math.floor((y - bottom) / cell), rows - 1);

  const starts = new Int32Array(columns * rows + 1);
  const eachCell = (item: number, visit: (index: number) => void): void => {
    const lastColumn = column(boxes[item * 4 + 2] as number);
    const lastRow = row(boxes[item * 4 + 3] as number);
    for (let r = row(boxes[item * 4 + 1] as number); r <= lastRow; r += 1) {
      for (let c = column(boxes[item * 4] as number); c <= lastColumn; c += 1) visit(r * columns + c);
    }
  };
  for (let item = 0; item < count; item += 1) eachCell(item, (index) => (starts[index + 1] = (starts[index + 1] as number) + 1));
  for (let index = 0; index < columns * rows; index += 1) {
    starts[index + 1] = (starts[index + 1] as number) + (starts[index] as number);
  }
  const items = new Int32Array(starts[columns * rows] as number);
  const cursor = starts.slice();
  for (let item = 0; item < count; item += 1) {
    eachCell(item, (index) => {
      items[cursor[index] as number] = item;
      cursor[index] = (cursor[index] as number) + 1;
    });
  }

  const found = new Int32Array(count);
  const stamps = new Int32Array(count);
  let stamp = 0;

  const query = (region: Region): number => {
    const { left: l, bottom: b, right: r, top: t } = region;
    if (count === 0 || r < left || l > right || t < bottom || b > top) return 0;
    stamp += 1;
    let total = 0;
    const lastColumn = column(r);
    const lastRow = row(t);
    const firstColumn = column(l);
    for (let y = row(b); y <= lastRow; y += 1) {
      for (let x = firstColumn; x <= lastColumn; x += 1) {
        const index = y * columns + x;
        const end = starts[index + 1] as number;
        for (let k = starts[index] as number; k < end; k += 1) {
          const item = items[k] as number;
          if (stamps[item] === stamp) continue;
          stamps[item] = stamp;
          const at = item * 4;
          if ((boxes[at] as number) > r || (boxes[at + 2] as number) < l) continue;
          if ((boxes[at + 1] as number) > t || (boxes[at + 3] as number) < b) continue;
          found[total] = item;
          total += 1;
        }
      }
    }
    return total;
  };
  return { query, found };
}
