import { documentHash, type Route } from '../level/index.ts';
import { createSession, hasEnded, INPUT_WIDTH, step, stepOf, type Compiled } from '../session/index.ts';
import { createRunWriter, MOST_SECONDS, type Run } from './run.ts';

/** Distance at which a way-point counts as reached. Units. */
const REACHED = 0.12;
/** Without coming nearer for this long, the walker is stuck. */
const STUCK_SECONDS = 3;

/** A walked route: the run it makes, and where the walker got stuck, if it did. */
export interface Walk {
  readonly run: Run;
  readonly stuckAt: { readonly wayPoint: number; readonly x: number; readonly y: number; readonly seconds: number } | null;
}

/**
 * Follows a route as a plain walker: straight to each way-point at full input, slowing to stop on it, then its pause.
 * Closed loop, so it arrives whatever the feel of the body.
 */
export function walkRoute(compiled: Compiled, route: Route): Walk {
  const session = createSession(compiled);
  const { state } = session;
  const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
  const writer = createRunWriter(compiled.rate, compiled.playerCount);
  const { speed, braking } = compiled.level.body;
  let stuckAt: Walk['stuckAt'] = null;

  const press = (moveX: number, moveY: number): void => {
    inputs[0] = Math.round(moveX * 127);
    inputs[1] = Math.round(moveY * 127);
    writer.write(stepOf(session) + 1, inputs);
    step(session, inputs);
  };

  for (const [index, point] of route.wayPoints.entries()) {
    let nearest = Infinity;
    let since = stepOf(session);
    while (!hasEnded(session) && stepOf(session) < MOST_SECONDS * compiled.rate) {
      const dx = point.x - (state.playerX[0] as number);
      const dy = point.y - (state.playerY[0] as number);
      const distance = Math.sqrt(dx * dx + dy * dy);
      if (distance <= REACHED) break;
      if (distance < nearest - 0.01) {
        nearest = distance;
        since = stepOf(session);
      } else if (stepOf(session) - since > STUCK_SECONDS * compiled.rate) {
        stuckAt = {
          wayPoint: index,
          x: state.playerX[0] as number,
          y: state.playerY[0] as number,
          seconds: stepOf(session) / compiled.rate,
        };
        break;
      }
      // The speed from which braking just stops within what is left: v² = 2·a·s.
      const reachable = Math.sqrt(2 * braking * distance);
      const effort = speed > 0 ? Math.max(0.15, Math.min(1, reachable / speed)) : 1;
      press((dx / distance) * effort, (dy / distance) * effort);
    }
    if (stuckAt !== null) break;
    const until = stepOf(session) + Math.round(point.pause * compiled.rate);
    while (!hasEnded(session) && stepOf(session) < until) press(0, 0);
  }
  return { run: writer.finish(route.name, documentHash(compiled.level)), stuckAt };
}
