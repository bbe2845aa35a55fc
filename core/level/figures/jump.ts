import type { Level } from '../document/schema.ts';

/** What a full jump of the player comes to, seen from the side. */
export interface Jump {
  /** Units above where it began: v² ÷ 2g. */
  readonly height: number;
  /** Seconds until back at the same height: v ÷ g up, then down no faster than the fall limit. */
  readonly seconds: number;
  /** Units to the side, at walk speed all the way. */
  readonly reach: number;
}

/** The jump of a body, from the closed formulas of even acceleration; null without gravity or without a jump. */
export function jumpOf({ jumpSpeed, gravity, fallLimit, speed }: Level['body']): Jump | null {
  if (gravity <= 0 || jumpSpeed <= 0) return null;
  const height = (jumpSpeed * jumpSpeed) / (2 * gravity);
  const free = (fallLimit * fallLimit) / (2 * gravity);
  const down = free >= height ? jumpSpeed / gravity : fallLimit / gravity + (height - free) / fallLimit;
  const seconds = jumpSpeed / gravity + down;
  return { height, seconds, reach: speed * seconds };
}
