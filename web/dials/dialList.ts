import { inOrder, pointer, type Effect, type Kind, type Level, type QuantityName } from '@dial/core/level';
import { rangeOf, type DialRange } from '../ui/quantity.ts';

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

const signs: Readonly<Record<Effect['change'], string>> = { add: '+', take: '−', set: '' };

function dial(path: PropertyKey[], group: string, label: string, value: number, quantity: QuantityName, sign = ''): DialSpec {
  return { path: pointer(path), group, label, sign, value, range: rangeOf(quantity) };
}

/** The amount a meter's values are of: wide meters get wide rulers. */
function amountRange(level: Level, effect: Effect, inside: boolean): DialRange {
  const base = rangeOf(inside ? 'ratePerSecond' : 'amount');
  const meter = level.meters[effect.meter];
  const span = meter?.upper == null ? 0 : meter.upper - meter.lower;
  return { ...base, unit: inside ? '/s' : base.unit, high: span > 0 ? span : base.high };
}

function ruleDials(level: Level, kindId: string, kind: Kind): DialSpec[] {
  return inOrder(kind.rules).flatMap(([ruleId, rule]) => {
    const at = ['kinds', kindId, 'rules', ruleId];
    const inside = rule.setOffBy.type === 'inside';
    const effects = inOrder(rule.effects).map(([id, effect]): DialSpec => {
      const name = level.meters[effect.meter]?.name ?? effect.meter;
      const range = amountRange(level, effect, inside);
      return {
        path: pointer([...at, 'effects', id, 'amount']),
        group: 'what it does',
        label: name,
        sign: signs[effect.change],
        value: effect.amount,
        range,
      };
    });
    const conditions = inOrder(rule.provided).flatMap(([id, condition]) =>
      condition.type === 'meter'
        ? [dial([...at, 'provided', id, 'value'], 'provided', `${condition.meter} ${condition.is}`, condition.value, 'meterValue')]
        : [],
    );
    const becomes =
      rule.becomes.type === 'rests'
        ? [dial([...at, 'becomes', 'seconds'], 'what becomes of it', 'rests for', rule.becomes.seconds, 'rest')]
        : [];
    return [...effects, ...conditions, ...becomes];
  });
}

function shapeDials(kindId: string, kind: Kind): DialSpec[] {
  const shapes = Object.entries(kind.shapes);
  return shapes.flatMap(([id, shape]) => {
    const at = ['kinds', kindId, 'shapes', id];
    const of = shapes.length > 1 ? ` of ${id}` : '';
    return shape.type === 'circle'
      ? [dial([...at, 'radius'], 'reach', `radius${of}`, shape.radius, 'radius')]
      : [
          dial([...at, 'width'], 'reach', `width${of}`, shape.width, 'side'),
          dial([...at, 'height'], 'reach', `height${of}`, shape.height, 'side'),
          dial([...at, 'rotation'], 'reach', `rotation${of}`, shape.rotation, 'rotation'),
        ];
  });
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

/** All dials of a kind, in the order they are shown. */
export function kindDials(level: Level, kindId: string): DialSpec[] {
  const kind = level.kinds[kindId];
  return kind === undefined ? [] : [...ruleDials(level, kindId, kind), ...shapeDials(kindId, kind), ...pathDials(level, kindId)];
}

/** The dials of the player, shown while nothing is selected. */
export function playerDials(level: Level): DialSpec[] {
  const { body } = level;
  return [
    dial(['body', 'speed'], 'how the player moves', 'walk speed', body.speed, 'speed'),
    dial(['body', 'acceleration'], 'how the player moves', 'acceleration', body.acceleration, 'acceleration'),
    dial(['body', 'braking'], 'how the player moves', 'braking', body.braking, 'acceleration'),
    dial(['body', 'radius'], 'how the player moves', 'radius', body.radius, 'radius'),
    ...inOrder(level.meters).map(([id, meter]) => dial(['meters', id, 'start'], 'starts with', meter.name, meter.start, 'meterValue')),
  ];
}
