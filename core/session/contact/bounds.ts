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
  let reach = isPlayer ? compiled.bodyReach : form < 0 ? 0 : (compiled.forms.reach[form] as number);
  // A turning thing may reach twice as far from its place.
  if (form >= 0 && compiled.forms.turns[form] === 1) reach = reach * 2 + turnReach(session, form);
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
  if (form >= 0 && compiled.magnets.has[form] === 1) reach = Math.max(reach, compiled.magnets.takenAt[form] as number);
  scratch.bounds[toucher * 4] = left - reach;
  scratch.bounds[toucher * 4 + 1] = bottom - reach;
  scratch.bounds[toucher * 4 + 2] = right + reach;
  scratch.bounds[toucher * 4 + 3] = top + reach;
}

/** How far from its place a thing's pivots lie, twice. */
function turnReach(session: Session, form: number): number {
  const { rules, forms } = session.compiled;
  let most = 0;
  for (let rule = forms.ruleStart[form] as number; rule < (forms.ruleStart[form + 1] as number); rule += 1) {
    const [x, y] = [rules.turnX[rule] as number, rules.turnY[rule] as number];
    most = Math.max(most, 2 * Math.sqrt(x * x + y * y));
  }
  return most;
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

/** Whether a toucher's way in this step comes anywhere near what a traveller ever covers. */
export function rangeMeets(session: Session, toucher: number, traveller: number): boolean {
  const { bounds, range } = session.scratch;
  const a = toucher * 4;
  const b = traveller * 4;
  return (
    (range[b] as number) <= (bounds[a + 2] as number) &&
    (range[b + 2] as number) >= (bounds[a] as number) &&
    (range[b + 1] as number) <= (bounds[a + 3] as number) &&
    (range[b + 3] as number) >= (bounds[a + 1] as number)
  );
}

/** Whether what a traveller covers lies within a square about a place. */
export function rangeNear({ scratch: { range } }: Session, traveller: number, x: number, y: number, around: number): boolean {
  const at = traveller * 4;
  return (
    (range[at] as number) <= x + around &&
    (range[at + 2] as number) >= x - around &&
    (range[at + 1] as number) <= y + around &&
    (range[at + 3] as number) >= y - around
  );
}
