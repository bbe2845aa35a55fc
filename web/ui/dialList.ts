import { plainNumber } from '@dial/core/formats';
import {
  entry,
  inOrder,
  kindOf,
  pointer,
  type Condition,
  type Effect,
  type Kind,
  type Level,
  type Points,
  type QuantityName,
} from '@dial/core/level';
import { rangeOf, type DialRange } from './quantity.ts';

/** One number of the level that can be turned: where it is and how it is called. */
export interface DialSpec {
  /** JSON Pointer into the level. */
  readonly path: string;
  readonly group: string;
  readonly label: string;
  readonly sign: string;
  readonly value: number;
  readonly range: DialRange;
}

type Path = readonly PropertyKey[];

const signs: Readonly<Record<Extract<Effect, { type: 'meter' }>['change'], string>> = { add: '+', take: '−', set: '', fill: '' };

function dial(path: Path, group: string, label: string, value: number, quantity: QuantityName, sign = ''): DialSpec {
  return { path: pointer(path), group, label, sign, value, range: rangeOf(quantity) };
}

/** The amount a meter's values are of: wide meters get wide rulers. */
function amountRange(level: Level, meterId: string, inside: boolean): DialRange {
  const base = rangeOf(inside ? 'ratePerSecond' : 'amount');
  const meter = level.meters[meterId];
  const span = meter?.upper == null ? 0 : meter.upper - meter.lower;
  return { ...base, unit: inside ? '/s' : base.unit, high: span > 0 ? span : base.high };
}

/** The points of a curve, each value a dial. */
function curveDials(at: Path, label: string, points: Points): DialSpec[] {
  return points.map(([where, value], index) =>
    dial([...at, index, 1], 'what it does', `${label} at ${plainNumber(where)}`, value, 'curveValue'),
  );
}

function meterDials(level: Level, effect: Extract<Effect, { type: 'meter' }>, at: Path, inside: boolean): DialSpec[] {
  const label = level.meters[effect.meter]?.name ?? effect.meter;
  const group = 'what it does';
  const sign = signs[effect.change];
  if (effect.change === 'fill') return [];
  if (typeof effect.amount === 'number') {
    return [
      { path: pointer([...at, 'amount']), group, label, sign, value: effect.amount, range: amountRange(level, effect.meter, inside) },
    ];
  }
  if ('share' in effect.amount) return [dial([...at, 'amount', 'share'], group, `share of ${label}`, effect.amount.share, 'share', sign)];
  return curveDials([...at, 'amount', 'points'], label, effect.amount.points);
}

function effectDials(level: Level, effect: Effect, at: Path, inside: boolean): DialSpec[] {
  const group = 'what it does';
  const one = (field: string, label: string, value: number, quantity: QuantityName): DialSpec =>
    dial([...at, field], group, label, value, quantity);
  switch (effect.type) {
    case 'meter':
      return meterDials(level, effect, at, inside);
    case 'item':
      return [one('count', level.items[effect.item]?.name ?? effect.item, effect.count, 'change')];
    case 'lives':
      return [one('count', 'lives', effect.count, 'change')];
    case 'movement':
      return [
        one('value', `${effect.of} ${effect.change}`, effect.value, 'factor'),
        ...(effect.lasts.type === 'for' ? [dial([...at, 'lasts', 'seconds'], group, 'lasts', effect.lasts.seconds, 'duration')] : []),
      ];
    case 'launch':
      return [
        ...(typeof effect.strength === 'number'
          ? [one('strength', 'launch', effect.strength, 'strength')]
          : curveDials([...at, 'strength', 'points'], 'launch', effect.strength.points)),
        ...(effect.direction.type === 'fixed'
          ? [dial([...at, 'direction', 'degrees'], group, 'direction', effect.direction.degrees, 'direction')]
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

function conditionDials(condition: Condition, at: Path): DialSpec[] {
  const value = (label: string, quantity: QuantityName): DialSpec[] =>
    'value' in condition ? [dial([...at, 'value'], 'provided', label, condition.value, quantity)] : [];
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

function ruleDials(level: Level, kind: Kind, base: Path): DialSpec[] {
  return inOrder(kind.rules).flatMap(([ruleId, rule]) => {
    const at = [...base, 'rules', ruleId];
    const { setOffBy, windUp, active, becomes } = rule;
    const rate = setOffBy.type === 'inside' && setOffBy.pulse === null;
    const when: DialSpec[] =
      setOffBy.type === 'inside' && setOffBy.pulse !== null
        ? [dial([...at, 'setOffBy', 'pulse', 'every'], 'what it does', 'every', setOffBy.pulse.every, 'period')]
        : setOffBy.type === 'every'
          ? [dial([...at, 'setOffBy', 'seconds'], 'what it does', 'every', setOffBy.seconds, 'period')]
          : setOffBy.type === 'use'
            ? [dial([...at, 'setOffBy', 'reach'], 'reach', 'use within', setOffBy.reach, 'distance')]
            : [];
    return [
      ...when,
      ...inOrder(rule.effects).flatMap(([id, effect]) => effectDials(level, effect, [...at, 'effects', id], rate)),
      ...inOrder(rule.provided).flatMap(([id, condition]) => conditionDials(condition, [...at, 'provided', id])),
      ...(windUp === null ? [] : [dial([...at, 'windUp', 'seconds'], 'what becomes of it', 'winds up for', windUp.seconds, 'duration')]),
      ...(active.type === 'for'
        ? [dial([...at, 'active', 'seconds'], 'what becomes of it', 'active for', active.seconds, 'duration')]
        : []),
      ...(becomes.type === 'rests'
        ? [dial([...at, 'becomes', 'seconds'], 'what becomes of it', 'rests for', becomes.seconds, 'rest')]
        : []),
      ...(rule.uses === null ? [] : [dial([...at, 'uses'], 'what becomes of it', 'uses', rule.uses, 'limit')]),
    ];
  });
}

function shapeDials(kind: Kind, base: Path): DialSpec[] {
  const shapes = Object.entries(kind.shapes);
  return shapes.flatMap(([id, shape]) => {
    const at = [...base, 'shapes', id];
    const of = shapes.length > 1 ? ` of ${id}` : '';
    const rotation = shape.type === 'circle' ? [] : [dial([...at, 'rotation'], 'reach', `rotation${of}`, shape.rotation, 'rotation')];
    if (shape.type === 'circle') return [dial([...at, 'radius'], 'reach', `radius${of}`, shape.radius, 'radius')];
    if (shape.type === 'polygon') return rotation;
    return [
      dial([...at, 'width'], 'reach', `width${of}`, shape.width, 'side'),
      dial([...at, 'height'], 'reach', `height${of}`, shape.height, 'side'),
      ...rotation,
    ];
  });
}

/** What a kind does by itself: being drawn, drifting, going on and off. */
function lifeDials({ magnet, drift, cycle }: Kind, base: Path): DialSpec[] {
  const pulled = (field: 'reach' | 'giveUp', label: string, value: number): DialSpec =>
    dial([...base, 'magnet', field], 'drawn in', label, value, 'distance');
  return [
    ...(magnet === null ? [] : [pulled('reach', 'drawn from', magnet.reach), pulled('giveUp', 'gives up at', magnet.giveUp)]),
    ...(drift === null ? [] : [dial([...base, 'drift', 'speed'], 'patrol', 'drifts at', drift.speed, 'speed')]),
    ...(cycle === null
      ? []
      : [
          dial([...base, 'cycle', 'on'], 'cycle', 'on for', cycle.on, 'period'),
          dial([...base, 'cycle', 'off'], 'cycle', 'off for', cycle.off, 'period'),
        ]),
  ];
}

/** The paths that placements of a kind travel along. */
function pathDials(level: Level, kindId: string): DialSpec[] {
  const used = new Set(
    Object.values(level.placements).flatMap(({ kind, travel }) => (kind === kindId && travel !== null ? [travel.path] : [])),
  );
  return inOrder(level.paths).flatMap(([id, path]) =>
    used.has(id) ? [dial(['paths', id, 'speed'], 'patrol', `speed on ${path.name}`, path.speed, 'moverSpeed')] : [],
  );
}

/** In a kind based on another only what it changes is its own to turn. */
function changedDial(spec: DialSpec, id: string, changes: Readonly<Record<string, unknown>>): DialSpec[] {
  const within = spec.path.slice(pointer(['kinds', id]).length);
  return within in changes ? [{ ...spec, path: pointer(['variants', id, 'changes', within]) }] : [];
}

/** All dials of a kind, in the order they are shown. */
export function kindDials(level: Level, kindId: string): DialSpec[] {
  const kind = kindOf(level, kindId);
  if (kind === undefined) return [];
  const variant = entry(level.variants, kindId);
  const base = ['kinds', kindId];
  const own = [...ruleDials(level, kind, base), ...lifeDials(kind, base), ...shapeDials(kind, base)];
  const dials = variant === undefined ? own : own.flatMap((spec) => changedDial(spec, kindId, variant.changes));
  return [...dials, ...pathDials(level, kindId)];
}

/** Where a thing or a solid is, and how large a solid is. */
export function placeDials(
  map: 'placements' | 'solids',
  id: string,
  { x, y, width, height }: { readonly x: number; readonly y: number; readonly width?: number; readonly height?: number },
): DialSpec[] {
  const one = (field: string, label: string, value: number, quantity: QuantityName): DialSpec =>
    dial([map, id, field], 'where it is', label, value, quantity);
  return [
    one('x', 'right', x, 'coordinate'),
    one('y', 'up', y, 'coordinate'),
    ...(width === undefined ? [] : [one('width', 'width', width, 'side')]),
    ...(height === undefined ? [] : [one('height', 'height', height, 'side')]),
  ];
}

/** The dials of the player, shown while nothing is selected. */
export function playerDials(level: Level): DialSpec[] {
  const { body } = level;
  return [
    dial(['body', 'speed'], 'how the player moves', 'walk speed', body.speed, 'speed'),
    dial(['body', 'acceleration'], 'how the player moves', 'acceleration', body.acceleration, 'acceleration'),
    dial(['body', 'braking'], 'how the player moves', 'braking', body.braking, 'acceleration'),
    ...(level.view === 'top'
      ? [dial(['body', 'radius'], 'how the player moves', 'radius', body.radius, 'radius')]
      : [
          dial(['body', 'jumpSpeed'], 'how the player moves', 'jump speed', body.jumpSpeed, 'jumpSpeed'),
          dial(['body', 'gravity'], 'how the player moves', 'gravity', body.gravity, 'gravity'),
          dial(['body', 'airControl'], 'how the player moves', 'air control', body.airControl, 'airControl'),
          dial(['body', 'lateJump'], 'how the player moves', 'late jump', body.lateJump, 'lateJump'),
          dial(['body', 'fallLimit'], 'how the player moves', 'fall limit', body.fallLimit, 'fallLimit'),
        ]),
    dial(['start', 'x'], 'starts at', 'right', level.start.x, 'coordinate'),
    dial(['start', 'y'], 'starts at', 'up', level.start.y, 'coordinate'),
    ...inOrder(level.meters).map(([id, meter]) => dial(['meters', id, 'start'], 'starts with', meter.name, meter.start, 'meterValue')),
  ];
}
