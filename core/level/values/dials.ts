import { inOrder } from '../document/order.ts';
import { segmentsOf } from '../document/pointers.ts';
import type { QuantityName } from '../document/quantities.ts';
import { keptAt, mainNumbers, numberAt, personaNumbers, type LevelNumber } from './numbers.ts';
import { allKinds } from './resolve.ts';
import type { Level } from '../document/schema.ts';
import type { Owner } from './values.ts';

/** A number of the level with a dial, and where it is kept. */
export interface DialSpec extends LevelNumber {
  /** JSON Pointers into the level: where it is kept, in one place or in several at once. */
  readonly paths: readonly string[];
}

/** A dial of its own. */
const dial = (...number: Parameters<typeof numberAt>): DialSpec => {
  const spec = numberAt(...number);
  return { ...spec, paths: [spec.path] };
};

/** The paths that placements of a kind travel along. */
function pathDials(level: Level, kindId: string): DialSpec[] {
  const used = new Set(
    Object.values(level.placements).flatMap(({ kind, travel }) => (kind === kindId && travel !== null ? [travel.path] : [])),
  );
  return inOrder(level.paths).flatMap(([id, path]) =>
    used.has(id) ? [dial(['paths', id, 'speed'], 'patrol', `speed on ${path.name}`, path.speed, 'moverSpeed')] : [],
  );
}

/** All dials of a kind, or of things with own values, in the order they are shown. */
export function kindDials(level: Level, owner: Owner): DialSpec[] {
  const specs = mainNumbers(level, owner).map((number) => ({ ...number, paths: keptAt(level, owner, number.path) }));
  return [...specs, ...pathDials(level, owner.kind)];
}

/** Where a thing or a solid is, and how large a solid is. */
export function placeDials(
  map: 'placements' | 'solids',
  id: string,
  { x, y, width, height }: { readonly x: number; readonly y: number; readonly width?: number; readonly height?: number },
): DialSpec[] {
  const one = (field: string, label: string, value: number, quantity: QuantityName): DialSpec =>
    dial([map, id, field], 'where it is', label, value, quantity);
  return [
    one('x', 'right', x, 'coordinate'),
    one('y', 'up', y, 'coordinate'),
    ...(width === undefined ? [] : [one('width', 'width', width, 'side')]),
    ...(height === undefined ? [] : [one('height', 'height', height, 'side')]),
  ];
}

/** Where a spot is; of a way-point the pause too, and the speed of its path. */
export function spotDials(
  level: Level,
  spot: string,
  { x, y, pause }: { readonly x: number; readonly y: number; readonly pause?: number },
): DialSpec[] {
  const at = segmentsOf(spot);
  const path = at[0] === 'paths' ? level.paths[at[1] ?? ''] : undefined;
  return [
    dial([...at, 'x'], 'where it is', 'right', x, 'coordinate'),
    dial([...at, 'y'], 'where it is', 'up', y, 'coordinate'),
    ...(pause === undefined ? [] : [dial([...at, 'pause'], 'on the way', 'pause here', pause, 'pause')]),
    ...(path === undefined ? [] : [dial([...at.slice(0, 2), 'speed'], 'on the way', 'speed', path.speed, 'moverSpeed')]),
  ];
}

/** The dials of the player, shown while nothing is selected. */
export function playerDials(level: Level): DialSpec[] {
  const { body } = level;
  return [
    dial(['body', 'speed'], 'how the player moves', 'walk speed', body.speed, 'speed'),
    dial(['body', 'acceleration'], 'how the player moves', 'acceleration', body.acceleration, 'acceleration'),
    dial(['body', 'braking'], 'how the player moves', 'braking', body.braking, 'acceleration'),
    ...(level.view === 'top'
      ? [dial(['body', 'radius'], 'how the player moves', 'radius', body.radius, 'radius')]
      : [
          dial(['body', 'jumpSpeed'], 'how the player moves', 'jump speed', body.jumpSpeed, 'jumpSpeed'),
          dial(['body', 'gravity'], 'how the player moves', 'gravity', body.gravity, 'gravity'),
          dial(['body', 'airControl'], 'how the player moves', 'air control', body.airControl, 'airControl'),
          dial(['body', 'lateJump'], 'how the player moves', 'late jump', body.lateJump, 'lateJump'),
          dial(['body', 'fallLimit'], 'how the player moves', 'fall limit', body.fallLimit, 'fallLimit'),
        ]),
    dial(['start', 'x'], 'starts at', 'right', level.start.x, 'coordinate'),
    dial(['start', 'y'], 'starts at', 'up', level.start.y, 'coordinate'),
    ...inOrder(level.meters).map(([id, meter]) => dial(['meters', id, 'start'], 'starts with', meter.name, meter.start, 'meterValue')),
  ];
}

/** The dials of a persona, in the order in which they are shown. */
export const personaDials = (level: Level, id: string): DialSpec[] =>
  personaNumbers(level, id).map((number) => ({ ...number, paths: [number.path] }));

/** All dials that a level is mainly tuned by: of its kinds, and of the player. */
export function allDials(level: Level): DialSpec[] {
  const found = [...allKinds(level).flatMap(([kind]) => kindDials(level, { kind, placements: [] })), ...playerDials(level)];
  const seen = new Set<string>();
  return found.filter(({ paths }) => {
    const at = paths.join(' ');
    const isNew = !seen.has(at);
    seen.add(at);
    return isNew;
  });
}
