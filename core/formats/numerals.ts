/** How numbers are written to be read by people. Files that programs read write them otherwise, and the same for all. */
type DecimalSign = '.' | ',';

let decimalSign: DecimalSign = '.';

/** From now on numbers have this decimal sign. */
export function writeNumbersWith(sign: DecimalSign): void {
  decimalSign = sign;
}

/** Writes something for a file: with a point, whatever the reader's sign is. */
export function forFile<Written>(write: () => Written): Written {
  const sign = decimalSign;
  decimalSign = '.';
  try {
    return write();
  } finally {
    decimalSign = sign;
  }
}

const written = (text: string): string => (decimalSign === '.' ? text : text.replace('.', decimalSign)).replace('-', '−');

/** A number as people read it: at most `places` decimals, no trailing noughts, a true minus sign. */
export function plainNumber(value: number, places = 2): string {
  const rounded = Number(value.toFixed(places));
  return written((rounded === 0 ? 0 : rounded).toString());
}

/** A number as a dial shows it: to the fourth decimal. */
export const dialText = (value: number): string => written(String(Number(value.toFixed(4))));

/** A change with its sign: `+18`, `−12`. */
export function signed(value: number, places = 2): string {
  return (value > 0 ? '+' : '') + plainNumber(value, places);
}

/** Two numbers beside each other: `3.5, 7`; where decimals have a comma, `3,5; 7`. */
export const pairText = (x: number, y: number, places = 2): string =>
  `${plainNumber(x, places)}${decimalSign === ',' ? ';' : ','} ${plainNumber(y, places)}`;

/** A moment of a session as `0:38.3`. */
export function clockTime(seconds: number, places: 0 | 1 = 1): string {
  const scale = places === 0 ? 1 : 10;
  const ticks = Math.round(seconds * scale);
  const minutes = Math.floor(ticks / (60 * scale));
  const rest = ((ticks - minutes * 60 * scale) / scale).toFixed(places);
  return `${String(minutes)}:${written(rest.padStart(places === 0 ? 2 : 3 + places, '0'))}`;
}

/** A moment as the label of an axis with one label every so many seconds: no two of them read the same. */
export function axisTime(seconds: number, every: number): string {
  if (every >= 1) return clockTime(seconds, 0);
  if (every >= 0.1) return clockTime(seconds);
  return clockTime(Math.floor(seconds + 1e-9), 0) + written((seconds % 1).toFixed(2).slice(1));
}

/** Where a session is no longer the one that was recorded: digests are kept for each second, so it is told to a second. */
export const partingWords = (seconds: number): string => `parts from the recording at ${clockTime(seconds, 0)}`;
