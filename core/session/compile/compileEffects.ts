import { turn } from '../../geometry/index.ts';
import { byId, type Destination, type Effect, type Points } from '../../level/index.ts';
import * as codes from './codes.ts';
import { flatten, stepsOf, type Names } from './laying.ts';

/** One row of the effects table, before it is laid into columns. A column means something of some effects only, as said. */
interface EffectRow {
  /** What it does: one of `EFFECT`. */
  op: number;
  /** What it is about: a meter, item, point, notice or flourish by its number; of a change of movement one of `MOVEMENT`. −1: nothing. */
  subject: number;
  /** Of a meter one of `CHANGE`, of a movement of `HOW`, of an end of `ENDING`. 1: an item is refused at its limit, a launch adds, a push is an acceleration, a move keeps the velocity. */
  mode: number;
  /** What `value` is a share or a curve of: one of `AMOUNT`. Meters and launches. */
  amountOf: number;
  /** The amount, the share, the strength, the count, the value of a movement, the height dropped from. In the unit of its subject. */
  value: number;
  /** The curve that gives the amount; −1: none. */
  curve: number;
  /** What the curve is over: one of `CURVE_BY`. */
  curveBy: number;
  /** The point of the thing distances are from. Units. */
  fromX: number;
  fromY: number;
  /** The direction of a launch, as a unit vector; the push, in its unit. */
  x: number;
  y: number;
  /** How long it lasts; of a move the steps unharmed. */
  steps: number;
  /** Of a move, the steps without keys. */
  moreSteps: number;
  /** Of a movement one of `LASTS`; of a launch one of `DIRECTION`. */
  lasts: number;
  /** Of a movement, when it is there already: one of `AGAIN`. */
  again: number;
  /** Of a movement, how many at once; of a spawn, how many alive. */
  most: number;
  /** 1: a shield stops it; of an item, it is held at once. */
  blockable: number;
  /** Where it puts one, or what it makes; −1: nowhere else. */
  destination: number;
  /** Of a spawn, what may appear. */
  pool: number;
}

const PLAIN: Omit<EffectRow, 'op'> = {
  subject: -1,
  mode: 0,
  amountOf: 0,
  value: 0,
  curve: -1,
  curveBy: 0,
  fromX: 0,
  fromY: 0,
  x: 0,
  y: 0,
  steps: 0,
  moreSteps: 0,
  lasts: 0,
  again: 0,
  most: 1,
  blockable: 0,
  destination: -1,
  pool: -1,
};

/** Gathers what rules share: curves, destinations, pools of spawns. */
export interface Tables {
  readonly curves: Points[];
  readonly destinations: Destination[];
  readonly pools: Readonly<Record<string, number>>[];
}

export function destinationOf(tables: Tables, to: Destination | null): number {
  return to === null ? -1 : tables.destinations.push(to) - 1;
}

const CURVE_BY = { distance: 0, 'time inside': 1, 'wind-up': 2 } as const;

function valueOf(tables: Tables, value: Extract<Effect, { type: 'meter' }>['amount']): Partial<EffectRow> {
  if (typeof value === 'number') return { value };
  if ('share' in value) return { value: value.share, amountOf: codes.AMOUNT.share };
  const from = { fromX: value.from?.x ?? 0, fromY: value.from?.y ?? 0 };
  return { amountOf: codes.AMOUNT.curve, curve: tables.curves.push(value.points) - 1, curveBy: CURVE_BY[value.by], ...from };
}

export function effectRow(effect: Effect, names: Names, tables: Tables, rate: number): EffectRow {
  const make = (op: number, fields: Partial<EffectRow>): EffectRow => ({ op, ...PLAIN, ...fields });
  const { EFFECT } = codes;
  switch (effect.type) {
    case 'meter': {
      const fields = { subject: names.meters.of(effect.meter), mode: codes.CHANGE[effect.change], blockable: effect.blockable ? 1 : 0 };
      return make(EFFECT.meter, { ...fields, ...valueOf(tables, effect.amount) });
    }
    case 'lives': {
      const mode = effect.count < 0 ? codes.CHANGE.take : codes.CHANGE.add;
      return make(EFFECT.meter, { subject: names.meters.of('lives'), mode, value: Math.abs(effect.count) });
    }
    case 'item': {
      const fields = { subject: names.items.of(effect.item), value: effect.count, mode: effect.atLimit === 'refuse' ? 1 : 0 };
      return make(EFFECT.item, { ...fields, blockable: effect.hold ? 1 : 0 });
    }
    case 'movement':
      return make(EFFECT.movement, {
        subject: codes.MOVEMENT[effect.of],
        mode: codes.HOW[effect.change],
        value: effect.value,
        lasts: codes.LASTS[effect.lasts.type],
        steps: effect.lasts.type === 'for' ? stepsOf(effect.lasts.seconds, rate) : 0,
        again: codes.AGAIN[effect.again],
        most: effect.most,
      });
    case 'launch': {
      const { cos, sin } = turn(effect.direction.type === 'fixed' ? effect.direction.degrees : 0);
      const fields = { mode: effect.change === 'add' ? 1 : 0, lasts: codes.DIRECTION[effect.direction.type], x: cos, y: sin };
      return make(EFFECT.launch, { ...fields, ...valueOf(tables, effect.strength) });
    }
    case 'push': {
      const { cos, sin } = turn(effect.degrees);
      return make(EFFECT.push, { mode: effect.as === 'velocity' ? 0 : 1, x: cos * effect.strength, y: sin * effect.strength });
    }
    case 'move':
      return make(EFFECT.move, {
        destination: destinationOf(tables, effect.to),
        mode: effect.velocity === 'kept' ? 1 : 0,
        value: effect.dropHeight,
        steps: stepsOf(effect.grace, rate),
        moreSteps: stepsOf(effect.lock, rate),
      });
    case 'kill':
      return make(EFFECT.kill, { blockable: effect.blockable ? 1 : 0, destination: destinationOf(tables, effect.returnTo) });
    case 'checkpoint':
      return make(EFFECT.checkpoint, { subject: names.points.of(effect.point) });
    case 'shield':
      return make(EFFECT.shield, { steps: stepsOf(effect.seconds, rate) });
    case 'notice':
      return make(EFFECT.notice, { subject: names.notices.of(effect.notice) });
    case 'end':
      return make(EFFECT.end, { mode: effect.how === 'won' ? codes.ENDING.won : codes.ENDING.lost });
    case 'flourish':
      return make(EFFECT.flourish, { subject: names.flourishes.of(effect.flourish) });
    case 'spawn': {
      const at: Destination | null = effect.at.type === 'here' ? null : effect.at;
      const fields = { pool: tables.pools.push(effect.pool) - 1, destination: destinationOf(tables, at), most: effect.most };
      return make(EFFECT.spawn, fields);
    }
  }
}

export function effectColumns(rows: readonly EffectRow[]) {
  const integers = (column: keyof EffectRow): Int32Array => Int32Array.from(rows, (row) => row[column]);
  const numbers = (column: keyof EffectRow): Float64Array => Float64Array.from(rows, (row) => row[column]);
  return {
    op: integers('op'),
    subject: integers('subject'),
    mode: integers('mode'),
    amountOf: integers('amountOf'),
    value: numbers('value'),
    curve: integers('curve'),
    curveBy: integers('curveBy'),
    fromX: numbers('fromX'),
    fromY: numbers('fromY'),
    x: numbers('x'),
    y: numbers('y'),
    steps: integers('steps'),
    moreSteps: integers('moreSteps'),
    lasts: integers('lasts'),
    again: integers('again'),
    most: integers('most'),
    blockable: integers('blockable'),
    destination: integers('destination'),
    pool: integers('pool'),
  };
}

export function destinationColumns(list: readonly Destination[], names: Names) {
  const points = flatten(
    list.map((to): [number, number][] => {
      if (to.type === 'point') return [[names.points.of(to.point), 1]];
      if (to.type === 'nearest') return to.points.map((id) => [names.points.of(id), 1]);
      return to.type === 'weighted' ? byId(to.points).map(([id, weight]) => [names.points.of(id), weight]) : [];
    }),
  );
  return {
    type: Uint8Array.from(list, ({ type }) => codes.DESTINATION[type]),
    distance: Float64Array.from(list, (to) => (to.type === 'clear' ? to.distance : 0)),
    margin: Float64Array.from(list, (to) => (to.type === 'clear' ? to.margin : 0)),
    start: points.starts,
    point: Int32Array.from(points.values, ([point]) => point),
    weight: Float64Array.from(points.values, ([, weight]) => weight),
  };
}
