import type { Box, Place } from '../../geometry/index.ts';
import { entry, inOrder, type Effect, type Level } from '../../level/index.ts';
import { hullOf } from '../where.ts';
import type { LevelView } from '../view.ts';

/** Somewhere a body may stand: where its middle is. Units. */
interface Ledge {
  readonly left: number;
  readonly right: number;
  readonly y: number;
}

/** Whether a change of movement takes one higher or farther than the body alone. */
function raises({ body }: Level, effect: Effect): boolean {
  if (effect.type === 'launch' || effect.type === 'push') return true;
  if (effect.type !== 'movement' || effect.of === 'acceleration' || effect.of === 'control') return false;
  const { change, value } = effect;
  const base = effect.of === 'speed' ? body.speed : effect.of === 'jump' ? body.jumpSpeed : body.gravity;
  const other = change === 'set' ? value : change === 'add' ? base + value : base * value;
  return effect.of === 'gravity' ? other < base : other > base;
}

/** Whether something may lift a body beyond its own jumps: what carries, shoves, throws, or turns solid around it. */
function isLifted({ level, effects, forms }: LevelView): boolean {
  if (level.body.gravity <= 0 || effects.some(({ effect }) => raises(level, effect))) return true;
  return forms.some(({ kind, placements }) => {
    if (kind.carries) return true;
    if (kind.solid === null) return false;
    const phases = Object.values(kind.phases);
    const changes = kind.cycle !== null || phases.some(({ solid }) => solid !== phases[0]?.solid);
    const stays = placements.length > 0 && kind.drift === null && kind.magnet === null;
    return changes || !stays || placements.some((id) => entry(level.placements, id)?.travel != null);
  });
}

/** All that a body may stand on: the floor, solids, and boxes of things. */
function ledgesOf({ level, things }: LevelView): Ledge[] {
  const { x: halfX, y: halfY } = hullOf(level);
  const ledge = (left: number, right: number, top: number): Ledge => ({ left: left - halfX, right: right + halfX, y: top + halfY });
  const ofSolids = inOrder(level.solids).flatMap(([, { x, y, width, height, sides }]) =>
    sides.includes('top') ? [ledge(x, x + width, y + height)] : [],
  );
  const ofThings = things.flatMap(({ x, y, form: { kind } }) => {
    const { solid } = kind;
    if (solid === null) return [];
    return [ledge(x + solid.x - solid.width / 2, x + solid.x + solid.width / 2, y + solid.y + solid.height / 2)];
  });
  return [ledge(0, level.size.width, 0), ...ofSolids, ...ofThings];
}

/** As much more is granted than a body can: steps are not endlessly short. */
const [MORE, BESIDES] = [1.03, 0.1];

/**
 * Where bodies may come to by jumping and falling, as far as that is decided by how high and how far they jump: walls in the way count
 * for nothing. Null: something lifts them.
 */
export function jumpsIn(view: LevelView): ((places: readonly Place[]) => (box: Box) => boolean) | null {
  if (isLifted(view)) return null;
  const { level, effects } = view;
  const { speed, jumpSpeed, gravity, lateJump, fallLimit } = level.body;
  const height = (MORE * jumpSpeed * jumpSpeed) / (2 * gravity) + BESIDES;
  /** The most seconds that one is in the air before being so far above, or below, where one jumped. */
  const airTime = (up: number): number => {
    const speedThere = Math.sqrt(Math.max(0, jumpSpeed * jumpSpeed - 2 * gravity * up));
    const falling = Math.max(0, -up) / fallLimit;
    return (jumpSpeed + speedThere) / gravity + falling + lateJump;
  };
  const comes = (from: Ledge, { left, right, bottom, top }: Box): boolean => {
    if (bottom - from.y > height) return false;
    const aside = Math.max(0, left - from.right, from.left - right);
    return aside <= MORE * speed * airTime(Math.min(bottom, top) - from.y) + BESIDES;
  };
  const ledges = ledgesOf(view);
  const drops = effects.map(({ effect }) => (effect.type === 'move' ? effect.dropHeight : 0));
  const dropped = Math.max(level.death.dropHeight, ...drops);
  return (places) => {
    const reached: Ledge[] = places.map(({ x, y }) => ({ left: x, right: x, y: y + dropped }));
    const left = new Set(ledges);
    // Grows while it is gone over: from where one comes to, one comes farther.
    for (const from of reached) {
      for (const ledge of left) {
        if (!comes(from, { left: ledge.left, right: ledge.right, bottom: ledge.y, top: ledge.y })) continue;
        reached.push(ledge);
        left.delete(ledge);
      }
    }
    return (box) => reached.some((from) => comes(from, box));
  };
}
