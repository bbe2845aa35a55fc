import { ALL_FACES, createCurveTable, type CurveTable, valueIn } from '../../geometry/index.ts';
import { byId, inOrder, type Condition, type ItemRule, type Level, type Rule } from '../../level/index.ts';
import * as codes from './codes.ts';
import { destinationColumns, destinationOf, effectColumns, effectRow, type Tables } from './compileEffects.ts';
import { facesOf, flatten, stepsOf, type Names } from './laying.ts';

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

/**
 * One entry a rule, in columns. `…Steps` are steps of the session, `reach`, `moveDistance`, `moveMargin`, `turnX` and `turnY` units,
 * `pulseEvery` seconds; a column of bytes that is no code is 1 for yes. Rules of items have what they lack as nothing.
 */
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
    for (let at = valueIn(effects.starts, index); at < valueIn(effects.starts, index + 1); at += 1) {
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
    rules: Object.assign(ruleColumns(rules, names, rate), {
      kindRule,
      refusesItems,
      conditionStart: conditions.starts,
      effectStart: effects.starts,
    }),
    kindRuleCount: kindRules.size,
    conditions: conditionColumns(
      conditions.values.map(([, one]) => one),
      names,
    ),
    effects: Object.assign(effectColumns(rows), { key, zone: zoneOfEffect }),
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
