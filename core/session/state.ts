import { CONCERNS, MOVEMENT_COUNT } from './codes.ts';
import type { Compiled } from './compile.ts';

/** Contacts that can exist at one moment; more is refused with `TooManyContacts`. */
const MOST_PAIRS = 4096;
/** Changes of movement a player can have at one moment; more is refused with `TooManyChanges`. */
export const MOST_CHANGES = 48;

/** Deaths kept with their places; later ones are only counted. */
export const MOST_DEATHS = 128;
export const DEATH_WIDTH = 5;
/** Uses, refusals, step of the first use, healed, wasted, hurt, scored, waiting. */
export const STAT_COUNT = 8;

/** Indexes into `state.clock`. */
export const CLOCK = { step: 0, ending: 1, endStep: 2, lines: 3, pairs: 4, nextDue: 5, serial: 6, events: 7, deaths: 8 } as const;

/** No timer runs. */
export const NEVER = 0x7fffffff;

/** Lengths of all that changes, by type. What belongs to contacts comes in `pairs`, so many numbers for each contact. */
function lengthsOf(compiled: Compiled) {
  const players = compiled.playerCount;
  const cells = compiled.meterCell.length;
  const placements = compiled.placements.form.length;
  const travellers = compiled.travellers.count;
  const phases = placements * compiled.phaseSlots;
  const kinds = compiled.kindCount;
  const uses = (compiled.placements.ruleSlot[placements] as number) * compiled.phaseSlots;
  const draws = compiled.placements.drawSlot[placements] as number;
  const itemRules = players * compiled.itemRuleCount;
  const itemEffects = players * (compiled.effects.op.length - (compiled.rules.effectStart[compiled.firstItemRule] as number));
  const items = players * compiled.ids.items.length;
  return {
    float: {
      playerX: players,
      playerY: players,
      velocityX: players,
      velocityY: players,
      /** The way the player last went, for launches along it. */
      facingX: players,
      facingY: players,
      checkpointX: players,
      checkpointY: players,
      meter: cells,
      remainder: players * compiled.keyCount,
      regenerated: cells,
      distance: players,
      lowestHealth: players,
      damageByKind: players * kinds,
      changedSeconds: players,
      /** Step, player, placement, x and y of the first deaths. */
      deathLog: MOST_DEATHS * DEATH_WIDTH,
      /** What spawned things that are no more came to, by kind. */
      goneStats: kinds * STAT_COUNT,
      /** Speed, jump, gravity, acceleration and control in force, for each player. */
      movement: players * MOVEMENT_COUNT,
      itemAsked: itemEffects,
      itemApplied: itemEffects,
      /** Places of those that travel otherwise than along a path. */
      travelX: travellers,
      travelY: travellers,
      travelVelocityX: travellers,
      travelVelocityY: travellers,
      healed: placements,
      wasted: placements,
      hurt: placements,
      scored: placements,
      waiting: placements,
    },
    integer: {
      clock: 9,
      deaths: players,
      held: players,
      buttons: players,
      dueReturn: players,
      returnTo: players,
      graceUntil: players,
      lockUntil: players,
      shieldUntil: players,
      lateUntil: players,
      /** The solid the player stands on, or −1. */
      floor: players,
      items,
      changes: players,
      changeEffect: players * MOST_CHANGES,
      changeKey: players * MOST_CHANGES,
      changePlacement: players * MOST_CHANGES,
      changeRule: players * MOST_CHANGES,
      changeUntil: players * MOST_CHANGES,
      lossStep: cells,
      regeneratedFrom: cells,
      itemFrom: itemEffects,
      itemUses: itemRules,
      noticed: compiled.ids.notices.length,
      form: placements,
      phaseDue: phases,
      phaseFrom: phases,
      phaseRule: phases,
      phaseBy: phases,
      cycleDue: placements,
      backStep: phases,
      everyDue: compiled.has.every ? (compiled.placements.ruleSlot[placements] as number) : 0,
      timesUsed: uses,
      draws: draws * CONCERNS * (players + 1) + itemRules * CONCERNS + players * CONCERNS,
      drawnBy: travellers,
      drawnFrom: travellers,
      spawnedBy: placements,
      serialOf: placements,
      firstUse: placements,
      uses: placements,
      refusals: placements,
    },
    byte: {
      life: players,
      jumping: players,
      died: players,

      itemRefused: itemRules,
      phase: phases,
      cycledOff: placements,
      /** Turned solid while someone was inside. */
      solidLater: placements,
    },
    pairs: {
      float: {
        pairFrom: 1,
        pairInside: 1,
        /** Seconds at which the contact ended within this step, or −1. */
        pairLeft: 1,
        slotAsked: compiled.slotsPerPair,
        slotApplied: compiled.slotsPerPair,
        /** Seconds inside while the rule acts. */
        slotInside: compiled.slotsPerPair,
      },
      integer: { pairToucher: 1, pairPlacement: 1, slotFrom: compiled.slotsPerPair, slotPulses: compiled.slotsPerPair },
      byte: { pairTrying: 1, pairGraced: 1, slotRefused: compiled.slotsPerPair },
    },
  };
}

type Lengths = ReturnType<typeof lengthsOf>;
type Views = Record<keyof Lengths['float'] | keyof Lengths['pairs']['float'], Float64Array> &
  Record<keyof Lengths['integer'] | keyof Lengths['pairs']['integer'], Int32Array> &
  Record<keyof Lengths['byte'] | keyof Lengths['pairs']['byte'], Uint8Array>;

/** A column of the contacts: so many numbers for each. */
export interface PairColumn {
  readonly view: Float64Array | Int32Array | Uint8Array;
  readonly width: number;
}

/** Everything that changes while a session runs, as views on one buffer. */
export type State = Views & {
  /** All but the contacts. */
  readonly fixed: Uint8Array;
  readonly pairColumns: readonly PairColumn[];
};

export function createState(compiled: Compiled): State {
  const lengths = lengthsOf(compiled);
  const capacity = Math.min(compiled.toucherCount * compiled.placements.form.length, MOST_PAIRS);
  const total = (group: Record<string, number>): number => Object.values(group).reduce((sum, length) => sum + length, 0);
  const padded = (bytes: number): number => Math.ceil(bytes / 8) * 8;
  const fixedBytes = padded(total(lengths.float) * 8 + total(lengths.integer) * 4 + total(lengths.byte));
  const pairWidth = total(lengths.pairs.float) * 8 + total(lengths.pairs.integer) * 4 + total(lengths.pairs.byte);
  const buffer = new ArrayBuffer(fixedBytes + padded(capacity * pairWidth));
  const views: Record<string, PairColumn['view']> = {};
  let at = 0;
  const lay = (
    group: Record<string, number>,
    times: number,
    type: typeof Float64Array | typeof Int32Array | typeof Uint8Array,
  ): PairColumn[] =>
    Object.entries(group).map(([name, width]) => {
      const view = new type(buffer, at, width * times);
      views[name] = view;
      at += view.byteLength;
      return { view, width };
    });
  lay(lengths.float, 1, Float64Array);
  lay(lengths.integer, 1, Int32Array);
  lay(lengths.byte, 1, Uint8Array);
  at = fixedBytes;
  const { pairs } = lengths;
  const pairColumns = [
    ...lay(pairs.float, capacity, Float64Array),
    ...lay(pairs.integer, capacity, Int32Array),
    ...lay(pairs.byte, capacity, Uint8Array),
  ];
  return { ...(views as Views), fixed: new Uint8Array(buffer, 0, fixedBytes), pairColumns };
}

/** The bytes of a state: all that is fixed, then the contacts there are. */
export function saveState(state: State): Uint8Array {
  const pairs = state.clock[CLOCK.pairs] as number;
  const parts = state.pairColumns.map(
    ({ view, width }) => new Uint8Array(view.buffer, view.byteOffset, pairs * width * view.BYTES_PER_ELEMENT),
  );
  const saved = new Uint8Array(parts.reduce((sum, part) => sum + part.length, state.fixed.length));
  saved.set(state.fixed);
  let at = state.fixed.length;
  for (const part of parts) {
    saved.set(part, at);
    at += part.length;
  }
  return saved;
}

/** Puts saved bytes back. Throws `RangeError` when they are of a session of another level. */
export function loadState(state: State, saved: Uint8Array): void {
  if (saved.length < state.fixed.length) throw new RangeError('this snapshot is of another level');
  state.fixed.set(saved.subarray(0, state.fixed.length));
  const pairs = state.clock[CLOCK.pairs] as number;
  let at = state.fixed.length;
  for (const { view, width } of state.pairColumns) {
    const length = pairs * width * view.BYTES_PER_ELEMENT;
    if (at + length > saved.length || pairs * width > view.length) throw new RangeError('this snapshot is of another level');
    new Uint8Array(view.buffer, view.byteOffset, length).set(saved.subarray(at, at + length));
    at += length;
  }
}

/** Refusal of a level in which more things touch at one moment than a session can hold. */
export class TooManyContacts extends Error {
  constructor() {
    super('more things touch at one moment than a session can hold; spread the placements out');
    this.name = 'TooManyContacts';
  }
}

/** Refusal of a level in which one player has more changes of movement at one moment than a session can hold. */
export class TooManyChanges extends Error {
  constructor() {
    super(`a player has more than ${String(MOST_CHANGES)} changes of movement at one moment; let fewer of them stack`);
    this.name = 'TooManyChanges';
  }
}
