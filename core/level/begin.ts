import { Item, Level, LEVEL_FORMAT, Meter } from './schema.ts';
import { allKinds } from './resolve.ts';
import { Kind, MARKS, Placement, Variant, type MarkName, type Role } from './things.ts';

/** What a new level is begun with. Lengths in units. */
export interface Beginning {
  readonly name: string;
  readonly view: Level['view'];
  readonly width: number;
  readonly height: number;
  readonly unitsPerPixel: number;
  readonly framesPerSecond: number;
}

/** An empty level that can be played at once: a player who comes back from death, health and a score. Throws `ZodError` on numbers out of limits. */
export function newLevel({ name, view, width, height, unitsPerPixel, framesPerSecond }: Beginning): Level {
  const side = view === 'side';
  return Level.parse({
    format: LEVEL_FORMAT,
    name,
    view,
    size: { width, height },
    scale: { unitsPerPixel, framesPerSecond },
    body: { radius: 0.4, speed: side ? 6 : 5, acceleration: 40, braking: 60 },
    start: { x: Math.min(2, width / 2), y: side ? Math.min(0.65, height / 2) : height / 2 },
    meters: {
      health: { name: 'health', order: 1, lower: 0, upper: 100, start: 100 },
      score: { name: 'score', order: 2, lower: 0, upper: null, start: 0, whole: true },
    },
    death: { returns: 'always', grace: 1 },
    kinds: {},
    placements: {},
  });
}

/** An id that a map does not have yet, made of a name. */
export function freeId(map: Readonly<Record<string, unknown>>, name: string): string {
  const base =
    name
      .toLowerCase()
      .replaceAll(/[^a-z0-9]+/g, '-')
      .replaceAll(/^-+|-+$/g, '')
      .slice(0, 40) || 'thing';
  let number = 1;
  let id = base;
  while (Object.hasOwn(map, id)) {
    number += 1;
    id = `${base}-${String(number)}`;
  }
  return id;
}

/** An order number after all of a map. */
export function lastOrder(map: Readonly<Record<string, { readonly order: number }>>): number {
  return Math.max(0, ...Object.values(map).map(({ order }) => order)) + 1;
}

/** Sound values for a first kind of each role. */
const FIRST: Readonly<Record<Role, { readonly name: string; readonly mark: MarkName; readonly shape: object; readonly rule: object }>> = {
  mend: {
    name: 'healing pad',
    mark: 'plus',
    shape: { type: 'circle', radius: 1 },
    rule: {
      provided: { hurt: { type: 'below limit', meter: 'health' } },
      effects: { heal: { type: 'meter', meter: 'health', change: 'add', amount: 20 } },
      becomes: { type: 'rests', seconds: 6 },
    },
  },
  harm: {
    name: 'hazard',
    mark: 'triangle',
    shape: { type: 'circle', radius: 1 },
    rule: { setOffBy: { type: 'inside' }, effects: { hurt: { type: 'meter', meter: 'health', change: 'take', amount: 10 } } },
  },
  lethal: {
    name: 'kill zone',
    mark: 'cross',
    shape: { type: 'box', width: 3, height: 1.5 },
    rule: { effects: { kill: { type: 'kill' } } },
  },
  score: {
    name: 'collectible',
    mark: 'diamond',
    shape: { type: 'circle', radius: 0.4 },
    rule: { effects: { score: { type: 'meter', meter: 'score', change: 'add', amount: 10 } }, becomes: { type: 'spent' } },
  },
  carry: {
    name: 'pickup',
    mark: 'square',
    shape: { type: 'circle', radius: 0.4 },
    rule: { effects: { take: { type: 'item', item: 'pickup', count: 1, atLimit: 'refuse' } }, becomes: { type: 'spent' } },
  },
  movement: {
    name: 'speed boost',
    mark: 'chevron',
    shape: { type: 'circle', radius: 0.8 },
    rule: {
      effects: { boost: { type: 'movement', of: 'speed', change: 'multiply', value: 1.5, lasts: { type: 'for', seconds: 3 } } },
      becomes: { type: 'rests', seconds: 5 },
    },
  },
  return: {
    name: 'return zone',
    mark: 'arc',
    shape: { type: 'box', width: 3, height: 1.5 },
    rule: { effects: { back: { type: 'move', to: { type: 'start' }, velocity: 'zeroed' } } },
  },
};

/** A mark that no kind of the role bears yet: its own first. */
function freeMark(level: Level, role: Role): MarkName {
  const taken = new Set(allKinds(level).flatMap(([, kind]) => (kind.role === role ? [kind.mark] : [])));
  const own = FIRST[role].mark;
  return [own, ...MARKS].find((mark) => !taken.has(mark)) ?? own;
}

/** Adds a kind of a role, with sound values, and what it needs. Answers its id. */
export function addKind(draft: Level, role: Role): string {
  const { name, shape, rule } = FIRST[role];
  const id = freeId({ ...draft.kinds, ...draft.variants }, name);
  const number = id === freeId({}, name) ? '' : ` ${id.slice(id.lastIndexOf('-') + 1)}`;
  if (role === 'carry' && !Object.hasOwn(draft.items, 'pickup')) {
    draft.items['pickup'] = Item.parse({ name: 'pickup', order: lastOrder(draft.items), most: 9 });
  }
  const mark = freeMark(draft, role);
  draft.kinds[id] = Kind.parse({
    name: name + number,
    order: lastOrder({ ...draft.kinds, ...draft.variants }),
    role,
    mark,
    shapes: { body: { x: 0, y: 0, ...shape } },
    rules: { act: { setOffBy: { type: 'arriving' }, ...rule } },
  });
  return id;
}

/** Adds the meter that lives are counted in. Other meters of that name are not it. */
export function addLives(draft: Level): void {
  draft.meters['lives'] = Meter.parse({ name: 'lives', order: lastOrder(draft.meters), lower: 0, upper: 9, start: 3, whole: true });
}

/** Adds a kind based on another: the same, until values are changed. Answers its id. */
export function addVariant(draft: Level, basedOn: string): string {
  const name = allKinds(draft).find(([id]) => id === basedOn)?.[1].name ?? basedOn;
  const id = freeId({ ...draft.kinds, ...draft.variants }, `${name} variant`);
  draft.variants[id] = Variant.parse({ name: `${name} variant`, order: lastOrder({ ...draft.kinds, ...draft.variants }), basedOn });
  return id;
}

/** Places a thing of a kind. Answers the placement's id. */
export function addPlacement(draft: Level, kind: string, x: number, y: number): string {
  const id = freeId(draft.placements, kind);
  draft.placements[id] = Placement.parse({ kind, order: lastOrder(draft.placements), x, y });
  return id;
}
