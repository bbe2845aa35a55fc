import { parseLevel, type Level } from '@dial/core/level';
import { answer, conduct, sessionCount, tune, verdictOf, type Ask, type TuneSettings } from '@dial/core/studies';
import { medianOf, type Figure } from './figures.ts';

/** One dial of a level whose right setting is known: its range, and the setting that follows from the rules. */
interface Known {
  readonly paths: readonly string[];
  readonly from: number;
  readonly to: number;
  readonly right: number;
}

interface Task {
  readonly name: string;
  readonly level: Level;
  readonly dials: readonly Known[];
}

/** Found: each dial within so large a part of its range of where it belongs. */
const NEAR = 0.02;
/** Sessions of a try of the searches that are compared with; tuning tries with as many first. */
const A_TRY = 20;
/** Tuning, and one dial at a time, give up after so many sessions. */
const AT_MOST = 20_000;
/** Random search draws no longer than so many tries; it needs no playing, since what is right is known. */
const MOST_TRIES = 50_000_000;

/** What a thing across the corridor does to meters, to each as much. Someone who walks through it is inside for 3 u. */
interface Across {
  readonly by: 'arriving' | 'inside';
  readonly amount: number;
  readonly changes: readonly (readonly [meter: string, change: 'take' | 'add'])[];
  readonly chance?: number;
}

const thing = ({ by, amount, changes, chance }: Across): object => ({
  name: 'thing',
  role: 'score',
  mark: 'ring',
  shapes: { body: { type: 'box', width: 2, height: 2 } },
  rules: {
    act: {
      setOffBy: { type: by },
      ...(chance === undefined ? {} : { provided: { chance: { type: 'chance', value: chance } } }),
      effects: Object.fromEntries(changes.map(([meter, change], order) => [meter, { type: 'meter', order, meter, change, amount }])),
    },
  },
});

/** What each meter, of 200, shall come to, give or take. */
type Wished = Readonly<Record<string, readonly [value: number, within: number]>>;

/** A corridor with things across it, walked from end to end at 4 u/s. */
function corridor(across: Readonly<Record<string, Across>>, wished: Wished): Level {
  const meters = Object.keys(wished);
  const parsed = parseLevel({
    format: 1,
    name: 'corridor',
    view: 'top',
    size: { width: 40, height: 2 },
    start: { x: 1, y: 1 },
    body: { radius: 0.5, speed: 4, acceleration: 1e4, braking: 1e4 },
    meters: {
      health: { name: 'health', order: 0, lower: 0, upper: 100, start: 100 },
      score: { name: 'score', order: 1, lower: 0, upper: null, start: 0 },
      ...Object.fromEntries(meters.map((id, at) => [id, { name: id, order: 2 + at, lower: 0, upper: 200, start: 200 }])),
    },
    points: { end: { name: 'end', x: 39, y: 1 } },
    ends: { goals: { end: { type: 'reach', point: 'end', within: 0.5 } } },
    kinds: Object.fromEntries(Object.entries(across).map(([id, one]) => [id, thing(one)])),
    placements: Object.fromEntries(Object.keys(across).map((id, at) => [id, { kind: id, x: 5 + 4 * at, y: 1 }])),
    personas: { plain: { name: 'plain', aimError: 0, timingError: 0, caution: 0, haste: 1, reaction: 0, reactionSpread: 0 } },
    targets: Object.fromEntries(
      Object.entries(wished).map(([meter, [value, within]], order) => [
        meter,
        { order, outcome: { type: 'final', meter }, statistic: { type: 'mean' }, least: value - within, most: value + within },
      ]),
    ),
  });
  if (!parsed.ok) throw new Error(parsed.problems.map(({ path, message }) => `${path} ${message}`).join('; '));
  return parsed.value;
}

/** Takes from some meters, and gives to others, when somebody arrives. */
const moves = (take: readonly string[], add: readonly string[] = []): Across => ({
  by: 'arriving',
  amount: 5,
  changes: [...take.map((meter) => [meter, 'take'] as const), ...add.map((meter) => [meter, 'add'] as const)],
});
const drains = (meter: string, amount = 5): Across => ({ by: 'inside', amount, changes: [[meter, 'take']] });

/** The amount of a kind, the same for all that it changes. */
const amountOf = (kind: string, { changes }: Across, right: number): Known => ({
  paths: changes.map(([meter]) => `/kinds/${kind}/rules/act/effects/${meter}/amount`),
  from: 1,
  to: 100,
  right,
});
const walk = (right: number): Known => ({ paths: ['/body/speed'], from: 1, to: 9, right });

/** Kinds across the corridor, each with its right amount. */
function amounts(name: string, kinds: Readonly<Record<string, Across>>, rights: readonly number[], wished: Wished): Task {
  return {
    name,
    level: corridor(kinds, wished),
    dials: Object.entries(kinds).map(([id, across], at) => amountOf(id, across, rights[at] ?? 0)),
  };
}

/** As many kinds as amounts, each taken from a meter of its own; `spill` takes it from the next meter too. */
function each(name: string, rights: readonly number[], spill = false): Task {
  const last = rights.length - 1;
  const kinds = rights.map(
    (_, at) => [`k${String(at)}`, moves([`m${String(at)}`, ...(spill && at < last ? [`m${String(at + 1)}`] : [])])] as const,
  );
  const wished = rights.map((right, at) => [`m${String(at)}`, [200 - right - (spill ? (rights[at - 1] ?? 0) : 0), 0.9]] as const);
  return amounts(name, Object.fromEntries(kinds), rights, Object.fromEntries(wished));
}

/** Twelve levels whose right settings follow from the rules: what takes r a second from whoever is inside for 3 u at v u/s takes 3r ÷ v. */
const TASKS: readonly Task[] = [
  each('an amount', [37]),
  amounts('a rate', { k: drains('m') }, [40], { m: [200 - 30, 0.9] }),
  { name: 'walk speed', level: corridor({ k: drains('m', 60) }, { m: [200 - 36, 0.9] }), dials: [walk(5)] },
  each('two amounts', [62, 18]),
  amounts('two amounts in sum and difference', { a: moves(['m', 'n']), b: moves(['m'], ['n']) }, [45, 12], {
    m: [143, 0.9],
    n: [167, 0.9],
  }),
  {
    name: 'a rate and walk speed',
    level: corridor({ a: drains('m'), b: drains('n', 60) }, { m: [200 - 18, 0.5], n: [200 - 36, 0.5] }),
    dials: [amountOf('a', drains('m'), 30), walk(5)],
  },
  {
    name: 'two amounts beside a chance',
    level: corridor(
      { a: moves(['m']), b: moves(['n']), fluke: { ...moves(['m']), amount: 8, chance: 0.5 } },
      { m: [200 - 40 - 4, 0.9], n: [145, 0.9] },
    ),
    dials: [amountOf('a', moves(['m']), 40), amountOf('b', moves(['n']), 55)],
  },
  each('three amounts', [62, 18, 81]),
  each('three amounts that spill', [30, 55, 12], true),
  each('four amounts', [71, 22, 44, 90]),
  each('four amounts that spill', [20, 64, 35, 50], true),
  each('five amounts', [71, 22, 44, 90, 13]),
];

/** Whether every dial stands where it belongs. */
const isRight = ({ dials }: Task, values: readonly number[]): boolean =>
  dials.every(({ from, to, right }, at) => Math.abs((values[at] ?? from) - right) <= NEAR * (to - from));

/** Sessions that tuning takes until it answers, and whether its first answer is right. */
async function tuned({ level, dials, ...task }: Task, seed: number): Promise<{ readonly sessions: number; readonly right: boolean }> {
  const moving = dials.map(({ paths, from, to }) => ({ paths: [...paths], from, to, step: null, weight: 1 }));
  const settings: TuneSettings = { dials: moving, targets: [], sessions: AT_MOST, seed };
  const levels = { level, versions: {} };
  const found = await conduct(tune(level, settings), { play: (ask) => Promise.resolve(answer(levels, ask)) });
  const [first] = found?.candidates ?? [];
  return { sessions: found?.sessions ?? AT_MOST, right: first !== undefined && isRight({ level, dials, ...task }, first.values) };
}

/** Sessions that even draws take until one is right: nothing is played, since what is right is known. */
function drawn(task: Task, draw: () => number): number {
  for (let tries = 1; tries <= MOST_TRIES; tries += 1) {
    if (task.dials.every(({ from, to, right }) => Math.abs(from + (to - from) * draw() - right) <= NEAR * (to - from)))
      return tries * A_TRY;
  }
  return MOST_TRIES * A_TRY;
}

/** Values of one dial that are tried at a time. */
const ALONG = 9;

/** Sessions that turning one dial after another takes: nine values each, the best kept, over ever shorter stretches. */
function oneByOne(task: Task): number {
  const { level, dials } = task;
  const levels = { level, versions: {} };
  const held = Object.entries(level.targets);
  const personas = [{ persona: 'plain', sessions: A_TRY }];
  const missed = (values: readonly number[]): number => {
    const turned = dials.map(({ paths }, at) => ({ paths: [...paths], value: values[at] ?? 0 }));
    const crowd = { personas, seconds: 120, seed: 1, start: null };
    const ask: Ask = { version: null, turned, crowd, from: 0, to: sessionCount(crowd), outcomes: held.map(([, { outcome }]) => outcome) };
    return answer(levels, ask).reduce((sum, outcomes, at) => {
      const [id, target] = held[at] ?? [];
      if (id === undefined || target === undefined) return sum;
      const [least, most] = [target.least ?? 0, target.most ?? 0];
      const value = verdictOf(id, target, outcomes).estimate?.value ?? 0;
      return sum + Math.max(0, least - value, value - most);
    }, 0);
  };
  const values = dials.map(({ from, to }) => (from + to) / 2);
  let sessions = 0;
  for (let reach = 1; sessions < AT_MOST && !isRight(task, values); reach = Math.max(0.05, reach / 2)) {
    dials.forEach(({ from, to }, at) => {
      const middle = values[at] ?? from;
      let [best, value] = [Infinity, middle];
      for (let nth = 0; nth < ALONG; nth += 1) {
        const tried = Math.max(from, Math.min(to, middle + (to - from) * reach * (nth / (ALONG - 1) - 0.5)));
        const cost = missed(values.with(at, tried));
        sessions += A_TRY;
        if (cost < best) [best, value] = [cost, tried];
      }
      values[at] = value;
    });
  }
  return Math.min(AT_MOST, sessions);
}

const REPEATED = 5;

/** What tuning takes on levels whose right settings are known, against even draws and one dial at a time. */
export async function tuningFigures(): Promise<Figure[]> {
  const figures: Figure[] = [];
  const [overDraws, overOneByOne, right]: [number[], number[], number[]] = [[], [], []];
  let state = 1;
  // Any even numbers will do here: they decide nothing but what random search would have cost.
  const draw = (): number => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
  for (const task of TASKS) {
    const runs = [];
    for (let seed = 1; seed <= REPEATED; seed += 1) runs.push(await tuned(task, seed));
    const sessions = medianOf(runs.map((run) => run.sessions));
    const drawing = medianOf(Array.from({ length: REPEATED }, () => drawn(task, draw)));
    overDraws.push(drawing / sessions);
    const turning = oneByOne(task);
    overOneByOne.push(turning / sessions);
    right.push(...runs.map((run) => (run.right ? 100 : 0)));
    figures.push({ name: `tuning ${task.name}: sessions, median`, value: sessions, unit: 'sessions' });
    figures.push({ name: '… even draws', value: drawing, unit: 'sessions' });
    figures.push({ name: '… one dial at a time', value: turning, unit: 'sessions' });
  }
  const mean = right.reduce((sum, one) => sum + one, 0) / right.length;
  return [
    ...figures,
    { name: 'tuning: answers within 2 % of the range', value: mean, unit: '%' },
    { name: 'tuning: fewer sessions than even draws, median', value: medianOf(overDraws), unit: '×' },
    { name: 'tuning: fewer sessions than one dial at a time, median', value: medianOf(overOneByOne), unit: '×' },
  ];
}
