import type { Route } from '../level/index.ts';
import { momentOf, type Session } from '../session/index.ts';

/** What is waited for at a way-point is given up after this. */
export const MOST_WAIT_SECONDS = 60;

/** Whether what is waited for at a way-point has come: a thing that there is none of is not waited for. */
export function hasCome(session: Session, player: number, { until }: Route['wayPoints'][number]): boolean {
  const { compiled, state } = session;
  const { ids } = compiled;
  if (until === null) return true;
  if (until.type === 'meter') {
    const value = state.meter[compiled.meterCell[player * ids.meters.length + ids.meters.indexOf(until.meter)] as number] as number;
    return until.is === 'at least' ? value >= until.value : value <= until.value;
  }
  const nearest = Object.values(momentOf(session).placements)
    .filter(({ kind }) => kind === until.kind)
    .map(({ x, y, phase }) => {
      const [dx, dy] = [x - (state.playerX[player] as number), y - (state.playerY[player] as number)];
      return { phase, distance: dx * dx + dy * dy };
    })
    .reduce<{ phase: string; distance: number } | null>((best, one) => (best === null || one.distance < best.distance ? one : best), null);
  return nearest === null || nearest.phase === 'ready';
}
