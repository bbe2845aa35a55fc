import { spawnedNumber, thingId } from './names.ts';
import type { Session } from './running.ts';
import { exists } from './things.ts';

/** Gives a spawned thing its name: the next serial of its kind. */
export function nameSpawned({ compiled, state }: Session, placement: number, kind: number): void {
  const serial = (state.kindSerial[kind] as number) + 1;
  state.kindSerial[kind] = serial;
  state.named[placement - compiled.placedCount] = spawnedNumber(compiled, placement, kind, serial);
}

/** The number that lines call a placement by; below nought it stays as it is. */
export function namedThing({ compiled, state }: Session, placement: number): number {
  return placement < compiled.placedCount ? placement : (state.named[placement - compiled.placedCount] as number);
}

/** The number that lines call whoever touches by: players first, then things. */
export function namedToucher(session: Session, toucher: number): number {
  const { playerCount, travellers } = session.compiled;
  if (toucher < playerCount) return toucher;
  return playerCount + namedThing(session, travellers.placement[toucher - playerCount] as number);
}

/** The id of a placement of a session as it stands; null for none. */
export function idOf(session: Session, placement: number): string | null {
  return thingId(session.compiled, namedThing(session, placement));
}

/** The placement with an id in a session as it stands; −1 when there is none, or not now. */
export function placementOf(session: Session, id: string): number {
  const { placements } = session.compiled.ids;
  const { placedCount } = session.compiled;
  const placed = placements.indexOf(id);
  if (placed >= 0 && placed < placedCount) return placed;
  return placements.findIndex((_, room) => room >= placedCount && exists(session, room) && idOf(session, room) === id);
}
