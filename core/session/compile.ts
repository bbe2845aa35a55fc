import { createGrid, turn, type Grid, type Solids } from '../geometry/index.ts';
import { inOrder, whoMatches, type Kind, type Level, type Rule } from '../level/index.ts';
import * as codes from './codes.ts';
import { compileMovers, type Movers } from './movers.ts';

/**
 * A level turned into flat arrays, ready to be stepped. Nothing in it is looked up by name; the id lists lead back to
 * the document. Made by `compile` from a level that `parseLevel` has accepted; never changed afterwards.
 */
export interface Compiled {
  readonly level: Level;
  /** Steps in a second, and seconds in a step. */
  readonly rate: number;
  readonly stepSeconds: number;
  readonly playerCount: number;
  /** Players first, then movers: everything that can touch a placement. */
  readonly toucherCount: number;
  readonly ids: {
    readonly meters: readonly string[];
    readonly kinds: readonly string[];
    readonly placements: readonly string[];
    readonly rules: readonly { readonly kind: string; readonly rule: string }[];
    readonly effects: readonly string[];
    readonly conditions: readonly string[];
  };
  readonly meters: {
    readonly health: number;
    readonly score: number;
    readonly lower: Float64Array;
    readonly upper: Float64Array;
    readonly start: Float64Array;
    readonly whole: Uint8Array;
  };
  readonly placements: {
    readonly kind: Int32Array;
    readonly x: Float64Array;
    readonly y: Float64Array;
    /** Index among the movers, or −1. */
    readonly mover: Int32Array;
    /** Distance from its place beyond which none of its shapes reach. */
    readonly extent: Float64Array;
  };
  readonly kinds: {
    readonly ruleStart: Int32Array;
    readonly shapeStart: Int32Array;
    /** Per kind × phase. */
    readonly sensing: Uint8Array;
  };
  readonly shapes: {
    readonly type: Uint8Array;
    readonly x: Float64Array;
    readonly y: Float64Array;
    /** Radius, or half the width. */
    readonly a: Float64Array;
    /** Half the height of a box. */
    readonly b: Float64Array;
    readonly cos: Float64Array;
    readonly sin: Float64Array;
  };
  readonly rules: {
    readonly setOffBy: Uint8Array;
    readonly becomes: Uint8Array;
    readonly restSteps: Int32Array;
    readonly conditionStart: Int32Array;
    readonly effectStart: Int32Array;
    /** First slot of an inside rule among those of its kind, one for each effect. */
    readonly slot: Int32Array;
    /** Per rule × toucher class: whether that class may set it off. */
    readonly accepts: Uint8Array;
  };
  readonly conditions: { readonly test: Uint8Array; readonly meter: Int32Array; readonly value: Float64Array };
  readonly effects: { readonly meter: Int32Array; readonly change: Uint8Array; readonly amount: Float64Array };
  readonly slotsPerPair: number;
  readonly classCount: number;
  readonly movers: Movers;
  readonly solids: Solids;
  /** The placements that stay where they are, and which each item of the grid is. */
  readonly stillGrid: Grid;
  readonly stillPlacement: Int32Array;
  /** For each mover, the still placements its path ever comes near: from `start[mover]` to `start[mover + 1]`. */
  readonly alongPath: { readonly start: Int32Array; readonly placement: Int32Array };
}

interface Flat<Value> {
  readonly values: Value[];
  readonly starts: Int32Array;
}

/** Lays lists end to end; list i runs from starts[i] to starts[i + 1]. */
function flatten<Value>(lists: readonly (readonly Value[])[]): Flat<Value> {
  const values: Value[] = [];
  const starts = new Int32Array(lists.length + 1);
  lists.forEach((list, index) => {
    values.push(...list);
    starts[index + 1] = values.length;
  });
  return { values, starts };
}

/** A duration in steps: rounded, and at least one step when it is not nothing. */
export function stepsOf(seconds: number, rate: number): number {
  return seconds > 0 ? Math.max(1, Math.round(seconds * rate)) : 0;
}

function compileShapes(kinds: readonly Kind[]): { shapes: Compiled['shapes']; starts: Int32Array; reach: Float64Array } {
  const flat = flatten(
    kinds.map((kind) =>
      Object.keys(kind.shapes)
        .sort()
        .map((id) => kind.shapes[id] as Kind['shapes'][string]),
    ),
  );
  const list = flat.values;
  const turns = list.map((shape) => turn(shape.type === 'box' ? shape.rotation : 0));
  const shapes = {
    type: Uint8Array.from(list, (shape) => (shape.type === 'circle' ? codes.CIRCLE : codes.BOX)),
    x: Float64Array.from(list, (shape) => shape.x),
    y: Float64Array.from(list, (shape) => shape.y),
    a: Float64Array.from(list, (shape) => (shape.type === 'circle' ? shape.radius : shape.width / 2)),
    b: Float64Array.from(list, (shape) => (shape.type === 'circle' ? 0 : shape.height / 2)),
    cos: Float64Array.from(turns, ({ cos }) => cos),
    sin: Float64Array.from(turns, ({ sin }) => sin),
  };
  const reach = Float64Array.from(kinds, (_, kind) => {
    let most = 0;
    for (let index = flat.starts[kind] as number; index < (flat.starts[kind + 1] as number); index += 1) {
      const [x, y, a, b] = [shapes.x, shapes.y, shapes.a, shapes.b].map((column) => column[index] as number) as [
        number,
        number,
        number,
        number,
      ];
      most = Math.max(most, Math.sqrt(x * x + y * y) + Math.sqrt(a * a + b * b));
    }
    return most;
  });
  return { shapes, starts: flat.starts, reach };
}

function compileRules(rules: readonly Rule[], meterIndex: ReadonlyMap<string, number>, rate: number) {
  const conditions = flatten(rules.map((rule) => inOrder(rule.provided)));
  const effects = flatten(rules.map((rule) => inOrder(rule.effects)));
  const meterOf = (id: string): number => meterIndex.get(id) ?? -1;
  return {
    conditionIds: conditions.values.map(([id]) => id),
    effectIds: effects.values.map(([id]) => id),
    conditions: {
      test: Uint8Array.from(conditions.values, ([, one]) => codes.COMPARISONS.indexOf(one.type === 'below limit' ? 'below limit' : one.is)),
      meter: Int32Array.from(conditions.values, ([, one]) => meterOf(one.meter)),
      value: Float64Array.from(conditions.values, ([, one]) => (one.type === 'meter' ? one.value : 0)),
    },
    effects: {
      meter: Int32Array.from(effects.values, ([, one]) => meterOf(one.meter)),
      change: Uint8Array.from(effects.values, ([, one]) => codes.CHANGES.indexOf(one.change)),
      amount: Float64Array.from(effects.values, ([, one]) => one.amount),
    },
    columns: {
      setOffBy: Uint8Array.from(rules, ({ setOffBy }) => (setOffBy.type === 'arriving' ? codes.ARRIVING : codes.INSIDE)),
      becomes: Uint8Array.from(rules, ({ becomes }) => ['stays', 'rests', 'spent'].indexOf(becomes.type)),
      restSteps: Int32Array.from(rules, ({ becomes }) => (becomes.type === 'rests' ? stepsOf(becomes.seconds, rate) : 0)),
      conditionStart: conditions.starts,
      effectStart: effects.starts,
    },
  };
}

/** The walls, and a wall beyond each edge of the level. */
function compileSolids(level: Level): Solids {
  const { width, height } = level.size;
  const far = 1000;
  const edges = [
    { x: -far, y: -far, width: far, height: height + 2 * far },
    { x: width, y: -far, width: far, height: height + 2 * far },
    { x: 0, y: -far, width, height: far },
    { x: 0, y: height, width, height: far },
  ];
  const boxes = [...inOrder(level.solids).map(([, solid]) => solid), ...edges];
  return {
    x: Float64Array.from(boxes, (box) => box.x + box.width / 2),
    y: Float64Array.from(boxes, (box) => box.y + box.height / 2),
    halfWidth: Float64Array.from(boxes, (box) => box.width / 2),
    halfHeight: Float64Array.from(boxes, (box) => box.height / 2),
    grid: createGrid(Float64Array.from(boxes.flatMap((box) => [box.x, box.y, box.x + box.width, box.y + box.height]))),
  };
}

/** Lists for each mover the still placements that lie along its path, leg by leg. */
function compileAlongPath(movers: Movers, extent: Float64Array, grid: Grid, still: readonly number[]): Compiled['alongPath'] {
  const { x, y, velocityX, velocityY, begin } = movers.legs;
  const lists = Array.from({ length: movers.count }, (_, mover) => {
    const reach = extent[movers.placement[mover] as number] as number;
    const near = new Set<number>();
    const end = movers.legStart[mover + 1] as number;
    for (let leg = movers.legStart[mover] as number; leg < end; leg += 1) {
      const fromX = x[leg] as number;
      const fromY = y[leg] as number;
      const seconds = (leg + 1 < end ? (begin[leg + 1] as number) : (movers.round[mover] as number)) - (begin[leg] as number);
      const toX = fromX + (velocityX[leg] as number) * seconds;
      const toY = fromY + (velocityY[leg] as number) * seconds;
      // A hair more than the reach, since where a mover is is reckoned anew in each step.
      const around = reach + 1e-6;
      const found = grid.query(
        Math.min(fromX, toX) - around,
        Math.min(fromY, toY) - around,
        Math.max(fromX, toX) + around,
        Math.max(fromY, toY) + around,
      );
      for (let k = 0; k < found; k += 1) near.add(still[grid.found[k] as number] as number);
    }
    return [...near].sort((a, b) => a - b);
  });
  const flat = flatten(lists);
  return { start: flat.starts, placement: Int32Array.from(flat.values) };
}

/**
 * Compiles a level for stepping. `rate` overrides the level's own steps per second.
 * The level must be one that `parseLevel` accepted: ids are not checked again.
 */
export function compile(level: Level, rate = level.rate): Compiled {
  const meters = inOrder(level.meters);
  const meterIndex = new Map(meters.map(([id], index) => [id, index]));
  const kinds = inOrder(level.kinds);
  const kindIndex = new Map(kinds.map(([id], index) => [id, index]));
  const placements = inOrder(level.placements);

  const { shapes, starts: shapeStart, reach } = compileShapes(kinds.map(([, kind]) => kind));
  const ruleLists = flatten(kinds.map(([kindId, kind]) => inOrder(kind.rules).map(([id, rule]) => ({ kindId, kind, id, rule }))));
  const rules = compileRules(
    ruleLists.values.map(({ rule }) => rule),
    meterIndex,
    rate,
  );

  const moverPlacements = placements.flatMap(([, placement], index) => (placement.travel === null ? [] : [index]));
  const moverOf = new Map(moverPlacements.map((placement, mover) => [placement, mover]));
  const playerCount = 1;

  const classCount = 1 + kinds.length;
  const accepts = new Uint8Array(ruleLists.values.length * classCount);
  const slot = new Int32Array(ruleLists.values.length);
  let slotsPerPair = 1;
  kinds.forEach(([, kind], index) => {
    let next = 0;
    for (let rule = ruleLists.starts[index] as number; rule < (ruleLists.starts[index + 1] as number); rule += 1) {
      slot[rule] = next;
      if (rules.columns.setOffBy[rule] === codes.INSIDE) {
        next += Math.max(1, (rules.columns.effectStart[rule + 1] as number) - (rules.columns.effectStart[rule] as number));
      }
    }
    slotsPerPair = Math.max(slotsPerPair, next);
    ruleLists.values.forEach(({ rule }, at) => {
      accepts[at * classCount + 1 + index] = whoMatches(rule.who, kind.tags) ? 1 : 0;
    });
  });
  ruleLists.values.forEach(({ rule }, at) => {
    accepts[at * classCount] = whoMatches(rule.who, level.body.tags) ? 1 : 0;
  });

  const kindOf = Int32Array.from(placements, ([, placement]) => kindIndex.get(placement.kind) ?? -1);
  const extent = Float64Array.from(kindOf, (kind) => reach[kind] as number);
  const still = placements.flatMap((_, index) => (moverOf.has(index) ? [] : [index]));
  const stillBoxes = still.flatMap((index) => {
    const { x, y } = (placements[index] as (typeof placements)[number])[1];
    const around = extent[index] as number;
    return [x - around, y - around, x + around, y + around];
  });

  const movers = compileMovers(
    level,
    placements.map(([, placement]) => placement),
    moverPlacements,
  );
  const stillGrid = createGrid(Float64Array.from(stillBoxes));

  return {
    level,
    rate,
    stepSeconds: 1 / rate,
    playerCount,
    toucherCount: playerCount + moverPlacements.length,
    ids: {
      meters: meters.map(([id]) => id),
      kinds: kinds.map(([id]) => id),
      placements: placements.map(([id]) => id),
      rules: ruleLists.values.map(({ kindId, id }) => ({ kind: kindId, rule: id })),
      effects: rules.effectIds,
      conditions: rules.conditionIds,
    },
    meters: {
      health: meterIndex.get('health') ?? -1,
      score: meterIndex.get('score') ?? -1,
      lower: Float64Array.from(meters, ([, meter]) => meter.lower),
      upper: Float64Array.from(meters, ([, meter]) => meter.upper ?? Infinity),
      start: Float64Array.from(meters, ([, meter]) => meter.start),
      whole: Uint8Array.from(meters, ([, meter]) => (meter.whole ? 1 : 0)),
    },
    placements: {
      kind: kindOf,
      x: Float64Array.from(placements, ([, placement]) => placement.x),
      y: Float64Array.from(placements, ([, placement]) => placement.y),
      mover: Int32Array.from(placements, (_, index) => moverOf.get(index) ?? -1),
      extent,
    },
    kinds: {
      ruleStart: ruleLists.starts,
      shapeStart,
      sensing: Uint8Array.from(kinds.flatMap(([, kind]) => codes.PHASES.map((phase) => (kind.phases[phase].sensing ? 1 : 0)))),
    },
    shapes,
    rules: { ...rules.columns, slot, accepts },
    conditions: rules.conditions,
    effects: rules.effects,
    slotsPerPair,
    classCount,
    movers,
    solids: compileSolids(level),
    stillGrid,
    stillPlacement: Int32Array.from(still),
    alongPath: compileAlongPath(movers, extent, stillGrid, still),
  };
}
