import { z } from 'zod';
import { quantity } from './quantities.ts';

/** The document format this build reads and writes. Older numbers are brought up to it by `migrate`. */
export const LEVEL_FORMAT = 1;

const Id = z
  .string()
  .regex(/^[a-z][a-z0-9-]{0,63}$/, 'an id is a small letter, then small letters, digits and dashes, at most 64')
  .meta({ description: 'Name of an entry, unique in its map: small letters, digits and dashes.' });

export const Tag = z
  .string()
  .regex(/^[a-z][a-z0-9-]*(\/[a-z][a-z0-9-]*)*$/, 'a tag is words of small letters, digits and dashes, nested with "/"')
  .max(120)
  .meta({ description: 'A word on a player, mover or kind. A filter `pickup` takes `pickup/health` too.' });

export const Name = z
  .string()
  .trim()
  .min(1)
  .max(80)
  .regex(/^[^\u0000-\u001f]*$/, 'a name has no control characters')
  .meta({ description: 'Name as people read it.' });
const order = quantity('order').default(0);

const mapOf = <Value extends z.ZodType>(value: Value, most: number, description: string) =>
  z
    .record(Id, value)
    .refine((entries) => Object.keys(entries).length <= most, `at most ${String(most)} entries`)
    .meta({ description });

export const Meter = z
  .strictObject({
    name: Name,
    order,
    lower: quantity('meterValue', 'Lower limit. A player whose health reaches it dies.'),
    upper: quantity('meterValue', 'Upper limit, or null for none.').nullable(),
    start: quantity('meterValue', 'Value when the session starts.'),
    whole: z.boolean().default(false).meta({ description: 'Counted in whole numbers; parts are kept per cause.' }),
  })
  .refine((meter) => meter.start >= meter.lower && (meter.upper === null || meter.start <= meter.upper), {
    message: 'start must lie between lower and upper',
    path: ['start'],
  })
  .meta({ description: 'A number a player has, with its limits.' });

export const Shape = z
  .discriminatedUnion('type', [
    z.strictObject({
      type: z.literal('circle'),
      radius: quantity('radius'),
      x: quantity('offset').default(0),
      y: quantity('offset').default(0),
    }),
    z.strictObject({
      type: z.literal('box'),
      width: quantity('side', 'Width of the box.'),
      height: quantity('side', 'Height of the box.'),
      rotation: quantity('rotation').default(0),
      x: quantity('offset').default(0),
      y: quantity('offset').default(0),
    }),
  ])
  .meta({ description: 'A sensing shape; offsets are from the place of the thing.' });

export const Condition = z
  .discriminatedUnion('type', [
    z.strictObject({
      type: z.literal('below limit').meta({ description: 'The meter stands below its upper limit.' }),
      order,
      meter: Id,
    }),
    z.strictObject({
      type: z.literal('meter').meta({ description: 'The meter compared with a number.' }),
      order,
      meter: Id,
      is: z.enum(['at least', 'at most', 'above', 'below']),
      value: quantity('meterValue'),
    }),
  ])
  .meta({ description: 'Something that must hold for the rule to act.' });

export const Effect = z
  .discriminatedUnion('type', [
    z.strictObject({
      type: z.literal('meter'),
      order,
      meter: Id,
      change: z.enum(['add', 'take', 'set']),
      amount: quantity('amount', 'How much; in a rule set off by being inside, how much in each second.'),
    }),
  ])
  .meta({ description: 'What acting does to whoever set the rule off.' });

const SetOffBy = z
  .discriminatedUnion('type', [
    z.strictObject({ type: z.literal('arriving').meta({ description: 'Once, when the toucher comes in.' }) }),
    z.strictObject({ type: z.literal('inside').meta({ description: 'A rate per second while the toucher is inside.' }) }),
  ])
  .meta({ description: 'What sets the rule off.' });

const Becomes = z
  .discriminatedUnion('type', [
    z.strictObject({ type: z.literal('stays') }),
    z.strictObject({ type: z.literal('rests'), seconds: quantity('rest') }),
    z.strictObject({ type: z.literal('spent') }),
  ])
  .meta({ description: 'What becomes of the thing once the rule has acted.' });

export const Who = z
  .strictObject({
    any: z.array(Tag).max(32).default(['player']).meta({ description: 'At least one of these; empty: anyone.' }),
    none: z.array(Tag).max(32).default([]).meta({ description: 'None of these.' }),
  })
  .meta({ description: 'Who sets the rule off, by tags.' });

const RULES_PER_KIND = 64;

export const Rule = z
  .strictObject({
    order,
    setOffBy: SetOffBy,
    who: Who.default({ any: ['player'], none: [] }),
    provided: mapOf(Condition, 16, 'Conditions; all must hold.').default({}),
    effects: mapOf(Effect, 16, 'Effects, in order.'),
    becomes: Becomes.default({ type: 'stays' }),
  })
  .meta({ description: 'Set off by + who + provided + effects + what becomes of the thing.' });

export const ROLES = ['mend', 'harm', 'lethal', 'score', 'carry', 'movement', 'return'] as const;
export const MARKS = ['triangle', 'diamond', 'star', 'plus', 'wave', 'arrows', 'cross', 'chevron', 'ring', 'square', 'arc', 'bar'] as const;

const PhaseLook = z.strictObject({
  shown: z.enum(['full', 'faint', 'hidden']),
  sensing: z.boolean().meta({ description: 'Off: arrivals are refused, and whoever is inside arrives when it comes back.' }),
});

export const Phases = z
  .strictObject({
    ready: PhaseLook.default({ shown: 'full', sensing: true }),
    resting: PhaseLook.default({ shown: 'faint', sensing: false }),
    spent: PhaseLook.default({ shown: 'hidden', sensing: false }),
  })
  .meta({ description: 'How the thing is shown, and whether it senses, in each phase.' });

export const Kind = z
  .strictObject({
    name: Name,
    order,
    role: z.enum(ROLES).meta({ description: 'What it mainly is, for colour and pattern.' }),
    mark: z.enum(MARKS).meta({ description: 'Its glyph.' }),
    tags: z.array(Tag).max(32).default([]),
    shapes: mapOf(Shape, 16, 'Sensing shapes.'),
    rules: mapOf(Rule, RULES_PER_KIND, 'What touching it does.').default({}),
    phases: Phases.default({
      ready: { shown: 'full', sensing: true },
      resting: { shown: 'faint', sensing: false },
      spent: { shown: 'hidden', sensing: false },
    }),
  })
  .meta({ description: 'A sort of thing. The numbers live here.' });

export const Placement = z
  .strictObject({
    kind: Id,
    order,
    x: quantity('coordinate'),
    y: quantity('coordinate'),
    travel: z
      .strictObject({ path: Id, startOffset: quantity('startOffset').default(0) })
      .nullable()
      .default(null)
      .meta({ description: 'The path it travels along; its place is then that of the path.' }),
  })
  .meta({ description: 'One thing of a kind at a place.' });

const Solid = z
  .strictObject({
    order,
    x: quantity('coordinate', 'Left edge.'),
    y: quantity('coordinate', 'Lower edge.'),
    width: quantity('side', 'Width.'),
    height: quantity('side', 'Height.'),
  })
  .meta({ description: 'A box nobody walks through.' });

const WayPoint = z.strictObject({
  x: quantity('coordinate'),
  y: quantity('coordinate'),
  pause: quantity('pause').default(0),
});

export const Path = z
  .strictObject({
    name: Name,
    order,
    speed: quantity('moverSpeed'),
    round: z.enum(['loop', 'back and forth']).meta({ description: 'After the last way-point: to the first, or back.' }),
    wayPoints: z.array(WayPoint).min(2).max(500),
  })
  .meta({ description: 'What movers travel along.' });

export const Route = z
  .strictObject({ name: Name, order, wayPoints: z.array(WayPoint).min(1).max(2000) })
  .meta({ description: 'Way-points and pauses a simulated player follows.' });

const Body = z
  .strictObject({
    radius: quantity('radius', 'Radius of the player.'),
    speed: quantity('speed', 'Speed at full input.'),
    acceleration: quantity('acceleration', 'How fast the player reaches the speed asked for.'),
    braking: quantity('acceleration', 'How fast the player stops when the keys are let go.'),
    tags: z.array(Tag).max(32).default(['player']),
  })
  .meta({ description: "The player's body and feel." });

export const Level = z
  .strictObject({
    format: z.literal(LEVEL_FORMAT),
    name: Name,
    view: z.enum(['top']).meta({ description: 'Seen from above, no gravity.' }),
    size: z.strictObject({ width: quantity('levelSide'), height: quantity('levelSide') }),
    scale: z
      .strictObject({ unitsPerPixel: quantity('unitsPerPixel'), framesPerSecond: quantity('framesPerSecond') })
      .default({ unitsPerPixel: 0.03125, framesPerSecond: 60 })
      .meta({ description: 'The scale of the game this level stands for, so that px and frames can be typed.' }),
    rate: quantity('rate').default(60),
    body: Body,
    start: z.strictObject({ x: quantity('coordinate'), y: quantity('coordinate') }),
    meters: mapOf(Meter, 32, 'Meters; `health` and `score` always.'),
    kinds: mapOf(Kind, 500, 'Kinds.').default({}),
    placements: mapOf(Placement, 5000, 'Placements.').default({}),
    solids: mapOf(Solid, 5000, 'Solids.').default({}),
    paths: mapOf(Path, 500, 'Paths.').default({}),
    routes: mapOf(Route, 200, 'Routes.').default({}),
  })
  .meta({ title: 'Dial level', description: 'A level: one document. Lengths in units, times in seconds, y points up.' });

export type Level = z.infer<typeof Level>;
export type Kind = z.infer<typeof Kind>;
export type Rule = z.infer<typeof Rule>;
export type Effect = z.infer<typeof Effect>;
export type Condition = z.infer<typeof Condition>;
export type Shape = z.infer<typeof Shape>;
export type Placement = z.infer<typeof Placement>;
export type Meter = z.infer<typeof Meter>;
export type Path = z.infer<typeof Path>;
export type Route = z.infer<typeof Route>;
export type Role = (typeof ROLES)[number];
export type MarkName = (typeof MARKS)[number];

/** The published JSON Schema (2020-12) of a level file. */
export function levelJsonSchema(): object {
  return z.toJSONSchema(Level, { target: 'draft-2020-12', io: 'input' });
}
