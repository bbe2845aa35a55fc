import { beginTrack, createTrack, extendTrack, turn, type Track } from '../../geometry/index.ts';
import { PHASE, TRAVEL } from '../compile/codes.ts';
import { moverTrack } from '../compile/kinematics.ts';
import type { PlayerMotion, Session, Spot, Turning } from './running.ts';
import { flyTo } from './courses.ts';
import { CLOCK } from './state.ts';

/** The present step, in seconds. */
const present = { from: 0, to: 0 };

/** Where the way of a traveller is kept: few of many ever go one that anybody asks for. */
export function ownTrack({ compiled, scratch }: Session, traveller: number): Track {
  const { tracks } = scratch;
  const at = compiled.playerCount + traveller;
  const track = tracks[at] ?? createTrack(scratch.mostCorners);
  tracks[at] = track;
  return track;
}

/** The way of a traveller within the present step. Those along paths are worked out when asked for. */
export function trackOf(session: Session, traveller: number): Track {
  const { compiled, state, scratch } = session;
  const track = ownTrack(session, traveller);
  const now = state.clock[CLOCK.step] as number;
  if (scratch.trackStep[traveller] === now) return track;
  const { courses } = scratch;
  const path = compiled.travellers.path[traveller] as number;
  if (path >= 0) {
    present.from = Math.max(0, now - 1) * compiled.stepSeconds;
    present.to = now * compiled.stepSeconds;
    moverTrack(compiled.movers, path, present, track);
    scratch.trackStep[traveller] = now;
    return track;
  }
  flyTo(session, traveller, courses.moved);
  const flew = courses.flewIn[traveller] === now;
  const x = state.travelX[traveller] as number;
  const y = state.travelY[traveller] as number;
  beginTrack(track, flew ? (courses.fromX[traveller] as number) : x, flew ? (courses.fromY[traveller] as number) : y);
  extendTrack(track, 1, x, y);
  // Before things have moved in this step, theirs is not yet the way within it.
  if (courses.moved === now) scratch.trackStep[traveller] = now;
  return track;
}

/** Where a placement is at the end of the present step. */
export function placeX(session: Session, placement: number): number {
  const traveller = session.compiled.placements.traveller[placement] as number;
  if (traveller < 0) return session.compiled.placements.x[placement] as number;
  if (session.compiled.travellers.how[traveller] !== TRAVEL.path) {
    flyTo(session, traveller, session.scratch.courses.moved);
    return session.state.travelX[traveller] as number;
  }
  const track = trackOf(session, traveller);
  return track.x[track.count - 1] as number;
}

export function placeY(session: Session, placement: number): number {
  const traveller = session.compiled.placements.traveller[placement] as number;
  if (traveller < 0) return session.compiled.placements.y[placement] as number;
  if (session.compiled.travellers.how[traveller] !== TRAVEL.path) {
    flyTo(session, traveller, session.scratch.courses.moved);
    return session.state.travelY[traveller] as number;
  }
  const track = trackOf(session, traveller);
  return track.y[track.count - 1] as number;
}

/** Distance between the places of a player and a thing. Units. */
export function distanceTo(session: Session, player: number, placement: number): number {
  const dx = (session.state.playerX[player] as number) - placeX(session, placement);
  const dy = (session.state.playerY[player] as number) - placeY(session, placement);
  return Math.sqrt(dx * dx + dy * dy);
}

/** Reads where something is that takes a way, after a share of the step. */
function readTrack(spot: Spot, track: Track, share: number): Spot {
  let piece = 0;
  while (piece < track.count - 2 && (track.at[piece + 1] as number) < share) piece += 1;
  const from = track.at[piece] as number;
  const length = (track.at[piece + 1] as number) - from;
  const part = track.count < 2 ? 0 : length > 0 ? Math.min(1, (share - from) / length) : 1;
  const next = Math.min(piece + 1, track.count - 1);
  spot.x = (track.x[piece] as number) + ((track.x[next] as number) - (track.x[piece] as number)) * part;
  spot.y = (track.y[piece] as number) + ((track.y[next] as number) - (track.y[piece] as number)) * part;
  return spot;
}

/** Reads where a player is at the contact that is acted on, else at the end of the step. Answers with one object for all places of a session. */
export function readPlayerSpot({ state, scratch }: Session, player: number): Spot {
  const { contactShare, spot } = scratch;
  // Whoever was put elsewhere since is there.
  if (contactShare < 1 && !(scratch.motions[player] as PlayerMotion).dropped) {
    return readTrack(spot, scratch.tracks[player] as Track, contactShare);
  }
  spot.x = state.playerX[player] as number;
  spot.y = state.playerY[player] as number;
  return spot;
}

/** Reads where a thing is at the contact that is acted on, else at the end of the step. Answers with one object for all places of a session. */
export function readThingSpot(session: Session, placement: number): Spot {
  const { compiled, scratch } = session;
  const { spot } = scratch;
  const traveller = compiled.placements.traveller[placement] as number;
  if (scratch.contactShare < 1 && traveller >= 0 && compiled.travellers.how[traveller] === TRAVEL.path) {
    return readTrack(spot, trackOf(session, traveller), scratch.contactShare);
  }
  spot.x = placeX(session, placement);
  spot.y = placeY(session, placement);
  return spot;
}

/** Distance between a player and a point of a thing where they are at the contact that is acted on. Units. */
export function distanceAtContact(session: Session, player: number, placement: number, ofX: number, ofY: number): number {
  const { x, y } = readPlayerSpot(session, player);
  const spot = readThingSpot(session, placement);
  const dx = x - spot.x - ofX;
  const dy = y - spot.y - ofY;
  return Math.sqrt(dx * dx + dy * dy);
}

/** Whether a place of the table holds a thing: room for spawned things may be empty. */
export function exists(session: Session, placement: number): boolean {
  return (session.state.form[placement] as number) >= 0;
}

/** Whether a box stops players now. */
export function isOn({ scratch }: Session, item: number): boolean {
  return scratch.solids.on[item] === 1;
}

/** The slot that keeps the phase of a thing: its own, or, where phases are kept for each player, that player's. */
export function phaseSlot(session: Session, placement: number, toucher: number, perPlayer: boolean): number {
  const { compiled } = session;
  const own = placement * compiled.phaseSlots;
  return perPlayer && compiled.phaseSlots > 1 && toucher >= 0 && toucher < compiled.playerCount ? own + 1 + toucher : own;
}

/** The slot whose phase counts for a toucher: the player's own unless ready, else the thing's. */
export function countingSlot(session: Session, placement: number, toucher: number): number {
  const own = phaseSlot(session, placement, toucher, true);
  if (session.state.phase[own] !== PHASE.ready) return own;
  return placement * session.compiled.phaseSlots;
}

/** The phase of a thing as a toucher meets it. */
export function phaseFor(session: Session, placement: number, toucher: number): number {
  const { state } = session;
  const phase = state.phase[countingSlot(session, placement, toucher)] as number;
  return phase === PHASE.ready && state.cycledOff[placement] === 1 ? PHASE.off : phase;
}

/** How far a thing has turned about its pivot at a share of the present step. Degrees. */
export function turnDegrees(session: Session, placement: number, share: number): number {
  const { compiled, state } = session;
  const slot = placement * compiled.phaseSlots;
  const phase = state.phase[slot] as number;
  if (phase !== PHASE.windingUp && phase !== PHASE.active) return 0;
  const rule = state.phaseRule[slot] as number;
  const degrees = compiled.rules.turnDegrees[rule] as number;
  if (phase === PHASE.active) return degrees;
  const steps = Math.max(1, compiled.rules.windUpSteps[rule] as number);
  const since = (state.clock[CLOCK.step] as number) - 1 + share - (state.phaseFrom[slot] as number);
  return degrees * Math.max(0, Math.min(1, since / steps));
}

/** A turned thing's pivot, and the cosine and sine of its turn. Answers with one object for all turns of a session. */
export function readTurn(session: Session, placement: number, share: number): Turning {
  const { turning } = session.scratch;
  const rule = session.state.phaseRule[placement * session.compiled.phaseSlots] as number;
  const { cos, sin } = turn(turnDegrees(session, placement, share));
  turning.cos = cos;
  turning.sin = sin;
  turning.x = rule < 0 ? 0 : (session.compiled.rules.turnX[rule] as number);
  turning.y = rule < 0 ? 0 : (session.compiled.rules.turnY[rule] as number);
  return turning;
}
