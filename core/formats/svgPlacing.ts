import { allKinds, freeId, kindOf, lastOrder, pointer, type Level, type Placement, type Shape } from '../level/index.ts';
import { outlined } from './outline.ts';
import { gathering, type SheetReading } from './sheetReading.ts';
import type { SvgShape } from './svgShapes.ts';
import { pairText, plainNumber } from './numerals.ts';

/** What shapes of one name become: a kind by its id, solids, or nothing. */
export type BecomesOf = { readonly type: 'kind'; readonly kind: string } | { readonly type: 'solid' } | { readonly type: 'nothing' };

/** By which of their names shapes are told apart. */
export type NamedBy = keyof SvgShape['names'];

export interface SvgGroup {
  readonly name: string;
  readonly count: number;
}

/** The names shapes have, and how many have each. */
export function groupsOf(shapes: readonly SvgShape[], by: NamedBy): SvgGroup[] {
  const counts = new Map<string, number>();
  for (const { names } of shapes) counts.set(names[by], (counts.get(names[by]) ?? 0) + 1);
  return [...counts].map(([name, count]) => ({ name, count }));
}

/** What a name most likely means in a level: the kind of this id or name, or solids. */
export function likelyMeaning(level: Level, name: string): BecomesOf {
  const plain = name.toLowerCase().replace(/[-_\s]*\d+$/, '');
  if (/^(solid|wall|floor|platform)s?$/.test(plain)) return { type: 'solid' };
  const kind = allKinds(level).find(([id, one]) =>
    [id, one.name.toLowerCase()].some((word) => word === plain || word === name.toLowerCase()),
  );
  return kind === undefined ? { type: 'nothing' } : { type: 'kind', kind: kind[0] };
}

interface PlacingOptions {
  readonly by: NamedBy;
  readonly meanings: ReadonlyMap<string, BecomesOf>;
  readonly unitsPerPixel: number;
}

/** What the shapes of an SVG become in a level: things with shapes of their own where they differ from their kind's, and solids. */
export function placeSvg(level: Level, shapes: readonly SvgShape[], { by, meanings, unitsPerPixel }: PlacingOptions): SheetReading {
  const found = gathering(level);
  const taken: Record<string, Placement> = { ...level.placements };
  const solids = { ...level.solids };
  const at = (x: number, y: number): readonly [number, number] => [x * unitsPerPixel, level.size.height - y * unitsPerPixel];

  const thing = (line: number, kindId: string, x: number, y: number, shape: Shape, filled: boolean): void => {
    const kind = kindOf(level, kindId);
    const [[shapeId, usual] = ['', undefined], ...more] = Object.entries(kind?.shapes ?? {});
    const name = kind?.name ?? kindId;
    if (more.length > 0 || usual === undefined) {
      found.refuse(line, name, 'this kind has several shapes, so none of them can be taken from a drawing');
      return;
    }
    const same = JSON.stringify({ ...usual, x: 0, y: 0 }) === JSON.stringify({ ...shape, x: 0, y: 0 });
    const id = freeId(taken, kindId);
    const own = same ? {} : { [`/shapes/${shapeId}`]: shape };
    taken[id] = { kind: kindId, order: lastOrder(taken), x, y, travel: null, own, starts: { type: 'ready' } };
    const hull = filled ? ' (its outline is not convex; its hull is taken)' : '';
    const words = `new: ${name} at ${pairText(x, y)}${hull}`;
    found.write({ line, words, path: pointer(['placements', id]), value: taken[id] });
  };

  for (const [index, { names, corners, circle }] of shapes.entries()) {
    const line = index + 1;
    const meaning = meanings.get(names[by]) ?? { type: 'nothing' };
    if (meaning.type === 'nothing') continue;
    const made = outlined(corners.map(([x, y]) => at(x, y)));
    if (made === null) {
      found.refuse(line, names[by], 'it has no area');
      continue;
    }
    if (meaning.type === 'kind') {
      if (circle === null) thing(line, meaning.kind, made.x, made.y, made.shape, made.filled);
      else {
        const [x, y] = at(circle.x, circle.y).map((value) => Number(value.toFixed(3)));
        const radius = Number((circle.radius * unitsPerPixel).toFixed(3));
        thing(line, meaning.kind, x ?? 0, y ?? 0, { type: 'circle', radius, x: 0, y: 0 }, false);
      }
      continue;
    }
    if (made.shape.type !== 'box' || made.shape.rotation % 90 !== 0) {
      found.refuse(line, names[by], 'a solid is an upright box; this is none');
      continue;
    }
    const lying = Math.abs(made.shape.rotation % 180) === 90;
    const [width, height] = lying ? [made.shape.height, made.shape.width] : [made.shape.width, made.shape.height];
    const id = freeId(solids, 'solid');
    const left = Number((made.x - width / 2).toFixed(3));
    const low = Number((made.y - height / 2).toFixed(3));
    solids[id] = { order: lastOrder(solids), x: left, y: low, width, height, sides: ['top', 'bottom', 'left', 'right'] };
    const words = `new: solid of ${plainNumber(width)} × ${plainNumber(height)} at ${pairText(left, low)}`;
    found.write({ line, words, path: pointer(['solids', id]), value: solids[id] });
  }
  return found.reading();
}
