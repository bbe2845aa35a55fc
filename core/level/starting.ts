import { entry } from './pointers.ts';
import type { Problem } from './problems.ts';
import type { Level } from './schema.ts';
import type { StartingState, Try } from './startingState.ts';

/** The state that a try of a level starts from, without its name; null where the level has no such try. */
export function tryOf(level: Level, id: string): StartingState | null {
  const found = entry(level.tries, id);
  if (found === undefined) return null;
  const { meters, items, held, at, checkpoint, shieldSeconds }: Try = found;
  return { meters, items, held, at, checkpoint, shieldSeconds };
}

/** What in a starting state does not fit a level: unknown ids, values out of limits. */
export function startingProblems(level: Level, state: StartingState): Problem[] {
  const problems: Problem[] = [];
  for (const [id, value] of Object.entries(state.meters)) {
    const meter = entry(level.meters, id);
    if (meter === undefined) problems.push({ path: `/meters/${id}`, message: `there is no meter "${id}"` });
    else if (value < meter.lower || value > (meter.upper ?? Infinity)) {
      problems.push({ path: `/meters/${id}`, message: 'outside the limits of the meter' });
    } else if (meter.whole && !Number.isInteger(value)) problems.push({ path: `/meters/${id}`, message: 'the meter is whole' });
    else if (id === 'health' && value === meter.lower) problems.push({ path: '/meters/health', message: 'nobody starts dead' });
  }
  for (const [id, count] of Object.entries(state.items)) {
    const item = entry(level.items, id);
    if (item === undefined) problems.push({ path: `/items/${id}`, message: `there is no item "${id}"` });
    else if (count > (item.most ?? Infinity)) problems.push({ path: `/items/${id}`, message: 'more than can be carried' });
  }
  if (state.held !== null && (entry(level.items, state.held)?.holdable !== true || (state.items[state.held] ?? 0) === 0)) {
    problems.push({ path: '/held', message: `"${state.held}" is no item that is carried and can be held` });
  }
  return problems;
}
