import { z } from 'zod';
import { Destination, idOf, mapOf, Name, Notice, order, Tag } from './basics.ts';
import { Persona, SHIPPED_PERSONAS } from './persona.ts';
import { quantity } from './quantities.ts';
import { ItemRule, Rule, SIDES, Side } from './rules.ts';
import { Background, Readout } from './showing.ts';
import { Try } from './startingState.ts';
import { StatedCrowd, Target } from './target.ts';
import { Kind, Placement, Variant } from './things.ts';

/** The document format this build reads and writes. Older numbers are brought up to it by `migrate`. */
export const LEVEL_FORMAT = 1;

export const Meter = z
  .strictObject({
    name: Name,
    order,
    lower: quantity('meterValue', 'Lower limit. A player whose health reaches it dies.'),
    upper: quantity('meterValue', 'Upper limit, or null for none.').nullable(),
    start: quantity('meterValue', 'Value when the session starts.'),
    whole: z.boolean().default(false).meta({ description: 'Counted in whole numbers; parts are kept per cause.' }),
    regeneration: z
      .strictObject({
        perSecond: quantity('regeneration'),
        pauseAfterLoss: quantity('duration', 'Seconds after a loss before it begins again.').default(0),
      })
      .nullable()
      .default(null),
    atLower: Notice.nullable().default(null).meta({ description: 'Notice posted when it comes to its lower limit.' }),
    atUpper: Notice.nullable().default(null).meta({ description: 'Notice posted when it comes to its upper limit.' }),
  })
  .refine((meter) => meter.upper === null || meter.lower < meter.upper, {
    message: 'the lower limit must lie below the upper one',
    path: ['lower'],
  })
  .refine((meter) => meter.start >= meter.lower && (meter.upper === null || meter.start <= meter.upper), {
    message: 'start must lie between lower and upper',
    path: ['start'],
  })
  .refine((meter) => !meter.whole || [meter.lower, meter.upper ?? 0, meter.start].every(Number.isInteger), {
    message: 'a whole meter has whole limits and a whole start',
    path: ['whole'],
  })
  .meta({ description: 'A number a player has, with its limits.' });

export const Item = z
  .strictObject({
    name: Name,
    order,
    start: quantity('count', 'Carried when the session starts.').default(0),
    most: quantity('limit', 'Greatest number carried.').nullable().default(null),
    holdable: z.boolean().default(false).meta({ description: 'Can be held; one item at a time is.' }),
    dropsAs: idOf('kinds')
      .nullable()
      .default(null)
      .meta({ description: 'The kind one of it becomes when dropped; null: it cannot be dropped.' }),
    rules: mapOf(ItemRule, 16, 'What it does while carried, while held, or on use.').default({}),
  })
  .refine((item) => item.most === null || item.start <= item.most, { message: 'start is more than can be carried', path: ['start'] })
  .meta({ description: 'Something counted in whole numbers that a player carries.' });

const TagRules = z
  .strictObject({ tag: Tag, order, rules: mapOf(Rule, 16, 'Rules.') })
  .meta({ description: 'Rules for all kinds that bear a tag.' });

const Solid = z
  .strictObject({
    order,
    x: quantity('coordinate', 'Left edge.'),
    y: quantity('coordinate', 'Lower edge.'),
    width: quantity('side', 'Width.'),
    height: quantity('side', 'Height.'),
    sides: z
      .array(Side)
      .min(1)
      .max(4)
      .default([...SIDES])
      .meta({ description: 'Faces that stop players; only `top`: a one-way platform.' }),
  })
  .meta({ description: 'A box nobody walks through.' });

const WayPoint = z.strictObject({
  x: quantity('coordinate'),
  y: quantity('coordinate'),
  pause: quantity('pause').default(0),
});

const RouteWayPoint = WayPoint.extend({
  until: z
    .discriminatedUnion('type', [
      z.strictObject({
        type: z.literal('ready').meta({ description: 'Until the nearest thing of a kind is ready.' }),
        kind: idOf('kinds'),
      }),
      z.strictObject({
        type: z.literal('meter').meta({ description: 'Until a meter is at least, or at most, so much.' }),
        meter: idOf('meters'),
        is: z.enum(['at least', 'at most']),
        value: quantity('meterValue'),
      }),
    ])
    .nullable()
    .default(null)
    .meta({ description: 'What is waited for here, after the pause; no longer than a minute.' }),
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
  .strictObject({ name: Name, order, wayPoints: z.array(RouteWayPoint).min(1).max(2000) })
  .meta({ description: 'Way-points and pauses a simulated player follows.' });

const Point = z
  .strictObject({ name: Name, order, x: quantity('coordinate'), y: quantity('coordinate') })
  .meta({ description: 'A named place, for returns, checkpoints and goals.' });

const Body = z
  .strictObject({
    radius: quantity('radius', 'Radius of the player, seen from above.'),
    width: quantity('side', 'Width of the player, seen from the side.').default(0.7),
    height: quantity('side', 'Height of the player, seen from the side.').default(1.3),
    speed: quantity('speed', 'Speed at full input.'),
    acceleration: quantity('acceleration', 'How fast the player reaches the speed asked for.'),
    braking: quantity('acceleration', 'How fast the player stops when the keys are let go.'),
    airControl: quantity('airControl').default(0.7),
    gravity: quantity('gravity').default(36),
    jumpSpeed: quantity('jumpSpeed').default(13),
    lateJump: quantity('lateJump').default(0.1),
    shortJump: quantity('shortJump').default(0.5),
    fallLimit: quantity('fallLimit').default(22),
    tags: z.array(Tag).max(32).default(['player']),
    accepts: z.array(Tag).max(32).default([]).meta({ description: 'Tags of the things the player takes notice of; empty: all.' }),
  })
  .meta({ description: "The player's body and feel." });

const share = z.enum(['kept', 'lost', 'halved']);

const Death = z
  .strictObject({
    returns: z
      .enum(['never', 'while lives last', 'always'])
      .default('never')
      .meta({ description: 'Whether one comes back; "while lives last" takes one of the meter `lives`.' }),
    pause: quantity('duration', 'Seconds before coming back.').default(1),
    returnTo: Destination.default({ type: 'start' }),
    dropHeight: quantity('distance', 'Put down this much higher; seen from the side only.').default(0),
    health: quantity('meterValue', 'Health on coming back; null: as at the start.').nullable().default(null),
    grace: quantity('duration', 'Nothing harms for this long.').default(0),
    lock: quantity('duration', 'The keys do nothing for this long.').default(0),
    items: share.default('kept'),
    score: share.default('kept'),
    resets: z.array(idOf('kinds')).max(500).default([]).meta({ description: 'Kinds that are as at the start again.' }),
    squeezed: z
      .enum(['waits', 'killed', 'left in'])
      .default('waits')
      .meta({ description: 'Inside a thing that turns solid with no way out: it waits until clear, or the player is killed, or left in.' }),
  })
  .meta({ description: 'What death means, and coming back.' });

const Goal = z
  .discriminatedUnion('type', [
    z.strictObject({ type: z.literal('reach'), order, point: idOf('points'), within: quantity('distance').default(1) }),
    z.strictObject({ type: z.literal('item'), order, item: idOf('items'), count: quantity('limit') }),
    z.strictObject({ type: z.literal('meter'), order, meter: idOf('meters'), value: quantity('meterValue') }),
    z.strictObject({ type: z.literal('notice'), order, notice: Notice }),
  ])
  .meta({ description: 'Any goal met wins the session.' });

const Ends = z.strictObject({
  goals: mapOf(Goal, 32, 'Goals.').default({}),
  timeLimit: quantity('duration', 'Seconds until the session ends by itself; null: never.').nullable().default(null),
});

export const Flourish = z
  .strictObject({
    name: Name,
    order,
    shape: z.enum(['none', 'ring', 'burst', 'rising number']).default('ring'),
    tone: quantity('pitch').nullable().default(null),
    seconds: quantity('duration').default(0.3),
    volume: quantity('share', 'Loudness.').default(0.5),
  })
  .meta({ description: 'What is seen and heard. It belongs to the session, not to the thing.' });

const Meant = z
  .strictObject({
    finding: z.string().max(300).meta({ description: 'What is found, and on what.' }),
    cause: z.string().max(64).meta({ description: 'What it rested on then: when that changes the finding comes back.' }),
    reason: Name.meta({ description: 'Why it is meant so.' }),
  })
  .meta({ description: 'A finding that is set aside.' });

export const Level = z
  .strictObject({
    format: z.literal(LEVEL_FORMAT),
    name: Name,
    view: z.enum(['top', 'side']).meta({ description: 'Seen from above without gravity, or from the side with it.' }),
    size: z.strictObject({ width: quantity('levelSide'), height: quantity('levelSide') }),
    scale: z
      .strictObject({ unitsPerPixel: quantity('unitsPerPixel'), framesPerSecond: quantity('framesPerSecond') })
      .default({ unitsPerPixel: 0.03125, framesPerSecond: 60 })
      .meta({ description: 'The scale of the game this level stands for, so that px and frames can be typed.' }),
    rate: quantity('rate').default(60),
    body: Body,
    start: z.strictObject({ x: quantity('coordinate'), y: quantity('coordinate') }),
    players: z
      .strictObject({
        count: quantity('players').default(1),
        sharedScore: z.boolean().default(false),
        starts: z.array(idOf('points')).max(4).default([]).meta({ description: 'Points where players start; else all at `start`.' }),
        tags: z
          .array(z.array(Tag).max(8))
          .max(4)
          .default([])
          .meta({ description: 'Tags of the first, second … player, besides those of the body.' }),
      })
      .default({ count: 1, sharedScore: false, starts: [], tags: [] }),
    meters: mapOf(Meter, 32, 'Meters; `health` and `score` always.'),
    items: mapOf(Item, 100, 'Items.').default({}),
    kinds: mapOf(Kind, 500, 'Kinds.').default({}),
    variants: mapOf(Variant, 500, 'Kinds based on others.').default({}),
    tagRules: mapOf(TagRules, 100, 'Rules that sit on a tag.').default({}),
    placements: mapOf(Placement, 5000, 'Placements.').default({}),
    solids: mapOf(Solid, 5000, 'Solids.').default({}),
    points: mapOf(Point, 1000, 'Points.').default({}),
    paths: mapOf(Path, 500, 'Paths.').default({}),
    routes: mapOf(Route, 200, 'Routes.').default({}),
    personas: mapOf(Persona, 32, 'Personas: simulated players.').prefault({ ...SHIPPED_PERSONAS }),
    death: Death.prefault({}),
    ends: Ends.default({ goals: {}, timeLimit: null }),
    flourishes: mapOf(Flourish, 100, 'Flourishes.').default({}),
    readouts: mapOf(Readout, 32, 'Readouts; none: the meters, the items, what is held and the time.').default({}),
    tries: mapOf(Try, 32, 'Named states to start a try from.').default({}),
    targets: mapOf(Target, 64, 'Targets: what it shall come to.').default({}),
    crowd: StatedCrowd.nullable().default(null),
    meant: mapOf(Meant, 500, 'Findings that are set aside, since it is meant so.').default({}),
    background: Background.nullable().default(null),
  })
  .meta({ title: 'Dial level', description: 'A level: one document. Lengths in units, times in seconds, y points up.' });

export type Level = z.infer<typeof Level>;
export type Meter = z.infer<typeof Meter>;
export type Path = z.infer<typeof Path>;
export type Route = z.infer<typeof Route>;

/** The published JSON Schema (2020-12) of a level file. */
export function levelJsonSchema(): object {
  return z.toJSONSchema(Level, { target: 'draft-2020-12', io: 'input' });
}
