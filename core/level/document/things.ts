import { z } from 'zod';
import { idOf, mapOf, Name, order, Points, Tag } from './basics.ts';
import { JsonValue, textProblem } from './json.ts';
import { quantity } from './quantities.ts';
import { Rule, Side } from './rules.ts';

const offset = { x: quantity('offset').default(0), y: quantity('offset').default(0) };

const Vertex = z.tuple([quantity('offset'), quantity('offset')]);

/** Twice the area of the triangle a, b, c; positive when it turns left. */
function turning(a: readonly number[], b: readonly number[], c: readonly number[]): number {
  const [ax = 0, ay = 0] = a;
  const [bx = 0, by = 0] = b;
  const [cx = 0, cy = 0] = c;
  return (bx - ax) * (cy - by) - (by - ay) * (cx - bx);
}

/** Whether an outline turns left at every corner, once round. */
function isConvex(points: readonly (readonly number[])[]): boolean {
  return points.every((point, index) =>
    points.every((other, at) => {
      const next = points[(index + 1) % points.length] ?? point;
      return at === index || at === (index + 1) % points.length || turning(point, next, other) > 1e-9;
    }),
  );
}

export const Shape = z
  .discriminatedUnion('type', [
    z.strictObject({ type: z.literal('circle'), radius: quantity('radius'), ...offset }),
    z.strictObject({
      type: z.literal('box'),
      width: quantity('side', 'Width of the box.'),
      height: quantity('side', 'Height of the box.'),
      rotation: quantity('rotation').default(0),
      ...offset,
    }),
    z.strictObject({
      type: z.literal('polygon'),
      points: z
        .array(Vertex)
        .min(3)
        .max(16)
        .refine(isConvex, 'a polygon must be convex, its corners listed anticlockwise')
        .meta({ description: 'Corners [x, y] of a convex outline, anticlockwise.' }),
      rotation: quantity('rotation').default(0),
      ...offset,
    }),
  ])
  .meta({ description: 'A sensing shape; offsets are from the place of the thing.' });

/** How a rule that sits on a tag is named: the id of the entry of `tagRules`, then that of the rule. */
const TAG_RULE = /^[a-z][a-z0-9-]*:[a-z][a-z0-9-]*$/;

/** Rules a kind may have, those of its tags included. */
export const RULES_PER_KIND = 64;

export const ROLES = ['mend', 'harm', 'lethal', 'score', 'carry', 'movement', 'return'] as const;
export const MARKS = ['triangle', 'diamond', 'star', 'plus', 'wave', 'arrows', 'cross', 'chevron', 'ring', 'square', 'arc', 'bar'] as const;

const PhaseLook = z.strictObject({
  shown: z.enum(['full', 'faint', 'hidden']),
  solid: z.boolean().default(true).meta({ description: 'Whether the solid box of the kind, if it has one, stops players.' }),
  sensing: z.boolean().meta({ description: 'Off: arrivals are refused, and whoever is inside arrives when it comes back.' }),
  flourish: idOf('flourishes').nullable().default(null).meta({ description: 'What is seen and heard on entering this phase.' }),
});

const look = (shown: 'full' | 'faint' | 'hidden', sensing: boolean, solid = true) => ({ shown, solid, sensing, flourish: null });
const looks = {
  ready: look('full', true),
  windingUp: look('full', true),
  active: look('full', true),
  resting: look('faint', false),
  spent: look('hidden', false, false),
  off: look('hidden', false, false),
};

export const Phases = z
  .strictObject({
    ready: PhaseLook.default(looks.ready),
    windingUp: PhaseLook.default(looks.windingUp),
    active: PhaseLook.default(looks.active),
    resting: PhaseLook.default(looks.resting),
    spent: PhaseLook.default(looks.spent),
    off: PhaseLook.default(looks.off),
  })
  .meta({ description: 'In each phase: how the thing is shown, whether it is solid, and whether it is sensing.' });

export const Kind = z
  .strictObject({
    name: Name,
    order,
    role: z.enum(ROLES).meta({ description: 'What it mainly is, for colour and pattern.' }),
    mark: z.enum(MARKS).meta({ description: 'Its glyph.' }),
    tags: z.array(Tag).max(32).default([]),
    exempt: z
      .array(z.string().regex(TAG_RULE, 'a rule of a tag is named by both ids, as in harvest:gain'))
      .max(64)
      .default([])
      .meta({ description: 'Rules of its tags that do not sit on it, as `tag rules:rule`.' }),
    shapes: mapOf(Shape, 16, 'Sensing shapes.'),
    solid: z
      .strictObject({
        width: quantity('side', 'Width of the solid box.'),
        height: quantity('side', 'Height of the solid box.'),
        ...offset,
        sides: z.array(Side).min(1).max(4).default(['top', 'bottom', 'left', 'right']).meta({ description: 'Faces that stop players.' }),
      })
      .nullable()
      .default(null)
      .meta({ description: 'A box of the thing that stops players.' }),
    carries: z.boolean().default(false).meta({ description: 'Seen from above: players whose place is inside travel with it.' }),
    magnet: z
      .strictObject({
        reach: quantity('distance', 'Distance at which it begins to be drawn to a player.'),
        latched: z.boolean().default(true).meta({ description: 'Drawn on when out of reach again, until it gives up.' }),
        giveUp: quantity('distance', 'Distance at which it gives up.').default(20),
        then: z.enum(['stays', 'goes home']).default('stays'),
        speed: Points.meta({ description: 'Speed (u/s) by time since it began (s).' }),
        passesSolids: z.boolean().default(true),
        takenAt: quantity('distance', 'While drawn: distance between the places at which it arrives; null: when its shapes touch.')
          .nullable()
          .default(null),
      })
      .nullable()
      .default(null)
      .meta({ description: 'The thing is drawn to a player whom its arrival rule would accept.' }),
    drift: z
      .strictObject({
        speed: quantity('speed'),
        degrees: quantity('direction').nullable().default(null).meta({ description: 'Direction at the start; null: by chance.' }),
      })
      .nullable()
      .default(null)
      .meta({ description: 'It travels straight on, rebounding from solids and edges.' }),
    cycle: z
      .strictObject({
        on: quantity('period', 'Seconds on.'),
        off: quantity('period', 'Seconds off.'),
        offset: quantity('startOffset', 'How far into its cycle it is at the start.').default(0),
      })
      .nullable()
      .default(null)
      .meta({ description: 'It goes on and off by itself.' }),
    label: z
      .string()
      .max(120)
      .refine((text) => textProblem(text) === null, 'contains a character that cannot be kept')
      .nullable()
      .default(null)
      .meta({ description: 'Shown to a player in reach: text in which {name} and {amount} are filled in.' }),
    rules: mapOf(Rule, RULES_PER_KIND, 'What touching it does.').default({}),
    phases: Phases.default(looks),
  })
  .meta({ description: 'A sort of thing. The numbers live here.' });

const Changes = z
  .record(
    z
      .string()
      .max(300)
      .regex(/^(\/[^/]+)+$/, 'a JSON Pointer into the kind, such as /rules/cool/becomes/seconds'),
    JsonValue,
  )
  .refine((changes) => Object.keys(changes).length <= 200, 'at most 200 entries')
  .meta({ description: 'Values that differ, by JSON Pointer into the kind.' });

export const Variant = z
  .strictObject({ name: Name, order, basedOn: idOf('kinds'), changes: Changes.default({}) })
  .meta({ description: 'A kind like another, with some values changed.' });

export const Placement = z
  .strictObject({
    kind: idOf('kinds'),
    order,
    x: quantity('coordinate'),
    y: quantity('coordinate'),
    travel: z
      .strictObject({ path: idOf('paths'), startOffset: quantity('startOffset').default(0) })
      .nullable()
      .default(null)
      .meta({ description: 'The path it travels along; its place is then that of the path.' }),
    own: Changes.default({}).meta({ description: "Own values instead of its kind's, by JSON Pointer into the kind." }),
    starts: z
      .discriminatedUnion('type', [
        z.strictObject({ type: z.literal('ready') }),
        z.strictObject({ type: z.literal('resting'), seconds: quantity('rest') }),
        z.strictObject({ type: z.literal('off') }),
      ])
      .default({ type: 'ready' })
      .meta({ description: 'Its phase when the session starts.' }),
  })
  .meta({ description: 'One thing of a kind at a place.' });

export type Kind = z.infer<typeof Kind>;
export type Variant = z.infer<typeof Variant>;
export type Shape = z.infer<typeof Shape>;
export type Placement = z.infer<typeof Placement>;
export type Role = (typeof ROLES)[number];
export type MarkName = (typeof MARKS)[number];
