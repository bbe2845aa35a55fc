import { turn } from '../../geometry/index.ts';
import type { Effect, Kind } from '../../level/index.ts';
import type { Compiled } from '../../session/index.ts';
import type { Surface } from '../navigation/index.ts';
import { within } from './air.ts';
import { extentOf } from './extent.ts';
import { lifts, type Attempt, type Thrower } from './trials.ts';

/** From so far outside one comes to what throws at once. Units. */
const COMES_FROM = 0.1;

/** A shorter wind-up is over before one stands where one meant to. Seconds. */
const AT_ONCE = 0.25;

const throwsAtOnce = ({ rules }: Kind): boolean =>
  Object.values(rules).some(({ windUp, effects }) => (windUp?.seconds ?? 0) < AT_ONCE && Object.values(effects).some(lifts));

/** From so steep on a launch goes straight up. Cosine. */
const STEEP = 0.25;

const goesAside = (effect: Effect): boolean =>
  effect.type === 'launch' && (effect.direction.type !== 'fixed' || Math.abs(turn(effect.direction.degrees).cos) > STEEP);

/** Whether a thing throws one to the side. */
export const throwsAside = ({ rules }: Kind): boolean => Object.values(rules).some(({ effects }) => Object.values(effects).some(goesAside));

/** Whether a thing carries one up, and does not throw. */
export const isUpdraft = ({ rules }: Kind): boolean =>
  Object.values(rules).every(({ effects }) => Object.values(effects).every(({ type }) => type !== 'launch'));

/** Whether all that throws at a thing does so only for who comes from above, or below. */
const throwsFromAbove = ({ rules }: Kind): boolean =>
  Object.values(rules).every(
    ({ side, effects }) => (side.length > 0 && !side.includes('left') && !side.includes('right')) || !Object.values(effects).some(lifts),
  );

/** How one comes to be thrown up. */
type Beginning = Pick<Attempt, 'takeX' | 'way' | 'jumps' | 'throwerX' | 'uses'>;

/** Onto what is solid and throws one leaps from beside it, where it is near enough and neither too high nor below. */
export function beginningsOn({ level: { body } }: Compiled, a: Surface, { x, y, kind: { solid } }: Thrower, height: number): Beginning[] {
  if (solid === null) return [];
  const top = y + solid.y + solid.height / 2 + body.height / 2;
  const [left, right] = [x + solid.x - solid.width / 2, x + solid.x + solid.width / 2];
  // What is open at its sides stands on a ground that goes on behind it.
  const isOpen = !solid.sides.includes('left') && !solid.sides.includes('right');
  const ways = a.right <= x ? [1] : a.left >= x ? [-1] : isOpen ? [1, -1] : [];
  return ways.flatMap((way): Beginning[] => {
    const near = way > 0 ? left - body.width / 2 - 0.05 : right + body.width / 2 + 0.05;
    const takeX = within(near, a.left + 0.02, a.right - 0.02);
    const tooFar = Math.abs(takeX - x) > body.speed * 0.8 + solid.width || top - a.y > height || top < a.y - 0.01;
    return tooFar ? [] : [{ takeX, way, jumps: true, throwerX: x + solid.x, uses: false }];
  });
}

/** Shares of a reach at which one stands. */
const STANDS = [-0.9, -0.5, 0, 0.5, 0.9];

/**
 * In what throws one stands and waits; what throws at once does so as one comes to it, from where that is. Into what carries one up one
 * also jumps.
 */
export function beginningsIn(compiled: Compiled, a: Surface, { placement, x, y, kind }: Thrower): Beginning[] {
  const form = compiled.placements.form[placement] as number;
  const reach = (compiled.forms.reach[form] as number) + compiled.bodyReach;
  if (Math.abs(a.y - y) > reach || x - reach > a.right || x + reach < a.left) return [];
  const { left, right } = extentOf(compiled, form) ?? { left: 0, right: 0 };
  const around = compiled.level.body.width / 2 + COMES_FROM;
  const comes = [x + left - around, x + right + around].filter((takeX) => takeX >= a.left && takeX <= a.right);
  const towards = (takeX: number): number => (takeX < x ? 1 : -1);
  const leaps = (takeX: number, way: number): Beginning => ({ takeX, way, jumps: true, throwerX: x, uses: false });
  const stands = (takeX: number): Beginning => ({ takeX, way: 0, jumps: false, throwerX: takeX, uses: false });
  const jumps = isUpdraft(kind) ? [...comes.map((takeX) => leaps(takeX, towards(takeX))), leaps(kept(x, a), 0)] : [];
  if (throwsAtOnce(kind) && comes.length > 0) {
    const waits = comes.map((takeX): Beginning => ({ takeX, way: 0, jumps: false, throwerX: x, uses: false }));
    return [...(throwsFromAbove(kind) ? comes.map((takeX) => leaps(takeX, towards(takeX))) : waits), ...jumps];
  }
  return [...STANDS.map((share) => stands(kept(x + share * reach, a))), ...jumps];
}

/** The place on a surface that is nearest another. */
const kept = (x: number, { left, right }: Surface): number => within(x, left, right);

/** What throws at the use key is used from within its reach. */
export function beginningsAt(a: Surface, { x, y, reach }: Thrower): Beginning[] {
  const aside = Math.sqrt(Math.max(0, reach * reach * 0.8 - (a.y - y) * (a.y - y)));
  if (aside === 0 || x + aside < a.left || x - aside > a.right) return [];
  const places = new Set(STANDS.map((share) => kept(x + share * aside, a)));
  return [...places].map((takeX) => ({ takeX, way: 0, jumps: false, throwerX: takeX, uses: true }));
}
