import { z } from 'zod';

/** What a number of the level document means: its unit, its limits, and the range and step a dial for it starts with. */
export interface Quantity {
  readonly label: string;
  /** Unit as shown: `u` (units), `s`, `u/s`, `u/s²`, `°`, or empty for plain numbers. */
  readonly unit: string;
  readonly description: string;
  /** Values outside `min` … `max` are refused. */
  readonly min: number;
  readonly max: number;
  /** The stretch a dial shows first; a typed value may leave it. */
  readonly low: number;
  readonly high: number;
  readonly step: number;
  readonly integer?: boolean;
}

/** The finest turn of a dial, in its steps. */
export const FINE_TURN = 0.1;

type Row = readonly [
  label: string,
  unit: string,
  description: string,
  limits: readonly [number, number],
  dial: readonly [low: number, high: number, step: number],
  integer?: 'whole',
];

const define = <Names extends string>(table: Record<Names, Row>): Record<Names, Quantity> =>
  Object.fromEntries(
    Object.entries<Row>(table).map(([name, [label, unit, description, [min, max], [low, high, step], whole]]) => [
      name,
      { label, unit, description, min, max, low, high, step, integer: whole === 'whole' },
    ]),
  ) as Record<Names, Quantity>;

/** Every kind of number a level has. Schema, dials and tables read their units and limits here and nowhere else. */
export const quantities = define({
  coordinate: ['place', 'u', 'Distance from the left or bottom edge of the level.', [-2000, 2000], [0, 40, 0.1]],
  levelSide: ['side of the level', 'u', 'Width or height of the level.', [2, 2000], [10, 100, 1]],
  radius: ['radius', 'u', 'Radius of a circular shape.', [0.01, 500], [0.1, 5, 0.1]],
  side: ['side', 'u', 'Width or height of a box.', [0.01, 2000], [0.2, 10, 0.1]],
  offset: ['offset', 'u', 'Shift of a shape from the place of its thing.', [-500, 500], [-3, 3, 0.1]],
  rotation: ['rotation', '°', 'Turn of a box, anticlockwise.', [-360, 360], [-180, 180, 5]],
  speed: ['speed', 'u/s', 'Units travelled in one second.', [0, 1000], [0, 12, 0.1]],
  moverSpeed: ['speed', 'u/s', 'Speed of a mover along its path.', [0.01, 1000], [0.1, 10, 0.1]],
  acceleration: ['acceleration', 'u/s²', 'How fast speed is gained or lost.', [0.1, 100000], [1, 100, 1]],
  rest: ['rests for', 's', 'Time a thing rests before it is ready again.', [0, 3600], [0, 20, 0.1]],
  pause: ['pause', 's', 'Time to wait at a way-point.', [0, 3600], [0, 10, 0.1]],
  startOffset: ['start offset', 's', 'How far along its round a mover already is when the session starts.', [0, 3600], [0, 20, 0.1]],
  amount: ['amount', '', 'How much of a meter is added, taken or set.', [0, 1000000], [0, 60, 1]],
  ratePerSecond: ['amount per second', '/s', 'How much of a meter is added or taken in each second inside.', [0, 1000000], [0, 60, 0.5]],
  meterValue: ['value', '', 'A value of a meter.', [-1000000000, 1000000000], [0, 200, 1]],
  order: ['order', '', 'Things of one list are sorted by this number, then by id.', [-1000000000, 1000000000], [0, 100, 1]],
  rate: ['steps per second', '/s', 'Simulation steps in a second.', [30, 240], [30, 240, 30], 'whole'],
  unitsPerPixel: ['units per pixel', 'u/px', 'Length of one pixel of the game this level stands for.', [0.0001, 100], [0.01, 1, 0.01]],
  pixelsPerUnit: ['pixels per unit', 'px/u', 'Pixels of a picture that make one unit.', [0.01, 10000], [1, 128, 1]],
  framesPerSecond: ['frames per second', '/s', 'Frame rate of the game this level stands for.', [1, 1000], [24, 144, 1]],
  gravity: ['gravity', 'u/s²', 'Pull downwards; seen from the side only.', [0, 10000], [0, 80, 1]],
  jumpSpeed: ['jump speed', 'u/s', 'Upward speed at the moment of a jump.', [0, 1000], [0, 30, 0.5]],
  airControl: ['air control', '', 'Share of acceleration and braking that works in the air.', [0, 1], [0, 1, 0.05]],
  lateJump: ['late jump', 's', 'How long after leaving the ground a jump still works.', [0, 5], [0, 0.5, 0.01]],
  shortJump: ['jump kept', '', 'Share of upward speed kept when the jump key is let go while rising; 1 keeps all.', [0, 1], [0, 1, 0.05]],
  fallLimit: ['fall limit', 'u/s', 'Greatest speed of falling.', [0.1, 1000], [1, 40, 1]],
  regeneration: ['regeneration', '/s', 'How much of a meter comes back in each second.', [0, 1000000], [0, 10, 0.1]],
  duration: ['time', 's', 'How long something lasts.', [0, 7200], [0, 20, 0.1]],
  period: ['every', 's', 'Time between two of them.', [0.001, 7200], [0.1, 10, 0.1]],
  share: ['share', '', 'A share of a whole, from 0 to 1.', [0, 1], [0, 1, 0.05]],
  factor: ['value', '', 'What a value is multiplied by, what is added to it, or what it is set to.', [-1000, 1000], [0, 3, 0.1]],
  strength: ['strength', 'u/s', 'Speed given by a launch or a push; for a steady pull, u/s².', [-1000, 1000], [0, 40, 0.5]],
  direction: ['direction', '°', 'Direction, anticlockwise from the right.', [-360, 360], [-180, 180, 5]],
  distance: ['distance', 'u', 'Distance between two places.', [0, 2000], [0, 10, 0.1]],
  count: ['count', '', 'A whole number of things.', [0, 1000000], [0, 20, 1], 'whole'],
  change: ['count', '', 'A whole number of things given, or taken when negative.', [-1000000, 1000000], [-10, 10, 1], 'whole'],
  limit: ['at most', '', 'Greatest number there may be.', [1, 1000000], [1, 20, 1], 'whole'],
  alive: ['alive at most', '', 'Things of one spawn alive at the same time.', [1, 500], [1, 20, 1], 'whole'],
  stack: ['at most', '', 'Changes of movement of one cause in force at the same time.', [1, 16], [1, 8, 1], 'whole'],
  weight: ['weight', '', 'Chance in proportion to the other weights.', [0, 1000000], [0, 10, 0.5]],
  curveInput: ['at', '', 'Where on its axis a point of a curve lies.', [0, 10000], [0, 10, 0.1]],
  curveValue: ['value', '', 'Value of a curve at a point.', [-1000000, 1000000], [0, 60, 1]],
  pitch: ['pitch', 'Hz', 'Pitch of a tone.', [20, 20000], [100, 2000, 10]],
  digits: ['digits', '', 'Figures a number is filled up to with zeros; 0: none.', [0, 12], [0, 9, 1], 'whole'],
  reaction: ['reaction', 's', 'Time from something that is seen to what is done about it.', [0, 10], [0, 1, 0.01]],
  aimError: ['aim error', '°', 'How far off its way a player steers; it changes slowly.', [0, 90], [0, 30, 1]],
  timingError: ['timing error', 's', 'By how much jumps and stops come too early or too late.', [0, 5], [0, 0.5, 0.01]],
  decisions: ['decisions', '/s', 'How often a second a player looks and decides, at most.', [0.1, 1000], [0.5, 10, 0.5]],
  sight: ['sight', 'u', 'Things further away are not seen; walls hide.', [0, 4000], [0, 40, 0.5]],
  memory: ['memory', 's', 'How long something is remembered that is no longer seen.', [0, 7200], [0, 120, 1]],
  detourFor: ['detour for a point', 'u', 'How long a detour one point is worth.', [0, 10000], [0, 3, 0.01]],
  detour: ['detour', 'u', 'How much longer a way may be.', [0, 10000], [0, 40, 0.5]],
  sessions: ['sessions', '', 'Sessions that are simulated.', [1, 100_000], [10, 1000, 10], 'whole'],
  playTime: ['time', 's', 'How long a session may last.', [1, 7200], [10, 300, 5]],
  seed: ['seed', '', 'What chance follows from.', [0, 4_294_967_295], [1, 100, 1], 'whole'],
  players: ['players', '', 'Players in a session.', [1, 4], [1, 4, 1], 'whole'],
});

export type QuantityName = keyof typeof quantities;

/** The Zod schema of a number: its limits, and its unit and meaning for the published JSON Schema. */
export function quantity(name: QuantityName, description?: string) {
  const { unit, min, max, integer, label } = quantities[name];
  const number = integer === true ? z.int() : z.number();
  return number
    .min(min)
    .max(max)
    .meta({ description: description ?? quantities[name].description, unit, title: label, quantity: name });
}
