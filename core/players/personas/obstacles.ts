import { clipWay, Span, type Box } from '../../geometry/index.ts';
import type { Surface } from '../navigation/index.ts';
import type { Leap } from './air.ts';

/** What leaps keep out of where they can: where the middle of a body touches it, and with the berth it is given. Units. */
export interface Obstacle {
  readonly box: Box;
  readonly wide: Box;
  /** Whether it kills, at any time. */
  readonly kills: boolean;
}

/** Whether two surfaces of one ground lie on either side of an obstacle. */
export function isApart(a: Surface, b: Surface, obstacles: readonly Obstacle[]): boolean {
  const [from, to] = [Math.min(a.right, b.right), Math.max(a.left, b.left)];
  return (
    a.item === b.item &&
    obstacles.some(({ wide: { left, right, bottom, top } }) => left >= from && right <= to && bottom < a.y && top > a.y)
  );
}

const span = new Span();

/** Whether a leap goes through a box. */
export function goesThrough({ track }: Leap, box: Box): boolean {
  for (let at = 2; at < track.length; at += 2) {
    const [fromX, fromY] = [track[at - 2] as number, track[at - 1] as number];
    if (clipWay(box, fromX, fromY, track[at] as number, track[at + 1] as number, span)) return true;
  }
  return false;
}

/** Whether a leap comes into a box, by more than its corner. */
export function comesInto({ track }: Leap, { left, right, bottom, top }: Box): boolean {
  for (let at = 0; at < track.length; at += 2) {
    const [x, y] = [track[at] as number, track[at + 1] as number];
    if (x > left && x < right && y > bottom && y < top) return true;
  }
  return false;
}
