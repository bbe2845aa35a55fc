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

const define = <Names extends string>(table: Record<Names, Quantity>): Record<Names, Quantity> => table;

/** Every kind of number a level has. Schema, dials and tables read their units and limits here and nowhere else. */
export const quantities = define({
  coordinate: {
    label: 'place',
    unit: 'u',
    description: 'Distance from the left or bottom edge of the level.',
    min: -2000,
    max: 2000,
    low: 0,
    high: 40,
    step: 0.1,
  },
  levelSide: {
    label: 'side of the level',
    unit: 'u',
    description: 'Width or height of the level.',
    min: 2,
    max: 2000,
    low: 10,
    high: 100,
    step: 1,
  },
  radius: {
    label: 'radius',
    unit: 'u',
    description: 'Radius of a circular shape.',
    min: 0.01,
    max: 500,
    low: 0.1,
    high: 5,
    step: 0.1,
  },
  side: {
    label: 'side',
    unit: 'u',
    description: 'Width or height of a box.',
    min: 0.01,
    max: 2000,
    low: 0.2,
    high: 10,
    step: 0.1,
  },
  offset: {
    label: 'offset',
    unit: 'u',
    description: 'Shift of a shape from the place of its thing.',
    min: -500,
    max: 500,
    low: -3,
    high: 3,
    step: 0.1,
  },
  rotation: {
    label: 'rotation',
    unit: '°',
    description: 'Turn of a box, anticlockwise.',
    min: -360,
    max: 360,
    low: -180,
    high: 180,
    step: 5,
  },
  speed: {
    label: 'speed',
    unit: 'u/s',
    description: 'Units travelled in one second.',
    min: 0,
    max: 1000,
    low: 0,
    high: 12,
    step: 0.1,
  },
  moverSpeed: {
    label: 'speed',
    unit: 'u/s',
    description: 'Speed of a mover along its path.',
    min: 0.01,
    max: 1000,
    low: 0.1,
    high: 10,
    step: 0.1,
  },
  acceleration: {
    label: 'acceleration',
    unit: 'u/s²',
    description: 'How fast speed is gained or lost.',
    min: 0.1,
    max: 100000,
    low: 1,
    high: 100,
    step: 1,
  },
  rest: {
    label: 'rests for',
    unit: 's',
    description: 'Time a thing rests before it is ready again.',
    min: 0,
    max: 3600,
    low: 0,
    high: 20,
    step: 0.1,
  },
  pause: {
    label: 'pause',
    unit: 's',
    description: 'Time to wait at a way-point.',
    min: 0,
    max: 3600,
    low: 0,
    high: 10,
    step: 0.1,
  },
  startOffset: {
    label: 'start offset',
    unit: 's',
    description: 'How far along its round a mover already is when the session starts.',
    min: 0,
    max: 3600,
    low: 0,
    high: 20,
    step: 0.1,
  },
  amount: {
    label: 'amount',
    unit: '',
    description: 'How much of a meter is added, taken or set.',
    min: 0,
    max: 1000000,
    low: 0,
    high: 60,
    step: 1,
  },
  ratePerSecond: {
    label: 'amount per second',
    unit: '/s',
    description: 'How much of a meter is added or taken in each second inside.',
    min: 0,
    max: 1000000,
    low: 0,
    high: 60,
    step: 0.5,
  },
  meterValue: {
    label: 'value',
    unit: '',
    description: 'A value of a meter.',
    min: -1000000000,
    max: 1000000000,
    low: 0,
    high: 200,
    step: 1,
  },
  order: {
    label: 'order',
    unit: '',
    description: 'Things of one list are sorted by this number, then by id.',
    min: -1000000000,
    max: 1000000000,
    low: 0,
    high: 100,
    step: 1,
  },
  rate: {
    label: 'steps per second',
    unit: '/s',
    description: 'Simulation steps in a second.',
    min: 30,
    max: 240,
    low: 30,
    high: 240,
    step: 30,
    integer: true,
  },
  unitsPerPixel: {
    label: 'units per pixel',
    unit: 'u/px',
    description: 'Length of one pixel of the game this level stands for.',
    min: 0.0001,
    max: 100,
    low: 0.01,
    high: 1,
    step: 0.01,
  },
  framesPerSecond: {
    label: 'frames per second',
    unit: '/s',
    description: 'Frame rate of the game this level stands for.',
    min: 1,
    max: 1000,
    low: 24,
    high: 144,
    step: 1,
  },
});

export type QuantityName = keyof typeof quantities;

/** The Zod schema of a number: its limits, and its unit and meaning for the published JSON Schema. */
export function quantity(name: QuantityName, description?: string) {
  const { unit, min, max, integer, label } = quantities[name];
  const number = integer === true ? z.int() : z.number();
  return number
    .min(min)
    .max(max)
    .meta({ description: description ?? quantities[name].description, unit, title: label });
}
