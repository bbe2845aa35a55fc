import { PHASE } from '../compile/codes.ts';
import { giveUpRoom } from './phases.ts';
import type { Session } from '../state/running.ts';
import { removePair } from './spans.ts';
import { CLOCK } from '../state/state.ts';
import { exists } from '../state/things.ts';

/** Whether a spawned thing is there and not spent: one that is spent only waits for its room to be emptied. */
export function isAlive(session: Session, placement: number): boolean {
  return exists(session, placement) && session.state.phase[placement * session.compiled.phaseSlots] !== PHASE.spent;
}

/** Ends all contacts with a thing: what went on inside of it ends with its line. */
function endContactsWith(session: Session, placement: number): void {
  const { compiled, state } = session;
  for (let pair = 0; pair < (state.clock[CLOCK.pairs] as number);) {
    if (state.pairPlacement[pair] !== placement) {
      pair += 1;
      continue;
    }
    if ((state.pairLeft[pair] as number) < 0) state.pairLeft[pair] = (state.clock[CLOCK.step] as number) * compiled.stepSeconds;
    removePair(session, pair);
  }
}

/** Whether a thing that travels is inside of another still: what that does on leaving comes first, in the next step. */
function touchesAnother({ compiled, state }: Session, placement: number): boolean {
  const toucher = compiled.playerCount + (compiled.placements.traveller[placement] as number);
  if (toucher < compiled.playerCount) return false;
  for (let pair = 0; pair < (state.clock[CLOCK.pairs] as number); pair += 1) if (state.pairToucher[pair] === toucher) return true;
  return false;
}

/**
 * Spawned things that are spent make room for others. Whatever comes into a room later is met anew by whoever stands there,
 * so no contact is left behind.
 */
export function emptyRooms(session: Session): void {
  const { compiled, state, scratch } = session;
  if (!scratch.roomsToEmpty) return;
  scratch.roomsToEmpty = false;
  for (let placement = compiled.placedCount; placement < state.form.length; placement += 1) {
    if (!exists(session, placement) || isAlive(session, placement)) continue;
    endContactsWith(session, placement);
    if (touchesAnother(session, placement)) scratch.roomsToEmpty = true;
    else giveUpRoom(session, placement);
  }
}
