import { ALL_FACES, BOTTOM, createCurveTable, LEFT, RIGHT, TOP, turn, type CurveTable } from '../../geometry/index.ts';
import {
  byId,
  inOrder,
  type Condition,
  type Destination,
  type Effect,
  type ItemRule,
  type Level,
  type Points,
  type Rule,
} from '../../level/index.ts';
import * as codes from './codes.ts';

interface Flat<Value> {
  readonly values: Value[];
  readonly starts: Int32Array;
}

/** Lays lists end to end; list i runs from starts[i] to starts[i + 1]. */
export function flatten<Value>(lists: readonly (readonly Value[])[]): Flat<Value> {
  const values: Value[] = [];
  const starts = new Int32Array(lists.length + 1);
  lists.forEach((list, index) => {
    for (const value of list) values.push(value);
    starts[index + 1] = values.length;
  });
  return { values, starts };
}

/** A duration in steps: rounded, and at least one step when it is not nothing. */
export function stepsOf(seconds: number, rate: number): number {
  return seconds > 0 ? Math.max(1, Math.round(seconds * rate)) : 0;
}

const FACE = { top: TOP, bottom: BOTTOM, left: LEFT, right: RIGHT } as const;

/** Faces as bits; none stands for all. */
export function facesOf(sides: readonly (keyof typeof FACE)[]): number {
  return sides.length === 0 ? ALL_FACES : sides.reduce((bits, side) => bits | FACE[side], 0);
}

/** Numbers for ids, in order; −1 for none. */
export interface Numbering {
  readonly ids: readonly string[];
  readonly of: (id: string | null) => number;
}

export function numbering(ids: readonly string[]): Numbering {
  const index = new Map(ids.map((id, at) => [id, at]));
  return { ids, of: (id) => (id === null ? -1 : (index.get(id) ?? -1)) };
}

/** Everything rules refer to by id, numbered. */
export interface Names {
  readonly meters: Numbering;
  readonly items: Numbering;
  readonly kinds: Numbering;
  readonly points: Numbering;
  readonly notices: Numbering;
  readonly flourishes: Numbering;
}

/** A rule with where it stands: in a kind's form, or in an item. */
export interface PlacedRule {
  readonly kind: string | null;
  readonly item: string | null;
  readonly id: string;
  readonly rule: Rule | ItemRule;
  /** The zone it is tied to: 1 + the number of a shape of its kind, 0 for the whole, or `NOWHERE`. */
  readonly zone: number;
}

const isItemRule = (rule: Rule | ItemRule): rule is ItemRule => typeof rule.setOffBy === 'string';

function conditionColumns(list: readonly Condition[], names: Names) {
  const subject = (one: Condition): number => {
    if ('meter' in one) return names.meters.of(one.meter);
    if ('item' in one) return names.items.of(one.item);
    if (one.type === 'movement') return codes.MOVEMENT[one.of];
    return one.type === 'notice' ? names.notices.of(one.notice) : -1;
  };
  const value = (one: Condition): number => {
    if ('value' in one) return one.value;
    if (one.type === 'movement') return one.present ? 1 : 0;
    return one.type === 'notice' && one.posted ? 1 : 0;
  };
  return {
    test: Uint8Array.from(list, ({ type }) => codes.TEST[type]),
    subject: Int32Array.from(list, subject),
    is: Uint8Array.from(list, (one) => ('is' in one ? codes.COMPARISONS.indexOf(one.is) : 0)),
    value: Float64Array.from(list, value),
  };
}

/** One row of the effects table, before it is laid into columns. */
interface EffectRow {
  op: number;
  subject: number;
  mode: number;
  amountOf: number;
  value: number;
  curve: number;
  curveBy: number;
  fromX: number;
  fromY: number;
  x: number;
  y: number;
  steps: number;
  moreSteps: number;
  lasts: number;
  again: number;
  most: number;
  blockable: number;
  destination: number;
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
interface Tables {
  readonly curves: Points[];
  readonly destinations: Destination[];
  readonly pools: Readonly<Record<string, number>>[];
}

function destinationOf(tables: Tables, to: Destination | null): number {
  return to === null ? -1 : tables.destinations.push(to) - 1;
}

const CURVE_BY = { distance: 0, 'time inside': 1, 'wind-up': 2 } as const;

function valueOf(tables: Tables, value: Extract<Effect, { type: 'meter' }>['amount']): Partial<EffectRow> {
  if (typeof value === 'number') return { value };
  if ('share' in value) return { value: value.share, amountOf: codes.AMOUNT.share };
  const from = { fromX: value.from?.x ?? 0, fromY: value.from?.y ?? 0 };
  return { amountOf: codes.AMOUNT.curve, curve: tables.curves.push(value.points) - 1, curveBy: CURVE_BY[value.by], ...from };
}

function effectRow(effect: Effect, names: Names, tables: Tables, rate: number): EffectRow {
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

function ruleColumns(rules: readonly PlacedRule[], names: Names, rate: number) {
  const list = rules.map(({ rule }) => rule);
  const ofKind = <Value>(read: (rule: Rule) => Value, otherwise: Value): Value[] =>
    list.map((rule) => (isItemRule(rule) ? otherwise : read(rule)));
  const setOffBy = (rule: Rule | ItemRule): number => {
    if (!isItemRule(rule)) return codes.SET_OFF_BY[rule.setOffBy.type];
    return rule.setOffBy === 'use' ? codes.SET_OFF_BY['use held'] : codes.SET_OFF_BY[rule.setOffBy];
  };
  const pulse = (rule: Rule) => (rule.setOffBy.type === 'inside' ? rule.setOffBy.pulse : null);
  return {
    setOffBy: Uint8Array.from(list, setOffBy),
    pulseEvery: Float64Array.from(ofKind((rule) => pulse(rule)?.every ?? 0, 0)),
    pulseAtOnce: Uint8Array.from(ofKind((rule) => (pulse(rule)?.first === 'at once' ? 1 : 0), 0)),
    everySteps: Int32Array.from(ofKind((rule) => (rule.setOffBy.type === 'every' ? stepsOf(rule.setOffBy.seconds, rate) : 0), 0)),
    reach: Float64Array.from(ofKind((rule) => (rule.setOffBy.type === 'use' ? rule.setOffBy.reach : 0), 0)),
    notice: Int32Array.from(ofKind((rule) => (rule.setOffBy.type === 'notice' ? names.notices.of(rule.setOffBy.notice) : -1), -1)),
    faces: Uint8Array.from(ofKind((rule) => facesOf(rule.side), ALL_FACES)),
    needsAny: Uint8Array.from(list, ({ needs }) => (needs === 'any' ? 1 : 0)),
    keepTrying: Uint8Array.from(ofKind((rule) => (rule.keepTrying ? 1 : 0), 0)),
    /** −1: no wind-up. */
    windUpSteps: Int32Array.from(ofKind((rule) => (rule.windUp === null ? -1 : stepsOf(rule.windUp.seconds, rate)), -1)),
    windUpKept: Uint8Array.from(ofKind((rule) => (rule.windUp?.ifLeft === 'dropped' ? 0 : 1), 1)),
    turnX: Float64Array.from(ofKind((rule) => rule.windUp?.turn?.x ?? 0, 0)),
    turnY: Float64Array.from(ofKind((rule) => rule.windUp?.turn?.y ?? 0, 0)),
    turnDegrees: Float64Array.from(ofKind((rule) => rule.windUp?.turn?.degrees ?? 0, 0)),
    active: Uint8Array.from(ofKind((rule) => codes.ACTIVE[rule.active.type], 0)),
    activeSteps: Int32Array.from(ofKind((rule) => (rule.active.type === 'for' ? stepsOf(rule.active.seconds, rate) : 0), 0)),
    hitsAll: Uint8Array.from(ofKind((rule) => (rule.hits === 'all inside' ? 1 : 0), 0)),
    becomes: Uint8Array.from(ofKind((rule) => codes.BECOMES[rule.becomes.type], 0)),
    restSteps: Int32Array.from(ofKind((rule) => (rule.becomes.type === 'rests' ? stepsOf(rule.becomes.seconds, rate) : 0), 0)),
    moveDistance: Float64Array.from(ofKind((rule) => (rule.becomes.type === 'moves' ? rule.becomes.distance : 0), 0)),
    moveMargin: Float64Array.from(ofKind((rule) => (rule.becomes.type === 'moves' ? rule.becomes.margin : 0), 0)),
    moveAtStart: Uint8Array.from(ofKind((rule) => (rule.becomes.type === 'moves' && rule.becomes.atStart ? 1 : 0), 0)),
    scope: Uint8Array.from(ofKind((rule) => codes.SCOPE[rule.scope], 0)),
    /** 0: any number. */
    uses: Int32Array.from(ofKind((rule) => rule.uses ?? 0, 0)),
    spends: Int32Array.from(list, (rule) => (isItemRule(rule) ? rule.spends : 0)),
    item: Int32Array.from(rules, ({ item }) => names.items.of(item)),
    zone: Uint8Array.from(rules, ({ zone }) => zone),
  };
}

function effectColumns(rows: readonly EffectRow[]) {
  const whole = (column: keyof EffectRow): Int32Array => Int32Array.from(rows, (row) => row[column]);
  const number = (column: keyof EffectRow): Float64Array => Float64Array.from(rows, (row) => row[column]);
  return {
    op: whole('op'),
    subject: whole('subject'),
    mode: whole('mode'),
    amountOf: whole('amountOf'),
    value: number('value'),
    curve: whole('curve'),
    curveBy: whole('curveBy'),
    fromX: number('fromX'),
    fromY: number('fromY'),
    x: number('x'),
    y: number('y'),
    steps: whole('steps'),
    moreSteps: whole('moreSteps'),
    lasts: whole('lasts'),
    again: whole('again'),
    most: whole('most'),
    blockable: whole('blockable'),
    destination: whole('destination'),
    pool: whole('pool'),
  };
}

function destinationColumns(list: readonly Destination[], names: Names) {
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

/** Rules, conditions, effects and what they share, in flat columns. */
export function compileRules(rules: readonly PlacedRule[], level: Level, names: Names, rate: number) {
  const tables: Tables = { curves: [], destinations: [], pools: [] };
  const conditions = flatten(rules.map(({ rule }) => inOrder(rule.provided)));
  const effects = flatten(rules.map(({ rule }) => inOrder(rule.effects)));
  const rows = effects.values.map(([, effect]) => effectRow(effect, names, tables, rate));
  const returnTo = destinationOf(tables, level.death.returnTo);

  // "Again" and remainders go by kind, rule and effect, also when placements have own values.
  const keys = new Map<string, number>();
  const key = new Int32Array(rows.length);
  const zoneOfEffect = new Uint8Array(rows.length);
  rules.forEach((placed, index) => {
    for (let at = effects.starts[index] as number; at < (effects.starts[index + 1] as number); at += 1) {
      const text = [placed.kind ?? '', placed.item ?? '', placed.id, effects.values[at]?.[0] ?? ''].join('\n');
      const number = keys.get(text) ?? keys.size;
      keys.set(text, number);
      key[at] = number;
      zoneOfEffect[at] = placed.zone;
    }
  });

  // Uses of scope "kind" go by kind and rule.
  const kindRules = new Map<string, number>();
  const kindRule = Int32Array.from(rules, ({ kind, item, id }) => {
    const text = [kind ?? '', item ?? '', id].join('\n');
    const number = kindRules.get(text) ?? kindRules.size;
    kindRules.set(text, number);
    return number;
  });
  const refusesItems = Uint8Array.from(rules, ({ rule }) =>
    Object.values(rule.effects).some((effect) => effect.type === 'item' && effect.atLimit === 'refuse') ? 1 : 0,
  );

  const pools = flatten(tables.pools.map(byId));
  const curves: CurveTable = createCurveTable(tables.curves);
  return {
    ids: { effects: effects.values.map(([id]) => id), conditions: conditions.values.map(([id]) => id) },
    rules: { ...ruleColumns(rules, names, rate), kindRule, refusesItems, conditionStart: conditions.starts, effectStart: effects.starts },
    kindRuleCount: kindRules.size,
    conditions: conditionColumns(
      conditions.values.map(([, one]) => one),
      names,
    ),
    effects: { ...effectColumns(rows), key, zone: zoneOfEffect },
    keyCount: keys.size,
    curves,
    destinations: destinationColumns(tables.destinations, names),
    returnTo,
    pools: {
      start: pools.starts,
      kind: Int32Array.from(pools.values, ([id]) => names.kinds.of(id)),
      weight: Float64Array.from(pools.values, ([, weight]) => weight),
    },
  };
}
