import { entry, type Level, type Persona } from '../level/index.ts';
import type { Decision } from '../players/index.ts';
import { pairText, plainNumber } from './numerals.ts';
import { placementName } from './words.ts';

/** Why a persona went where it went, in words: `goes to cooling basin 1: health 41 of 100, below 60 %`. */
export function decisionWords(level: Level, persona: Pick<Persona, 'healsBelow'>, decision: Decision): string {
  const { what, placement, x, y, health, worth, wayPoint } = decision;
  const point = Object.values(level.points).find((one) => one.x === x && one.y === y);
  const to = placement === null ? (point?.name ?? pairText(x, y)) : placementName(level, placement);
  const upper = entry(level.meters, 'health')?.upper ?? null;
  switch (what) {
    case 'goal':
      return `goes to ${to}, for the goal`;
    case 'needed':
      return `goes to ${to}, needed for the goal`;
    case 'help':
      return `goes to ${to}: no way leads on, and it may help`;
    case 'item':
      return `goes to ${to}: it has none yet`;
    case 'score':
      return worth === Infinity
        ? `goes to ${to}, for the score`
        : `goes to ${to}, for the score: worth a detour of ${plainNumber(worth, 1)} u`;
    case 'heal':
      return `goes to ${to}: health ${plainNumber(health, 0)}${upper === null ? '' : ` of ${plainNumber(upper)}`}, below ${plainNumber(persona.healsBelow * 100, 0)} %`;
    case 'boost':
      return `goes to ${to}, to be quicker`;
    case 'explore':
      return 'looks around: it knows of nothing better';
    case 'route':
      return `goes to way-point ${String(wayPoint + 1)} of its route`;
    case 'wait':
      return `waits for ${to}`;
    case 'dodge':
      return `gets out of the way of ${to}`;
    case 'nothing left to do':
      return 'finds nothing left to do';
    case 'gave up':
      return 'gives up';
    case 'time':
      return 'has no time left';
  }
}
