import type { Level } from '../level/index.ts';
import type { Ending, Stuck } from '../players/index.ts';
import { placementName } from './words.ts';
import { clockTime, pairText } from './numerals.ts';

/** Where a walker gave up and why, in words: `stuck on the way to way-point 3 at 4.2, 5 after 0:12.0: sent away three times by slip pit`. */
export function stuckWords(level: Level, { wayPoint, x, y, seconds, because, by }: Stuck): string {
  const name = by === null ? '' : ` by ${placementName(level, by)}`;
  const cause = {
    died: `killed three times${name}`,
    'put elsewhere': `sent away three times${name}`,
    slowed: `slowed${name}`,
    'no way': 'it came no nearer for three seconds',
  }[because];
  const place = pairText(x, y);
  return `stuck on the way to way-point ${String(wayPoint + 1)} at ${place} after ${clockTime(seconds)}: ${cause}`;
}

/** How a persona ended its session by itself, in words; null when it did not. */
export function endingWords(name: string, ending: Ending | null, seconds: number): string | null {
  switch (ending) {
    case 'nothing left to do':
      return `${name} found nothing left to do at ${clockTime(seconds)}`;
    case 'gave up':
      return `${name} gave up at ${clockTime(seconds)}`;
    case 'time':
      return `${name} was still at it at ${clockTime(seconds)}`;
    case null:
      return null;
  }
}
