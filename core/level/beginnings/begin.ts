import { entry } from '../document/pointers.ts';
import { Level, LEVEL_FORMAT, Meter } from '../document/schema.ts';
import { allKinds } from '../values/resolve.ts';
import { rounded } from '../values/rounding.ts';
import { MARKS, Placement, Variant, type MarkName, type Role } from '../document/things.ts';

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

/** A name that nothing in a map has yet: the one given, else with a number after it. */
export function freeName(map: Readonly<Record<string, { readonly name: string }>>, name: string): string {
  const taken = new Set(Object.values(map).map((one) => one.name));
  let free = name;
  for (let number = 2; taken.has(free); number += 1) free = `${name} ${String(number)}`;
  return free;
}

/** An order number after all of a map. */
export function lastOrder(map: Readonly<Record<string, { readonly order: number }>>): number {
  return Math.max(0, ...Object.values(map).map(({ order }) => order)) + 1;
}

/** Adds the meter that lives are counted in. Other meters of that name are not it. */
export function addLives(draft: Level): void {
  draft.meters['lives'] = Meter.parse({ name: 'lives', order: lastOrder(draft.meters), lower: 0, upper: 9, start: 3, whole: true });
}

/** A mark that no kind bears yet, its own first; where all are taken, one that no kind of the role bears. */
export function freeMark(level: Level, role: Role, own: MarkName): MarkName {
  const kinds = Object.values(level.kinds);
  const variants = Object.values(level.variants).map(({ changes }) => changes['/mark']);
  const taken = new Set<unknown>([...kinds.map(({ mark }) => mark), ...variants]);
  const ofRole = new Set(kinds.flatMap((kind) => (kind.role === role ? [kind.mark] : [])));
  return [own, ...MARKS].find((mark) => !taken.has(mark)) ?? [own, ...MARKS].find((mark) => !ofRole.has(mark)) ?? own;
}

/** Adds a kind based on another: the same with a mark of its own, until values are changed. Answers its id. */
export function addVariant(draft: Level, basedOn: string): string {
  const base = allKinds(draft).find(([id]) => id === basedOn)?.[1];
  const name = `${base?.name ?? basedOn} variant`;
  const id = freeId({ ...draft.kinds, ...draft.variants }, name);
  const changes = base === undefined ? {} : { '/mark': freeMark(draft, base.role, base.mark) };
  draft.variants[id] = Variant.parse({ name, order: lastOrder({ ...draft.kinds, ...draft.variants }), basedOn, changes });
  return id;
}

/** Adds a path like another that begins elsewhere, mirrored where it would leave the level otherwise. Units. Answers its id. */
export function addPathLike(draft: Level, like: string, begins: { readonly x: number; readonly y: number }): string {
  const path = entry(draft.paths, like);
  const [first] = path?.wayPoints ?? [];
  if (path === undefined || first === undefined) throw new Error(`the level has no path ${like}`);
  const moved = (axis: 'x' | 'y', most: number) => {
    const ways = path.wayPoints.map((point) => point[axis] - first[axis]);
    const fits = (sign: number): boolean => ways.every((way) => begins[axis] + sign * way >= 0 && begins[axis] + sign * way <= most);
    const sign = !fits(1) && fits(-1) ? -1 : 1;
    return ways.map((way) => rounded(begins[axis] + sign * way));
  };
  const [x, y] = [moved('x', draft.size.width), moved('y', draft.size.height)];
  const wayPoints = path.wayPoints.map((point, at) => ({ ...point, x: x[at] ?? point.x, y: y[at] ?? point.y }));
  const name = freeName(draft.paths, path.name.replace(/ \d+$/, ''));
  const id = freeId(draft.paths, name);
  draft.paths[id] = { ...path, name, order: lastOrder(draft.paths), wayPoints };
  return id;
}

/** The way of the latest thing of a kind all of whose things travel; null where there is none. */
function usualWay(level: Level, kind: string): string | null {
  let last: Placement | null = null;
  for (const one of Object.values(level.placements)) {
    if (one.kind !== kind) continue;
    if (one.travel === null) return null;
    if (last === null || one.order > last.order) last = one;
  }
  return last?.travel?.path ?? null;
}

/** Places a thing of a kind; where all of the kind travel, on a way of its own like that of the latest. Answers the placement's id. */
export function addPlacement(draft: Level, kind: string, x: number, y: number): string {
  const id = freeId(draft.placements, kind);
  const way = usualWay(draft, kind);
  const travel = way === null ? null : { path: addPathLike(draft, way, { x, y }), startOffset: 0 };
  draft.placements[id] = Placement.parse({ kind, order: lastOrder(draft.placements), x, y, travel });
  return id;
}
