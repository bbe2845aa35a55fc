import { ALL_FACES, createGrid, valueIn } from '../../geometry/index.ts';
import { inOrder, type Level } from '../../level/index.ts';
import { keeping } from './keeping.ts';
import { facesOf } from './laying.ts';
import type { FormColumns } from './compileThings.ts';

interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly faces: number;
  readonly owner: number;
}

type ThingBox = Box & { readonly moves: boolean };

/** Walls, a wall beyond each edge of the level, and boxes of solid things: those that stay, then those that move. */
function boxColumns(level: Level, things: readonly ThingBox[]) {
  const { width, height } = level.size;
  const far = 1000;
  const edge = { faces: ALL_FACES, owner: -1 };
  const edges: Box[] = [
    { x: -far, y: -far, width: far, height: height + 2 * far, ...edge },
    { x: width, y: -far, width: far, height: height + 2 * far, ...edge },
    { x: 0, y: -far, width, height: far, ...edge },
    { x: 0, y: height, width, height: far, ...edge },
  ];
  const walls = inOrder(level.solids).map(([, solid]): Box => ({ ...solid, faces: facesOf(solid.sides), owner: -1 }));
  const inGrid: Box[] = [...walls, ...things.filter(({ moves }) => !moves)];
  const boxes = [...inGrid, ...edges, ...things.filter(({ moves }) => moves)];
  return {
    /** Middles and half sizes. Units. */
    x: Float64Array.from(boxes, (box) => box.x + box.width / 2),
    y: Float64Array.from(boxes, (box) => box.y + box.height / 2),
    halfWidth: Float64Array.from(boxes, (box) => box.width / 2),
    halfHeight: Float64Array.from(boxes, (box) => box.height / 2),
    /** Faces that stop, as bits. */
    faces: Uint8Array.from(boxes, ({ faces }) => faces),
    /** The placement it belongs to, or −1. */
    owner: Int32Array.from(boxes, ({ owner }) => owner),
    /** So many, from the first on, are in the grid; from `firstMoving` on they move. */
    inGrid: inGrid.length,
    firstMoving: inGrid.length + edges.length,
    grid: createGrid(Float64Array.from(inGrid.flatMap((box) => [box.x, box.y, box.x + box.width, box.y + box.height]))),
  };
}

/** What is known of the things when their boxes are laid out. */
interface Things {
  readonly columns: FormColumns;
  readonly places: readonly { readonly form: number; readonly x: number; readonly y: number; readonly moves: boolean }[];
  /** Room for so many things that are spawned. */
  readonly room: number;
  /** Forms of what can be spawned. */
  readonly spawnable: readonly number[];
}

const NOWHERE = { x: -5000, y: -5000, width: 1, height: 1, faces: ALL_FACES, moves: true };

/** All boxes that stop, and which of them each placement has, or −1. */
export function compileSolids(level: Level, { columns, places, room, spawnable }: Things) {
  const things = places.flatMap(({ form, x, y, moves }, placement): ThingBox[] => {
    if (columns.hasSolid[form] !== 1) return [];
    const [halfWidth, halfHeight] = [valueIn(columns.solidHalfWidth, form), valueIn(columns.solidHalfHeight, form)];
    const left = x + valueIn(columns.solidX, form) - halfWidth;
    const lower = y + valueIn(columns.solidY, form) - halfHeight;
    const faces = valueIn(columns.solidFaces, form);
    return [{ x: left, y: lower, width: 2 * halfWidth, height: 2 * halfHeight, faces, owner: placement, moves }];
  });
  // Room for spawned things takes boxes only where something that can be spawned has one.
  const slots = spawnable.some((form) => columns.hasSolid[form] === 1) ? room : 0;
  for (let slot = 0; slot < slots; slot += 1) things.push({ ...NOWHERE, owner: places.length + slot });
  const count = places.length + room;
  const asked = things.flatMap(({ x, y, width: w, height: h, faces, owner, moves }) => [x, y, w, h, faces, owner, moves ? 1 : 0]);
  return keptSolids([level.solids, level.size, count, asked], () => laySolids(level, things, count));
}

const keptSolids = keeping<ReturnType<typeof laySolids>>();

function laySolids(level: Level, things: readonly ThingBox[], count: number) {
  const solids = boxColumns(level, things);
  const solidOf = new Int32Array(count).fill(-1);
  solids.owner.forEach((owner, item) => {
    if (owner >= 0) solidOf[owner] = item;
  });
  return { solids, solidOf };
}
