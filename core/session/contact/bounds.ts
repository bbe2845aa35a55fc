import type { Track } from '../../geometry/index.ts';
import type { Session } from '../state/running.ts';
import { CLOCK } from '../state/state.ts';
import { trackOf } from '../state/things.ts';

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
  let left = way.x[0] as number;
  let right = left;
  let bottom = way.y[0] as number;
  let top = bottom;
  for (let k = 1; k < way.count; k += 1) {
    left = Math.min(left, way.x[k] as number);
    right = Math.max(right, way.x[k] as number);
    bottom = Math.min(bottom, way.y[k] as number);
    top = Math.max(top, way.y[k] as number);
  }
  scratch.bounds[toucher * 4] = left - reach;
  scratch.bounds[toucher * 4 + 1] = bottom - reach;
  scratch.bounds[toucher * 4 + 2] = right + reach;
  scratch.bounds[toucher * 4 + 3] = top + reach;
}

export function boundsMeet(session: Session, a: number, b: number): boolean {
  boundTrack(session, b);
  const { bounds } = session.scratch;
  return (
    (bounds[b * 4] as number) <= (bounds[a * 4 + 2] as number) &&
    (bounds[b * 4 + 2] as number) >= (bounds[a * 4] as number) &&
    (bounds[b * 4 + 1] as number) <= (bounds[a * 4 + 3] as number) &&
    (bounds[b * 4 + 3] as number) >= (bounds[a * 4 + 1] as number)
  );
}
