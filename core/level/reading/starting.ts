import { entry, pointer } from '../document/pointers.ts';
import type { Problem } from '../document/problems.ts';
import type { Level } from '../document/schema.ts';
import type { StartingState, Try } from '../document/startingState.ts';

/** The state that a try of a level starts from, without its name; null where the level has no such try. */
export function tryOf(level: Level, id: string): StartingState | null {
  const found = entry(level.tries, id);
  if (found === undefined) return null;
  const { meters, items, held, at, checkpoint, shieldSeconds }: Try = found;
  return { meters, items, held, at, checkpoint, shieldSeconds };
}

/** A starting state without what does not fit a level: the rest of it stays. */
export function startingThatFits(level: Level, state: StartingState): StartingState {
  const wrong = new Set(startingProblems(level, state).map(({ path }) => path));
  const without = (map: 'meters' | 'items'): Record<string, number> =>
    Object.fromEntries(Object.entries(state[map]).filter(([id]) => !wrong.has(pointer([map, id]))));
  const fitting = { ...state, meters: without('meters'), items: without('items') };
  const inside = (place: StartingState['at']): boolean =>
    place === null || (place.x >= 0 && place.y >= 0 && place.x <= level.size.width && place.y <= level.size.height);
  return {
    ...fitting,
    held: startingProblems(level, fitting).some(({ path }) => path === '/held') ? null : state.held,
    at: inside(state.at) ? state.at : null,
    checkpoint: inside(state.checkpoint) ? state.checkpoint : null,
  };
}

/** What in a starting state does not fit a level: unknown ids, values out of limits, places outside. */
export function startingProblems(level: Level, state: StartingState): Problem[] {
  const problems: Problem[] = [];
  for (const [id, value] of Object.entries(state.meters)) {
    const meter = entry(level.meters, id);
    if (meter === undefined) problems.push({ path: pointer(['meters', id]), message: `there is no meter "${id}"` });
    else if (value < meter.lower || value > (meter.upper ?? Infinity)) {
      problems.push({ path: pointer(['meters', id]), message: 'outside the limits of the meter' });
    } else if (meter.whole && !Number.isInteger(value)) problems.push({ path: pointer(['meters', id]), message: 'the meter is whole' });
    else if (id === 'health' && value === meter.lower) problems.push({ path: '/meters/health', message: 'nobody starts dead' });
  }
  for (const [id, count] of Object.entries(state.items)) {
    const item = entry(level.items, id);
    if (item === undefined) problems.push({ path: pointer(['items', id]), message: `there is no item "${id}"` });
    else if (count > (item.most ?? Infinity)) problems.push({ path: pointer(['items', id]), message: 'more than can be carried' });
  }
  if (state.held !== null && (entry(level.items, state.held)?.holdable !== true || (state.items[state.held] ?? 0) === 0)) {
    problems.push({ path: '/held', message: `"${state.held}" is no item that is carried and can be held` });
  }
  for (const name of ['at', 'checkpoint'] as const) {
    const place = state[name];
    const { width, height } = level.size;
    if (place !== null && (place.x < 0 || place.y < 0 || place.x > width || place.y > height)) {
      problems.push({ path: `/${name}`, message: 'outside the level' });
    }
  }
  return problems;
}
