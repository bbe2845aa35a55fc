import { keyedDraw, type Session } from '../../session/index.ts';
import type { Level, Persona } from '../../level/index.ts';
import type { Flight, Leap, Leg } from './air.ts';
import type { World } from './world.ts';

/** Why a persona goes somewhere. */
export type Purpose = 'goal' | 'needed' | 'help' | 'item' | 'score' | 'heal' | 'boost' | 'explore' | 'route' | 'wait' | 'dodge';

/** What a persona is about. Lengths in units. */
export interface Errand {
  readonly purpose: Purpose;
  /** The thing, or −1 when it is a place. */
  readonly placement: number;
  /** The rule it wants to set off there, or −1. */
  readonly rule: number;
  readonly x: number;
  readonly y: number;
  /** Near enough: the use key works, or a place counts as reached. 0: touch it. */
  readonly within: number;
  /** Stays until it has been given what it came for. */
  readonly stays: boolean;
  /** The longest detour it is worth. */
  readonly worth: number;
}

/** Why a persona ended its session by itself. */
export type Ending = 'nothing left to do' | 'gave up' | 'time';

/** A stretch of time in which it does something else than follow its way. */
interface Aside {
  readonly purpose: 'wait' | 'dodge';
  /** The thing that is waited for or dodged. */
  readonly placement: number;
  /** From which step, and up to which; a wait for a cycle ends when it is seen to be off. */
  from: number;
  until: number;
  /** Direction gone meanwhile; (0, 0): it stands. */
  readonly x: number;
  readonly y: number;
}

/** All that a persona knows and means: plain data, so that it can be saved and gone on from. Steps are the session's. */
export interface Mind {
  /** The step in which each thing was last seen; −1: never. */
  seen: Int32Array;
  /** Where each was then. Units. */
  seenX: Float64Array;
  seenY: Float64Array;
  /** Not wanted again before this step. */
  barred: Int32Array;
  /** Not worth its way before this step, to who may do without it. */
  dear: Int32Array;
  /** How often each was come to in vain. */
  vain: Uint8Array;
  /** Squares of the level that have been seen, as bits. */
  areas: Uint32Array;
  /** How often it has begun to look everywhere anew. */
  rounds: number;
  errand: Errand | null;
  /** The last one it was about. */
  lastErrand: Errand | null;
  /** How often its thing had been used when it was taken up. */
  usedBefore: number;
  aside: Aside | null;
  /** Things to stop at, in the order that was found to be shortest. */
  tour: number[];
  /** All that were thought of when that order was found. */
  considered: number[];
  /** Where the way turns, and which of those is next. Units. */
  wayX: number[];
  wayY: number[];
  next: number;
  /** Seen from the side, the legs of the way; the leap that is under way; and whether it runs up to one, so many steps too late. */
  legs: readonly Leg[];
  leap: Leap | null;
  flight: Flight | null;
  landed: number;
  /** The leaps that came down elsewhere than meant since they last did not, each as often as that was; twice where one died of it. */
  missed: number[];
  runsUp: boolean;
  /** The step at which it is good to begin the next leap, or −1: not known. */
  beginsAt: number;
  late: number;
  /** How often it has jumped for its errand from where it stands. */
  hops: number;
  /** What is pressed. */
  x: number;
  y: number;
  buttons: number;
  /** Nothing is done before this step. */
  wake: number;
  nextLook: number;
  /** Since when nothing has been left to do but to wait for what may come, or −1. */
  idleSince: number;
  /** The step in which it chooses anew; never while nothing calls for it. */
  chooseAt: number;
  /** How often each sort of thing was drawn by chance. */
  draws: number[];
  /** The least distance left on this errand, and when it last came to anything. */
  nearest: number;
  progressAt: number;
  /** Errands begun since one last brought what is played for. */
  begun: number;
  /** Since when it has stood where it wanted to be, or −1. */
  thereSince: number;
  /** Since when it has not got on, and where it stood when it last looked. */
  stillSince: number;
  lastX: number;
  lastY: number;
  lastLook: number;
  /** Where it stood after the last step; and whether it has been put somewhere else since it last looked: back is further from its errand. */
  stepX: number;
  stepY: number;
  put: 'no' | 'on' | 'back';
  /** Its body, as it moved when it last looked; null: it has not looked yet. */
  body: Level['body'] | null;
  health: number;
  hurtAt: number;
  score: number;
  /** The zone at whose edge it waits, or −1. */
  waitsAt: number;
  /** The platform whose coming it waits for, or −1. */
  boards: number;
  /** Seen from the side it dodges nothing before this step. */
  calmUntil: number;
  deaths: number;
  alive: boolean;
  /** Of a route that is followed, the way-point that is next. */
  wayPoint: number;
  /** Since when it pauses at one, or −1. */
  pausesSince: number;
  ended: Ending | null;
}

export const NEVER_STEP = 0x7fffffff;

export function createMind({ compiled, areas }: World): Mind {
  const things = compiled.placements.form.length;
  return {
    seen: new Int32Array(things).fill(-1),
    seenX: new Float64Array(things),
    seenY: new Float64Array(things),
    barred: new Int32Array(things),
    dear: new Int32Array(things),
    vain: new Uint8Array(things),
    areas: new Uint32Array(Math.ceil((areas.columns * areas.rows) / 32)),
    rounds: 0,
    errand: null,
    lastErrand: null,
    usedBefore: 0,
    aside: null,
    tour: [],
    considered: [],
    wayX: [],
    wayY: [],
    next: 0,
    legs: [],
    leap: null,
    flight: null,
    landed: 0,
    missed: [],
    runsUp: false,
    beginsAt: -1,
    late: 0,
    hops: 0,
    x: 0,
    y: 0,
    buttons: 0,
    wake: 0,
    nextLook: 0,
    idleSince: -1,
    chooseAt: 0,
    draws: [0, 0, 0],
    nearest: Infinity,
    progressAt: 0,
    begun: 0,
    thereSince: -1,
    stillSince: 0,
    lastX: NaN,
    lastY: NaN,
    lastLook: 0,
    stepX: NaN,
    stepY: NaN,
    put: 'no',
    body: null,
    health: NaN,
    hurtAt: -1,
    score: NaN,
    waitsAt: -1,
    boards: -1,
    calmUntil: 0,
    deaths: 0,
    alive: true,
    wayPoint: 0,
    pausesSince: -1,
    ended: null,
  };
}

/** A copy of all that a persona knows and means, to go on from later. */
export function copyMind(mind: Mind): Mind {
  return {
    ...mind,
    seen: mind.seen.slice(),
    seenX: mind.seenX.slice(),
    seenY: mind.seenY.slice(),
    barred: mind.barred.slice(),
    dear: mind.dear.slice(),
    vain: mind.vain.slice(),
    areas: mind.areas.slice(),
    tour: [...mind.tour],
    considered: [...mind.considered],
    wayX: [...mind.wayX],
    wayY: [...mind.wayY],
    draws: [...mind.draws],
    missed: [...mind.missed],
    flight: mind.flight === null ? null : { ...mind.flight },
    aside: mind.aside === null ? null : { ...mind.aside },
  };
}

/** What a persona draws for. */
const CONCERN = { aim: 0, reaction: 1, timing: 2 } as const;

/** About normal, of mean 0 and deviation 1, and never beyond 3: the sum of three even draws (Irwin, Hall). */
function normal(session: Session, concern: number, player: number, count: number): number {
  let sum = -1.5;
  for (let part = 0; part < 3; part += 1) sum += keyedDraw(session, concern, player, 3 * count + part);
  return 2 * sum;
}

function drawn(session: Session, mind: Mind, concern: number, player: number): number {
  const count = mind.draws[concern] ?? 0;
  mind.draws[concern] = count + 1;
  return normal(session, concern, player, count);
}

/** Steps from something that is seen to what is done about it. */
export function reactionSteps(session: Session, mind: Mind, persona: Persona, player: number): number {
  const seconds = persona.reaction + persona.reactionSpread * drawn(session, mind, CONCERN.reaction, player);
  return Math.max(0, Math.round(seconds * session.compiled.rate));
}

/** By how many steps a stop or a jump comes too late; too early below nought. */
export function lateSteps(session: Session, mind: Mind, persona: Persona, player: number): number {
  if (persona.timingError === 0) return 0;
  return Math.round(persona.timingError * drawn(session, mind, CONCERN.timing, player) * session.compiled.rate);
}

/** Seconds from one error of aim to the next: between them it changes evenly. */
const AIM_SECONDS = 0.8;

/** By how much a persona steers wrong at a step. Degrees. */
export function aimError(session: Session, persona: Persona, player: number, step: number): number {
  if (persona.aimError === 0) return 0;
  const at = step / (AIM_SECONDS * session.compiled.rate);
  const before = Math.floor(at);
  const from = normal(session, CONCERN.aim, player, before);
  const to = normal(session, CONCERN.aim, player, before + 1);
  return persona.aimError * (from + (to - from) * (at - before));
}
