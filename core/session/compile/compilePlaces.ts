import { createGrid, type Grid, type ShapeTable, valueIn } from '../../geometry/index.ts';
import type { Level, Placement } from '../../level/index.ts';
import * as codes from './codes.ts';
import type { FormColumns } from './compileThings.ts';
import { compileMovers } from './kinematics.ts';
import { compileMeetings, compileSchedule, type Still } from './schedule.ts';

/** Shapes of a form by number. */
function shapesOf(shapeStart: Int32Array, form: number): number[] {
  const from = valueIn(shapeStart, form);
  return Array.from({ length: valueIn(shapeStart, form + 1) - from }, (_, index) => from + index);
}

/** A turning thing may reach further than its shapes. Units. */
const FAR = 2000;

interface Travel {
  readonly placement: number;
  readonly how: number;
  /** Its number among those that follow a path, or −1. */
  readonly path: number;
}

/** All that can change its place: what follows a path, drifts, is drawn or turns; and all room for spawned things. */
function travelsOf(placements: readonly Placement[], formOf: readonly number[], count: number, columns: FormColumns): Travel[] {
  const travels: Travel[] = [];
  let paths = 0;
  for (let placement = 0; placement < count; placement += 1) {
    const form = formOf[placement];
    if (form === undefined) travels.push({ placement, how: codes.TRAVEL.drift, path: -1 });
    else if (placements[placement]?.travel != null) travels.push({ placement, how: codes.TRAVEL.path, path: paths++ });
    else if (valueIn(columns.driftSpeed, form) >= 0) travels.push({ placement, how: codes.TRAVEL.drift, path: -1 });
    else if (columns.roves[form] === 1 || columns.turns[form] === 1) travels.push({ placement, how: codes.TRAVEL.roving, path: -1 });
  }
  return travels;
}

function gridOf(list: readonly Still[], reachOf: (placement: number) => number): Grid {
  const boxes = list.flatMap(({ placement, x, y }) => {
    const around = reachOf(placement);
    return [x - around, y - around, x + around, y + around];
  });
  return createGrid(Float64Array.from(boxes));
}

/** What is known of the placements of the document when it is worked out where they can be. */
interface Places {
  readonly placements: readonly Placement[];
  /** The form of each. */
  readonly formOf: readonly number[];
  /** Placements with the room for spawned ones. */
  readonly count: number;
  readonly columns: FormColumns;
  readonly shapes: ShapeTable;
}

/** Where things are and will be: what travels and how, what stays and in which grid, who will meet whom. */
export function compilePlaces(level: Level, { placements, formOf, count, columns, shapes }: Places) {
  const travels = travelsOf(placements, formOf, count, columns);
  const traveller = new Int32Array(count).fill(-1);
  travels.forEach(({ placement }, index) => (traveller[placement] = index));
  const onPaths = travels.flatMap(({ placement, path }) => (path < 0 ? [] : [placement]));
  const movers = compileMovers(level, placements, onPaths);

  const form = (placement: number): number => valueIn(formOf, placement);
  const reachOf = (placement: number): number => valueIn(columns.reach, form(placement));
  const stills = placements.flatMap(({ x, y }, placement): Still[] => {
    if (valueIn(traveller, placement) >= 0) return [];
    return [{ placement, x, y, shapes: shapesOf(columns.shapeStart, form(placement)), grow: valueIn(columns.grow, form(placement)) }];
  });
  // Movers take no notice of things without rules.
  const sensing = stills.filter(({ placement }) => columns.senses[form(placement)] === 1);
  return {
    travellers: {
      count: travels.length,
      placement: Int32Array.from(travels, ({ placement }) => placement),
      how: Uint8Array.from(travels, ({ how }) => how),
      /** Index among the movers along paths, or −1. */
      path: Int32Array.from(travels, ({ path }) => path),
    },
    /** Index of each placement among the travellers, or −1. */
    traveller,
    movers,
    stillGrid: gridOf(stills, reachOf),
    /** The placement of each in the grid. */
    stillPlacement: Int32Array.from(stills, ({ placement }) => placement),
    schedule: compileSchedule(
      movers,
      onPaths.map(reachOf),
      onPaths.map((placement) => shapesOf(columns.shapeStart, form(placement))),
      shapes,
      gridOf(sensing, reachOf),
      sensing,
    ),
    meetings: compileMeetings(
      movers,
      level.players.count,
      travels.map(({ path }) => path),
      travels.map(({ placement }) => {
        const of = formOf[placement];
        return of === undefined || columns.turns[of] === 1 ? FAR : valueIn(columns.reach, of);
      }),
    ),
  };
}
