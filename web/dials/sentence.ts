import { plainNumber } from '@dial/core/formats';
import { inOrder, pointer, type Condition, type Effect, type Level, type Rule } from '@dial/core/level';

/** A stretch of a sentence; one with a path is a number that leads to its dial. */
export interface Part {
  readonly text: string;
  readonly path?: string;
}

const says = (text: string): Part => ({ text });

function list(parts: readonly Part[][], between: string): Part[] {
  return parts.flatMap((part, index) => (index === 0 ? part : [says(between), ...part]));
}

function whoWords({ any, none }: Rule['who']): string {
  const wanted = any.length === 0 ? 'anyone' : any.map((tag) => `a ${tag}`).join(' or ');
  return none.length === 0 ? wanted : `${wanted} that is no ${none.join(' or ')}`;
}

function conditionParts(level: Level, condition: Condition, path: string): Part[] {
  const name = level.meters[condition.meter]?.name ?? condition.meter;
  if (condition.type === 'below limit') return [says(`${name} is below its limit`)];
  return [says(`${name} is ${condition.is} `), { text: plainNumber(condition.value), path: `${path}/value` }];
}

function effectParts(level: Level, effect: Effect, inside: boolean, path: string): Part[] {
  const name = level.meters[effect.meter]?.name ?? effect.meter;
  const sign = effect.change === 'add' ? '+' : effect.change === 'take' ? '−' : '= ';
  return [says(`${name} `), { text: sign + plainNumber(effect.amount), path: `${path}/amount` }, ...(inside ? [says(' a second')] : [])];
}

/** What a rule does, in words: its numbers lead to their dials. */
export function ruleSentence(level: Level, kindId: string, ruleId: string, rule: Rule): Part[] {
  const at = pointer(['kinds', kindId, 'rules', ruleId]);
  const inside = rule.setOffBy.type === 'inside';
  const name = level.kinds[kindId]?.name ?? kindId;
  const opening = inside ? `While ${whoWords(rule.who)} is inside` : `Set off when ${whoWords(rule.who)} arrives`;
  const conditions = inOrder(rule.provided).map(([id, condition]) => conditionParts(level, condition, `${at}/provided/${id}`));
  const effects = inOrder(rule.effects).map(([id, effect]) => effectParts(level, effect, inside, `${at}/effects/${id}`));
  const closing: Part[] =
    rule.becomes.type === 'rests'
      ? [
          says(` Then the ${name} rests for `),
          { text: `${plainNumber(rule.becomes.seconds)} s`, path: `${at}/becomes/seconds` },
          says(', for everyone.'),
        ]
      : rule.becomes.type === 'spent'
        ? [says(` Then the ${name} is gone for good.`)]
        : [];
  return [
    says(opening),
    ...(conditions.length === 0 ? [] : [says(', provided '), ...list(conditions, ' and ')]),
    says(': '),
    ...(effects.length === 0 ? [says('nothing')] : list(effects, ', ')),
    says('.'),
    ...closing,
  ];
}
