import { once } from 'node:events';
import { isMainThread, parentPort, Worker, workerData } from 'node:worker_threads';
import { parseLevel, type Level } from '@dial/core/level';
import { compile, createSession, INPUT_WIDTH, snapshot, step } from '@dial/core/session';
import RAPIER from '@dimforge/rapier2d-compat';
import { medianOf } from './figures.ts';

/** What a step costs as levels grow: `npm run bench -- --growth`. */

const WIDTH = 200;
const HEIGHT = 90;
const STEPS = 3600;
const PHYSICS_STEPS = 240;
/** For how long the engine warms, in milliseconds, and the rounds that are measured then. */
const WARMING = 2000;
const ROUNDS = 15;

/** A number below 1 that follows from another: levels are laid out by a fixed rule. */
function scattered(seed: number): number {
  let x = Math.imul(seed ^ 0x9e3779b9, 0x85ebca6b);
  x = Math.imul(x ^ (x >>> 13), 0xc2b2ae35);
  return ((x ^ (x >>> 16)) >>> 0) / 2 ** 32;
}

const spot = (k: number, salt: number): { x: number; y: number } => ({
  x: 4 + scattered(k * 7 + salt) * (WIDTH - 8),
  y: 4 + scattered(k * 13 + salt + 1) * (HEIGHT - 8),
});

/** How far a path goes from its first point to its last, towards the middle of the level. Units. */
const legOf = (x: number): number => (x < WIDTH / 2 ? 20 : -20);

/** How many of each sort of thing. */
interface Counts {
  readonly still?: number;
  readonly magnets?: number;
  readonly carts?: number;
  readonly solidCarts?: number;
  readonly drifting?: number;
  /** Collectibles each of which brings a wanderer. */
  readonly bringing?: number;
}

const things = (count: number, name: string, kind: string, salt: number, more: (k: number) => object = () => ({})) =>
  Array.from({ length: count }, (_, k) => [`${name}${String(k)}`, { kind, ...spot(k, salt), ...more(k) }] as const);

export function growthLevel({ still = 200, magnets = 0, carts = 0, solidCarts = 0, drifting = 0, bringing = 0 }: Counts): Level {
  const looks = (role: string, mark: string, radius: number) => ({ name: mark, role, mark, shapes: { body: { type: 'circle', radius } } });
  const rule = (effect: object, becomes: object, more: object = {}) => ({
    act: { setOffBy: { type: 'arriving' }, effects: { effect }, becomes, ...more },
  });
  const score = { type: 'meter', meter: 'score', change: 'add', amount: 5 };
  const harm = { type: 'meter', meter: 'health', change: 'take', amount: 2 };
  const rests = { type: 'rests', seconds: 4 };
  const parsed = parseLevel({
    format: 1,
    name: 'growth',
    view: 'top',
    size: { width: WIDTH, height: HEIGHT },
    body: { radius: 0.4, speed: 5, acceleration: 40, braking: 60 },
    start: { x: 2, y: 45 },
    meters: {
      health: { name: 'health', lower: 0, upper: 1_000_000, start: 500_000 },
      score: { name: 'score', lower: 0, upper: null, start: 0, whole: true },
    },
    kinds: {
      still: { ...looks('score', 'diamond', 0.5), rules: rule(score, rests) },
      magnet: {
        ...looks('score', 'star', 0.4),
        rules: rule(score, rests),
        magnet: {
          reach: 3,
          speed: [
            [0, 2],
            [0.5, 9],
          ],
        },
      },
      cart: { ...looks('harm', 'arrows', 0.8), tags: ['rover'], rules: rule(harm, { type: 'stays' }) },
      solid: { ...looks('movement', 'square', 0.8), solid: { width: 1.6, height: 1.6 }, rules: {} },
      wanderer: { ...looks('harm', 'cross', 0.6), tags: ['rover'], rules: rule(harm, { type: 'stays' }), drift: { speed: 2 } },
      bringing: {
        ...looks('score', 'triangle', 0.5),
        rules: rule({ type: 'spawn', pool: { wanderer: 1 }, at: { type: 'here' }, most: 100 }, { type: 'rests', seconds: 1 }),
      },
    },
    placements: Object.fromEntries([
      ...things(still, 's', 'still', 100),
      ...things(magnets, 'm', 'magnet', 200),
      ...things(solidCarts, 'k', 'solid', 300, (k) => ({ travel: { path: `p${String(k)}` } })),
      ...things(carts, 'c', 'cart', 300, (k) => ({ travel: { path: `p${String(k)}` } })),
      ...things(drifting, 'd', 'wanderer', 400),
      ...things(bringing, 'b', 'bringing', 500),
    ]),
    paths: Object.fromEntries(
      Array.from({ length: Math.max(carts, solidCarts) }, (_, k) => {
        const { x, y } = spot(k, 300);
        const to = { x: x + legOf(x), y };
        return [`p${String(k)}`, { name: `p${String(k)}`, speed: 2 + (k % 10) * 0.3, round: 'back and forth', wayPoints: [{ x, y }, to] }];
      }),
    ),
    solids: Object.fromEntries(Array.from({ length: 30 }, (_, k) => [`w${String(k)}`, { ...spot(k, 600), width: 1.2, height: 4 }])),
  });
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
  return parsed.value;
}

interface StepCost {
  readonly cost: number;
  readonly bytes: number;
}

/** Microseconds a step, when warm, and the bytes of a snapshot after them: one player walks to and fro over the level, ledger off. */
function stepCost(level: Level): StepCost {
  const compiled = compile(level);
  const ways = Array.from({ length: STEPS / 90 }, (_, k) => {
    const inputs = new Int8Array(INPUT_WIDTH);
    // To and fro over the middle of the level, up and down on the way.
    inputs[0] = Math.floor(k / 24) % 2 === 0 ? 127 : -127;
    inputs[1] = Math.round((scattered(k) - 0.5) * 250);
    return inputs;
  });
  const times: number[] = [];
  let bytes = 0;
  const warm = performance.now() + WARMING;
  while (times.length < ROUNDS) {
    const session = createSession(compiled);
    const began = performance.now();
    for (const inputs of ways) for (let k = 0; k < 90; k += 1) step(session, inputs);
    if (began >= warm) times.push(((performance.now() - began) * 1000) / STEPS);
    bytes = snapshot(session).length;
  }
  return { cost: medianOf(times), bytes };
}

/** The same for a physics library: so many sensors that move evenly, among the still ones. */
function physicsCost(moving: number, drifts: boolean): number {
  const world = new RAPIER.World({ x: 0, y: 0 });
  world.timestep = 1 / 60;
  const sensor = (radius: number) =>
    RAPIER.ColliderDesc.ball(radius)
      .setSensor(true)
      .setActiveEvents(RAPIER.ActiveEvents.COLLISION_EVENTS)
      .setActiveCollisionTypes(RAPIER.ActiveCollisionTypes.ALL);
  for (let k = 0; k < 200; k += 1) {
    const { x, y } = spot(k, 100);
    world.createCollider(sensor(0.5), world.createRigidBody(RAPIER.RigidBodyDesc.fixed().setTranslation(x, y)));
  }
  for (let k = 0; k < 30; k += 1) {
    const { x, y } = spot(k, 600);
    world.createCollider(RAPIER.ColliderDesc.cuboid(0.6, 2), world.createRigidBody(RAPIER.RigidBodyDesc.fixed().setTranslation(x, y)));
  }
  const bodies = Array.from({ length: moving }, (_, k) => {
    const { x, y } = spot(k, drifts ? 400 : 300);
    const desc = drifts
      ? RAPIER.RigidBodyDesc.dynamic().setLinvel(2 * (scattered(k) - 0.5), 2 * (scattered(k + 9) - 0.5))
      : RAPIER.RigidBodyDesc.kinematicPositionBased();
    const body = world.createRigidBody(desc.setTranslation(x, y));
    world.createCollider(sensor(0.7), body);
    if (drifts) world.createCollider(RAPIER.ColliderDesc.ball(0.6).setRestitution(1).setFriction(0), body);
    return { body, x, y, speed: 2 + (k % 10) * 0.3 };
  });
  const player = world.createRigidBody(RAPIER.RigidBodyDesc.kinematicPositionBased().setTranslation(2, 2));
  world.createCollider(RAPIER.ColliderDesc.ball(0.4).setActiveCollisionTypes(RAPIER.ActiveCollisionTypes.ALL), player);
  const events = new RAPIER.EventQueue(true);
  let began = 0;
  for (let at = 1; at <= 2 * PHYSICS_STEPS; at += 1) {
    if (at === PHYSICS_STEPS + 1) began = performance.now();
    player.setNextKinematicTranslation({ x: 2 + ((at * 0.08) % 190), y: 40 });
    if (!drifts) {
      for (const { body, x, y, speed } of bodies) {
        const phase = ((at / 60) * speed) % 40;
        body.setNextKinematicTranslation({ x: x + Math.sign(legOf(x)) * (phase < 20 ? phase : 40 - phase), y });
      }
    }
    world.step(events);
    events.drainCollisionEvents(() => undefined);
  }
  const cost = ((performance.now() - began) * 1000) / PHYSICS_STEPS;
  events.free();
  world.free();
  return cost;
}

/** A row of the table: a level, what a step may cost, and the physics library's step with as many. */
interface Row {
  readonly name: string;
  readonly counts: Counts;
  readonly most: number | null;
  readonly physics?: () => number;
}

const carts = (count: number, most: number): Row => ({
  name: `${String(count)} carts`,
  counts: { carts: count },
  most,
  physics: () => physicsCost(count, false),
});
const drifting = (count: number, most: number): Row => ({
  name: `${String(count)} drifting`,
  counts: { drifting: count },
  most,
  physics: () => physicsCost(count, true),
});

const ROWS: readonly Row[] = [
  { name: '200 still', counts: {}, most: null },
  { name: '1,200 still', counts: { still: 1200 }, most: null },
  { name: '4,000 still', counts: { still: 4000 }, most: 3 },
  { name: '200 magnets', counts: { magnets: 200 }, most: null },
  { name: '1,000 magnets', counts: { magnets: 1000 }, most: null },
  { name: '50 solid carts', counts: { solidCarts: 50 }, most: null },
  { name: '200 solid carts', counts: { solidCarts: 200 }, most: null },
  carts(10, 1.5),
  carts(50, 2.5),
  carts(100, 4),
  carts(200, 8),
  drifting(10, 2),
  drifting(50, 6),
  drifting(200, 25),
  { name: 'each of 200 taken brings a wanderer, 100 at most', counts: { bringing: 200 }, most: 15 },
];

/** The same in a thread of its own, as each page has one: what other levels taught the engine has no part in it. */
async function stepCostAlone(counts: Counts): Promise<StepCost> {
  const [found] = (await once(new Worker(new URL(import.meta.url), { workerData: counts }), 'message')) as [StepCost];
  return found;
}

if (!isMainThread) parentPort?.postMessage(stepCost(growthLevel(workerData as Counts)));

/** Prints the table. */
export async function printGrowth(): Promise<void> {
  await RAPIER.init();
  const width = Math.max(...ROWS.map(({ name }) => name.length));
  console.log(`${'µs a step'.padEnd(width)}     cost  at most  physics library  snapshot kB`);
  for (const { name, counts, most: atMost, physics } of ROWS) {
    const { cost, bytes } = await stepCostAlone(counts);
    const beside = (physics === undefined ? '' : physics().toFixed(0)).padStart(16);
    const most = atMost === null ? '' : String(atMost);
    console.log(
      `${name.padEnd(width)} ${cost.toFixed(2).padStart(8)} ${most.padStart(8)} ${beside} ${(bytes / 1024).toFixed(0).padStart(12)}`,
    );
  }
}
