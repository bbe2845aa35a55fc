import type { Condition, ItemRule, Level, Rule } from '../level/index.ts';
import { clearWords, number, phrase, says, whoWords, writer, type Part } from './phrases.ts';
import { pairText, plainNumber } from './numerals.ts';

export type { Part };

/** What sets a rule off, where it is no touch, and on whose behalf: whoever is the cause of it must be let in by the filter too. */
function untouched(setOffBy: Rule['setOffBy'], at: string): Part[] | null {
  switch (setOffBy.type) {
    case 'notice':
      return [says(`Set off by the notice ${setOffBy.notice}, brought about by `)];
    case 'start':
      return [says('Set off when the session starts')];
    case 'every':
      return [says('Set off every '), number(setOffBy.seconds, `${at}/setOffBy/seconds`, ' s')];
    default:
      return null;
  }
}

function opening(rule: Rule, at: string): Part[] {
  const who = phrase(`${at}/who`, says(whoWords(rule.who)));
  const by = (...parts: readonly Part[]): Part[] => phrase(`${at}/setOffBy`, ...parts);
  const side = rule.side.length === 0 ? [] : phrase(`${at}/side`, says(` from the ${rule.side.join(' or ')}`));
  const shape = rule.touching === null ? [] : phrase(`${at}/touching`, says(` its ${rule.touching}`));
  const retried = rule.keepTrying ? phrase(`${at}/keepTrying`, says(', again and again until it can')) : [];
  const { setOffBy } = rule;
  const waiting = untouched(setOffBy, at);
  if (waiting !== null) return [...by(...waiting), ...(setOffBy.type === 'notice' ? who : [])];
  if (setOffBy.type === 'inside') {
    const { pulse } = setOffBy;
    const every: Part[] =
      pulse === null
        ? []
        : [
            says(', every '),
            number(pulse.every, `${at}/setOffBy/pulse/every`, ' s'),
            says(pulse.first === 'after' ? ', not before the first is over' : ', at once and from then on'),
          ];
    return [...by(says('While ')), ...who, ...by(says(' is inside')), ...shape, ...side, ...by(...every), ...retried];
  }
  if (setOffBy.type === 'use') {
    return [...by(says('Used by ')), ...who, ...by(says(' within '), number(setOffBy.reach, `${at}/setOffBy/reach`, ' u')), ...side];
  }
  const does = setOffBy.type === 'leaving' ? ' leaves' : rule.touching === null ? ' arrives' : ' comes to';
  return [...by(says('Set off when ')), ...who, ...by(says(does)), ...shape, ...side, ...retried];
}

/** Between being set off and acting, how long it then acts, and on whom. */
function course({ windUp, active, hits }: Rule, at: string): Part[] {
  const all = hits === 'toucher' ? [] : phrase(`${at}/hits`, says(' It hits all who are inside.'));
  const wound: Part[] = [];
  if (windUp !== null) {
    const { turn } = windUp;
    wound.push(says(' It winds up for '), number(windUp.seconds, `${at}/windUp/seconds`, ' s'));
    if (turn !== null) wound.push(says(`, turning ${plainNumber(turn.degrees)}° about ${pairText(turn.x, turn.y)}`));
    wound.push(says(windUp.ifLeft === 'dropped' ? ', unless it is left.' : ' first.'));
  }
  const lasting: Part[] =
    active.type === 'instant'
      ? []
      : active.type === 'for'
        ? [says(' It stays active for '), number(active.seconds, `${at}/active/seconds`, ' s'), says('.')]
        : [says(' It stays active as long as what it changed in movement.')];
  return [...phrase(`${at}/windUp`, ...wound), ...phrase(`${at}/active`, ...lasting), ...all];
}

function closing(rule: Rule, name: string, at: string): Part[] {
  const forWhom = { placement: ', for everyone', player: ', for that player', kind: `, and every ${name} with it` }[rule.scope];
  const usesOf = { placement: '', player: ' by each player', kind: ` of any ${name}` }[rule.scope];
  const worn =
    rule.uses === null
      ? []
      : phrase(`${at}/uses`, says(' It is worn out after '), number(rule.uses, `${at}/uses`), says(` uses${usesOf}.`));
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
    case 'moves': {
      const too = rule.becomes.atStart ? ', as it does at the start' : '';
      return [...then(says(` Then the ${name} moves to ${clearWords(rule.becomes)}${too}.`)), ...worn];
    }
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
  const rate = rule.setOffBy.type === 'inside' && rule.setOffBy.pulse === null;
  return [...opening(rule, at), ...writer(level).judged(rule, rate, at), ...course(rule, at), ...closing(rule, name, at)];
}

/** What a rule of an item does, in words; `at` is a pointer to the rule. */
export function itemSentence(level: Level, name: string, rule: ItemRule, at: string): Part[] {
  const when = { carried: `While a ${name} is carried`, held: `While a ${name} is held`, use: `Used by the key while a ${name} is held` };
  const spends = rule.spends === 0 ? [] : phrase(`${at}/spends`, says(` It spends ${plainNumber(rule.spends)} ${name}.`));
  const judged = writer(level).judged(rule, rule.setOffBy !== 'use', at);
  return [...phrase(`${at}/setOffBy`, says(when[rule.setOffBy])), ...judged, ...spends];
}

/** A condition as it is said when it holds: `health is below its limit`. */
export function conditionWords(level: Level, condition: Condition): string {
  return writer(level)
    .condition(condition, '')
    .map(({ text }) => text)
    .join('');
}
