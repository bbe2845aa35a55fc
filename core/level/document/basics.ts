import { z } from 'zod';
import { textProblem } from './json.ts';
import { quantity } from './quantities.ts';

export const Id = z
  .string()
  .regex(/^[a-z][a-z0-9-]{0,63}$/, 'an id is a small letter, then small letters, digits and dashes, at most 64')
  // Every object inherits these two: patches do not reach entries called so.
  .refine((id) => id !== 'constructor' && id !== 'prototype', 'this word cannot be used as an id')
  .meta({ description: 'Name of an entry, unique in its map: small letters, digits and dashes.' });

/** What an id or a word of the document may name. */
export type Refers =
  'meters' | 'items' | 'points' | 'paths' | 'kinds' | 'placements' | 'personas' | 'tries' | 'flourishes' | 'notices' | 'tags';

/** The id of an entry of another map. */
export const idOf = (refers: Exclude<Refers, 'notices' | 'tags'>) => Id.meta({ description: `Id of an entry of \`${refers}\`.`, refers });

export const Tag = z
  .string()
  .regex(/^[a-z][a-z0-9-]*(\/[a-z][a-z0-9-]*)*$/, 'a tag is words of small letters, digits and dashes, nested with "/"')
  .max(120)
  .meta({ description: 'A word on a player, mover or kind. A filter `pickup` takes `pickup/health` too.', refers: 'tags' });

export const Name = z
  .string()
  .trim()
  .min(1)
  .max(80)
  .regex(/^[^\u0000-\u001f]*$/, 'a name has no control characters')
  .refine((name) => textProblem(name) === null, 'contains a character that cannot be kept')
  .meta({ description: 'Name as people read it.' });

export const Notice = Id.meta({ description: 'A word one rule posts and others are set off by.', refers: 'notices' });

export const order = quantity('order').default(0);

export const mapOf = <Value extends z.ZodType>(value: Value, most: number, description: string, keys: typeof Id = Id) =>
  z
    .record(keys, value)
    .refine((entries) => Object.keys(entries).length <= most, `at most ${String(most)} entries`)
    .meta({ description });

/** Sorted points, straight between, level beyond the ends. */
export const Points = z
  .array(z.tuple([quantity('curveInput'), quantity('curveValue')]))
  .min(1)
  .max(64)
  .refine((points) => points.every(([at], index) => index === 0 || at > (points[index - 1]?.[0] ?? 0)), {
    message: 'the points of a curve must be sorted, each further on than the one before',
  })
  .meta({ description: 'Points of a curve [at, value]: sorted, straight between, level beyond the ends.' });

export const CURVE_INPUTS = ['distance', 'time inside', 'wind-up'] as const;

export const Curve = z
  .strictObject({
    by: z.enum(CURVE_INPUTS).meta({ description: 'Distance to the centre (u), time inside (s), or time wound up (s).' }),
    from: z
      .strictObject({ x: quantity('offset').default(0), y: quantity('offset').default(0) })
      .nullable()
      .default(null)
      .meta({ description: 'Distance is taken from this point of the thing, from its place on; null: from its place.' }),
    points: Points,
  })
  .meta({ description: 'A value that depends on distance or time.' });

const clearing = {
  distance: quantity('distance', 'Least distance from players.').default(2),
  margin: quantity('distance', 'Least distance from the edge, solids and other things.').default(0.5),
};

/** A place found at random, clear of players and things. */
export const Clear = z.strictObject({ type: z.literal('clear'), ...clearing });
export const clearFields = clearing;

const PointsOf = z.array(idOf('points')).min(1).max(64);

export const Destination = z
  .discriminatedUnion('type', [
    z.strictObject({ type: z.literal('start').meta({ description: 'Where the player started.' }) }),
    z.strictObject({ type: z.literal('checkpoint').meta({ description: 'The last checkpoint, else the start.' }) }),
    z.strictObject({ type: z.literal('point'), point: idOf('points') }),
    z.strictObject({ type: z.literal('nearest').meta({ description: 'The nearest of these points.' }), points: PointsOf }),
    z.strictObject({
      type: z.literal('weighted').meta({ description: 'One of these points, by chance.' }),
      points: mapOf(quantity('weight'), 64, 'Weight of each point.', idOf('points')),
    }),
    Clear,
  ])
  .meta({ description: 'Where a player is put.' });

export type Destination = z.infer<typeof Destination>;
export type Points = z.infer<typeof Points>;
export type Curve = z.infer<typeof Curve>;
