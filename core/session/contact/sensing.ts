import { lowerToBoundary, Motion, nearest, readBox, region } from '../../geometry/index.ts';
import type { Session } from '../state/running.ts';
import { CLOCK } from '../state/state.ts';
import { placeX, placeY } from '../state/things.ts';
import { gatherCourses } from '../state/courses.ts';
import { boundsMeet, boundTrack } from './bounds.ts';
import { findPair, firstPair, senseNothing, senseOne } from './contacts.ts';

/** A margin for rounding in "nothing can change before". Units. */
export const HAIR = 1e-6;

/** Looks at a traveller that a toucher may meet in this step. */
export function senseTraveller(session: Session, toucher: number, other: number): void {
  const { compiled, state } = session;
  if (other + compiled.playerCount === toucher) return;
  const placement = compiled.travellers.placement[other] as number;
  const form = state.form[placement] as number;
  if (form < 0 || (toucher >= compiled.playerCount && compiled.forms.senses[form] === 0)) return;
  if (boundsMeet(session, toucher, compiled.playerCount + other)) senseOne(session, toucher, placement);
}

/** Looks at a thing that a toucher touches, or may come to touch in this step. */
export function senseAt(session: Session, toucher: number, other: number): void {
  const placement = session.compiled.travellers.placement[other] as number;
  const near = boundsMeet(session, toucher, session.compiled.playerCount + other);
  if (near || findPair(session, toucher, placement) >= 0) senseOne(session, toucher, placement);
}

/** All that is drawn to somebody, or goes home, and may meet a player in this step: it is looked at in each. */
export function senseDrawn(session: Session, player: number): void {
  const { state, scratch } = session;
  for (let at = 0; at < scratch.movingCount; at += 1) {
    const traveller = scratch.moving[at] as number;
    if (state.drawnBy[traveller] === -1) continue;
    boundTrack(session, player);
    senseAt(session, player, traveller);
  }
}

/** All else that travels and may meet a player in this step. */
export function senseTravellers(session: Session, player: number): void {
  const { compiled, state, scratch } = session;
  if (session.exhaustive) {
    for (let other = 0; other < compiled.travellers.count; other += 1)
      if (state.drawnBy[other] === -1) senseTraveller(session, player, other);
    return;
  }
  const { courses } = scratch;
  readBox(scratch.bounds, player, region);
  const found = gatherCourses(courses, region);
  for (let k = 0; k < found; k += 1) {
    const other = courses.cells.found[k] as number;
    if (state.drawnBy[other] === -1) senseTraveller(session, player, other);
  }
}

/** Contacts of a toucher with things of the sort looked at that were not met: they are no longer anywhere near. */
export function senseRest(session: Session, toucher: number, stills: boolean, travellers: boolean): void {
  const { compiled, state, scratch } = session;
  const pairs = state.clock[CLOCK.pairs] as number;
  for (let own = firstPair(session, toucher); own < pairs && state.pairToucher[own] === toucher; own += 1) {
    const placement = state.pairPlacement[own] as number;
    const looked = (compiled.placements.traveller[placement] as number) >= 0 ? travellers : stills;
    if (looked && scratch.sensed[placement] !== scratch.senseStamp) senseNothing(session, toucher, placement, own);
  }
}

export function senseStills(session: Session, toucher: number): void {
  const { compiled, scratch, state } = session;
  const isPlayer = toucher < compiled.playerCount;
  readBox(scratch.bounds, toucher, region);
  const found = compiled.stillGrid.query(region);
  for (let k = 0; k < found; k += 1) {
    const placement = compiled.stillPlacement[compiled.stillGrid.found[k] as number] as number;
    if (isPlayer || compiled.forms.senses[state.form[placement] as number] === 1) senseOne(session, toucher, placement);
  }
}

const still = new Motion();

/** How far the nearest boundary of contact between a player and one thing is, from where they are now; left in `nearest`. */
export function nearestBoundary(session: Session, player: number, placement: number): void {
  const { compiled, state } = session;
  const form = state.form[placement] as number;
  nearest.distance = compiled.forms.turns[form] === 1 ? 0 : Infinity;
  if (nearest.distance === 0) return;
  still.x = (state.playerX[player] as number) - placeX(session, placement);
  still.y = (state.playerY[player] as number) - placeY(session, placement);
  still.grow = compiled.forms.grow[form] as number;
  const end = compiled.forms.shapeStart[form + 1] as number;
  for (let shape = compiled.forms.shapeStart[form] as number; shape < end; shape += 1) {
    lowerToBoundary(compiled.shapes, 0, shape, still);
  }
}

/** How fast a traveller goes by itself. Units a second. */
export function travelSpeed(session: Session, traveller: number): number {
  const { compiled, state } = session;
  const path = compiled.travellers.path[traveller] as number;
  if (path >= 0) return compiled.movers.speed[path] as number;
  const form = state.form[compiled.travellers.placement[traveller] as number] as number;
  return form < 0 ? 0 : Math.max(0, compiled.forms.driftSpeed[form] as number);
}
