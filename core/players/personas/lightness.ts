import type { Box } from '../../geometry/index.ts';
import { kindOfPlacement, type Effect, type Kind, type Level } from '../../level/index.ts';
import type { Compiled } from '../../session/index.ts';
import { touchBoxOf } from './extent.ts';

type Body = Level['body'];

/** How high a body jumps. Units. */
export const jumpHeight = ({ gravity, jumpSpeed }: Body): number => (gravity > 0 ? (jumpSpeed * jumpSpeed) / (2 * gravity) : 1000);

/** A place in which one jumps higher than elsewhere: where the middle of a body is at it, and how high. Units. */
export interface LightPlace {
  readonly box: Box;
  readonly height: number;
}

/** A movement as changes make it: the last *set*, else what it is; plus what is added, times what multiplies. */
function changed(effects: readonly Effect[], of: 'jump' | 'gravity', value: number): number {
  let [base, added, factor] = [value, 0, 1];
  for (const effect of effects) {
    if (effect.type !== 'movement' || effect.of !== of || effect.lasts.type !== 'while') continue;
    if (effect.change === 'set') base = effect.value;
    else if (effect.change === 'add') added += effect.value;
    else factor *= effect.value;
  }
  return Math.max(0, (base + added) * factor);
}

/** How high one jumps while inside a thing of a kind. Units. */
function heightIn({ rules }: Kind, body: Body): number {
  const effects = Object.values(rules).flatMap((rule) => Object.values(rule.effects));
  return jumpHeight({ ...body, jumpSpeed: changed(effects, 'jump', body.jumpSpeed), gravity: changed(effects, 'gravity', body.gravity) });
}

/** The places in which a body jumps higher, by what stays there. */
export function lightPlaces(compiled: Compiled, body: Body): LightPlace[] {
  const { level, ids, placements, placedCount } = compiled;
  const usual = jumpHeight(body);
  const places: LightPlace[] = [];
  for (let placement = 0; placement < placedCount; placement += 1) {
    if ((placements.traveller[placement] as number) >= 0) continue;
    const kind = kindOfPlacement(level, ids.placements[placement] ?? '');
    const height = kind === undefined ? 0 : heightIn(kind, body);
    const box = height > usual ? touchBoxOf(compiled, placement) : null;
    if (box !== null) places.push({ box, height });
  }
  return places;
}
