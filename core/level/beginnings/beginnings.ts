import { freeId, freeMark, freeName, lastOrder } from './begin.ts';
import { inOrder } from '../document/order.ts';
import { entry } from '../document/pointers.ts';
import { Item, Path, type Level, type Meter } from '../document/schema.ts';
import { Kind, Placement, type MarkName, type Role } from '../document/things.ts';

/** What a new kind may begin as: complete, and right for the view it is offered in. */
export interface KindBeginning {
  readonly name: string;
  readonly role: Role;
  readonly mark: MarkName;
  /** What it is, for whoever chooses. */
  readonly words: string;
  /** Where it makes sense; both, if not stated. */
  readonly view?: Level['view'];
  /** Parts of the kind besides name, order, role and mark, for an item that is asked for. `level` may be given what the kind needs. */
  readonly make: (level: Level, item?: string) => object;
}

const circle = (radius: number) => ({ body: { type: 'circle', radius, x: 0, y: 0 } });
const box = (width: number, height: number) => ({ body: { type: 'box', width, height, x: 0, y: 0 } });
const arriving = (effects: object, more: object = {}) => ({ act: { setOffBy: { type: 'arriving' }, effects, ...more } });
const thing = (shapes: object, rules: object, more: object = {}) => ({ shapes, rules, ...more });

/** A share of what a meter can hold, as a round number; of one without a limit, a share of 100. What is shown as pips is counted in them. */
function partOf(level: Level, id: string, share: number): number {
  const meter = entry<Meter>(level.meters, id);
  const inPips = Object.values(level.readouts).some((one) => one.type === 'meter' && one.meter === id && one.as === 'pips');
  const span = meter === undefined || meter.upper === null ? 100 : meter.upper - meter.lower;
  const part = span * share;
  if (meter?.whole === true || inPips || span >= 20) return Math.max(1, Math.round(part));
  return Number(part.toPrecision(2));
}

const health = (level: Level, change: 'add' | 'take', share: number) => ({
  type: 'meter',
  meter: 'health',
  change,
  amount: partOf(level, 'health', share),
});

const points = (level: Level) => ({ type: 'meter', meter: 'score', change: 'add', amount: partOf(level, 'score', 0.1) });

/** The item called so, made where there is none. */
function itemCalled(level: Level, id: string): string {
  level.items[id] ??= Item.parse({ name: id, order: lastOrder(level.items), most: 9 });
  return id;
}

/** Gives one of an item, of the first there is, or of one that is made. */
const give = (level: Level, item?: string) => ({
  take: { type: 'item', item: item ?? inOrder(level.items)[0]?.[0] ?? itemCalled(level, 'pickup'), count: 1, atLimit: 'refuse' },
});

const hurt = (level: Level, share: number) => ({ hurt: health(level, 'take', share) });

/** The first kind that gives score, or a collectible that is made. */
function aCollectible(level: Level): string {
  const known = inOrder(level.kinds).find(([, { role, rules }]) => role === 'score' && Object.keys(rules).length > 0);
  return known?.[0] ?? addKind(level, 'score');
}

const BEGINNINGS = {
  mend: {
    name: 'healing pad',
    role: 'mend',
    mark: 'plus',
    words: 'a pad that heals, then rests',
    make: (level) =>
      thing(
        circle(1),
        arriving(
          { heal: health(level, 'add', 0.2) },
          {
            provided: { hurt: { type: 'below limit', meter: 'health' } },
            becomes: { type: 'rests', seconds: 6 },
          },
        ),
      ),
  },
  harm: {
    name: 'hazard',
    role: 'harm',
    mark: 'triangle',
    words: 'a place that hurts while inside',
    make: (level) => thing(circle(1), { act: { setOffBy: { type: 'inside' }, effects: hurt(level, 0.1) } }),
  },
  lethal: {
    name: 'kill zone',
    role: 'lethal',
    mark: 'cross',
    words: 'a zone that kills',
    make: () => thing(box(3, 1.5), arriving({ kill: { type: 'kill' } })),
  },
  score: {
    name: 'collectible',
    role: 'score',
    mark: 'diamond',
    words: 'a collectible, gone once taken',
    make: (level) => thing(circle(0.4), arriving({ score: points(level) }, { becomes: { type: 'spent' } })),
  },
  carry: {
    name: 'pickup',
    role: 'carry',
    mark: 'square',
    words: 'something to carry',
    make: (level, item) => thing(circle(0.4), arriving(give(level, item), { becomes: { type: 'spent' } })),
  },
  movement: {
    name: 'speed boost',
    role: 'movement',
    mark: 'chevron',
    words: 'a boost of speed for a while',
    make: () => {
      const boost = { type: 'movement', of: 'speed', change: 'multiply', value: 1.5, lasts: { type: 'for', seconds: 3 } };
      return thing(circle(0.8), arriving({ boost }, { becomes: { type: 'rests', seconds: 5 } }));
    },
  },
  return: {
    name: 'return zone',
    role: 'return',
    mark: 'arc',
    words: 'a zone that sends one back to the start',
    make: () => thing(box(3, 1.5), arriving({ back: { type: 'move', to: { type: 'start' }, velocity: 'zeroed' } })),
  },
  blank: {
    name: 'thing',
    role: 'score',
    mark: 'ring',
    words: 'touching it does nothing yet',
    make: () => thing(circle(0.5), {}),
  },
  roaming: {
    name: 'roaming collectible',
    role: 'score',
    mark: 'star',
    words: 'taken, it goes to a random clear place',
    make: (level) =>
      thing(circle(0.4), arriving({ score: points(level) }, { becomes: { type: 'moves', distance: 3, margin: 0.5, atStart: true } })),
  },
  'on use': {
    name: 'crate',
    role: 'carry',
    mark: 'bar',
    words: 'gives what it holds when the use key is pressed near it',
    make: (level) => {
      const rule = { setOffBy: { type: 'use', reach: 1.5 }, effects: give(level), becomes: { type: 'spent' } };
      return thing(circle(0.5), { act: rule }, { label: 'take {name}' });
    },
  },
  shield: {
    name: 'shield',
    role: 'mend',
    mark: 'ring',
    words: 'stops losses for a while, then rests',
    make: () => thing(circle(0.5), arriving({ shield: { type: 'shield', seconds: 5 } }, { becomes: { type: 'rests', seconds: 10 } })),
  },
  trap: {
    name: 'trap',
    role: 'harm',
    mark: 'bar',
    words: 'stepped on, it winds up, then hurts all inside',
    make: (level) =>
      thing(
        circle(1.2),
        arriving(hurt(level, 0.25), {
          windUp: { seconds: 0.6, ifLeft: 'kept' },
          hits: 'all inside',
          becomes: { type: 'rests', seconds: 2 },
        }),
      ),
  },
  bouncer: {
    name: 'bouncer',
    role: 'movement',
    mark: 'arrows',
    words: 'throws one off at once',
    make: ({ view }) => {
      const direction = view === 'side' ? { type: 'fixed', degrees: 90 } : { type: 'away' };
      return thing(view === 'side' ? box(1.5, 0.4) : circle(0.8), arriving({ throw: { type: 'launch', direction, strength: 12 } }));
    },
  },
  launcher: {
    name: 'launcher',
    role: 'movement',
    mark: 'wave',
    words: 'winds up, then throws all inside one way',
    make: ({ view }) => {
      const direction = { type: 'fixed', degrees: view === 'side' ? 60 : 0 };
      const more = { windUp: { seconds: 0.5, ifLeft: 'kept' }, hits: 'all inside', becomes: { type: 'rests', seconds: 1 } };
      return thing(box(2, view === 'side' ? 0.4 : 2), arriving({ throw: { type: 'launch', direction, strength: 14 } }, more));
    },
  },
  platform: {
    name: 'yielding platform',
    role: 'movement',
    mark: 'square',
    view: 'side',
    words: 'stood on, it gives way, and comes back',
    make: () => {
      const gone = { shown: 'hidden', solid: false, sensing: false };
      const more = { side: ['top'], windUp: { seconds: 0.6, ifLeft: 'kept' }, becomes: { type: 'rests', seconds: 2 } };
      const solid = { width: 3, height: 0.4, x: 0, y: 0, sides: ['top'] };
      return thing(box(3, 0.4), arriving({}, more), { solid, phases: { resting: gone } });
    },
  },
  chaser: {
    name: 'chaser',
    role: 'harm',
    mark: 'star',
    words: 'goes after whoever comes near, and hurts',
    make: (level) => {
      const speed = [
        [0, 1],
        [2, 4],
      ];
      const magnet = { reach: 6, giveUp: 10, then: 'goes home', speed, passesSolids: false };
      return thing(circle(0.4), arriving(hurt(level, 0.15), { becomes: { type: 'rests', seconds: 1.5 } }), { magnet });
    },
  },
  patrol: {
    name: 'patrol',
    role: 'harm',
    mark: 'cross',
    words: 'goes to and fro on a path of its own, and hurts',
    make: (level) => thing(circle(0.4), arriving(hurt(level, 0.15)), { tags: ['patrol'] }),
  },
  wanderer: {
    name: 'wanderer',
    role: 'harm',
    mark: 'arrows',
    words: 'drifts about, rebounds, and hurts',
    make: (level) => thing(circle(0.4), arriving(hurt(level, 0.15)), { drift: { speed: 2, degrees: null } }),
  },
  checkpoint: {
    name: 'checkpoint',
    role: 'return',
    mark: 'bar',
    words: 'touched, one comes back here from then on',
    make: (level) => {
      // Without this it would be set and never gone back to.
      if (level.death.returnTo.type === 'start') level.death.returnTo = { type: 'checkpoint' };
      return thing(box(1, 2), arriving({ set: { type: 'checkpoint', point: null } }));
    },
  },
  door: {
    name: 'door',
    role: 'return',
    mark: 'square',
    words: 'solid until touched with a key, which it takes',
    make: (level) => {
      const item = itemCalled(level, 'key');
      const provided = { key: { type: 'item', item, is: 'at least', value: 1 } };
      const rule = arriving({ takes: { type: 'item', item, count: -1 } }, { provided, becomes: { type: 'spent' } });
      return thing(box(0.6, 2), rule, { solid: { width: 0.6, height: 2, x: 0, y: 0 } });
    },
  },
  spawner: {
    name: 'spawner',
    role: 'score',
    mark: 'chevron',
    words: 'brings forth another kind every so often',
    make: (level) => {
      const spawn = { type: 'spawn', pool: { [aCollectible(level)]: 1 }, at: { type: 'clear', distance: 2, margin: 0.5 }, most: 5 };
      return thing(circle(0.6), { act: { setOffBy: { type: 'every', seconds: 4 }, effects: { spawn } } });
    },
  },
} as const satisfies Readonly<Record<string, KindBeginning>>;

export type KindBeginningId = keyof typeof BEGINNINGS;

/** One of the things a new kind may begin as; where it gives an item of the level, which. */
export interface KindOffer extends Pick<KindBeginning, 'role' | 'words'> {
  readonly beginning: KindBeginningId;
  readonly item?: string;
}

/** More items than this are not offered one by one. */
const MOST_ITEMS = 6;

/** What a new kind may begin as in a level: what makes sense in its view, and something to carry of each item it has. */
export function kindBeginnings(level: Pick<Level, 'view' | 'items'>): readonly KindOffer[] {
  const all = Object.entries(BEGINNINGS) as [KindBeginningId, KindBeginning][];
  return all.flatMap(([beginning, { role, words, view }]): KindOffer[] => {
    if (view !== undefined && view !== level.view) return [];
    const items = beginning === 'carry' ? inOrder(level.items).slice(0, MOST_ITEMS) : [];
    if (items.length === 0) return [{ beginning, role, words }];
    return items.map(([item, { name }]) => ({ beginning, item, role, words: `something to carry: ${name}` }));
  });
}

/** Adds a kind with sound values, and what it needs; one that gives an item is called like it. Answers its id. */
export function addKind(draft: Level, beginning: KindBeginningId, item?: string): string {
  const { name: usual, role, mark, make }: KindBeginning = BEGINNINGS[beginning];
  const name = (item === undefined ? undefined : draft.items[item]?.name) ?? usual;
  const parts = make(draft, item);
  const kinds = { ...draft.kinds, ...draft.variants };
  const id = freeId(kinds, name);
  const called = freeName(kinds, name);
  draft.kinds[id] = Kind.parse({ name: called, order: lastOrder(kinds), role, mark: freeMark(draft, role, mark), ...parts });
  if (beginning === 'patrol') addPatrol(draft, id, called);
  return id;
}

/** A path through the middle of the level for a patrol, and one of it on the way. */
function addPatrol(draft: Level, kind: string, name: string): void {
  const { width, height } = draft.size;
  const path = freeId(draft.paths, name);
  const wayPoints = [width / 2 - Math.min(3, width / 4), width / 2 + Math.min(3, width / 4)].map((x) => ({ x, y: height / 2 }));
  draft.paths[path] = Path.parse({ name: `way of ${name}`, order: lastOrder(draft.paths), speed: 2, round: 'back and forth', wayPoints });
  const placed = Placement.parse({ kind, order: lastOrder(draft.placements), x: 0, y: 0, travel: { path, startOffset: 0 } });
  draft.placements[freeId(draft.placements, kind)] = placed;
}
