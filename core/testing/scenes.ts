import type { Run } from '../players/index.ts';
import { box, circle, kind, level, play, runOf, short } from './levels.ts';

type Parts = Record<string, unknown>;

/** The player stands at (2, 10) inside whatever is there, so that it arrives in step 1. */
export const HERE = { x: 2, y: 10 };

export const arriving = (effects: Parts, more: Parts = {}): Parts => ({ setOffBy: { type: 'arriving' }, effects, ...more });
export const pulsing = (every: number, effects: Parts, more: Parts = {}): Parts => ({
  setOffBy: { type: 'inside', pulse: { every } },
  effects,
  ...more,
});
export const meter = (name: string, change: string, amount: unknown, more: Parts = {}): Parts => ({
  type: 'meter',
  meter: name,
  change,
  amount,
  ...more,
});
export const movement = (of: string, change: string, value: number, lasts: unknown, more: Parts = {}): Parts => ({
  type: 'movement',
  of,
  change,
  value,
  lasts: typeof lasts === 'number' ? { type: 'for', seconds: lasts } : { type: lasts },
  ...more,
});

/** A level of a few kinds, each with one rule on a disc of radius 1 at the player's place, unless stated otherwise. */
export function scene(kinds: Record<string, Parts>, more: Parts = {}): ReturnType<typeof level> {
  const { placements, ...rest } = more;
  const whole = Object.fromEntries(Object.entries(kinds).map(([id, one]) => [id, 'name' in one ? one : kind(circle(1), one)]));
  const placed = placements ?? Object.fromEntries(Object.keys(kinds).map((id, order) => [id, { kind: id, order, ...HERE }]));
  return level({ kinds: whole, placements: placed, ...rest });
}

/** Inputs for one player: [seconds, right, up, buttons] after each other. */
export function keys(rate: number, ...pieces: [number, number, number?, number?][]): Run['players'][number]['changes'] {
  let step = 1;
  return pieces.map(([seconds, x, y = 0, buttons = 0]) => {
    const at = step;
    step += Math.round(seconds * rate);
    return [at, Math.round(x * 127), Math.round(y * 127), buttons];
  });
}

/** Plays a scene and tells its ledger, without the last line; lines of step s at the rate read `s`. */
export function told(
  document: ReturnType<typeof level>,
  rate: number,
  seconds: number,
  changes = keys(rate, [seconds, 0]),
  more: Partial<Run> = {},
): string[] {
  const run = runOf(rate, Math.round(seconds * rate), [changes], more);
  const { lines } = play(document, run, rate);
  return short(lines).slice(0, lines.at(-1)?.type === 'ended' && lines.at(-1)?.cause === null ? -1 : undefined);
}

export { box, circle, kind, level };
