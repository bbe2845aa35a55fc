import { levelHash, type Route } from '../../level/index.ts';
import {
  BUTTON,
  createSession,
  endSession,
  hasEnded,
  INPUT_WIDTH,
  outcomeOf,
  step,
  stepOf,
  type Compiled,
  type Outcome,
  type Session,
} from '../../session/index.ts';
import { createRunWriter, MOST_SECONDS, type Run } from '../run.ts';
import { hasCome, MOST_WAIT_SECONDS } from '../waited.ts';
import { createJudge, createWatch, type Reason } from './stuck.ts';

/** Distance at which a way-point counts as reached, seen from above. Units. */
const REACHED = 0.12;
/** Seen from the side: how near in x, and how near in height. Units. */
const REACHED_ACROSS = 0.2;
const REACHED_HEIGHT = 0.6;
/** A way-point this much higher is jumped for. Units. */
const WORTH_A_JUMP = 0.4;

type WayPoint = Route['wayPoints'][number];

/** Where a walker gave up, and why. */
export interface Stuck extends Reason {
  readonly wayPoint: number;
  readonly x: number;
  readonly y: number;
  readonly seconds: number;
}

/** A walked route: the run it makes and its outcome, and where the walker got stuck, if it did. */
export interface Walk {
  readonly run: Run;
  readonly outcome: Outcome;
  readonly stuckAt: Stuck | null;
}

/** What the walker presses in a step. */
interface Keys {
  x: number;
  y: number;
  buttons: number;
}

function walkTop({ compiled, state }: Session, point: WayPoint, keys: Keys): void {
  const { braking } = compiled.level.body;
  const speed = state.movement[0] as number;
  const dx = point.x - (state.playerX[0] as number);
  const dy = point.y - (state.playerY[0] as number);
  const distance = Math.sqrt(dx * dx + dy * dy);
  // The speed from which braking just stops within what is left: v² = 2·a·s.
  const reachable = Math.sqrt(2 * braking * distance);
  const effort = speed > 0 ? Math.max(0.15, Math.min(1, reachable / speed)) : 1;
  keys.x = Math.round((dx / distance) * effort * 127);
  keys.y = Math.round((dy / distance) * effort * 127);
}

/** Walks towards the point, and jumps when it is higher, or when a wall or a gap is in the way. */
function walkSide({ compiled, state }: Session, point: WayPoint, keys: Keys, stuckSteps: number): void {
  const { braking } = compiled.level.body;
  const speed = Math.max(0.01, state.movement[0] as number);
  const dx = point.x - (state.playerX[0] as number);
  const dy = point.y - (state.playerY[0] as number);
  const reachable = Math.sqrt(2 * braking * Math.abs(dx));
  keys.x = Math.abs(dx) < REACHED_ACROSS / 2 ? 0 : Math.round(Math.sign(dx) * Math.max(0.15, Math.min(1, reachable / speed)) * 127);
  const grounded = (state.floor[0] as number) >= 0;
  const rising = (state.velocityY[0] as number) > 0;
  // The key is held while rising, so that the jump is not cut short, and let go on the ground before the next.
  const held = (keys.buttons & BUTTON.jump) !== 0;
  const wants = dy > WORTH_A_JUMP || (stuckSteps > 4 && Math.abs(dx) > REACHED_ACROSS);
  keys.buttons = (grounded && wants && !held) || (rising && held && dy > -WORTH_A_JUMP) ? BUTTON.jump : 0;
}

function reached({ compiled, state }: Session, point: WayPoint): boolean {
  const dx = Math.abs(point.x - (state.playerX[0] as number));
  const dy = Math.abs(point.y - (state.playerY[0] as number));
  if (compiled.side) return dx <= REACHED_ACROSS && dy <= REACHED_HEIGHT;
  return dx * dx + dy * dy <= REACHED * REACHED;
}

/** How a walk begins. */
export interface WalkOptions {
  readonly seed?: number;
  readonly start?: Run['start'];
}

/**
 * Follows a route as a plain walker: straight to each way-point at full input, slowing to stop on it, then its pause
 * and what it waits for. Closed loop, so it arrives whatever the feel of the body. Being put somewhere else, it goes on to the same way-point.
 */
export function walkRoute(
  compiled: Compiled,
  route: Pick<Route, 'name' | 'wayPoints'>,
  { seed = 1, start = null }: WalkOptions = {},
): Walk {
  const watch = createWatch(compiled);
  const session = createSession(compiled, watch, { seed, start });
  const { state } = session;
  const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
  const writer = createRunWriter(compiled.rate, compiled.playerCount, { seed, start });
  const keys: Keys = { x: 0, y: 0, buttons: 0 };
  let stuckAt: Walk['stuckAt'] = null;

  const press = (): void => {
    inputs[0] = keys.x;
    inputs[1] = keys.y;
    inputs[2] = keys.buttons;
    writer.write(stepOf(session) + 1, inputs);
    step(session, inputs);
  };

  for (const [index, point] of route.wayPoints.entries()) {
    const judge = createJudge(session, watch);
    while (!hasEnded(session) && stepOf(session) < MOST_SECONDS * compiled.rate && !reached(session, point)) {
      const [x, y] = [state.playerX[0] as number, state.playerY[0] as number];
      const [dx, dy] = [point.x - x, point.y - y];
      const reason = judge.look(Math.sqrt(dx * dx + dy * dy));
      if (reason !== null) {
        stuckAt = { wayPoint: index, x, y, seconds: stepOf(session) / compiled.rate, ...reason };
        break;
      }
      if (compiled.side) walkSide(session, point, keys, judge.idleSteps());
      else walkTop(session, point, keys);
      press();
    }
    if (stuckAt !== null) break;
    const until = stepOf(session) + Math.round(point.pause * compiled.rate);
    keys.x = 0;
    keys.y = 0;
    keys.buttons = 0;
    while (!hasEnded(session) && stepOf(session) < until) press();
    const longest = stepOf(session) + MOST_WAIT_SECONDS * compiled.rate;
    while (!hasEnded(session) && stepOf(session) < longest && !hasCome(session, 0, point)) press();
  }
  endSession(session, 0);
  return { run: writer.finish(route.name, levelHash(compiled.level)), outcome: outcomeOf(session), stuckAt };
}
