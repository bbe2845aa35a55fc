import { entry, kindOfPlacement, type Level } from '../level/index.ts';
import type { RuleTest, RuleTests } from '../session/index.ts';
import { conditionWords } from './sentence.ts';
import { plainNumber } from './numerals.ts';

/** A test as one reads it: what is asked, and what was seen. */
export interface TestWords {
  readonly asks: string;
  readonly saw: string;
  readonly passed: boolean;
}

const SET_OFF: Readonly<Record<RuleTests['setOffBy'], string>> = {
  arriving: 'on arriving',
  inside: 'while inside',
  leaving: 'on leaving',
  use: 'on use',
  notice: 'on a notice',
  start: 'when the session starts',
  every: 'from time to time',
};

/** What stops an effect. */
const STOPPED = {
  'no player': 'nobody sets it off, and it hits only whoever does',
  'not inside': 'it hits those who are inside, and the player is not',
  grace: 'nothing harms just after a return',
  shield: 'a shield stops it',
  'carry limit': 'no more can be carried',
  empty: 'there is not enough to take',
  full: 'full: it would be wasted',
} as const;

const seenWords = (saw: number | boolean | null): string =>
  saw === null ? 'by chance' : typeof saw === 'boolean' ? (saw ? 'yes' : 'no') : plainNumber(saw);

function words(level: Level, placement: string, rule: string, one: RuleTest): Omit<TestWords, 'passed'> {
  const left = (seconds: number | null): string => (seconds === null ? '' : `, ${plainNumber(seconds, 1)} s left`);
  const document = entry(kindOfPlacement(level, placement)?.rules ?? {}, rule);
  switch (one.test) {
    case 'there':
      return { asks: 'the thing is there', saw: 'it is not: it has not appeared, or is gone' };
    case 'alive':
      return { asks: 'the player is alive', saw: 'dead, or not there' };
    case 'touching':
      return {
        asks: one.reach === null ? 'the player touches it' : `the player is within ${plainNumber(one.reach)} u`,
        saw: one.passed ? 'yes' : `${plainNumber(one.distance)} u too far away`,
      };
    case 'who': {
      const { any, none } = document?.who ?? { any: [], none: [] };
      const wanted = any.length === 0 ? 'anyone' : `tagged ${any.join(' or ')}`;
      return {
        asks: `who: ${wanted}${none.length === 0 ? '' : `, not ${none.join(' or ')}`}`,
        saw: `tagged ${one.tags.join(', ') || 'nothing'}`,
      };
    }
    case 'accepted':
      return { asks: 'the player takes notice of such things', saw: 'none of its tags is one the player accepts' };
    case 'phase':
      return { asks: 'it is ready and sensing', saw: one.phase + left(one.secondsLeft) };
    case 'condition': {
      const saw = seenWords(one.saw);
      const name = 'meter' in one.condition ? `${entry(level.meters, one.condition.meter)?.name ?? one.condition.meter} ` : '';
      return { asks: conditionWords(level, one.condition), saw: name + saw };
    }
    case 'fits':
      return {
        asks: one.gives
          ? `all of the ${entry(level.items, one.item)?.name ?? one.item} can be carried`
          : `enough ${entry(level.items, one.item)?.name ?? one.item} is carried`,
        saw: one.gives ? 'no more can be carried' : 'there is not enough to take',
      };
    case 'effect':
      return {
        asks: `its effect on ${one.effect.type === 'meter' ? (entry(level.meters, one.effect.meter)?.name ?? '') : one.effect.type}`,
        saw: STOPPED[one.stopped] + left(one.secondsLeft),
      };
  }
}

/** The tests of a rule of a thing, in words; `head` says which rule it is. */
export function whyWords(
  level: Level,
  placement: string,
  { rule, setOffBy, tests }: RuleTests,
): { readonly head: string; readonly tests: readonly TestWords[] } {
  return {
    head: SET_OFF[setOffBy],
    tests: tests.map((one) => ({ ...words(level, placement, rule, one), passed: one.passed })),
  };
}
