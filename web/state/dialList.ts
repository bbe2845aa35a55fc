import { plainNumber } from '@dial/core/formats';
import {
  inOrder,
  kindOf,
  kindOfPlacement,
  pointer,
  quantities,
  segmentsOf,
  type Condition,
  type Effect,
  type Kind,
  type Level,
  type Points,
  type Quantity,
  type QuantityName,
} from '@dial/core/level';
import { pathsOf, type Owner } from './values.ts';

type DialRange = Pick<Quantity, 'unit' | 'min' | 'max' | 'low' | 'high' | 'step'>;

/** One number of the level that can be turned: where it is and how it is called. */
export interface DialSpec {
  /** What it is known by: a JSON Pointer, into the kind where it is of a kind, wherever it is kept. */
  readonly path: string;
  /** JSON Pointers into the level: where it is kept, in one place or in several at once. */
  readonly paths: readonly string[];
  readonly group: string;
  readonly label: string;
  readonly sign: string;
  readonly value: number;
  readonly range: DialRange;
}

type Path = readonly PropertyKey[];

const signs: Readonly<Record<Extract<Effect, { type: 'meter' }>['change'], string>> = { add: '+', take: '−', set: '', fill: '' };

function dial(path: Path, group: string, label: string, value: number, quantity: QuantityName, sign = ''): DialSpec {
  return { path: pointer(path), paths: [pointer(path)], group, label, sign, value, range: quantities[quantity] };
}

/** The amount a meter's values are of: wide meters get wide rulers. */
function amountRange(level: Level, meterId: string, inside: boolean): DialRange {
  const base = quantities[inside ? 'ratePerSecond' : 'amount'];
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
    return [{ ...dial([...at, 'amount'], group, label, effect.amount, 'amount', sign), range: amountRange(level, effect.meter, inside) }];
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
    const at = rulePath(String(base[1]), ruleId);
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

/** All dials of a kind, or of things with own values, in the order they are shown. */
export function kindDials(level: Level, owner: Owner): DialSpec[] {
  const [first] = owner.placements;
  const kind = first === undefined ? kindOf(level, owner.kind) : kindOfPlacement(level, first);
  if (kind === undefined) return [];
  const base = ['kinds', owner.kind];
  const specs = [...ruleDials(level, kind, base), ...lifeDials(kind, base), ...shapeDials(kind, base)];
  return [...specs.map((spec) => ({ ...spec, paths: keptAt(level, owner, spec.path) })), ...pathDials(level, owner.kind)];
}

/** Where a value known by a pointer into a kind is kept. */
export function keptAt(level: Level, owner: Owner, path: string): readonly string[] {
  const base = pointer(['kinds', owner.kind]);
  return path.startsWith(`${base}/`) ? pathsOf(level, owner, path.slice(base.length)) : [path];
}

/** The pointer a rule of a kind is known by; rules that sit on a tag have an id of two parts. */
export function rulePath(kindId: string, ruleId: string): Path {
  const [tag = '', rule] = ruleId.split(':');
  return rule === undefined ? ['kinds', kindId, 'rules', ruleId] : ['tagRules', tag, 'rules', rule];
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

/** Where a spot is; of a way-point the pause too, and the speed of its path. */
export function spotDials(
  level: Level,
  spot: string,
  { x, y, pause }: { readonly x: number; readonly y: number; readonly pause?: number },
): DialSpec[] {
  const at = segmentsOf(spot);
  const path = at[0] === 'paths' ? level.paths[at[1] ?? ''] : undefined;
  return [
    dial([...at, 'x'], 'where it is', 'right', x, 'coordinate'),
    dial([...at, 'y'], 'where it is', 'up', y, 'coordinate'),
    ...(pause === undefined ? [] : [dial([...at, 'pause'], 'on the way', 'pause here', pause, 'pause')]),
    ...(path === undefined ? [] : [dial([...at.slice(0, 2), 'speed'], 'on the way', 'speed', path.speed, 'moverSpeed')]),
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
