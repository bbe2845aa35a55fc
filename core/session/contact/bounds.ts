import { boundWay, boxMeets, readBox, Region, writeBox, type Track } from '../../geometry/index.ts';
import type { Session } from '../state/running.ts';
import { CLOCK } from '../state/state.ts';
import { trackOf } from '../state/things.ts';

const covered = new Region();

/** The box around the way of a toucher within this step, its own reach included. */
export function boundTrack(session: Session, toucher: number): void {
  const { compiled, state, scratch } = session;
  const now = state.clock[CLOCK.step] as number;
  if (scratch.boundsStep[toucher] === now) return;
  scratch.boundsStep[toucher] = now;
  const isPlayer = toucher < compiled.playerCount;
  const traveller = toucher - compiled.playerCount;
  const form = isPlayer ? -1 : (state.form[compiled.travellers.placement[traveller] as number] as number);
  const reach = isPlayer ? compiled.bodyReach : form < 0 ? 0 : (compiled.forms.touchReach[form] as number);
  const way = isPlayer ? (scratch.tracks[toucher] as Track) : trackOf(session, traveller);
  boundWay(way, covered);
  writeBox(scratch.bounds, toucher, covered, reach);
}

export function boundsMeet(session: Session, a: number, b: number): boolean {
  boundTrack(session, b);
  const { bounds } = session.scratch;
  readBox(bounds, a, covered);
  return boxMeets(bounds, b, covered);
}
