import { ALL_FACES, boxesOf, type Box, type Boxes } from '../../geometry/index.ts';
import { EFFECT, keeping, type Compiled } from '../../session/index.ts';
import { cellHolding, createMesh, type Mesh } from '../navigation/index.ts';
import { deedsOfForms, type Deeds } from './deeds.ts';
import type { Leap } from './air.ts';
import { extentOf, touchBoxOf } from './extent.ts';
import { terrainOf, type Terrain } from './leaping.ts';
import { comesAndGoes } from './opening.ts';

/** A stretch of the level that a way may keep out of: what a thing there does, or its box while it is solid. */
export interface Zone {
  readonly placement: number;
  readonly solid: boolean;
  /** Where the middle of a body touches it; and with the berth that a way round it gives it. Units. */
  readonly box: Box;
  readonly wide: Box;
}

/** The level cut in squares: which of them have been seen is what a persona knows of the level. */
interface Areas {
  /** Side of a square. Units. */
  readonly side: number;
  readonly columns: number;
  readonly rows: number;
  /** Where one can be in each, NaN where nowhere; and which of what hangs together that is. Units. */
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly island: Int32Array;
}

/** A spot to look from: what can be seen from it, still things by number and squares as bits; and how far it is to things. Units. */
export interface Vantage {
  readonly x: number;
  readonly y: number;
  readonly things: Int32Array;
  readonly areas: Uint32Array;
  /** The length of the way to each still thing; below nought as long as nobody has asked. */
  readonly lengths: Float64Array;
  /** The length of the way to squares of the level, as far as anybody has asked: by square. */
  readonly toAreas: Map<number, number>;
}

/** All that personas of a compiled level share: made once, and never changed but for what is remembered of it. */
export interface World {
  readonly compiled: Compiled;
  /** For each player, what each form does to it. */
  readonly deeds: readonly (readonly Deeds[])[];
  /** For each player, whether anything it sets off wins the session. */
  readonly wins: readonly boolean[];
  /** Where a body may be: cut by walls alone, and by zones too. */
  readonly bare: Mesh;
  readonly mesh: Mesh;
  readonly zones: readonly Zone[];
  /** The numbers of those that are boxes of things, and of those in which a thing does something. */
  readonly solidZones: readonly number[];
  readonly harmZones: readonly number[];
  /** The zone of the box of each thing; −1: none. */
  readonly solidZoneOf: Int32Array;
  /** Where walls are, for lines of sight. */
  readonly walls: Boxes;
  readonly areas: Areas;
  /** Where a body can stand and how it leaps; null seen from above. */
  readonly terrain: Terrain | null;
  /** The box around the shapes of each form, from the place of its thing; null: it has none. Units. */
  readonly extents: readonly (Box | null)[];
  /** Placements that stay where they are. */
  readonly stills: readonly number[];
  /** For each player, things that have something to offer to it: those of the document, and all room for spawned ones. */
  readonly offering: readonly Int32Array[];
  /** Zones of hazards that go on and off by a clock; and of what is solid and comes and goes by itself. */
  readonly clocked: readonly number[];
  readonly gates: readonly number[];
  /** The longest that things bring forth others after, from time to time; 0: none does. Steps. */
  readonly bringsIn: number;
  readonly known: Known;
  /** The zones that leaps go through, as far as anybody has asked; and how far. Units. */
  readonly onLeaps: Map<Leap, readonly { readonly zone: number; readonly length: number }[]>;
}

/** What has been found out of a level by asking: it stays true as long as nothing that stays is elsewhere. */
interface Known {
  /** What is seen from where, as far as anybody has looked: by sight, then by spot. */
  readonly vantages: Map<number, Map<number, Vantage>>;
  /** The spot that was looked from last, and how far. Units. */
  readonly last: { x: number; y: number; sight: number; vantage: Vantage | null };
  /** Lengths of ways between things that stay. Units. */
  readonly lengths: Map<number, number>;
}

/** The box of a solid, as the middle of a body that keeps off it by so much sees it. Units. */
function solidBox({ solids }: Compiled, item: number, aroundX: number, aroundY: number): Box {
  const [x, y] = [solids.x[item] as number, solids.y[item] as number];
  const [halfWidth, halfHeight] = [(solids.halfWidth[item] as number) + aroundX, (solids.halfHeight[item] as number) + aroundY];
  return { left: x - halfWidth, bottom: y - halfHeight, right: x + halfWidth, top: y + halfHeight };
}

/** How far the middle of the body keeps from what its sides touch. Units. */
function bodyHalves({ hull }: Compiled): { x: number; y: number } {
  return { x: hull.halfWidth + hull.radius, y: hull.halfHeight + hull.radius };
}

/** How much wider than it is a harm is gone round. Units. */
const BERTH = 0.15;

const widened = ({ left, bottom, right, top }: Box, by: number): Box => ({
  left: left - by,
  bottom: bottom - by,
  right: right + by,
  top: top + by,
});

function zonesOf(compiled: Compiled, deeds: readonly (readonly Deeds[])[]): Zone[] {
  const { forms, placements, placedCount } = compiled;
  const half = bodyHalves(compiled);
  const zones: Zone[] = [];
  for (let placement = 0; placement < placedCount; placement += 1) {
    if ((placements.traveller[placement] as number) >= 0) continue;
    const form = placements.form[placement] as number;
    const item = placements.solid[placement] as number;
    if (item >= 0 && forms.hasSolid[form] === 1) {
      const box = solidBox(compiled, item, half.x, half.y);
      zones.push({ placement, solid: true, box, wide: box });
    }
    const box = deeds.some((own) => (own[form]?.harm ?? null) !== null) ? touchBoxOf(compiled, placement) : null;
    if (box !== null) zones.push({ placement, solid: false, box, wide: widened(box, BERTH) });
  }
  return zones;
}

/** Side of a square of the level, and how many there are at most. Units. */
const AREA_SIDE = 2;
const MOST_AREAS = 4096;

function areasOf({ level: { size } }: Compiled, mesh: Mesh, terrain: Terrain | null): Areas {
  const side = Math.max(AREA_SIDE, Math.sqrt((size.width * size.height) / MOST_AREAS));
  const columns = Math.max(1, Math.ceil(size.width / side));
  const rows = Math.max(1, Math.ceil(size.height / side));
  const count = columns * rows;
  const areas = {
    side,
    columns,
    rows,
    x: new Float64Array(count).fill(NaN),
    y: new Float64Array(count).fill(NaN),
    island: new Int32Array(count),
  };
  for (let area = 0; area < count; area += 1) {
    const x = ((area % columns) + 0.5) * side;
    const y = (Math.floor(area / columns) + 0.5) * side;
    if (terrain === null) {
      const cell = cellHolding(mesh, x, y);
      if (cell < 0) continue;
      areas.x[area] = x;
      areas.y[area] = y;
      areas.island[area] = mesh.island[cell] as number;
      continue;
    }
    const here = terrain.surfaces.filter((one) => Math.abs(one.y - y) <= side / 2 && one.left <= x + side / 2 && one.right >= x - side / 2);
    const on = here.find(({ station }) => station === null) ?? here[0];
    if (on === undefined) continue;
    areas.x[area] = Math.max(on.left, Math.min(on.right, x));
    areas.y[area] = on.y;
  }
  return areas;
}

const flat = (boxes: readonly Box[]): number[] => boxes.flatMap(({ left, bottom, right, top }) => [left, bottom, right, top]);

/** What does not depend on a turned dial is not made anew. */
const keptFree = keeping<Mesh>();
const keptMeshes = keeping<Mesh>();
const keptAreas = keeping<Areas>();
const keptKnown = keeping<Known>();

/** The longest that things bring forth others after, from time to time; 0: none does. Steps. */
function bringsInOf({ rules, effects }: Compiled): number {
  let most = 0;
  for (let rule = 0; rule < rules.everySteps.length; rule += 1) {
    const ops = effects.op.subarray(rules.effectStart[rule], rules.effectStart[rule + 1]);
    if (ops.includes(EFFECT.spawn)) most = Math.max(most, rules.everySteps[rule] as number);
  }
  return most;
}

const worlds = new WeakMap<Compiled, World>();

/** What personas share of a compiled level. */
export function worldOf(compiled: Compiled): World {
  const known = worlds.get(compiled);
  if (known !== undefined) return known;
  const { placements, placedCount, playerCount, solids } = compiled;
  const { size } = compiled.level;
  const half = bodyHalves(compiled);
  const deeds = Array.from({ length: playerCount }, (_, player) => deedsOfForms(compiled, player));
  const zones = zonesOf(compiled, deeds);
  // What goes off by a clock can be walked through.
  const kills = (placement: number): boolean => {
    const form = placements.form[placement] as number;
    return compiled.forms.cycleOff[form] === 0 && deeds.some((own) => (own[form]?.harm?.kills ?? 0) > 0);
  };
  const harmful = zones.filter(({ solid }) => !solid).map(({ box, wide, placement }) => ({ box, wide, kills: kills(placement) }));
  const terrain = compiled.side ? terrainOf(compiled, harmful) : null;
  // What is open from below hides nothing, and lets one through.
  const walls = Array.from({ length: solids.inGrid }, (_, item) => item).filter(
    (item) => (solids.owner[item] as number) < 0 && (!compiled.side || (solids.faces[item] as number) === ALL_FACES),
  );
  const area: Box = { left: half.x, bottom: half.y, right: size.width - half.x, top: size.height - half.y };
  const solid = walls.map((item) => solidBox(compiled, item, half.x, half.y));
  const free = keptFree([flat([area]), flat(solid)], () => createMesh(area, solid, []));
  const wide = zones.map((zone) => zone.wide);
  const mesh = zones.length === 0 ? free : keptMeshes([flat([area]), flat(solid), flat(wide)], () => createMesh(area, solid, wide));
  const count = placements.form.length;
  const solidZoneOf = new Int32Array(count).fill(-1);
  zones.forEach(({ placement, solid }, zone) => {
    if (solid) solidZoneOf[placement] = zone;
  });
  const world: World = {
    compiled,
    deeds,
    wins: deeds.map((own) => own.some(({ offers }) => offers.some(({ what }) => what === 'win'))),
    bare: free,
    mesh,
    zones,
    solidZones: [...zones.keys()].filter((zone) => zones[zone]?.solid === true),
    harmZones: [...zones.keys()].filter((zone) => zones[zone]?.solid === false),
    solidZoneOf,
    walls: boxesOf(walls.map((item) => solidBox(compiled, item, 0, 0))),
    areas: keptAreas([free, terrain, size.width, size.height], () => areasOf(compiled, free, terrain)),
    terrain,
    extents: Array.from({ length: compiled.forms.kind.length }, (_, form) => extentOf(compiled, form)),
    stills: Array.from({ length: placedCount }, (_, placement) => placement).filter(
      (placement) => (placements.traveller[placement] as number) < 0,
    ),
    offering: deeds.map((own) =>
      Int32Array.from({ length: count }, (_, placement) => placement).filter(
        (placement) => placement >= placedCount || (own[placements.form[placement] as number]?.offers.length ?? 0) > 0,
      ),
    ),
    clocked: [...zones.keys()].filter((zone) => {
      const { placement, solid } = zones[zone] as Zone;
      return !solid && (compiled.forms.cycleOff[placements.form[placement] as number] as number) > 0;
    }),
    gates: [...zones.keys()].filter((zone) => {
      const { placement, solid } = zones[zone] as Zone;
      return solid && comesAndGoes(compiled, placements.form[placement] as number);
    }),
    bringsIn: bringsInOf(compiled),
    onLeaps: new Map(),
    known: keptKnown([free, terrain, placements.x, placements.y, placements.form, compiled.forms.reach], () => ({
      vantages: new Map(),
      last: { x: NaN, y: NaN, sight: NaN, vantage: null },
      lengths: new Map(),
    })),
  };
  worlds.set(compiled, world);
  return world;
}
