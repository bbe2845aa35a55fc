import type { Points } from '../document/basics.ts';
import { fieldWithin, levelFields, type Field } from './fields.ts';
import { inOrder } from '../document/order.ts';
import { entry, pointer } from '../document/pointers.ts';
import { quantities, type Quantity, type QuantityName } from '../document/quantities.ts';
import { kindOf, kindOfPlacement } from './resolve.ts';
import type { Condition, Effect } from '../document/rules.ts';
import type { Persona } from '../document/persona.ts';
import type { Level } from '../document/schema.ts';
import type { Kind } from '../document/things.ts';
import { pathsOf, type Owner } from './values.ts';

/** One number of the level that can be turned: where it is and how it is called. */
export interface LevelNumber {
  /** What it is known by: a JSON Pointer, into the kind where it is of a kind, wherever it is kept. */
  readonly path: string;
  readonly group: string;
  readonly label: string;
  /** What is written before the number: that it is added or taken. */
  readonly sign: string;
  readonly value: number;
  readonly range: Quantity;
}

type Path = readonly PropertyKey[];

const signs: Readonly<Record<Extract<Effect, { type: 'meter' }>['change'], string>> = { add: '+', take: '−', set: '', fill: '' };

/** One number of a level, by the path to it. */
export function numberAt(path: Path, group: string, label: string, value: number, quantity: QuantityName, sign = ''): LevelNumber {
  return { path: pointer(path), group, label, sign, value, range: quantities[quantity] };
}

/** The amount a meter's values are of: wide meters get wide rulers. */
function amountRange(level: Level, meterId: string, inside: boolean): Quantity {
  const base = quantities[inside ? 'ratePerSecond' : 'amount'];
  const meter = level.meters[meterId];
  const span = meter?.upper == null ? 0 : meter.upper - meter.lower;
  return { ...base, unit: inside ? '/s' : base.unit, high: span > 0 ? span : base.high };
}

/** The points of a curve, each value a dial. */
function curveNumbers(at: Path, label: string, points: Points): LevelNumber[] {
  return points.map(([where, value], index) =>
    numberAt([...at, index, 1], 'what it does', `${label} at ${String(Number(where.toFixed(2)))}`, value, 'curveValue'),
  );
}

function meterNumbers(level: Level, effect: Extract<Effect, { type: 'meter' }>, at: Path, inside: boolean): LevelNumber[] {
  const label = level.meters[effect.meter]?.name ?? effect.meter;
  const group = 'what it does';
  const sign = signs[effect.change];
  if (effect.change === 'fill') return [];
  if (typeof effect.amount === 'number') {
    return [
      { ...numberAt([...at, 'amount'], group, label, effect.amount, 'amount', sign), range: amountRange(level, effect.meter, inside) },
    ];
  }
  if ('share' in effect.amount)
    return [numberAt([...at, 'amount', 'share'], group, `share of ${label}`, effect.amount.share, 'share', sign)];
  return curveNumbers([...at, 'amount', 'points'], label, effect.amount.points);
}

function effectNumbers(level: Level, effect: Effect, at: Path, inside: boolean): LevelNumber[] {
  const group = 'what it does';
  const one = (field: string, label: string, value: number, quantity: QuantityName): LevelNumber =>
    numberAt([...at, field], group, label, value, quantity);
  switch (effect.type) {
    case 'meter':
      return meterNumbers(level, effect, at, inside);
    case 'item':
      return [one('count', level.items[effect.item]?.name ?? effect.item, effect.count, 'change')];
    case 'lives':
      return [one('count', 'lives', effect.count, 'change')];
    case 'movement':
      return [
        one('value', `${effect.of} ${effect.change}`, effect.value, 'factor'),
        ...(effect.lasts.type === 'for' ? [numberAt([...at, 'lasts', 'seconds'], group, 'lasts', effect.lasts.seconds, 'duration')] : []),
      ];
    case 'launch':
      return [
        ...(typeof effect.strength === 'number'
          ? [one('strength', 'launch', effect.strength, 'strength')]
          : curveNumbers([...at, 'strength', 'points'], 'launch', effect.strength.points)),
        ...(effect.direction.type === 'fixed'
          ? [numberAt([...at, 'direction', 'degrees'], group, 'direction', effect.direction.degrees, 'direction')]
          : []),
      ];
    case 'push':
      return [one('strength', 'push', effect.strength, 'strength'), one('degrees', 'direction', effect.degrees, 'direction')];
    case 'move':
      return [one('grace', 'grace', effect.grace, 'duration'), one('lock', 'keys locked', effect.lock, 'duration')];
    case 'shield':
      return [one('seconds', 'shield', effect.seconds, 'duration')];
    case 'spawn':
      return [one('most', 'alive at most', effect.most, 'alive')];
    default:
      return [];
  }
}

function conditionNumbers(condition: Condition, at: Path): LevelNumber[] {
  const value = (label: string, quantity: QuantityName): LevelNumber[] =>
    'value' in condition ? [numberAt([...at, 'value'], 'provided', label, condition.value, quantity)] : [];
  switch (condition.type) {
    case 'meter':
      return value(`${condition.meter} ${condition.is}`, 'meterValue');
    case 'share':
      return value(`share of ${condition.meter} ${condition.is}`, 'share');
    case 'item':
      return value(`${condition.item} ${condition.is}`, 'count');
    case 'speed':
      return value(`speed ${condition.is}`, 'speed');
    case 'chance':
      return value('chance', 'share');
    case 'times used':
      return value(`times used ${condition.is}`, 'count');
    case 'time':
      return value(`session time ${condition.is}`, 'duration');
    default:
      return [];
  }
}

function ruleNumbers(level: Level, kind: Kind, base: Path): LevelNumber[] {
  return inOrder(kind.rules).flatMap(([ruleId, rule]) => {
    const at = rulePath(String(base[1]), ruleId);
    const onTag = tagRuleOf(ruleId);
    const { setOffBy, windUp, active, becomes } = rule;
    const rate = setOffBy.type === 'inside' && setOffBy.pulse === null;
    const when: LevelNumber[] =
      setOffBy.type === 'inside' && setOffBy.pulse !== null
        ? [numberAt([...at, 'setOffBy', 'pulse', 'every'], 'what it does', 'every', setOffBy.pulse.every, 'period')]
        : setOffBy.type === 'every'
          ? [numberAt([...at, 'setOffBy', 'seconds'], 'what it does', 'every', setOffBy.seconds, 'period')]
          : setOffBy.type === 'use'
            ? [numberAt([...at, 'setOffBy', 'reach'], 'reach', 'use within', setOffBy.reach, 'distance')]
            : [];
    const numbers = [
      ...when,
      ...inOrder(rule.effects).flatMap(([id, effect]) => effectNumbers(level, effect, [...at, 'effects', id], rate)),
      ...inOrder(rule.provided).flatMap(([id, condition]) => conditionNumbers(condition, [...at, 'provided', id])),
      ...(windUp === null
        ? []
        : [numberAt([...at, 'windUp', 'seconds'], 'what becomes of it', 'winds up for', windUp.seconds, 'duration')]),
      ...(active.type === 'for'
        ? [numberAt([...at, 'active', 'seconds'], 'what becomes of it', 'active for', active.seconds, 'duration')]
        : []),
      ...(becomes.type === 'rests'
        ? [numberAt([...at, 'becomes', 'seconds'], 'what becomes of it', 'rests for', becomes.seconds, 'rest')]
        : []),
      ...(rule.uses === null ? [] : [numberAt([...at, 'uses'], 'what becomes of it', 'uses', rule.uses, 'limit')]),
    ];
    if (onTag === null) return numbers;
    // Turned here, they turn for all kinds that bear the tag.
    const all = `for all with the tag ${entry(level.tagRules, onTag.tagRules)?.tag ?? ''}`;
    return numbers.map((number) => ({ ...number, group: `${number.group}, ${all}` }));
  });
}

function shapeNumbers(kind: Kind, base: Path): LevelNumber[] {
  const shapes = Object.entries(kind.shapes);
  return shapes.flatMap(([id, shape]) => {
    const at = [...base, 'shapes', id];
    const of = shapes.length > 1 ? ` of ${id}` : '';
    const rotation = shape.type === 'circle' ? [] : [numberAt([...at, 'rotation'], 'reach', `rotation${of}`, shape.rotation, 'rotation')];
    if (shape.type === 'circle') return [numberAt([...at, 'radius'], 'reach', `radius${of}`, shape.radius, 'radius')];
    if (shape.type === 'polygon') return rotation;
    return [
      numberAt([...at, 'width'], 'reach', `width${of}`, shape.width, 'side'),
      numberAt([...at, 'height'], 'reach', `height${of}`, shape.height, 'side'),
      ...rotation,
    ];
  });
}

/** What a kind does by itself: being drawn, drifting, going on and off. */
function lifeNumbers({ magnet, drift, cycle }: Kind, base: Path): LevelNumber[] {
  const pulled = (field: 'reach' | 'giveUp', label: string, value: number): LevelNumber =>
    numberAt([...base, 'magnet', field], 'drawn in', label, value, 'distance');
  return [
    ...(magnet === null ? [] : [pulled('reach', 'drawn from', magnet.reach), pulled('giveUp', 'gives up at', magnet.giveUp)]),
    ...(drift === null ? [] : [numberAt([...base, 'drift', 'speed'], 'patrol', 'drifts at', drift.speed, 'speed')]),
    ...(cycle === null
      ? []
      : [
          numberAt([...base, 'cycle', 'on'], 'cycle', 'on for', cycle.on, 'period'),
          numberAt([...base, 'cycle', 'off'], 'cycle', 'off for', cycle.off, 'period'),
        ]),
  ];
}

/** The kind of an owner: of things with own values, the kind as the first of them has it. */
function kindOfOwner(level: Level, { kind, placements: [first] }: Owner): Kind | undefined {
  return first === undefined ? kindOf(level, kind) : kindOfPlacement(level, first);
}

/** The numbers of a kind, or of things with own values, that it is mainly tuned by; in the order they are shown. */
export function mainNumbers(level: Level, owner: Owner): LevelNumber[] {
  const kind = kindOfOwner(level, owner);
  if (kind === undefined) return [];
  const base = ['kinds', owner.kind];
  return [...ruleNumbers(level, kind, base), ...lifeNumbers(kind, base), ...shapeNumbers(kind, base)];
}

/** Words for a number that has no name of its own: the fields on the way to it. */
function wayWords(within: readonly string[]): string {
  const words = within.flatMap((name, index) => {
    const before = within[index - 1];
    if (before === 'rules' || before === 'effects' || before === 'provided' || before === 'shapes') return [];
    if (['rules', 'effects', 'provided', 'amount'].includes(name)) return [];
    if (name === 'shapes') return ['shape'];
    return [/^\d+$/.test(name) ? String(Number(name) + 1) : name.replaceAll(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`)];
  });
  return words.join(' ');
}

/** Every number below a field that is not a mere order, with the way to it. */
function leaves(field: Field | null, value: unknown, way: readonly string[]): [readonly string[], Quantity, number][] {
  if (field === null || value === null || value === undefined) return [];
  const number = field.type === 'maybe' ? field.of : field;
  if (number.type === 'number' && typeof value === 'number') {
    return number.quantity === quantities.order ? [] : [[way, number.quantity, value]];
  }
  if (field.type === 'either' && typeof value === 'number') {
    return field.options.flatMap((option) => (option.type === 'number' ? leaves(option, value, way) : []));
  }
  if (typeof value !== 'object') return [];
  const entries = Object.entries(value);
  const sorted = Array.isArray(value) ? entries : inOrder(Object.fromEntries(entries.map(([name, one]) => [name, orderOf(one)])));
  return sorted.flatMap(([name]) => {
    const one = (value as Record<string, unknown>)[name];
    return leaves(fieldWithin(field, value, name), one, [...way, name]);
  });
}

function orderOf(value: unknown): { readonly order: number } {
  const order = typeof value === 'object' && value !== null && 'order' in value ? value.order : 0;
  return { order: typeof order === 'number' ? order : 0 };
}

/** Every number of a kind, or of things with own values: the main ones first. */
export function allNumbers(level: Level, owner: Owner): LevelNumber[] {
  const kind = kindOfOwner(level, owner);
  const fields = levelFields();
  const kinds = fields.type === 'group' ? entry(fields.fields, 'kinds') : undefined;
  if (kind === undefined || kinds?.type !== 'map') return [];
  const main = mainNumbers(level, owner);
  const named = new Set(main.map(({ path }) => path));
  const rest = leaves(kinds.of, kind, []).flatMap(([way, range, value]) => {
    const [part, id = '', ...within] = way;
    const path = pointer(part === 'rules' ? [...rulePath(owner.kind, id), ...within] : ['kinds', owner.kind, ...way]);
    return named.has(path) ? [] : [{ path, group: 'more', label: wayWords(way), sign: '', value, range }];
  });
  return [...main, ...rest];
}

/** Where a value known by a pointer into a kind is kept. */
export function keptAt(level: Level, owner: Owner, path: string): readonly string[] {
  const base = pointer(['kinds', owner.kind]);
  return path.startsWith(`${base}/`) ? pathsOf(level, owner, path.slice(base.length)) : [path];
}

/** Where a rule of a kind sits that sits on a tag: its id has two parts then. Null for a rule of the kind's own. */
export function tagRuleOf(ruleId: string): { readonly tagRules: string; readonly rule: string } | null {
  const [tagRules = '', rule] = ruleId.split(':');
  return rule === undefined ? null : { tagRules, rule };
}

/** The pointer a rule of a kind is known by. */
export function rulePath(kindId: string, ruleId: string): Path {
  const onTag = tagRuleOf(ruleId);
  return onTag === null ? ['kinds', kindId, 'rules', ruleId] : ['tagRules', onTag.tagRules, 'rules', onTag.rule];
}

/** The numbers of a persona, in the order in which they are shown. */
export function personaNumbers(level: Level, id: string): LevelNumber[] {
  const persona = entry(level.personas, id);
  if (persona === undefined) return [];
  const one = (group: string, field: keyof Persona, label: string, quantity: QuantityName): LevelNumber =>
    numberAt(['personas', id, field], group, label, persona[field] as number, quantity);
  return [
    one('what it is after', 'caution', 'detour for a lost health', 'detourFor'),
    one('what it is after', 'greed', 'detour for a point', 'detourFor'),
    one('what it is after', 'healsBelow', 'heals below', 'share'),
    one('what it is after', 'patience', 'patience', 'duration'),
    one('what it is after', 'curiosity', 'curiosity', 'detour'),
    one('how it goes', 'haste', 'haste', 'share'),
    one('how it goes', 'reaction', 'reaction', 'reaction'),
    one('how it goes', 'reactionSpread', 'spread of reactions', 'reaction'),
    one('how it goes', 'aimError', 'aim error', 'aimError'),
    one('how it goes', 'timingError', 'timing error', 'timingError'),
    one('what it knows', 'sight', 'sight', 'sight'),
    one('what it knows', 'memory', 'memory', 'memory'),
    one('what it knows', 'decisions', 'decisions', 'decisions'),
    one('gives up', 'givesUpDeaths', 'after deaths', 'limit'),
    one('gives up', 'givesUpSeconds', 'after getting nowhere for', 'duration'),
  ];
}
