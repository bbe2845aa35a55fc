import { z } from 'zod';
import { idOf, mapOf, Name, order } from './basics.ts';
import { quantity } from './quantities.ts';

const fields = {
  meters: mapOf(quantity('meterValue'), 32, 'Values of meters.', idOf('meters')).default({}),
  items: mapOf(quantity('count'), 100, 'Items carried.', idOf('items')).default({}),
  held: idOf('items').nullable().default(null).meta({ description: 'The item held.' }),
  at: z
    .strictObject({ x: quantity('coordinate'), y: quantity('coordinate') })
    .nullable()
    .default(null)
    .meta({ description: 'Where the first player starts.' }),
  checkpoint: z
    .strictObject({ x: quantity('coordinate'), y: quantity('coordinate') })
    .nullable()
    .default(null)
    .meta({ description: 'The last checkpoint passed.' }),
  shieldSeconds: quantity('duration', 'Seconds of shield left; 0: no shield.').default(0),
};

/** A stated state to start a try from, so that nobody must get hurt to try a cure. What is left out is as the level has it. */
export const StartingState = z.strictObject(fields).meta({ title: 'Starting state', description: 'What the first player starts with.' });
export type StartingState = z.infer<typeof StartingState>;

/** A starting state that a level keeps under a name. */
export const Try = z.strictObject({ name: Name, order, ...fields }).meta({ description: 'A named state to start a try from.' });
export type Try = z.infer<typeof Try>;

/** The published JSON Schema (2020-12) of a starting state. */
export function startingStateJsonSchema(): object {
  return z.toJSONSchema(StartingState, { target: 'draft-2020-12', io: 'input' });
}
