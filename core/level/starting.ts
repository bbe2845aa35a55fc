import { z } from 'zod';
import { Id } from './basics.ts';
import { entry } from './pointers.ts';
import type { Problem } from './problems.ts';
import { quantity } from './quantities.ts';
import type { Level } from './schema.ts';

/** A stated state to start a try from, so that nobody must get hurt to try a cure. What is left out is as the level has it. */
export const StartingState = z
  .strictObject({
    meters: z.record(Id, quantity('meterValue')).default({}),
    items: z.record(Id, quantity('count')).default({}),
    held: Id.nullable().default(null),
    at: z
      .strictObject({ x: quantity('coordinate'), y: quantity('coordinate') })
      .nullable()
      .default(null),
    checkpoint: z
      .strictObject({ x: quantity('coordinate'), y: quantity('coordinate') })
      .nullable()
      .default(null),
    shieldSeconds: quantity('duration').default(0),
  })
  .meta({ title: 'Starting state', description: 'What the first player starts with.' });

export type StartingState = z.infer<typeof StartingState>;

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
