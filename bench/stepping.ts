import { readFileSync } from 'node:fs';
import { createGrid, Region } from '@dial/core/geometry';
import { parseLevel, type Level } from '@dial/core/level';
import { readInputs, simulate, type Run } from '@dial/core/players';
import {
  compile,
  createLedger,
  createSession,
  INPUT_WIDTH,
  SIMULATION_VERSION,
  step,
  type Compiled,
  type Recorder,
  type Session,
} from '@dial/core/session';
import RAPIER from '@dimforge/rapier2d-compat';
import { medianOf, type Figure } from './figures.ts';

const STEPS = 20_000;
const ROUNDS = 25;
const WARM_UP = 9;

/** The fixed level: 100 circles, 10 movers, 30 solids on 60 × 60 units, laid out by a fixed rule. */
function fixedLevel(): Level {
  const circles = Array.from({ length: 100 }, (_, k) => [
    `c${k}`,
    { kind: k % 3 === 0 ? 'basin' : 'shard', x: 3 + (k % 10) * 6, y: 3 + Math.floor(k / 10) * 6 },
  ]);
  const movers = Array.from({ length: 10 }, (_, k) => [`m${k}`, { kind: 'cart', x: 0, y: 0, travel: { path: `p${k}` } }]);
  const paths = Array.from({ length: 10 }, (_, k) => [
    `p${k}`,
    {
      name: `p${k}`,
      speed: 2 + k * 0.3,
      round: 'back and forth',
      wayPoints: [
        { x: 4, y: 6 + k * 5.5 },
        { x: 56, y: 6 + k * 5.5 },
      ],
    },
  ]);
  const solids = Array.from({ length: 30 }, (_, k) => [
    `s${k}`,
    { x: 5.4 + (k % 6) * 9, y: 7.6 + Math.floor(k / 6) * 11, width: 1.2, height: 2.5 },
  ]);
  const arriving = (effect: object, becomes: object): object => ({
    act: { setOffBy: { type: 'arriving' }, effects: { effect: { type: 'meter', ...effect } }, becomes },
  });
  const look = (radius: number, mark: string): object => ({
    name: mark,
    role: 'score',
    mark,
    shapes: { body: { type: 'circle', radius } },
  });
  const parsed = parseLevel({
    format: 1,
    name: 'benchmark',
    view: 'top',
    size: { width: 60, height: 60 },
    body: { radius: 0.4, speed: 5, acceleration: 40, braking: 60 },
    start: { x: 2, y: 2 },
    meters: {
      health: { name: 'health', lower: 0, upper: 1_000_000, start: 500_000 },
      score: { name: 'score', lower: 0, upper: null, start: 0, whole: true },
    },
    kinds: {
      shard: { ...look(0.5, 'diamond'), rules: arriving({ meter: 'score', change: 'add', amount: 5 }, { type: 'rests', seconds: 4 }) },
      basin: { ...look(1, 'plus'), rules: arriving({ meter: 'health', change: 'add', amount: 3 }, { type: 'rests', seconds: 6 }) },
      cart: { ...look(0.8, 'arrows'), tags: ['rover'], rules: arriving({ meter: 'health', change: 'take', amount: 2 }, { type: 'stays' }) },
    },
    placements: Object.fromEntries([...circles, ...movers]) as object,
    paths: Object.fromEntries(paths) as object,
    solids: Object.fromEntries(solids) as object,
  });
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
  return parsed.value;
}

/** A fixed walk: long straights and turns, so that walls and circles are met all the way. */
function fixedRun(): Run {
  const ways: [number, number][] = [
    [127, 0],
    [127, 90],
    [0, 127],
    [-100, 60],
    [-127, 0],
    [60, 127],
    [127, -40],
    [0, -127],
    [-90, -90],
  ];
  const changes = Array.from({ length: STEPS / 100 }, (_, k): [number, number, number, number] => [
    1 + k * 100,
    ...(ways[k % ways.length] ?? [0, 0]),
    0,
  ]);
  return {
    format: 1,
    name: 'benchmark',
    simulation: SIMULATION_VERSION,
    level: '',
    seed: 1,
    rate: 60,
    steps: STEPS,
    players: [{ changes }],
    start: null,
    events: [],
    branched: null,
    marks: [],
  };
}

/** Something timed over and over: `prepare` is not, `run` is. */
interface Task {
  readonly prepare?: () => void;
  readonly run: () => unknown;
}

/** So many steps with the same inputs. */
interface Stretch {
  readonly inputs: Int8Array;
  steps: number;
}

/** The inputs of all steps of a run, read beforehand. */
function inputsOf(run: Run): Stretch[] {
  const reader = readInputs(run, run.rate);
  const stretches: Stretch[] = [];
  for (let at = 1; at <= run.steps; at += 1) {
    const inputs = new Int8Array(INPUT_WIDTH);
    reader.read(at, inputs);
    const last = stretches.at(-1);
    if (last?.inputs.join() === inputs.join()) last.steps += 1;
    else stretches.push({ inputs, steps: 1 });
  }
  return stretches;
}

/** Steps a session of one player through stretches of inputs. Returns how many steps these were. */
function stepThrough(session: Session, stretches: readonly Stretch[]): number {
  let count = 0;
  for (const { inputs, steps } of stretches) {
    for (let k = 0; k < steps; k += 1) step(session, inputs);
    count += steps;
  }
  return count;
}

/** The session step: a fresh session, stepped through all inputs. */
function stepSession(compiled: Compiled, inputs: readonly Stretch[], recorder: () => Recorder | null): Task {
  let session = createSession(compiled);
  return {
    prepare: () => (session = createSession(compiled, recorder())),
    run: () => {
      stepThrough(session, inputs);
    },
  };
}

/** (a) A bare loop: the point moves along the recorded path and a uniform grid is asked which circles it is in. */
function bareLoop(level: Level, path: { x: Float32Array; y: Float32Array }): () => number {
  const circles = Object.values(level.placements).filter(({ travel }) => travel === null);
  const radius = 1.4;
  const grid = createGrid(Float64Array.from(circles.flatMap(({ x, y }) => [x - radius, y - radius, x + radius, y + radius])));
  const region = new Region();
  return () => {
    let inside = 0;
    for (let at = 1; at <= STEPS; at += 1) {
      const x = path.x[at] ?? 0;
      const y = path.y[at] ?? 0;
      region.left = x;
      region.right = x;
      region.bottom = y;
      region.top = y;
      const found = grid.query(region);
      for (let k = 0; k < found; k += 1) {
        const circle = circles[grid.found[k] ?? 0];
        if (circle !== undefined && (x - circle.x) ** 2 + (y - circle.y) ** 2 <= radius * radius) inside += 1;
      }
    }
    return inside;
  };
}

/** (b) The same level stepped by a general-purpose physics library, circles and movers as sensors. */
async function physics(level: Level, path: { x: Float32Array; y: Float32Array }): Promise<() => void> {
  await RAPIER.init();
  return () => {
    const world = new RAPIER.World({ x: 0, y: 0 });
    world.timestep = 1 / 60;
    for (const solid of Object.values(level.solids)) {
      const body = world.createRigidBody(
        RAPIER.RigidBodyDesc.fixed().setTranslation(solid.x + solid.width / 2, solid.y + solid.height / 2),
      );
      world.createCollider(RAPIER.ColliderDesc.cuboid(solid.width / 2, solid.height / 2), body);
    }
    const movers = Object.values(level.placements).flatMap((placement) => {
      const desc = placement.travel === null ? RAPIER.RigidBodyDesc.fixed() : RAPIER.RigidBodyDesc.kinematicPositionBased();
      const body = world.createRigidBody(desc.setTranslation(placement.x, placement.y));
      const collider = RAPIER.ColliderDesc.ball(1).setSensor(true).setActiveEvents(RAPIER.ActiveEvents.COLLISION_EVENTS);
      world.createCollider(collider.setActiveCollisionTypes(RAPIER.ActiveCollisionTypes.ALL), body);
      return placement.travel === null ? [] : [{ body, way: level.paths[placement.travel.path] }];
    });
    const player = world.createRigidBody(RAPIER.RigidBodyDesc.kinematicPositionBased().setTranslation(2, 2));
    world.createCollider(RAPIER.ColliderDesc.ball(0.4).setActiveCollisionTypes(RAPIER.ActiveCollisionTypes.ALL), player);
    const events = new RAPIER.EventQueue(true);
    for (let at = 1; at <= STEPS / 10; at += 1) {
      player.setNextKinematicTranslation({ x: path.x[at] ?? 0, y: path.y[at] ?? 0 });
      for (const { body, way } of movers) {
        const phase = ((at / 60) * (way?.speed ?? 1)) % 104;
        body.setNextKinematicTranslation({ x: 4 + (phase < 52 ? phase : 104 - phase), y: way?.wayPoints[0]?.y ?? 0 });
      }
      world.step(events);
      events.drainCollisionEvents(() => undefined);
    }
    events.free();
    world.free();
  };
}

/** Bytes a step leaves on the heap, ledger off: what is used before and after, rubbish collected. Needs `--expose-gc`. */
function heapGrowth(compiled: Compiled, run: Run, steps: number): number {
  const collect = (globalThis as { gc?: () => void }).gc;
  if (collect === undefined) return NaN;
  const session = createSession(compiled);
  const reader = readInputs(run, compiled.rate);
  const inputs = new Int8Array(INPUT_WIDTH * compiled.playerCount);
  const go = (from: number, to: number): void => {
    for (let at = from; at <= to; at += 1) {
      reader.read(((at - 1) % run.steps) + 1, inputs);
      step(session, inputs);
    }
  };
  go(1, steps / 10);
  collect();
  const before = process.memoryUsage().heapUsed;
  go(steps / 10 + 1, steps);
  collect();
  return process.memoryUsage().heapUsed - before;
}

/** Bytes a step allocates, ledger off, once all code is compiled: growth of the heap while nothing is collected. */
function allocated(compiled: Compiled, inputs: readonly Stretch[]): number {
  // Code that is not compiled in full keeps its numbers on the heap.
  for (let round = 0; round < 2 * WARM_UP; round += 1) stepThrough(createSession(compiled), inputs);
  const session = createSession(compiled);
  const half = Math.floor(inputs.length / 2);
  const rest = inputs.slice(half);
  stepThrough(session, inputs.slice(0, half));
  (globalThis as { gc?: () => void }).gc?.();
  const before = process.memoryUsage().heapUsed;
  const steps = stepThrough(session, rest);
  return (process.memoryUsage().heapUsed - before) / steps;
}

/** Two hours of Night Firing, ledger off: how much the heap has grown. */
function twoHours(): number {
  const parsed = parseLevel(JSON.parse(readFileSync(new URL('../../demo/night-firing/level.json', import.meta.url), 'utf8')));
  if (!parsed.ok) throw new Error('the demo is not valid');
  return heapGrowth(compile(parsed.value), fixedRun(), 2 * 3600 * 60) / 1024;
}

/** Step ratios: medians over interleaved rounds after warm-up, in nanoseconds a step. */
export async function steppingFigures(): Promise<Figure[]> {
  const level = fixedLevel();
  const compiled = compile(level);
  const run = fixedRun();
  const path = simulate(compiled, run);
  const engine = await physics(level, path);
  const inputs = inputsOf(run);
  const tasks: { name: string; steps: number; task: Task }[] = [
    { name: 'bare', steps: STEPS, task: { run: bareLoop(level, path) } },
    { name: 'off', steps: STEPS, task: stepSession(compiled, inputs, () => null) },
    { name: 'on', steps: STEPS, task: stepSession(compiled, inputs, createLedger) },
    { name: 'physics', steps: STEPS / 10, task: { run: engine } },
  ];
  const times = new Map<string, number[]>(tasks.map(({ name }) => [name, []]));
  for (let round = 0; round < WARM_UP + ROUNDS; round += 1) {
    for (const { name, steps, task } of tasks) {
      task.prepare?.();
      const began = performance.now();
      task.run();
      const each = ((performance.now() - began) * 1e6) / steps;
      if (round >= WARM_UP) times.get(name)?.push(each);
    }
  }
  const nanoseconds = (name: string): number => medianOf(times.get(name) ?? []);
  const compileTimes = Array.from({ length: 30 }, () => {
    const began = performance.now();
    compile(level);
    return performance.now() - began;
  });
  return [
    { name: 'bare loop over a grid (a)', value: nanoseconds('bare'), unit: 'ns a step' },
    { name: 'session step, ledger off', value: nanoseconds('off'), unit: 'ns a step' },
    { name: 'session step, ledger on', value: nanoseconds('on'), unit: 'ns a step' },
    { name: 'physics library (b)', value: nanoseconds('physics'), unit: 'ns a step' },
    { name: 'session step as a share of (a)', value: nanoseconds('bare') / nanoseconds('off'), unit: '× its speed' },
    { name: 'session step against (b)', value: nanoseconds('physics') / nanoseconds('off'), unit: '× its speed' },
    { name: 'allocated in a step, ledger off', value: allocated(compiled, inputs), unit: 'bytes' },
    { name: 'heap after two hours of Night Firing, ledger off', value: twoHours(), unit: 'kB more' },
    { name: 'compile, 110 placements', value: medianOf(compileTimes), unit: 'ms' },
  ];
}
