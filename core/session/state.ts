import type { Compiled } from './compile.ts';

/** Contacts that can exist at one moment; more is refused with `TooManyContacts`. */
const MOST_PAIRS = 8192;

/**
 * Everything that changes while a session runs, as views on one buffer: copying the buffer saves the session, copying
 * it back goes on from there.
 */
export type State = ReturnType<typeof createState>;

/** Indexes into `state.clock`. */
export const CLOCK = { step: 0, ending: 1, endStep: 2, lines: 3, pairs: 4, nextDue: 5 } as const;

/** No timer runs. */
export const NEVER = 0x7fffffff;

export function createState(compiled: Compiled) {
  const players = compiled.playerCount;
  const meters = compiled.meters.lower.length;
  const placements = compiled.placements.kind.length;
  const kinds = compiled.ids.kinds.length;
  const pairs = Math.min(compiled.toucherCount * placements, MOST_PAIRS);
  const slots = pairs * compiled.slotsPerPair;

  const lengths = {
    float: {
      playerX: players,
      playerY: players,
      velocityX: players,
      velocityY: players,
      meter: players * meters,
      remainder: players * compiled.effects.amount.length,
      distance: players,
      lowestHealth: players,
      damageByKind: players * kinds,
      healed: placements,
      wasted: placements,
      hurt: placements,
      scored: placements,
      waiting: placements,
      pairFrom: pairs,
      pairInside: pairs,
      /** Seconds at which the contact ended within this step, or −1. */
      pairLeft: pairs,
      slotAsked: slots,
      slotApplied: slots,
    },
    integer: {
      clock: 6,
      dueStep: placements,
      firstUse: placements,
      uses: placements,
      refusals: placements,
      backStep: placements,
      pairToucher: pairs,
      pairPlacement: pairs,
      slotFrom: slots,
    },
    byte: { dead: players, phase: placements, slotRefused: slots },
  };
  type Float = keyof (typeof lengths)['float'];
  type Integer = keyof (typeof lengths)['integer'];
  type Byte = keyof (typeof lengths)['byte'];

  const total = (group: Record<string, number>): number => Object.values(group).reduce((sum, length) => sum + length, 0);
  const floatBytes = total(lengths.float) * 8;
  const integerBytes = total(lengths.integer) * 4;
  const buffer = new ArrayBuffer(floatBytes + integerBytes + total(lengths.byte));
  const views: Record<string, Float64Array | Int32Array | Uint8Array> = {};
  let at = 0;
  for (const [name, length] of Object.entries(lengths.float)) {
    views[name] = new Float64Array(buffer, at, length);
    at += length * 8;
  }
  for (const [name, length] of Object.entries(lengths.integer)) {
    views[name] = new Int32Array(buffer, at, length);
    at += length * 4;
  }
  for (const [name, length] of Object.entries(lengths.byte)) {
    views[name] = new Uint8Array(buffer, at, length);
    at += length;
  }
  return { buffer, bytes: new Uint8Array(buffer), ...views } as { buffer: ArrayBuffer; bytes: Uint8Array } & Record<Float, Float64Array> &
    Record<Integer, Int32Array> &
    Record<Byte, Uint8Array>;
}
