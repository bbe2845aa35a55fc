import { MOVEMENT_NAMES } from './movementNames.ts';
import {
  entry,
  inOrder,
  kindOf,
  type Condition,
  type Curve,
  type Destination,
  type Effect,
  type Level,
  type Rule,
} from '../level/index.ts';
import { pairText, plainNumber } from './numerals.ts';

/** A stretch of a sentence; one with a path is a number that leads to its dial, one with a phrase a part of the rule to be chosen anew. */
export interface Part {
  readonly text: string;
  readonly path?: string;
  /** JSON Pointer of the part of the rule it speaks of. */
  readonly phrase?: string;
}

export const says = (text: string): Part => ({ text });
export const phrase = (path: string, ...parts: readonly Part[]): Part[] =>
  parts.filter(({ text }) => text !== '').map((part) => ({ ...part, phrase: path }));
export const number = (value: number, path: string, unit = '', sign = ''): Part => ({ text: sign + plainNumber(value) + unit, path });

function list(parts: readonly Part[][], between: string): Part[] {
  return parts.flatMap((part, index) => (index === 0 ? part : [says(between), ...part]));
}

/** Whom a rule listens to, by tags. */
export function whoWords({ any, none }: Rule['who']): string {
  const wanted = any.length === 0 ? 'anyone' : any.map((tag) => `a ${tag}`).join(' or ');
  return none.length === 0 ? wanted : `${wanted} that is no ${none.join(' or ')}`;
}

/** A place found at random, and what it is clear of. */
export function clearWords({ distance, margin }: { readonly distance: number; readonly margin: number }): string {
  return `a random place, ${plainNumber(distance)} u clear of players and ${plainNumber(margin)} u of all else`;
}

/** Names to choose from by chance; where one is likelier than another, how likely. */
function weighted(pool: Readonly<Record<string, number>>, name: (id: string) => string): string {
  const entries = Object.entries(pool);
  const total = entries.reduce((sum, [, weight]) => sum + weight, 0);
  const even = entries.every(([, weight]) => weight === entries[0]?.[1]);
  return entries.map(([id, weight]) => name(id) + (even ? '' : ` (${plainNumber((weight / total) * 100, 0)} %)`)).join(' or ');
}

const AGAIN = {
  ignore: 'not again while it lasts',
  refresh: 'from anew if it comes again',
  extend: 'longer if it comes again',
};

type MovementChange = Extract<Effect, { type: 'movement' }>;

function againWords({ lasts, again, most }: MovementChange): string {
  if (again === 'refresh' && lasts.type !== 'for') return '';
  return again === 'stack' ? ` (up to ${String(most)} at once)` : ` (${AGAIN[again]})`;
}

function curveWords({ by, from }: Curve): string {
  const point = by === 'distance' && from !== null ? ` from ${pairText(from.x, from.y)} of it` : '';
  return `by a curve of ${by}${point}`;
}

/** How one is put somewhere, where it is not simply at rest there. */
function flightWords({ velocity, dropHeight, grace, lock }: Extract<Effect, { type: 'move' }>): string {
  return [
    velocity === 'kept' ? ', its speed kept' : '',
    dropHeight === 0 ? '' : `, ${plainNumber(dropHeight)} u higher`,
    grace === 0 ? '' : `, unharmed for ${plainNumber(grace)} s`,
    lock === 0 ? '' : `, without keys for ${plainNumber(lock)} s`,
  ].join('');
}

/** What things of a level are called. */
function namesOf(level: Level) {
  return {
    meter: (id: string): string => entry(level.meters, id)?.name ?? id,
    item: (id: string): string => entry(level.items, id)?.name ?? id,
    point: (id: string): string => entry(level.points, id)?.name ?? id,
    kind: (id: string): string => kindOf(level, id)?.name ?? id,
    flourish: (id: string): string => entry(level.flourishes, id)?.name ?? id,
  };
}
type Names = ReturnType<typeof namesOf>;

function conditionParts({ meter, item }: Names, one: Condition, path: string): Part[] {
  const value = `${path}/value`;
  switch (one.type) {
    case 'below limit':
      return [says(`${meter(one.meter)} is below its limit`)];
    case 'meter':
      return [says(`${meter(one.meter)} is ${one.is} `), number(one.value, value)];
    case 'share':
      return [says(`${meter(one.meter)} is ${one.is} `), number(one.value, value), says(' of its limit')];
    case 'item':
      return [says(`${one.is} `), number(one.value, value), says(` ${item(one.item)} carried`)];
    case 'held':
      return [says(`${item(one.item)} is held`)];
    case 'movement':
      return [says(`${MOVEMENT_NAMES[one.of]} is ${one.present ? '' : 'not '}changed`)];
    case 'speed':
      return [says(`speed is ${one.is} `), number(one.value, value, ' u/s')];
    case 'ground':
      return [says('on the ground')];
    case 'chance':
      return [says('by a chance of '), number(one.value, value)];
    case 'times used':
      return [says(`it has acted ${one.is} `), number(one.value, value), says(' times')];
    case 'time':
      return [says(`session time is ${one.is} `), number(one.value, value, ' s')];
    case 'notice':
      return [says(`${one.notice} has ${one.posted ? '' : 'not '}been posted`)];
  }
}

function destinationWords({ point }: Names, to: Destination): string {
  switch (to.type) {
    case 'start':
      return 'the start';
    case 'checkpoint':
      return 'the last checkpoint';
    case 'point':
      return point(to.point);
    case 'nearest':
      return `the nearest of ${to.points.map(point).join(', ')}`;
    case 'weighted':
      return `one of ${weighted(to.points, point)}`;
    case 'clear':
      return clearWords(to);
  }
}

function amountParts(one: Extract<Effect, { type: 'meter' }>, path: string): Part[] {
  const sign = one.change === 'add' ? '+' : one.change === 'take' ? '−' : '= ';
  if (one.change === 'fill') return [says('filled')];
  if (typeof one.amount === 'number') return [number(one.amount, `${path}/amount`, '', sign)];
  if ('share' in one.amount) return [number(one.amount.share, `${path}/amount/share`, '', sign), says(' of its limit')];
  return [says(`${sign}${curveWords(one.amount)}`)];
}

const strengthParts = (value: Extract<Effect, { type: 'launch' }>['strength'], path: string): Part[] =>
  typeof value === 'number' ? [number(value, `${path}/strength`, ' u/s')] : [says(`a speed ${curveWords(value)}`)];

function effectParts(names: Names, one: Effect, rate: boolean, path: string): Part[] {
  const { meter, item, point, kind, flourish } = names;
  switch (one.type) {
    case 'meter':
      return [
        says(`${meter(one.meter)} `),
        ...amountParts(one, path),
        ...(rate ? [says(' a second')] : []),
        ...(one.blockable ? [] : [says(' even when shielded')]),
      ];
    case 'item':
      return [
        says(one.count < 0 ? 'takes ' : 'gives '),
        number(Math.abs(one.count), `${path}/count`),
        says(` ${item(one.item)}${one.hold ? ', held at once' : ''}${one.atLimit === 'refuse' ? ', or is refused at the limit' : ''}`),
      ];
    case 'movement': {
      const sign = one.change === 'multiply' ? '×' : one.change === 'add' ? '+' : '= ';
      const lasts: Part[] =
        one.lasts.type === 'for'
          ? [says(' for '), number(one.lasts.seconds, `${path}/lasts/seconds`, ' s')]
          : [says(one.lasts.type === 'while' ? ' for as long as this lasts' : ' until death')];
      return [says(`${MOVEMENT_NAMES[one.of]} `), number(one.value, `${path}/value`, '', sign), ...lasts, says(againWords(one))];
    }
    case 'launch': {
      const way: Part[] =
        one.direction.type === 'fixed'
          ? [says('at '), number(one.direction.degrees, `${path}/direction/degrees`, '°')]
          : [says(one.direction.type === 'away' ? 'away from its centre' : 'along the way one goes')];
      const added = one.change === 'add' ? ' more than one has' : '';
      return [says('launches '), ...way, says(' with '), ...strengthParts(one.strength, path), says(added)];
    }
    case 'push':
      return [
        says('pushes at '),
        number(one.degrees, `${path}/degrees`, '°'),
        says(' with '),
        number(one.strength, `${path}/strength`, one.as === 'velocity' ? ' u/s' : ' u/s²'),
      ];
    case 'move':
      return [says(`puts one at ${destinationWords(names, one.to)}${flightWords(one)}`)];
    case 'kill':
      return [
        says(
          `kills${one.blockable ? ' whoever is not shielded' : ''}${one.returnTo === null ? '' : `, and one comes back at ${destinationWords(names, one.returnTo)}`}`,
        ),
      ];
    case 'checkpoint':
      return [says(`sets the checkpoint ${one.point === null ? 'here' : `at ${point(one.point)}`}`)];
    case 'lives':
      return [says('lives '), number(one.count, `${path}/count`, '', one.count > 0 ? '+' : '')];
    case 'shield':
      return [says('shields for '), number(one.seconds, `${path}/seconds`, ' s')];
    case 'notice':
      return [says(`posts ${one.notice}`)];
    case 'end':
      return [says(`the session is ${one.how}`)];
    case 'flourish':
      return [says(`flourish ${flourish(one.flourish)}`)];
    case 'spawn': {
      const place = one.at.type === 'here' ? 'here' : `at ${destinationWords(names, one.at)}`;
      return [says(`${weighted(one.pool, kind)} appears ${place}, at most `), number(one.most, `${path}/most`), says(' at a time')];
    }
  }
}

/** Writes the conditions and effects of one level. */
export function writer(level: Level) {
  const names = namesOf(level);
  const judged = (rule: Pick<Rule, 'provided' | 'needs' | 'effects'>, rate: boolean, at: string): Part[] => {
    const conditions = inOrder(rule.provided).map(([id, one]) =>
      phrase(`${at}/provided/${id}`, ...conditionParts(names, one, `${at}/provided/${id}`)),
    );
    const effects = inOrder(rule.effects).map(([id, one]) =>
      phrase(`${at}/effects/${id}`, ...effectParts(names, one, rate, `${at}/effects/${id}`)),
    );
    return [
      ...(conditions.length === 0 ? [] : [says(', provided '), ...list(conditions, rule.needs === 'any' ? ' or ' : ' and ')]),
      says(': '),
      ...(effects.length === 0 ? [says('nothing')] : list(effects, ', ')),
      says('.'),
    ];
  };
  return { judged, condition: (one: Condition, path: string): Part[] => conditionParts(names, one, path) };
}
