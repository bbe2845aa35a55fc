import { addKind, addPlacement, newLevel, parseLevel, type Level } from '../../level/index.ts';
import { compile, keyedDraw } from '../../session/index.ts';
import { outcomeOfRun, playPersonas, simulate } from '../index.ts';

const KINDS = [
  'score',
  'score',
  'score',
  'mend',
  'harm',
  'lethal',
  'movement',
  'return',
  'trap',
  'bouncer',
  'launcher',
  'platform',
] as const;
const MOVING = ['chaser', 'patrol', 'wanderer', 'roaming'] as const;

/** A level of walls and things of every kind that Dial begins with, wherever chance puts them. */
function anywhere(view: Level['view'], seed: number): Level {
  let count = 0;
  const between = (from: number, to: number): number => from + (to - from) * keyedDraw({ seed }, 99, 0, (count += 1));
  const draft = newLevel({ name: 'anywhere', view, width: 40, height: 16, unitsPerPixel: 0.03, framesPerSecond: 60 });
  const all = ['top', 'bottom', 'left', 'right'] as const;
  const solid = (x: number, y: number, width: number, height: number, sides: readonly (typeof all)[number][] = all): void => {
    const order = Object.keys(draft.solids).length + 1;
    draft.solids[`solid${String(order)}`] = { order, x, y, width, height, sides: [...sides] };
  };
  if (view === 'side') solid(0, 0, 40, 1);
  for (let nth = 0; nth < 9; nth += 1) {
    const isTall = between(0, 1) < 0.3;
    const isOpen = view === 'side' && between(0, 1) < 0.4;
    const size = isTall ? ([between(0.4, 1), between(1.5, 4)] as const) : ([between(2, 6), between(0.3, 0.6)] as const);
    solid(between(0, 34), between(2, 13), ...size, isOpen ? ['top'] : all);
  }
  draft.start = { ...draft.start, x: 2, y: view === 'side' ? 1 + draft.body.height / 2 : 8 };
  const ids = new Map<string, string>();
  for (const kind of [...KINDS, ...MOVING]) {
    const id = ids.get(kind) ?? addKind(draft, kind);
    ids.set(kind, id);
    for (let nth = between(0, 2.5); nth > 1; nth -= 1) addPlacement(draft, id, between(6, 38), between(1.5, 15));
  }
  if (view === 'side') draft.body.jumpSpeed = between(12, 18);
  const parsed = parseLevel(draft);
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems[0]));
  return parsed.value;
}

/** The longest that a body stays within a unit, up and down aside, while it moves. Seconds. */
function longestOnTheSpot({ x, y }: { readonly x: Float32Array; readonly y: Float32Array }, rate: number): number {
  let longest = 0;
  for (let from = 0; from < x.length; from += rate) {
    let way = 0;
    for (let step = from + 1; step < x.length; step += 1) {
      const [dx, dy] = [(x[step] as number) - (x[from] as number), (y[step] as number) - (y[from] as number)];
      if (dx > 1 || dx < -1 || dy > 3 || dy < -3) break;
      way += Math.abs((x[step] as number) - (x[step - 1] as number)) + Math.abs((y[step] as number) - (y[step - 1] as number));
      const seconds = (step - from) / rate;
      if (way > seconds) longest = Math.max(longest, seconds);
    }
  }
  return longest;
}

test.each(['top', 'side'] as const)(
  'wherever things are, seen from the %s: nobody runs on the spot, few give up, and all come to an end',
  (view) => {
    const ends: Record<string, number> = {};
    let score = 0;
    for (let seed = 1; seed <= 24; seed += 1) {
      const compiled = compile(anywhere(view, seed));
      for (const id of ['steady', 'hasty', 'wary']) {
        const { run, endings } = playPersonas(compiled, [compiled.level.personas[id]!], { seed, seconds: 300 });
        const { ended, players } = outcomeOfRun(compiled, run);
        const end = endings[0] ?? ended.how;
        ends[end] = (ends[end] ?? 0) + 1;
        score += players[0]!.meters['score']!;
        expect([seed, id, longestOnTheSpot(simulate(compiled, run), compiled.rate) > 10]).toEqual([seed, id, false]);
      }
    }
    // Of 72 sessions hardly any is broken off, and something is taken in each.
    expect([ends['time'] ?? 0, (ends['gave up'] ?? 0) < 5, score / 72 > 5]).toEqual([0, true, true]);
  },
);
