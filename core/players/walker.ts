import { documentHash, type Level, type Route } from '../level/index.ts';
import {
  BUTTON,
  changeEnds,
  createSession,
  hasEnded,
  idOf,
  INPUT_WIDTH,
  LIFE,
  momentOf,
  MOVEMENT,
  readLine,
  step,
  stepOf,
  type Compiled,
  type Recorder,
  type Session,
} from '../session/index.ts';
import { createRunWriter, MOST_SECONDS, type Run } from './run.ts';

/** Distance at which a way-point counts as reached, seen from above. Units. */
const REACHED = 0.12;
/** Seen from the side: how near in x, and how near in height. Units. */
const REACHED_ACROSS = 0.2;
const REACHED_HEIGHT = 0.6;
/** Without coming nearer for this long, the walker is stuck. */
const STUCK_SECONDS = 3;
/** So many deaths on the way to one way-point, or so many times put somewhere else, and the walker gives up. */
const MOST_SETBACKS = 3;
/** What is waited for at a way-point is given up after this. */
const MOST_WAIT_SECONDS = 60;
/** A way-point this much higher is jumped for. Units. */
const WORTH_A_JUMP = 0.4;

/** What a walker needs of each movement to go at its own pace. */
const SLOWING = new Map<number, (body: Level['body']) => number>([
  [MOVEMENT.speed, ({ speed }) => speed],
  [MOVEMENT.acceleration, ({ acceleration }) => acceleration],
  [MOVEMENT.control, () => 1],
]);
const NEVER_SLOWED = -1;

type WayPoint = Route['wayPoints'][number];

/** Where a walker gave up, and why: it died too often, was put elsewhere too often, was slowed to nothing, or came no nearer. */
export interface Stuck {
  readonly wayPoint: number;
  readonly x: number;
  readonly y: number;
  readonly seconds: number;
  readonly because: 'died' | 'put elsewhere' | 'slowed' | 'no way';
  /** The thing that did it, where one did. */
  readonly by: string | null;
}

/** A walked route: the run it makes, and where the walker got stuck, if it did. */
export interface Walk {
  readonly run: Run;
  readonly stuckAt: Stuck | null;
}

/** What slows a walker below its own pace: whether that ends by itself, and which thing did it. */
interface Slowed {
  readonly ends: boolean;
  readonly by: string | null;
}

function slowedBy(session: Session): Slowed | null {
  const { compiled, state } = session;
  for (let at = 0; at < (state.changes[0] as number); at += 1) {
    const of = compiled.effects.subject[state.changeEffect[at] as number] as number;
    const least = SLOWING.get(of)?.(compiled.level.body) ?? 0;
    if ((state.movement[of] as number) >= least) continue;
    return { ends: changeEnds(session, at), by: idOf(session, state.changePlacement[at] as number) };
  }
  return null;
}

/** Keeps what last put the walker elsewhere, and what last killed it. */
function createWatch(compiled: Compiled): Recorder & { puts: number; putBy: string | null; deaths: number; killedBy: string | null } {
  return {
    puts: 0,
    putBy: null,
    deaths: 0,
    killedBy: null,
    line(numbers) {
      const line = readLine(compiled, { values: numbers }, 0);
      if (!('toucher' in line) || line.toucher !== 'player 1') return;
      if (line.type === 'moved') {
        this.puts += 1;
        this.putBy = line.placement;
      } else if (line.type === 'died') {
        this.deaths += 1;
        this.killedBy = line.placement;
      }
    },
    contact: () => undefined,
  };
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

/** Whether what is waited for at a way-point has come: a thing that there is none of is not waited for. */
function hasCome(session: Session, { until }: WayPoint): boolean {
  const { compiled, state } = session;
  const { ids } = compiled;
  if (until === null) return true;
  if (until.type === 'meter') {
    const value = state.meter[compiled.meterCell[ids.meters.indexOf(until.meter)] as number] as number;
    return until.is === 'at least' ? value >= until.value : value <= until.value;
  }
  const nearest = Object.values(momentOf(session).placements)
    .filter(({ kind }) => kind === until.kind)
    .map(({ x, y, phase }) => {
      const [dx, dy] = [x - (state.playerX[0] as number), y - (state.playerY[0] as number)];
      return { phase, distance: dx * dx + dy * dy };
    })
    .reduce<{ phase: string; distance: number } | null>((best, one) => (best === null || one.distance < best.distance ? one : best), null);
  return nearest === null || nearest.phase === 'ready';
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
    let nearest = Infinity;
    let since = stepOf(session);
    let slowedSince = NEVER_SLOWED;
    const [deathsBefore, putsBefore] = [watch.deaths, watch.puts];
    let puts = watch.puts;
    while (!hasEnded(session) && stepOf(session) < MOST_SECONDS * compiled.rate && !reached(session, point)) {
      const now = stepOf(session);
      const dx = point.x - (state.playerX[0] as number);
      const dy = point.y - (state.playerY[0] as number);
      const distance = Math.sqrt(dx * dx + dy * dy);
      const alive = state.life[0] === LIFE.alive;
      const slowed = slowedBy(session);
      if (slowed === null) slowedSince = NEVER_SLOWED;
      else if (slowedSince === NEVER_SLOWED) slowedSince = now;
      // What ends by itself is waited for, though not for ever.
      const waits = slowed?.ends === true && now - slowedSince < MOST_WAIT_SECONDS * compiled.rate;
      const elsewhere = watch.puts !== puts;
      puts = watch.puts;
      if (!alive || elsewhere) nearest = Infinity;
      if (!alive || elsewhere || waits || distance < nearest - 0.01 || (state.lockUntil[0] as number) > now) {
        nearest = alive ? Math.min(nearest, distance) : Infinity;
        since = now;
      }
      const because =
        watch.deaths - deathsBefore >= MOST_SETBACKS
          ? 'died'
          : watch.puts - putsBefore >= MOST_SETBACKS
            ? 'put elsewhere'
            : now - since <= STUCK_SECONDS * compiled.rate
              ? null
              : slowed === null
                ? 'no way'
                : 'slowed';
      if (because !== null && alive) {
        const by = { died: watch.killedBy, 'put elsewhere': watch.putBy, slowed: slowed?.by ?? null, 'no way': null }[because];
        const [x, y] = [state.playerX[0] as number, state.playerY[0] as number];
        stuckAt = { wayPoint: index, x, y, seconds: now / compiled.rate, because, by };
        break;
      }
      const idle = now - since;
      if (compiled.side) walkSide(session, point, keys, idle);
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
    while (!hasEnded(session) && stepOf(session) < longest && !hasCome(session, point)) press();
  }
  return { run: writer.finish(route.name, documentHash(compiled.level)), stuckAt };
}
