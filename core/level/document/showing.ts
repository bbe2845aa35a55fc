import { z } from 'zod';
import { idOf, order } from './basics.ts';
import { quantity } from './quantities.ts';

/** What is shown to the player while playing. */
export const Readout = z
  .discriminatedUnion('type', [
    z.strictObject({
      type: z.literal('meter'),
      order,
      meter: idOf('meters'),
      as: z.enum(['number', 'bar', 'bar and number', 'pips']).default('number'),
      digits: quantity('digits').default(0),
    }),
    z.strictObject({
      type: z.literal('item').meta({ description: 'How many of an item are carried.' }),
      order,
      item: idOf('items'),
      as: z.enum(['number', 'pips']).default('number'),
      digits: quantity('digits').default(0),
    }),
    z.strictObject({ type: z.literal('held item'), order }),
    z.strictObject({ type: z.literal('time'), order }),
  ])
  .meta({ description: 'What is shown to the player while playing.' });
export type Readout = z.infer<typeof Readout>;

/** A picture laid under the Plan to draw over. The picture itself is kept beside the level, by its hash. */
export const Background = z
  .strictObject({
    picture: z
      .string()
      .regex(/^[0-9a-f]{64}$/, 'the SHA-256 of a picture, in hexadecimal digits')
      .meta({ description: 'SHA-256 of the picture file.' }),
    x: quantity('coordinate', 'Left edge of the picture.').default(0),
    y: quantity('coordinate', 'Lower edge of the picture.').default(0),
    pixelsPerUnit: quantity('pixelsPerUnit', 'Pixels of the picture that make one unit.'),
    strength: quantity('share', 'How strongly it shows.').default(0.5),
  })
  .meta({ description: 'A picture under the Plan.' });
