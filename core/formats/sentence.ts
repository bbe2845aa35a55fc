import { entry, inOrder, kindOf, type Condition, type Destination, type Effect, type Level, type Rule } from '../level/index.ts';
import { plainNumber } from './words.ts';

/** A stretch of a sentence; one with a path is a number that leads to its dial, one with a phrase a part of the rule to be chosen anew. */
export interface Part {
  readonly text: string;
  readonly path?: string;
  /** JSON Pointer of the part of the rule it speaks of. */
  readonly phrase?: string;
}

const says = (text: string): Part => ({ text });
const phrase = (path: string, ...parts: readonly Part[]): Part[] => parts.map((part) => ({ ...part, phrase: path }));
const number = (value: number, path: string, unit = '', sign = ''): Part => ({ text: sign + plainNumber(value) + unit, path });

function list(parts: readonly Part[][], between: string): Part[] {
  return parts.flatMap((part, index) => (index === 0 ? part : [says(between), ...part]));
}

const MOVEMENT_NAMES = { speed: 'walk speed', jump: 'jump speed', gravity: 'gravity', acceleration: 'acceleration', control: 'control' };

function whoWords({ any, none }: Rule['who']): string {
  const wanted = any.length === 0 ? 'anyone' : any.map((tag) => `a ${tag}`).join(' or ');
  return none.length === 0 ? wanted : `${wanted} that is no ${none.join(' or ')}`;
}

/** Writes sentences about one level. */
function writer(level: Level) {
  const meter = (id: string): string => entry(level.meters, id)?.name ?? id;
  const item = (id: string): string => entry(level.items, id)?.name ?? id;
  const point = (id: string): string => entry(level.points, id)?.name ?? id;
  const kind = (id: string): string => kindOf(level, id)?.name ?? id;

  const condition = (one: Condition, path: string): Part[] => {
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
  };

  const destination = (to: Destination): string => {
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
        return `one of ${Object.keys(to.points).map(point).join(', ')}`;
      case 'clear':
        return 'a random clear place';
    }
  };

  const amount = (one: Extract<Effect, { type: 'meter' }>, path: string): Part[] => {
    const sign = one.change === 'add' ? '+' : one.change === 'take' ? '−' : '= ';
    if (one.change === 'fill') return [says('filled')];
    if (typeof one.amount === 'number') return [number(one.amount, `${path}/amount`, '', sign)];
    if ('share' in one.amount) return [number(one.amount.share, `${path}/amount/share`, '', sign), says(' of its limit')];
    return [says(`${sign}by a curve of ${one.amount.by}`)];
  };

  const strength = (value: Extract<Effect, { type: 'launch' }>['strength'], path: string): Part[] =>
    typeof value === 'number' ? [number(value, `${path}/strength`, ' u/s')] : [says(`a speed by a curve of ${value.by}`)];

  const effect = (one: Effect, rate: boolean, path: string): Part[] => {
    switch (one.type) {
      case 'meter':
        return [says(`${meter(one.meter)} `), ...amount(one, path), ...(rate ? [says(' a second')] : [])];
      case 'item':
        return [says(one.count < 0 ? 'takes ' : 'gives '), number(Math.abs(one.count), `${path}/count`), says(` ${item(one.item)}`)];
      case 'movement': {
        const sign = one.change === 'multiply' ? '×' : one.change === 'add' ? '+' : '= ';
        const lasts: Part[] =
          one.lasts.type === 'for'
            ? [says(' for '), number(one.lasts.seconds, `${path}/lasts/seconds`, ' s')]
            : [says(one.lasts.type === 'while' ? ' for as long as this lasts' : ' until death')];
        return [says(`${MOVEMENT_NAMES[one.of]} `), number(one.value, `${path}/value`, '', sign), ...lasts];
      }
      case 'launch': {
        const way = { fixed: 'at a fixed angle', away: 'away from its centre', along: 'along the way one goes' }[one.direction.type];
        return [says(`launches ${way} with `), ...strength(one.strength, path)];
      }
      case 'push':
        return [says('pushes with '), number(one.strength, `${path}/strength`, one.as === 'velocity' ? ' u/s' : ' u/s²')];
      case 'move':
        return [says(`puts one at ${destination(one.to)}`)];
      case 'kill':
        return [says(one.returnTo === null ? 'kills' : `kills, and one comes back at ${destination(one.returnTo)}`)];
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
        return [says(`flourish ${entry(level.flourishes, one.flourish)?.name ?? one.flourish}`)];
      case 'spawn': {
        const place = one.at.type === 'here' ? 'here' : destination(one.at);
        return [says(`${Object.keys(one.pool).map(kind).join(' or ')} appears at ${place}, at most `), number(one.most, `${path}/most`)];
      }
    }
  };

  const judged = (rule: Pick<Rule, 'provided' | 'needs' | 'effects'>, rate: boolean, at: string): Part[] => {
    const conditions = inOrder(rule.provided).map(([id, one]) => phrase(`${at}/provided/${id}`, ...condition(one, `${at}/provided/${id}`)));
    const effects = inOrder(rule.effects).map(([id, one]) => phrase(`${at}/effects/${id}`, ...effect(one, rate, `${at}/effects/${id}`)));
    return [
      ...(conditions.length === 0 ? [] : [says(', provided '), ...list(conditions, rule.needs === 'any' ? ' or ' : ' and ')]),
      says(': '),
      ...(effects.length === 0 ? [says('nothing')] : list(effects, ', ')),
      says('.'),
    ];
  };
  return { judged, condition };
}

function opening(rule: Rule, at: string): Part[] {
  const who = phrase(`${at}/who`, says(whoWords(rule.who)));
  const by = (...parts: readonly Part[]): Part[] => phrase(`${at}/setOffBy`, ...parts);
  const side = rule.side.length === 0 ? [] : phrase(`${at}/side`, says(` from the ${rule.side.join(' or ')}`));
  const { setOffBy } = rule;
  switch (setOffBy.type) {
    case 'arriving':
      return [...by(says('Set off when ')), ...who, ...by(says(' arrives')), ...side];
    case 'inside':
      return [
        ...by(says('While ')),
        ...who,
        ...by(
          says(' is inside'),
          ...(setOffBy.pulse === null ? [] : [says(', every '), number(setOffBy.pulse.every, `${at}/setOffBy/pulse/every`, ' s')]),
        ),
      ];
    case 'leaving':
      return [...by(says('Set off when ')), ...who, ...by(says(' leaves'))];
    case 'use':
      return [...by(says('Used by ')), ...who, ...by(says(' within '), number(setOffBy.reach, `${at}/setOffBy/reach`, ' u'))];
    case 'notice':
      return by(says(`Set off by the notice ${setOffBy.notice}`));
    case 'start':
      return by(says('Set off when the session starts'));
    case 'every':
      return by(says('Set off every '), number(setOffBy.seconds, `${at}/setOffBy/seconds`, ' s'));
  }
}

function closing(rule: Rule, name: string, at: string): Part[] {
  const forWhom = { placement: ', for everyone', player: ', for that player', kind: `, and every ${name} with it` }[rule.scope];
  const worn =
    rule.uses === null ? [] : phrase(`${at}/uses`, says(' It is worn out after '), number(rule.uses, `${at}/uses`), says(' uses.'));
  const then = (...parts: readonly Part[]): Part[] => phrase(`${at}/becomes`, ...parts);
  const scope = phrase(`${at}/scope`, says(forWhom));
  switch (rule.becomes.type) {
    case 'rests':
      return [
        ...then(says(` Then the ${name} rests for `), number(rule.becomes.seconds, `${at}/becomes/seconds`, ' s')),
        ...scope,
        says('.'),
        ...worn,
      ];
    case 'spent':
      return [...then(says(` Then the ${name} is gone for good`)), ...(rule.scope === 'placement' ? [] : scope), says('.')];
    case 'moves':
      return [...then(says(` Then the ${name} moves to a random clear place.`)), ...worn];
    case 'off':
      return then(says(` Then the ${name} is switched off.`));
    case 'ready':
      return then(says(` Then the ${name} is switched on.`));
    case 'stays':
      return [...then(says(` The ${name} stays as it is.`)), ...worn];
  }
}

/** What a rule of a kind does, in words: its numbers lead to their dials under `at`, a pointer to the rule. */
export function ruleSentence(level: Level, name: string, rule: Rule, at: string): Part[] {
  const windUp =
    rule.windUp === null
      ? []
      : phrase(`${at}/windUp`, says(' It winds up for '), number(rule.windUp.seconds, `${at}/windUp/seconds`, ' s'), says(' first.'));
  const rate = rule.setOffBy.type === 'inside' && rule.setOffBy.pulse === null;
  return [...opening(rule, at), ...writer(level).judged(rule, rate, at), ...windUp, ...closing(rule, name, at)];
}

/** A condition as it is said when it holds: `health is below its limit`. */
export function conditionWords(level: Level, condition: Condition): string {
  return writer(level)
    .condition(condition, '')
    .map(({ text }) => text)
    .join('');
}
