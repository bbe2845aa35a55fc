import { canonicalText } from './order.ts';
import type { Level } from './schema.ts';

/**
 * A running 64-bit digest in two 32-bit lanes, each a multiply–xor–shift round after the finaliser of MurmurHash3
 * (Appleby, public domain). Not for secrets: for telling two sessions or documents apart.
 */
export interface Digest {
  /** Adds integers of at most 32 bits. */
  addIntegers(values: Int32Array | Uint8Array | Uint16Array): void;
  /** Adds the code units of a text. */
  addText(text: string): void;
  /** Sixteen hexadecimal digits. */
  text(): string;
  /** The number that the first eight of them are, as a signed integer of 32 bits. */
  number(): number;
}

export function createDigest(): Digest {
  // Kept in typed arrays: numbers of 32 bits in variables of a closure may each be put on the heap.
  const lanes = Int32Array.of(0x9e3779b9, 0x85ebca6b);

  const addIntegers: Digest['addIntegers'] = (values) => {
    let high = lanes[0] as number;
    let low = lanes[1] as number;
    for (let at = 0; at < values.length; at += 1) {
      const value = values[at] as number;
      low = Math.imul(low ^ value, 0xcc9e2d51);
      low ^= low >>> 15;
      high = Math.imul(high ^ low ^ value, 0x1b873593);
      high ^= high >>> 13;
    }
    lanes[0] = high;
    lanes[1] = low;
  };
  const hex = (lane: number): string => (lane >>> 0).toString(16).padStart(8, '0');
  return {
    addIntegers,
    addText(text) {
      const units = new Uint16Array(text.length);
      for (let at = 0; at < text.length; at += 1) units[at] = text.charCodeAt(at);
      addIntegers(units);
    },
    text: () => hex(lanes[0] as number) + hex(lanes[1] as number),
    number: () => lanes[0] as number,
  };
}

/** The hash of a document. */
export function documentHash(document: unknown): string {
  const digest = createDigest();
  digest.addText(canonicalText(document));
  return digest.text();
}

/** Parts of a level that no session depends on. */
const NOT_PLAYED: readonly string[] = ['targets', 'crowd', 'meant'] satisfies (keyof Level)[];

/** Whether sessions may depend on a value of a level, by its pointer. */
export const isPlayed = (path: string): boolean => !NOT_PLAYED.includes(path.split('/')[1] ?? '');

/** The key under which everything simulated of a level is stored. */
export function levelHash(level: Level): string {
  const played = Object.entries(level).filter(([part]) => !NOT_PLAYED.includes(part));
  return documentHash(Object.fromEntries(played));
}
