import { z } from 'zod';
import { Clear, clearFields, Curve, Destination, Id, idOf, mapOf, Notice, order, Tag } from './basics.ts';
import { quantity } from './quantities.ts';

const is = z.enum(['at least', 'at most', 'above', 'below']);

export const MOVEMENTS = ['speed', 'jump', 'gravity', 'acceleration', 'control'] as const;
const Movement = z.enum(MOVEMENTS).meta({ description: 'Walk speed, jump speed, gravity, acceleration, or control (0 roots).' });

export const Condition = z
  .discriminatedUnion('type', [
    z.strictObject({
      type: z.literal('below limit').meta({ description: 'The meter stands below its upper limit.' }),
      order,
      meter: idOf('meters'),
    }),
    z.strictObject({
      type: z.literal('meter').meta({ description: 'The meter compared with a number.' }),
      order,
      meter: idOf('meters'),
      is,
      value: quantity('meterValue'),
    }),
    z.strictObject({
      type: z.literal('share').meta({ description: 'The meter compared with a share of the way from its lower to its upper limit.' }),
      order,
      meter: idOf('meters'),
      is,
      value: quantity('share'),
    }),
    z.strictObject({
      type: z.literal('item').meta({ description: 'How many of the item are carried.' }),
      order,
      item: idOf('items'),
      is,
      value: quantity('count'),
    }),
    z.strictObject({ type: z.literal('held').meta({ description: 'The item is held.' }), order, item: idOf('items') }),
    z.strictObject({
      type: z.literal('movement').meta({ description: 'Whether a change of this movement is in force.' }),
      order,
      of: Movement,
      present: z.boolean(),
    }),
    z.strictObject({
      type: z.literal('speed').meta({ description: 'How fast the player moves.' }),
      order,
      is,
      value: quantity('speed'),
    }),
    z.strictObject({
      type: z.literal('ground').meta({ description: 'The player stands on the ground; seen from the side only.' }),
      order,
    }),
    z.strictObject({ type: z.literal('chance').meta({ description: 'Drawn each time.' }), order, value: quantity('share') }),
    z.strictObject({
      type: z.literal('times used').meta({ description: 'How often this rule has acted here.' }),
      order,
      is,
      value: quantity('count'),
    }),
    z.strictObject({ type: z.literal('time').meta({ description: 'Session time.' }), order, is, value: quantity('duration') }),
    z.strictObject({
      type: z.literal('notice').meta({ description: 'Whether the notice has been posted in this session.' }),
      order,
      notice: Notice,
      posted: z.boolean(),
    }),
  ])
  .meta({ description: 'Something that must hold for the rule to act.' });

const Share = z
  .strictObject({ share: quantity('share', 'Share of the span from the lower to the upper limit.') })
  .meta({ description: 'A share of the limit.' });

export const Amount = z
  .union([quantity('amount', 'How much; in a rule set off by being inside, how much in each second.'), Share, Curve])
  .meta({ description: 'A number, a share of the limit, or a curve.' });

const Strength = z.union([quantity('strength'), Curve]).meta({ description: 'A number or a curve.' });

const Flight = {
  velocity: z.enum(['kept', 'zeroed']).default('zeroed'),
  dropHeight: quantity('distance', 'Put down this much higher; seen from the side only.').default(0),
  grace: quantity('duration', 'Nothing harms for this long.').default(0),
  lock: quantity('duration', 'The keys do nothing for this long.').default(0),
};

export const Effect = z
  .discriminatedUnion('type', [
    z
      .strictObject({
        type: z.literal('meter').meta({ description: 'Changes a meter.' }),
        order,
        meter: idOf('meters'),
        change: z.enum(['add', 'take', 'set', 'fill']),
        amount: Amount.default(0),
        blockable: z.boolean().default(true).meta({ description: 'A shield stops the loss.' }),
      })
      .refine((effect) => effect.change === 'fill' || effect.amount !== 0, { message: 'an amount above 0 is needed', path: ['amount'] }),
    z.strictObject({
      type: z.literal('item').meta({ description: 'Gives or takes an item.' }),
      order,
      item: idOf('items'),
      count: quantity('change'),
      atLimit: z.enum(['take what fits', 'refuse']).default('take what fits'),
      hold: z.boolean().default(false).meta({ description: 'Held at once.' }),
    }),
    z.strictObject({
      type: z.literal('movement').meta({ description: 'Changes how the player moves, on top of the base value.' }),
      order,
      of: Movement,
      change: z.enum(['multiply', 'add', 'set']),
      value: quantity('factor'),
      lasts: z
        .discriminatedUnion('type', [
          z.strictObject({ type: z.literal('for'), seconds: quantity('duration') }),
          z.strictObject({ type: z.literal('while').meta({ description: 'While inside, carried or held.' }) }),
          z.strictObject({ type: z.literal('until death') }),
        ])
        .meta({ description: 'How long it lasts.' }),
      again: z
        .enum(['ignore', 'refresh', 'extend', 'stack'])
        .default('refresh')
        .meta({ description: 'When the same effect comes again while it lasts.' }),
      most: quantity('stack').default(1),
    }),
    z.strictObject({
      type: z.literal('launch').meta({ description: 'Sets the velocity, or adds to it.' }),
      order,
      change: z.enum(['set', 'add']).default('set'),
      direction: z.discriminatedUnion('type', [
        z.strictObject({ type: z.literal('fixed'), degrees: quantity('direction') }),
        z.strictObject({ type: z.literal('away').meta({ description: 'Away from the centre of the thing.' }) }),
        z.strictObject({ type: z.literal('along').meta({ description: 'Along the way the player goes.' }) }),
      ]),
      strength: Strength,
    }),
    z.strictObject({
      type: z.literal('push').meta({ description: 'Carries or pulls the player while inside or standing on it.' }),
      order,
      as: z.enum(['velocity', 'acceleration']),
      degrees: quantity('direction'),
      strength: quantity('strength'),
    }),
    z.strictObject({
      type: z.literal('move').meta({ description: 'Puts the player somewhere else.' }),
      order,
      to: Destination,
      ...Flight,
    }),
    z.strictObject({
      type: z.literal('kill').meta({ description: 'Death, whatever the health.' }),
      order,
      blockable: z.boolean().default(false),
      returnTo: Destination.nullable()
        .default(null)
        .meta({ description: 'Where one comes back from this death, if not as the level states.' }),
    }),
    z.strictObject({
      type: z.literal('checkpoint').meta({ description: 'Where one comes back from now on.' }),
      order,
      point: idOf('points').nullable().default(null).meta({ description: 'The point, or null for the place of the thing.' }),
    }),
    z.strictObject({ type: z.literal('lives').meta({ description: 'Changes the meter `lives`.' }), order, count: quantity('change') }),
    z.strictObject({ type: z.literal('shield').meta({ description: 'Stops blockable losses.' }), order, seconds: quantity('duration') }),
    z.strictObject({ type: z.literal('notice').meta({ description: 'Posts a notice.' }), order, notice: Notice }),
    z.strictObject({ type: z.literal('end').meta({ description: 'Ends the session.' }), order, how: z.enum(['won', 'lost']) }),
    z.strictObject({ type: z.literal('flourish').meta({ description: 'Something seen and heard.' }), order, flourish: idOf('flourishes') }),
    z.strictObject({
      type: z.literal('spawn').meta({ description: 'Makes a new thing.' }),
      order,
      pool: mapOf(quantity('weight'), 32, 'Kinds to choose from, with their weights.', idOf('kinds')),
      at: z.discriminatedUnion('type', [
        z.strictObject({ type: z.literal('here') }),
        z.strictObject({ type: z.literal('point'), point: idOf('points') }),
        Clear,
      ]),
      most: quantity('alive'),
    }),
  ])
  .meta({ description: 'What acting does.' });

const SetOffBy = z
  .discriminatedUnion('type', [
    z.strictObject({ type: z.literal('arriving').meta({ description: 'Once, when the toucher comes in.' }) }),
    z.strictObject({
      type: z.literal('inside').meta({ description: 'While the toucher is inside: a rate per second, or a pulse every so often.' }),
      pulse: z
        .strictObject({ every: quantity('period'), first: z.enum(['at once', 'after']).default('at once') })
        .nullable()
        .default(null),
    }),
    z.strictObject({ type: z.literal('leaving').meta({ description: 'Once, when the toucher goes out.' }) }),
    z.strictObject({
      type: z.literal('use').meta({ description: 'The use key, in reach; the nearest in reach wins.' }),
      reach: quantity('distance', 'Distance between the places of player and thing.').default(1.5),
    }),
    z.strictObject({ type: z.literal('notice'), notice: Notice }),
    z.strictObject({ type: z.literal('start').meta({ description: 'When the session starts.' }) }),
    z.strictObject({ type: z.literal('every'), seconds: quantity('period') }),
  ])
  .meta({ description: 'What sets the rule off.' });

const Becomes = z
  .discriminatedUnion('type', [
    z.strictObject({ type: z.literal('stays') }),
    z.strictObject({ type: z.literal('rests'), seconds: quantity('rest') }),
    z.strictObject({ type: z.literal('spent') }),
    z.strictObject({
      type: z.literal('moves').meta({ description: 'Moves to a random clear place.' }),
      ...clearFields,
      atStart: z.boolean().default(false).meta({ description: 'Also when the session starts.' }),
    }),
    z.strictObject({ type: z.literal('off').meta({ description: 'Is switched off.' }) }),
    z.strictObject({ type: z.literal('ready').meta({ description: 'Is switched on again.' }) }),
  ])
  .meta({ description: 'What becomes of the thing once the rule has acted.' });

export const Who = z
  .strictObject({
    any: z.array(Tag).max(32).default(['player']).meta({ description: 'At least one of these; empty: anyone.' }),
    none: z.array(Tag).max(32).default([]).meta({ description: 'None of these.' }),
  })
  .meta({ description: 'Who sets the rule off, by tags.' });

export const SIDES = ['top', 'bottom', 'left', 'right'] as const;
export const Side = z.enum(SIDES);

const judged = {
  provided: mapOf(Condition, 16, 'Conditions.').default({}),
  needs: z.enum(['all', 'any']).default('all').meta({ description: 'Whether all conditions must hold, or any one.' }),
  effects: mapOf(Effect, 16, 'Effects, in order.').default({}),
};

export const Rule = z
  .strictObject({
    order,
    setOffBy: SetOffBy,
    who: Who.default({ any: ['player'], none: [] }),
    side: z.array(Side).max(4).default([]).meta({ description: 'The faces that count; empty: any.' }),
    touching: Id.nullable().default(null).meta({ description: 'Touching this shape of the thing counts; null: any of its shapes.' }),
    ...judged,
    keepTrying: z.boolean().default(false).meta({ description: 'A failed arrival is tried again while inside.' }),
    windUp: z
      .strictObject({
        seconds: quantity('duration'),
        ifLeft: z.enum(['kept', 'dropped']).default('kept').meta({ description: 'What becomes of it if the toucher leaves.' }),
        turn: z
          .strictObject({
            x: quantity('offset'),
            y: quantity('offset'),
            degrees: quantity('rotation', 'How far it turns while it winds up.'),
          })
          .nullable()
          .default(null)
          .meta({ description: 'The thing turns about this pivot, its shapes with it.' }),
      })
      .nullable()
      .default(null)
      .meta({ description: 'Time between being set off and acting.' }),
    active: z
      .discriminatedUnion('type', [
        z.strictObject({ type: z.literal('instant') }),
        z.strictObject({ type: z.literal('for'), seconds: quantity('duration') }),
        z.strictObject({ type: z.literal('movement').meta({ description: 'As long as the changes of movement it gave.' }) }),
      ])
      .default({ type: 'instant' }),
    hits: z.enum(['toucher', 'all inside']).default('toucher').meta({ description: 'Whom the effects hit.' }),
    becomes: Becomes.default({ type: 'stays' }),
    scope: z
      .enum(['placement', 'player', 'kind'])
      .default('placement')
      .meta({ description: 'For whom it becomes so: this placement, each player apart, or all of the kind.' }),
    uses: quantity('limit', 'Spent after this many uses.').nullable().default(null),
  })
  .meta({ description: 'Set off by + who + side + provided + effects + what becomes of the thing.' });

export const ItemRule = z
  .strictObject({
    order,
    setOffBy: z.enum(['carried', 'held', 'use']).meta({ description: 'While carried, while held, or by the key that uses the held item.' }),
    ...judged,
    spends: quantity('count', 'How many of the item one use spends.').default(0),
  })
  .meta({ description: 'What an item does.' });

export type Rule = z.infer<typeof Rule>;
export type ItemRule = z.infer<typeof ItemRule>;
export type Effect = z.infer<typeof Effect>;
export type Condition = z.infer<typeof Condition>;
export type Amount = z.infer<typeof Amount>;
