import { createGrid, valueIn } from '../../geometry/index.ts';
import type { Level, Placement } from '../../level/index.ts';
import * as codes from './codes.ts';
import type { FormColumns } from './compileThings.ts';
import { keeping } from './keeping.ts';
import { compileMovers } from './kinematics.ts';

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

/** What is known of the placements of the document when it is worked out where they can be. */
interface Places {
  readonly placements: readonly Placement[];
  /** The form of each. */
  readonly formOf: readonly number[];
  /** Placements with the room for spawned ones. */
  readonly count: number;
  readonly columns: FormColumns;
}

/** Where things are and will be: what travels and how, what stays and in which grid, who will meet whom. */
export function compilePlaces(level: Level, places: Places) {
  const { placements, formOf, count, columns } = places;
  const travels = travelsOf(placements, formOf, count, columns);
  const ways = placements.map(({ travel }) => travel);
  const reaches = formOf.map((form) => valueIn(columns.reach, form));
  const hows = travels.map(({ placement, how }) => placement * 4 + how);
  const [xs, ys] = [placements.map(({ x }) => x), placements.map(({ y }) => y)];
  return keptPlaces([level.paths, count, ways, reaches, hows, xs, ys], () => layPlaces(level, places, travels, reaches));
}

const keptPlaces = keeping<ReturnType<typeof layPlaces>>();

function layPlaces(level: Level, { placements, count }: Places, travels: readonly Travel[], reaches: readonly number[]) {
  const traveller = new Int32Array(count).fill(-1);
  travels.forEach(({ placement }, index) => (traveller[placement] = index));
  const onPaths = travels.flatMap(({ placement, path }) => (path < 0 ? [] : [placement]));
  const movers = compileMovers(level, placements, onPaths);

  const stills = placements.flatMap((_, placement) => (valueIn(traveller, placement) >= 0 ? [] : [placement]));
  const boxes = stills.flatMap((placement) => {
    const around = valueIn(reaches, placement);
    const { x, y } = placements[placement] as Placement;
    return [x - around, y - around, x + around, y + around];
  });
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
    stillGrid: createGrid(Float64Array.from(boxes)),
    /** The placement of each in the grid. */
    stillPlacement: Int32Array.from(stills),
  };
}
