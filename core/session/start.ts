import { createTrack, Mobile, NearSolids, SLIDE_PIECES, Vector, type ShapeTable, type Solids } from '../geometry/index.ts';
import type { StartingState } from '../level/index.ts';
import { BECOMES, ENDING, LIFE, PHASE, SET_OFF_BY, TRAVEL } from './compile/codes.ts';
import type { Compiled } from './compile/compile.ts';
import { bringSolid, moveSolid, relocate, runLinks, setOffWaiting, startClock, startDrift } from './rules/chain.ts';
import { createCrossings } from './contact/contacts.ts';
import { createNarrow } from './contact/narrowPhase.ts';
import { refreshItemRules } from './rules/items.ts';
import { dieWithoutHealth, noteDisplaced, putPlayer } from './rules/life.ts';
import { createSteering } from './motion/bodies.ts';
import { createCourses, forgetCourses } from './state/courses.ts';
import { createLinks } from './state/links.ts';
import { blankLine, type Recorder } from './state/ledger.ts';
import { NONE } from './state/lines.ts';
import { cellOf, meterOf } from './rules/meters.ts';
import { refreshMovement } from './rules/modifiers.ts';
import { refreshSolid } from './rules/phases.ts';
import { listTimers } from './rules/timers.ts';
import { createTimers, dueAt, forgetTimers } from './state/due.ts';
import type { Attempt, Call, OutsideEvent, PlayerMotion, Scratch, Session } from './state/running.ts';
import { CLOCK, createState, NEVER } from './state/state.ts';
import { exists } from './state/things.ts';
import { wakeAll } from './state/waking.ts';

/** What a session can be started with besides the level. */
export interface SessionOptions {
  readonly seed?: number;
  readonly start?: StartingState | null;
  /** Sorted by step. */
  readonly events?: readonly OutsideEvent[];
  /** Looks at everything in every step, without the shortcuts: the same session, slower. */
  readonly exhaustive?: boolean;
  /** A session of the same compiled level that is over: this one takes its room, and it may no longer be asked. */
  readonly inPlaceOf?: Session | null;
}

function twoShapes(): ShapeTable {
  const float = (length: number): Float64Array => new Float64Array(length);
  return {
    type: new Uint8Array(2),
    x: float(2),
    y: float(2),
    a: float(2),
    b: float(2),
    cos: Float64Array.of(1, 1),
    sin: float(2),
    cornerStart: new Int32Array(3),
    cornerX: float(32),
    cornerY: float(32),
    reach: float(2),
  };
}

function createMotion(): PlayerMotion {
  return {
    stillSlack: -Infinity,
    travelSlack: -Infinity,
    solidSlack: 0,
    nearSolid: NONE,
    besideSlack: 0,
    magnetSlack: 0,
    magnetsNear: [],
    magnetsKnown: 0,
    gone: 0,
    wishFor: { x: 0, y: 0, control: NaN },
    wishX: 0,
    wishY: 0,
    steady: false,
    glideUntil: 0,
    begins: false,
    x: 0,
    y: 0,
    moveX: 0,
    moveY: 0,
    wayX: 0,
    wayY: 0,
    along: NONE,
    share: NONE,
    waits: NONE,
    held: 0,
    moves: false,
    changed: false,
    pressed: 0,
    dropped: false,
    movedBy: NONE,
  };
}

const createCall = (): Call => ({ made: false, toucher: NONE, placement: NONE, rule: NONE, cause: NONE });

const blankAttempt = (): Attempt => ({
  toucher: NONE,
  placement: NONE,
  rule: NONE,
  phase: 0,
  anySide: true,
  sideX: 0,
  sideY: 0,
  supposed: false,
  goesOn: false,
  quiet: false,
  subject: NONE,
  until: NONE,
});

/** What brings a solid to where it is; a session says so when it starts. */
const bringNothing = (): void => undefined;

function createScratch(compiled: Compiled): Scratch {
  const pieces = Math.max(SLIDE_PIECES + 2, compiled.movers.mostPieces);
  const { solids } = compiled;
  const own: Solids = {
    x: solids.x.slice(),
    y: solids.y.slice(),
    halfWidth: solids.halfWidth.slice(),
    halfHeight: solids.halfHeight.slice(),
    faces: solids.faces.slice(),
    on: new Uint8Array(solids.x.length).fill(1),
    grid: solids.grid,
    inGrid: solids.inGrid,
    near: new NearSolids(solids.firstMoving),
    firstMoving: solids.firstMoving,
    mayCover: Float64Array.from({ length: 4 * (solids.x.length - solids.firstMoving) }, (_, at) => (at % 4 < 2 ? Infinity : -Infinity)),
    bring: bringNothing,
  };
  const travellers = compiled.travellers.count;
  return {
    tracks: Array.from({ length: compiled.toucherCount }, (_, toucher) => (toucher < compiled.playerCount ? createTrack(pieces) : null)),
    mostCorners: pieces,
    trackStep: new Int32Array(travellers).fill(NONE),
    courses: createCourses(compiled),
    timers: createTimers(compiled),
    moving: new Int32Array(travellers + 1),
    movingCount: 0,
    toMove: new Int32Array(travellers + 1),
    toMoveCount: 0,
    crossings: createCrossings(),
    links: createLinks(),
    attempt: blankAttempt(),
    place: { x: 0, y: 0, crowded: false },
    spot: { x: 0, y: 0 },
    amounts: { asked: 0, wanted: 0, applied: 0, before: 0, after: 0 },
    turning: { x: 0, y: 0, cos: 1, sin: 0 },
    wish: new Vector(),
    steering: createSteering(),
    narrow: createNarrow(),
    crossing: { share: 0, inside: 0, normalX: 0, normalY: 0, zone: 0 },
    line: blankLine(),
    body: new Mobile(),
    sideTrack: createTrack(pieces),
    longTrack: createTrack(pieces + 16),
    solids: own,
    solidsAt: new Int32Array(solids.x.length).fill(NONE),
    movedBefore: NONE,
    turned: twoShapes(),
    sensed: new Int32Array(compiled.placements.form.length),
    senseStamp: 0,
    bounds: new Float64Array(compiled.toucherCount * 4),
    boundsStep: new Int32Array(compiled.toucherCount).fill(NONE),
    motions: Array.from({ length: compiled.playerCount }, createMotion),
    quietUntil: 0,
    stirred: true,
    roomsToEmpty: true,
    acted: false,
    mayEnd: false,
    overfull: ENDING.running,
    won: createCall(),
    lost: createCall(),
    happened: false,
    contactShare: 1,
    meterLine: new Int32Array(compiled.meterCell.length).fill(NONE),
    itemLine: new Int32Array(compiled.playerCount * compiled.ids.items.length).fill(NONE),
    noticeLine: new Int32Array(compiled.ids.notices.length).fill(NONE),
    windUpSeconds: 0,
  };
}

/** Forgets everything worked out from the state, after the state has been put back. */
export function refreshScratch(session: Session): void {
  const { scratch, compiled } = session;
  scratch.trackStep.fill(NONE);
  scratch.boundsStep.fill(NONE);
  for (const lines of [scratch.meterLine, scratch.itemLine, scratch.noticeLine]) lines.fill(NONE);
  for (const motion of scratch.motions) motion.wishFor.control = NaN;
  scratch.movingCount = 0;
  scratch.solidsAt.fill(NONE);
  forgetCourses(scratch.courses, session.state.clock[CLOCK.step] as number);
  forgetTimers(scratch.timers);
  listTimers(session);
  for (let placement = 0; placement < compiled.placements.form.length; placement += 1) {
    if ((compiled.placements.solid[placement] as number) < 0) continue;
    if (exists(session, placement)) moveSolid(session, placement);
    refreshSolid(session, placement);
  }
  scratch.mayEnd = true;
  scratch.overfull = ENDING.running;
  scratch.roomsToEmpty = true;
  wakeAll(session);
}

function startPlayer(session: Session, player: number, at: { readonly x: number; readonly y: number }): void {
  const { compiled, state } = session;
  const meters = compiled.ids.meters.length;
  for (let meter = 0; meter < meters; meter += 1) state.meter[cellOf(session, player, meter)] = compiled.meters.start[meter] as number;
  state.items.set(compiled.items.start, player * compiled.items.start.length);
  state.held[player] = NONE;
  state.returnTo[player] = NONE;
  state.deathLine[player] = NONE;
  state.dueReturn[player] = NEVER;
  state.floor[player] = NONE;
  state.facingX[player] = 1;
  state.checkpointX[player] = NaN;
  state.checkpointY[player] = NaN;
  state.life[player] = LIFE.alive;
  if (putPlayer(session, player, at.x, at.y)) noteDisplaced(session, player, at.x, at.y, NONE);
  refreshMovement(session, player);
}

/** Puts the first player into a stated state. */
function startFrom(session: Session, start: StartingState): void {
  const { compiled, state } = session;
  for (const [id, value] of Object.entries(start.meters)) state.meter[cellOf(session, 0, compiled.ids.meters.indexOf(id))] = value;
  for (const [id, count] of Object.entries(start.items)) state.items[compiled.ids.items.indexOf(id)] = count;
  if (start.held !== null) state.held[0] = compiled.ids.items.indexOf(start.held);
  if (start.checkpoint !== null) {
    state.checkpointX[0] = start.checkpoint.x;
    state.checkpointY[0] = start.checkpoint.y;
  }
  if (start.shieldSeconds > 0) {
    state.shieldUntil[0] = Math.max(1, Math.round(start.shieldSeconds * compiled.rate));
    dueAt(session, state.shieldUntil[0]);
  }
}

function startThing(session: Session, placement: number): void {
  const { compiled, state } = session;
  const { placements } = compiled;
  const slot = placement * compiled.phaseSlots;
  state.phase[slot] = placements.startPhase[placement] as number;
  if (state.phase[slot] === PHASE.resting) {
    const steps = placements.startSteps[placement] as number;
    if (steps === 0) state.phase[slot] = PHASE.ready;
    else state.phaseDue[slot] = steps;
  }
  startClock(session, placement);
  startDrift(session, placement);
}

/** What a session takes up. */
type Room = Pick<Session, 'state' | 'scratch'>;

/** The room of a session that is over, emptied for another. */
function emptyRoom({ state, scratch }: Room): Room {
  state.fixed.fill(0);
  return { state, scratch };
}

const layOutRoom = (compiled: Compiled): Room => ({ state: createState(compiled), scratch: createScratch(compiled) });

let isFirst = true;

/** Room for a session. At first two are laid out, for the reason that `compile` gives. */
function createRoom(compiled: Compiled): Room {
  if (isFirst) layOutRoom(compiled);
  isFirst = false;
  return layOutRoom(compiled);
}

/** Starts a session of a compiled level. Throws `RangeError` where it should take the room of one of another. */
export function createSession(compiled: Compiled, recorder: Recorder | null = null, options: SessionOptions = {}): Session {
  const { seed = 1, events = [], exhaustive = false, inPlaceOf = null } = options;
  if (inPlaceOf !== null && inPlaceOf.compiled !== compiled) throw new RangeError('the session that is over is of another level');
  const { state, scratch } = inPlaceOf === null ? createRoom(compiled) : emptyRoom(inPlaceOf);
  const session: Session = { compiled, seed, state, recorder, events: [...events], exhaustive, scratch };
  scratch.solids.bring = (item) => bringSolid(session, item);
  state.clock[CLOCK.nextDue] = NEVER;
  state.form.set(compiled.placements.form);
  state.firstUse.fill(NONE);
  state.backStep.fill(NONE);
  state.phaseDue.fill(NEVER);
  state.phaseRule.fill(NONE);
  state.phaseBy.fill(NONE);
  state.cycleDue.fill(NEVER);
  state.everyDue.fill(NEVER);
  state.drawnBy.fill(NONE);
  state.spawnedBy.fill(NONE);
  state.itemFrom.fill(NONE);
  state.regeneratedFrom.fill(NONE);
  const { travellers, placements } = compiled;
  for (let traveller = 0; traveller < travellers.count; traveller += 1) {
    if (travellers.how[traveller] === TRAVEL.path) continue;
    state.travelX[traveller] = placements.x[travellers.placement[traveller] as number] as number;
    state.travelY[traveller] = placements.y[travellers.placement[traveller] as number] as number;
  }
  for (let placement = 0; placement < compiled.placedCount; placement += 1) {
    const kind = compiled.forms.kind[state.form[placement] as number] as number;
    state.kindSerial[kind] = (state.kindSerial[kind] as number) + 1;
    startThing(session, placement);
  }
  refreshScratch(session);
  for (let player = 0; player < compiled.playerCount; player += 1) {
    const stated = player === 0 ? options.start?.at : null;
    startPlayer(session, player, stated ?? compiled.starts[player] ?? compiled.level.start);
  }
  if (options.start != null) startFrom(session, options.start);
  for (let player = 0; player < compiled.playerCount; player += 1) {
    state.lowestHealth[player] = meterOf(session, player, compiled.meters.health);
    refreshItemRules(session, player, NONE);
  }
  for (let placement = 0; placement < compiled.placedCount; placement += 1) relocateAtStart(session, placement);
  setOffWaiting(session, SET_OFF_BY.start, NONE, NONE, NONE);
  runLinks(session);
  for (let player = 0; player < compiled.playerCount; player += 1) dieWithoutHealth(session, player, NONE);
  return session;
}

function relocateAtStart(session: Session, placement: number): void {
  const { forms, rules } = session.compiled;
  const form = session.state.form[placement] as number;
  for (let rule = forms.ruleStart[form] as number; rule < (forms.ruleStart[form + 1] as number); rule += 1) {
    if (rules.becomes[rule] === BECOMES.moves && rules.moveAtStart[rule] === 1) relocate(session, placement, rule, NONE, NONE);
  }
}
