import { grown } from '../../geometry/index.ts';
import { CONCERNS, MOVEMENT_COUNT } from '../compile/codes.ts';
import type { Compiled } from '../compile/compile.ts';

/** Contacts there is room for at first; and the most that can exist at one moment: with more the session ends. */
const FIRST_PAIRS = 64;
const MOST_PAIRS = 65536;
/** Changes of movement a player can have at one moment: with more the session ends. */
export const MOST_CHANGES = 48;

/** Deaths kept with their places; later ones are only counted. */
export const MOST_DEATHS = 128;
export const DEATH_WIDTH = 5;
/** Uses, refusals, step of the first use, healed, wasted, hurt, scored, waiting, uses that came to nothing. */
export const STAT_COUNT = 9;

/** Indexes into `state.clock`. */
export const CLOCK = { step: 0, ending: 1, endStep: 2, lines: 3, pairs: 4, nextDue: 5, serial: 6, events: 7, deaths: 8 } as const;

/** No timer runs. */
export const NEVER = 0x7fffffff;

/** The columns of contacts, a number for each or one for each of its slots, in the order in which they are saved. */
const PAIR_COLUMNS = [
  ...(['pairFrom', 'pairInside', 'pairLeft', 'slotAsked', 'slotApplied', 'slotInside'] as const),
  ...(['pairToucher', 'pairPlacement', 'slotFrom', 'slotPulses'] as const),
  ...(['pairGraced', 'pairZone', 'slotRefused'] as const),
];

/** The room that contacts have: so many, each with so many slots. It grows with need. */
interface PairRoom {
  count: number;
  readonly slots: number;
}

const widthOf = (column: (typeof PAIR_COLUMNS)[number], { slots }: PairRoom): number => (column.startsWith('slot') ? slots : 1);

/** Hands out views on one buffer: so many numbers of a type. */
interface Room {
  readonly float: (length: number) => Float64Array;
  readonly integer: (length: number) => Int32Array;
  readonly byte: (length: number) => Uint8Array;
}

/** Everything that changes. One literal, so that the engine knows its shape. */
function layOut(compiled: Compiled, { float, integer, byte }: Room, count = 0) {
  const players = compiled.playerCount;
  const cells = compiled.meterCell.length;
  const placements = compiled.placements.form.length;
  const travellers = compiled.travellers.count;
  const phases = placements * compiled.phaseSlots;
  const kinds = compiled.kindCount;
  const slots = compiled.slotsPerPair;
  const uses = (compiled.placements.ruleSlot[placements] as number) * compiled.phaseSlots;
  const draws = compiled.placements.drawSlot[placements] as number;
  const itemRules = players * compiled.itemRuleCount;
  const itemEffects = players * (compiled.effects.op.length - (compiled.rules.effectStart[compiled.firstItemRule] as number));
  const items = players * compiled.ids.items.length;
  return {
    playerX: float(players),
    playerY: float(players),
    velocityX: float(players),
    velocityY: float(players),
    /** The way the player last went, for launches along it. */
    facingX: float(players),
    facingY: float(players),
    checkpointX: float(players),
    checkpointY: float(players),
    meter: float(cells),
    remainder: float(players * compiled.keyCount),
    regenerated: float(cells),
    /** What regeneration last brought the meter to. */
    regeneratedTo: float(cells),
    distance: float(players),
    lowestHealth: float(players),
    damageByKind: float(players * kinds),
    changedSeconds: float(players),
    /** Step, player, placement, x and y of the first deaths. */
    deathLog: float(MOST_DEATHS * DEATH_WIDTH),
    /** What spawned things that are no more came to, by kind. */
    goneStats: float(kinds * STAT_COUNT),
    /** Speed, jump, gravity, acceleration and control in force, for each player. */
    movement: float(players * MOVEMENT_COUNT),
    itemAsked: float(itemEffects),
    itemApplied: float(itemEffects),
    /** Places of those that travel otherwise than along a path. */
    travelX: float(travellers),
    travelY: float(travellers),
    travelVelocityX: float(travellers),
    travelVelocityY: float(travellers),
    healed: float(placements),
    wasted: float(placements),
    hurt: float(placements),
    scored: float(placements),
    waiting: float(placements),
    /** What lines call the things in the rooms after the placed ones. */
    named: float(placements - compiled.placedCount),
    clock: integer(9),
    deaths: integer(players),
    /** The line of the death of whoever is dead or out. */
    deathLine: integer(players),
    held: integer(players),
    buttons: integer(players),
    dueReturn: integer(players),
    returnTo: integer(players),
    graceUntil: integer(players),
    lockUntil: integer(players),
    shieldUntil: integer(players),
    /** The first steps in which shield and grace count: the ones after they began. */
    shieldFrom: integer(players),
    graceFrom: integer(players),
    lateUntil: integer(players),
    /** The solid the player stands on, or −1. */
    floor: integer(players),
    items: integer(items),
    changes: integer(players),
    changeEffect: integer(players * MOST_CHANGES),
    changeKey: integer(players * MOST_CHANGES),
    changePlacement: integer(players * MOST_CHANGES),
    changeRule: integer(players * MOST_CHANGES),
    changeUntil: integer(players * MOST_CHANGES),
    lossStep: integer(cells),
    regeneratedFrom: integer(cells),
    itemFrom: integer(itemEffects),
    itemUses: integer(itemRules),
    noticed: integer(compiled.ids.notices.length),
    form: integer(placements),
    phaseDue: integer(phases),
    phaseFrom: integer(phases),
    phaseRule: integer(phases),
    phaseBy: integer(phases),
    cycleDue: integer(placements),
    backStep: integer(phases),
    everyDue: integer(compiled.has.every ? (compiled.placements.ruleSlot[placements] as number) : 0),
    timesUsed: integer(uses),
    draws: integer(draws * CONCERNS * (players + 1) + itemRules * CONCERNS + players * CONCERNS),
    drawnBy: integer(travellers),
    drawnFrom: integer(travellers),
    spawnedBy: integer(placements),
    serialOf: integer(placements),
    /** The last serial of each kind. */
    kindSerial: integer(kinds),
    firstUse: integer(placements),
    uses: integer(placements),
    refusals: integer(placements),
    /** Uses of which nothing came. */
    nothings: integer(placements),
    /** Uses by rules whose uses count for all of their kind. */
    kindUses: integer(compiled.kindRuleCount),
    life: byte(players),
    jumping: byte(players),
    died: byte(players),
    itemRefused: byte(itemRules),
    phase: byte(phases),
    cycledOff: byte(placements),
    /** For each traveller and player: it gave up on that player, who has been in its reach ever since. */
    gaveUp: byte(travellers * players),
    /** Turned solid while someone was inside. */
    solidLater: byte(placements),
    // Of each contact: who touches what, since when, and how long within the step; of each of its slots what its rules have done.
    pairFrom: new Float64Array(count),
    pairInside: new Float64Array(count),
    /** Seconds at which the contact ended within this step, or −1. */
    pairLeft: new Float64Array(count),
    slotAsked: new Float64Array(count * slots),
    slotApplied: new Float64Array(count * slots),
    /** Seconds inside while the rule acts. */
    slotInside: new Float64Array(count * slots),
    pairToucher: new Int32Array(count),
    pairPlacement: new Int32Array(count),
    slotFrom: new Int32Array(count * slots),
    slotPulses: new Int32Array(count * slots),
    pairGraced: new Uint8Array(count),
    /** Zone of the thing that is touched; 0: the thing as a whole. */
    pairZone: new Uint8Array(count),
    slotRefused: new Uint8Array(count * slots),
  };
}

/** Adds up what `layOut` asks for. */
function measure(compiled: Compiled): { float: number; integer: number; byte: number } {
  const total = { float: 0, integer: 0, byte: 0 };
  layOut(compiled, {
    float: (length) => ((total.float += length), new Float64Array(0)),
    integer: (length) => ((total.integer += length), new Int32Array(0)),
    byte: (length) => ((total.byte += length), new Uint8Array(0)),
  });
  return total;
}

/** Everything that changes while a session runs, as views on one buffer; and the contacts, whose columns grow. */
export type State = ReturnType<typeof createState>;

export function createState(compiled: Compiled) {
  const { float, integer, byte } = measure(compiled);
  const fixedBytes = Math.ceil((float * 8 + integer * 4 + byte) / 8) * 8;
  const buffer = new ArrayBuffer(fixedBytes);
  const at = { float: 0, integer: float * 8, byte: float * 8 + integer * 4 };
  const take = (section: keyof typeof at, bytes: number): number => {
    const from = at[section];
    at[section] += bytes;
    return from;
  };
  // Floats are asked for first, then integers, then bytes, so that each lies where its type may.
  const views = layOut(
    compiled,
    {
      float: (length) => new Float64Array(buffer, take('float', length * 8), length),
      integer: (length) => new Int32Array(buffer, take('integer', length * 4), length),
      byte: (length) => new Uint8Array(buffer, take('byte', length), length),
    },
    FIRST_PAIRS,
  );
  const pairRoom: PairRoom = { count: FIRST_PAIRS, slots: compiled.slotsPerPair };
  return Object.assign(views, { pairRoom, fixed: new Uint8Array(buffer) });
}

/** Makes room for twice as many contacts. Answers whether there may be so many. */
export function makePairRoom(state: State): boolean {
  if (state.pairRoom.count >= MOST_PAIRS) return false;
  state.pairRoom.count *= 2;
  const larger = Object.fromEntries(PAIR_COLUMNS.map((name) => [name, grown<Float64Array | Int32Array | Uint8Array>(state[name])]));
  Object.assign(state, larger);
  return true;
}

/** Moves all columns of the contacts from one place on to another. */
export function movePairs(state: State, from: number, to: number, end: number): void {
  for (const name of PAIR_COLUMNS) {
    const width = widthOf(name, state.pairRoom);
    state[name].copyWithin(to * width, from * width, end * width);
  }
}

/** The bytes of a state: all that is fixed, then the contacts there are. */
export function saveState(state: State): Uint8Array {
  const pairs = state.clock[CLOCK.pairs] as number;
  const parts = PAIR_COLUMNS.map((name) => {
    const { buffer, byteOffset, BYTES_PER_ELEMENT } = state[name];
    return new Uint8Array(buffer, byteOffset, pairs * widthOf(name, state.pairRoom) * BYTES_PER_ELEMENT);
  });
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
  while (pairs > state.pairRoom.count && makePairRoom(state));
  let at = state.fixed.length;
  for (const name of PAIR_COLUMNS) {
    const { buffer, byteOffset, byteLength, BYTES_PER_ELEMENT } = state[name];
    const length = pairs * widthOf(name, state.pairRoom) * BYTES_PER_ELEMENT;
    if (at + length > saved.length || length > byteLength) throw new RangeError('this snapshot is of another level');
    new Uint8Array(buffer, byteOffset, length).set(saved.subarray(at, at + length));
    at += length;
  }
}
