import { canonicalText } from './order.ts';

/**
 * A running 64-bit digest in two 32-bit lanes, each a multiply–xor–shift round after the finaliser of MurmurHash3
 * (Appleby, public domain). Not for secrets: for telling two sessions or documents apart.
 */
export interface Digest {
  addInteger(value: number): void;
  /** Adds the exact bits of a number. */
  addNumber(value: number): void;
  addBytes(bytes: Uint8Array): void;
  /** Sixteen hexadecimal digits. */
  text(): string;
}

export function createDigest(): Digest {
  let high = 0x9e3779b9 | 0;
  let low = 0x85ebca6b | 0;
  const number = new Float64Array(1);
  const halves = new Int32Array(number.buffer);

  const addInteger = (value: number): void => {
    low = Math.imul(low ^ value, 0xcc9e2d51);
    low ^= low >>> 15;
    high = Math.imul(high ^ low ^ value, 0x1b873593);
    high ^= high >>> 13;
  };
  const addNumber = (value: number): void => {
    number[0] = value === 0 ? 0 : value;
    addInteger(halves[0] as number);
    addInteger(halves[1] as number);
  };
  const addBytes = (bytes: Uint8Array): void => {
    for (const byte of bytes) addInteger(byte);
  };
  const hex = (lane: number): string => (lane >>> 0).toString(16).padStart(8, '0');
  return { addInteger, addNumber, addBytes, text: () => hex(high) + hex(low) };
}

/** The key under which everything computed from a document is stored. */
export function documentHash(document: unknown): string {
  const digest = createDigest();
  const text = canonicalText(document);
  for (let index = 0; index < text.length; index += 1) digest.addInteger(text.charCodeAt(index));
  return digest.text();
}
