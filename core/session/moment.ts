import { createTrack } from '../geometry/index.ts';
import { PHASES, type PhaseName } from './codes.ts';
import { moverTrack } from './movers.ts';
import type { Session } from './running.ts';
import { CLOCK } from './state.ts';

export interface PlacementMoment {
  readonly x: number;
  readonly y: number;
  readonly phase: PhaseName;
  /** Seconds until it is ready again, while it rests. */
  readonly secondsLeft: number | null;
}

export interface PlayerMoment {
  readonly x: number;
  readonly y: number;
  readonly velocityX: number;
  readonly velocityY: number;
  readonly dead: boolean;
  readonly meters: Readonly<Record<string, number>>;
}

/** Who and what is where at one moment of a session, for drawing. */
export interface Moment {
  readonly step: number;
  readonly seconds: number;
  readonly players: readonly PlayerMoment[];
  readonly placements: Readonly<Record<string, PlacementMoment>>;
}

export function momentOf(session: Session): Moment {
  const { compiled, state } = session;
  const now = state.clock[CLOCK.step] as number;
  const seconds = now / compiled.rate;
  const way = createTrack(compiled.movers.mostPieces);
  const meterCount = compiled.ids.meters.length;
  const placements: Record<string, PlacementMoment> = {};
  compiled.ids.placements.forEach((id, index) => {
    const mover = compiled.placements.mover[index] as number;
    if (mover >= 0) moverTrack(compiled.movers, mover, seconds, seconds, way);
    const phase = state.phase[index] as number;
    placements[id] = {
      x: mover >= 0 ? (way.x[0] as number) : (compiled.placements.x[index] as number),
      y: mover >= 0 ? (way.y[0] as number) : (compiled.placements.y[index] as number),
      phase: PHASES[phase] ?? 'ready',
      secondsLeft: PHASES[phase] === 'resting' ? ((state.dueStep[index] as number) - now) / compiled.rate : null,
    };
  });
  return {
    step: now,
    seconds,
    placements,
    players: Array.from({ length: compiled.playerCount }, (_, player) => ({
      x: state.playerX[player] as number,
      y: state.playerY[player] as number,
      velocityX: state.velocityX[player] as number,
      velocityY: state.velocityY[player] as number,
      dead: state.dead[player] === 1,
      meters: Object.fromEntries(compiled.ids.meters.map((id, meter) => [id, state.meter[player * meterCount + meter] as number])),
    })),
  };
}
