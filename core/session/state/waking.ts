/**
 * What may be skipped, and who takes that back: the one place for both. Each toucher carries how far it may go before it can
 * meet anything (its *slack*: of things that stay, of those that travel, of solids, of what lies beside it, of magnets), what drifts until
 * which step it flies freely (`freeUntil`) and at which it may meet anything (`wake`), and a player whose velocity is steady *glides* until `glideUntil`.
 *
 * | what happened | who calls | what is looked at again |
 * | --- | --- | --- |
 * | something stands or travels otherwise than was foreseen | `endGlides` | how long players may glide |
 * | players may move otherwise than they did (a change of movement) | `disturb` | that, and whether they are steady |
 * | one toucher was put somewhere | `wakeToucher` | all that it may meet |
 * | a thing is another to those who touch it (phase, sensing) | `wakeTouching` | all that they may meet |
 * | anything that is no steady motion (spawns, moves, joins, restore) | `wakeAll` | everything |
 */
import { TRAVEL } from '../compile/codes.ts';
import { clearCells, putInCell } from './cells.ts';
import type { Session } from './running.ts';
import { CLOCK } from './state.ts';

/** Takes in all travellers there are, and those that are gone but whose contacts have still to be ended. */
function countTravelling(session: Session): void {
  const { compiled, state, scratch } = session;
  const { placement } = compiled.travellers;
  let last = placement.length;
  while (last > 0 && (state.form[placement[last - 1] as number] as number) < 0) last -= 1;
  const pairs = state.clock[CLOCK.pairs] as number;
  if (pairs > 0) last = Math.max(last, (state.pairToucher[pairs - 1] as number) - compiled.playerCount + 1);
  scratch.travelling = last;
}

/** Whether a magnet has given up on anybody, who has still to go out of its reach. */
function gaveUp({ compiled, state }: Session, traveller: number): boolean {
  const from = traveller * compiled.playerCount;
  for (let at = from; at < from + compiled.playerCount; at += 1) if (state.gaveUp[at] === 1) return true;
  return false;
}

/** Whether something drifts, drawn by nobody and without turning: it is looked for in its cell. */
function isLoose({ compiled, state }: Session, traveller: number): boolean {
  const form = state.form[compiled.travellers.placement[traveller] as number] as number;
  return (compiled.forms.driftSpeed[form] as number) > 0 && state.drawnBy[traveller] === -1 && compiled.forms.turns[form] === 0;
}

/** Notes where each traveller is at rest, and which have to be moved in each step. */
function lookForRest(session: Session): void {
  const { compiled, state, scratch } = session;
  const { travellers, forms, placements } = compiled;
  const { range } = scratch;
  scratch.stirs = false;
  scratch.movingCount = 0;
  scratch.boundedCount = 0;
  clearCells(scratch.cells);
  for (let traveller = 0; traveller < scratch.travelling; traveller += 1) {
    const placement = travellers.placement[traveller] as number;
    const form = state.form[placement] as number;
    const path = travellers.how[traveller] === TRAVEL.path;
    if (form < 0) continue;
    if (!path && isLoose(session, traveller)) {
      putInCell(scratch.cells, traveller, state.travelX[traveller] as number, state.travelY[traveller] as number);
    } else {
      scratch.bounded[scratch.boundedCount] = traveller;
      scratch.boundedCount += 1;
    }
    const stays = !path && state.drawnBy[traveller] === -1 && (forms.driftSpeed[form] as number) <= 0;
    if ((placements.solid[placement] as number) >= 0 || (!path && (!stays || gaveUp(session, traveller)))) {
      scratch.stirs = true;
      scratch.moving[scratch.movingCount] = traveller;
      scratch.movingCount += 1;
    }
    if (path) continue;
    const reach = stays && forms.turns[form] === 0 ? (forms.reach[form] as number) : Infinity;
    range[traveller * 4] = (state.travelX[traveller] as number) - reach;
    range[traveller * 4 + 1] = (state.travelY[traveller] as number) - reach;
    range[traveller * 4 + 2] = (state.travelX[traveller] as number) + reach;
    range[traveller * 4 + 3] = (state.travelY[traveller] as number) + reach;
  }
}

/** After anything that players may meet otherwise than was foreseen, how long they glide has to be worked out anew. */
export function endGlides({ scratch }: Session): void {
  scratch.stirred = true;
  for (const motion of scratch.motions) motion.glideUntil = 0;
  scratch.quietUntil = 0;
}

/** After anything by which players may move otherwise than they did, no one glides on. */
export function disturb(session: Session): void {
  endGlides(session);
  for (const motion of session.scratch.motions) motion.steady = false;
}

/** A toucher looks at everything again in the next step. */
export function wakeToucher({ compiled, scratch }: Session, toucher: number): void {
  const motion = scratch.motions[toucher];
  if (motion !== undefined) {
    motion.stillSlack = -Infinity;
    motion.travelSlack = -Infinity;
  } else {
    scratch.wakeAll[toucher - compiled.playerCount] = 1;
    scratch.wake[toucher - compiled.playerCount] = 0;
  }
  scratch.nextWake = 0;
}

/** Everyone who touches a thing looks at everything again in the next step. */
export function wakeTouching(session: Session, placement: number): void {
  const { state } = session;
  const pairs = state.clock[CLOCK.pairs] as number;
  for (let pair = 0; pair < pairs; pair += 1) {
    if (state.pairPlacement[pair] === placement) wakeToucher(session, state.pairToucher[pair] as number);
  }
}

/** After anything that was not a steady motion, everyone looks at everything again in the next step. */
export function wakeAll(session: Session): void {
  const { scratch } = session;
  disturb(session);
  countTravelling(session);
  lookForRest(session);
  for (const motion of scratch.motions) {
    motion.stillSlack = -Infinity;
    motion.travelSlack = -Infinity;
    motion.solidSlack = 0;
    motion.besideSlack = 0;
    motion.magnetSlack = 0;
  }
  scratch.freeUntil.fill(0);
  scratch.wakeAll.fill(1);
  scratch.wake.fill(0);
  scratch.nextWake = 0;
}
