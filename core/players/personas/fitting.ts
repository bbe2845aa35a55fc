import type { Place } from '../../geometry/index.ts';
import {
  createSession,
  exists,
  hasEnded,
  INPUT_WIDTH,
  LIFE,
  meterOf,
  MOVEMENT,
  movementOf,
  placeX,
  placeY,
  step,
  stepOf,
  type Compiled,
  type Session,
} from '../../session/index.ts';
import { findWay } from '../navigation/index.ts';
import { readInputs, sessionOptions, type Run } from '../run.ts';
import { cautionFrom, detourOf, type Detour } from './detours.ts';
import type { Estimate, Fit } from './fitted.ts';
import { shareOfHealth } from './thinker.ts';
import { worldOf, type World } from './world.ts';

/** With fewer observations nothing is said. */
const LEAST_OBSERVATIONS = 3;

interface Observed {
  readonly paces: number[];
  readonly reactions: number[];
  readonly angles: number[];
  readonly healths: number[];
  readonly waits: number[];
  readonly detours: Detour[];
}

/** A place a player was at, and how it went on from there. */
interface Glimpse extends Place {
  readonly velocityX: number;
  readonly velocityY: number;
}

/** How often a play is looked at to see where it heads. Seconds. */
const LOOKS = 0.4;
/** How often where it went is noted. Seconds. */
const TRAIL = 0.1;
/** A reaction is looked for this long after a hurt, and a hurt counts only after as long without one. Seconds. */
const AFTER_HURT = 2;

/** How far two directions lie apart, as the sine; by it an angle is told well enough up to 60°. */
function sineBetween(ax: number, ay: number, bx: number, by: number): number {
  const length = Math.sqrt((ax * ax + ay * ay) * (bx * bx + by * by));
  return length === 0 ? 0 : (ax * by - ay * bx) / length;
}

/** How a play headed towards the thing it came to next: off the shortest way there, at each glimpse. Degrees. */
function headings(world: World, glimpses: readonly Glimpse[], to: Place): number[] {
  if (world.terrain !== null) return [];
  return glimpses.flatMap((glimpse): number[] => {
    const next = findWay(world.bare, glimpse, to)?.places[0];
    if (next === undefined) return [];
    const [wayX, wayY] = [next.x - glimpse.x, next.y - glimpse.y];
    const { velocityX, velocityY } = glimpse;
    // Who goes elsewhere meanwhile is not aiming there.
    if (wayX * velocityX + wayY * velocityY <= 0 || wayX * wayX + wayY * wayY < 0.25) return [];
    const sine = sineBetween(wayX, wayY, velocityX, velocityY);
    return Math.abs(sine) > 0.7 ? [] : [sine * (1 + (sine * sine) / 6) * 57.29578];
  });
}

/** What the keys of a play do, as far as a persona is read off it. */
class KeyWatch {
  private x = 0;
  private y = 0;
  private steady = 0;
  /** The step in which it was hurt and has not yet done anything about it. */
  private hurtAt = NaN;
  private lastHurt = -Infinity;
  private standsSince = NaN;

  constructor(
    private readonly rate: number,
    private readonly seen: Observed,
  ) {}

  /** Notes the keys of a step. */
  press(now: number, x: number, y: number): void {
    const released = (x === 0 && y === 0) !== (this.x === 0 && this.y === 0);
    const turned = released || x * this.x + y * this.y < 0 || Math.abs(sineBetween(x, y, this.x, this.y)) > 0.5;
    if (turned && now - this.hurtAt <= AFTER_HURT * this.rate) {
      this.seen.reactions.push((now - this.hurtAt) / this.rate);
      this.hurtAt = NaN;
    }
    this.steady = turned ? 0 : this.steady + 1;
    [this.x, this.y] = [x, y];
    if (this.presses) this.standsSince = NaN;
    else if (Number.isNaN(this.standsSince)) this.standsSince = now;
  }

  get presses(): boolean {
    return this.x !== 0 || this.y !== 0;
  }

  /** Once a second, while the keys have stayed the same for long enough to be at full speed. */
  get isAtPace(): boolean {
    return this.presses && this.steady * 4 > this.rate && this.steady % this.rate === 0;
  }

  hurt(now: number): void {
    if (now - this.lastHurt > AFTER_HURT * this.rate) this.hurtAt = now;
    this.lastHurt = now;
  }

  die(): void {
    this.hurtAt = NaN;
  }

  /** How long it has stood by now. Seconds; NaN while it goes. */
  waited(now: number): number {
    return (now - this.standsSince) / this.rate;
  }
}

/** Watches the first player of one play. */
function watch(compiled: Compiled, run: Run, seen: Observed): void {
  const session = createSession(compiled, null, sessionOptions(compiled, run));
  const world = worldOf(compiled);
  const { state } = session;
  const { rate, meters } = compiled;
  const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
  const reader = readInputs(run, rate);
  const uses = state.uses.slice();
  const keys = new KeyWatch(rate, seen);
  let glimpses: Glimpse[] = [];
  let trail: Place[] = [];
  let healthThen = meterOf(session, 0, meters.health);
  let health = meterOf(session, 0, meters.health);
  /** A thing has been used: what it gave, and how it was come to. */
  const used = (placement: number, now: number, before: number): void => {
    const { offers } = world.deeds[0]?.[state.form[placement] as number] ?? { offers: [] };
    if (offers.some(({ what }) => what === 'heal') && health > before) {
      seen.healths.push(shareOfHealth(compiled, before));
      if (!Number.isNaN(keys.waited(now))) seen.waits.push(keys.waited(now));
    }
    if (offers.length > 0) seen.angles.push(...headings(world, glimpses, { x: placeX(session, placement), y: placeY(session, placement) }));
    glimpses = [];
    if (offers.length === 0) return;
    const detour = detourOf(world, session, trail, healthThen, movementOf(session, 0, MOVEMENT.speed));
    if (detour !== null) seen.detours.push(detour);
    trail = [];
    healthThen = health;
  };
  while (!hasEnded(session) && stepOf(session) < reader.steps) {
    const now = stepOf(session);
    reader.read(now + 1, inputs);
    keys.press(now, inputs[0] as number, inputs[1] as number);
    step(session, inputs);
    const before = health;
    health = meterOf(session, 0, meters.health);
    if (state.life[0] !== LIFE.alive) {
      glimpses = [];
      trail = [];
      keys.die();
      continue;
    }
    if (keys.isAtPace) seen.paces.push(paceShare(session));
    if (health < before) keys.hurt(now);
    if (keys.presses && now % Math.round(LOOKS * rate) === 0) glimpses.push(glimpseOf(session));
    if (now % Math.max(1, Math.round(TRAIL * rate)) === 0) trail.push(glimpseOf(session));
    for (let placement = 0; placement < uses.length; placement += 1) {
      if (state.uses[placement] === uses[placement]) continue;
      uses[placement] = state.uses[placement] as number;
      if (exists(session, placement)) used(placement, now, before);
    }
  }
}

function glimpseOf({ state }: Session): Glimpse {
  return {
    x: state.playerX[0] as number,
    y: state.playerY[0] as number,
    velocityX: state.velocityX[0] as number,
    velocityY: state.velocityY[0] as number,
  };
}

/** The share of its full speed at which a player goes. */
function paceShare(session: Session): number {
  const { state, compiled } = session;
  const [x, y] = [state.velocityX[0] as number, compiled.side ? 0 : (state.velocityY[0] as number)];
  const full = movementOf(session, 0, MOVEMENT.speed);
  return full <= 0 ? 0 : Math.min(1, Math.sqrt(x * x + y * y) / full);
}

const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;

function deviation(values: readonly number[]): number {
  const middle = mean(values);
  return Math.sqrt(values.reduce((sum, value) => sum + (value - middle) * (value - middle), 0) / Math.max(1, values.length - 1));
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const half = sorted.length >> 1;
  const upper = sorted[half] ?? 0;
  return sorted.length % 2 === 1 ? upper : (upper + (sorted[half - 1] ?? upper)) / 2;
}

/** The deviation of what is about normal, from the median of its absolute values: some of them are of other origin. */
const NORMAL_SPREAD = 1.4826;

/** What can be told of a player from plays of a level; each number with how many observations it rests on. */
export function fitPersona(compiled: Compiled, runs: readonly Run[]): Fit {
  const seen: Observed = { paces: [], reactions: [], angles: [], healths: [], waits: [], detours: [] };
  for (const run of runs) watch(compiled, run, seen);
  const estimate = <Value>(values: readonly Value[], read: (values: readonly Value[]) => number): Estimate => ({
    value: values.length < LEAST_OBSERVATIONS ? null : Number(read(values).toFixed(3)),
    observations: values.length,
  });
  return {
    haste: estimate(seen.paces, median),
    reaction: estimate(seen.reactions, mean),
    reactionSpread: estimate(seen.reactions, deviation),
    aimError: estimate(seen.angles, (angles) => Math.min(90, NORMAL_SPREAD * median(angles.map(Math.abs)))),
    healsBelow: estimate(seen.healths, (healths) => Math.max(0, Math.min(1, Math.max(...healths)))),
    patience: estimate(seen.waits, (waits) => Math.max(...waits)),
    caution: estimate(seen.detours, cautionFrom),
  };
}
