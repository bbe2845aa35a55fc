import { entry, type Level, type AskedOutcome, type Target } from '../level/index.ts';
import { measureOf, type Estimate, type Verdict } from '../studies/index.ts';
import { rangeText } from './crowdWords.ts';
import { plainNumber } from './numerals.ts';
import { number, says, type Part } from './phrases.ts';

/** `at least 60`, `at most 80`, `60 to 80`: the limits of something, each with its dial. */
function limits(from: number | null, to: number | null, at: string, names: readonly [string, string], unit = ''): Part[] {
  const [least, most] = names.map((name) => `${at}/${name}`) as [string, string];
  if (from !== null && to !== null) return [number(from, least), says(' to '), number(to, most, unit)];
  return from !== null ? [says('at least '), number(from, least, unit)] : [says('at most '), number(to ?? 0, most, unit)];
}

/** Who plays: `200 steady players`. */
function players(level: Level, { personas, sessions }: Target, at: string): Part[] {
  const names = personas.map((id) => entry(level.personas, id)?.name ?? id);
  const all = names.length === 0 ? '' : `${names.slice(0, -1).join(', ')}${names.length > 1 ? ' and ' : ''}${names.at(-1) ?? ''} `;
  return [says('Of '), number(sessions, `${at}/sessions`), says(` ${all}players`)];
}

function does(outcome: AskedOutcome, at: string): Part[] {
  if (outcome.type === 'loses a life') return [says(' lose a life')];
  if (outcome.type !== 'finishes') return [];
  if (outcome.within === null) return [says(' finish')];
  return [says(' finish within '), number(outcome.within, `${at}/outcome/within`, ' s')];
}

const withUnit = (unit: string): string => (unit === '' ? '' : ` ${unit}`);

/** What of them is judged, and where it has to lie. */
function judged(level: Level, { outcome, statistic, least, most, than }: Target, at: string): Part[] {
  const { name, unit, asked } = measureOf(level, outcome);
  const bounds = (of = ''): Part[] => limits(least, most, at, ['least', 'most'], of);
  const against = than === null ? [] : [says(` more than in “${than}”`)];
  if (statistic.type === 'share') {
    const where =
      asked === 'yes or no'
        ? does(outcome, at)
        : [says(` have ${name} of `), ...limits(statistic.from, statistic.to, `${at}/statistic`, ['from', 'to'], withUnit(unit))];
    return [...bounds(), says(' of 100'), ...against, ...where];
  }
  const what: Part[] =
    statistic.type === 'mean'
      ? [says(`the mean of ${name}`)]
      : statistic.below === 0.5
        ? [says(`the median of ${name}`)]
        : [says(`what ${name} lies below in a share of `), number(statistic.below, `${at}/statistic/below`)];
  return [...what, says(' is '), ...bounds(withUnit(unit)), ...against];
}

/** A target as a sentence; its numbers lead to their dials under `at`, a pointer to the target. */
export function targetSentence(level: Level, target: Target, at: string): Part[] {
  const { seconds, seed, start } = target;
  const from = start === null ? [] : [says(` from ${entry(level.tries, start)?.name ?? start}`)];
  return [
    ...players(level, target, at),
    ...from,
    says(', '),
    ...judged(level, target, at),
    says(' (up to '),
    number(seconds, `${at}/seconds`, ' s'),
    says(' each, from seed '),
    number(seed, `${at}/seed`),
    says(').'),
  ];
}

const textOf = (parts: readonly Part[]): string => parts.map(({ text }) => text).join('');

/** A target in words. */
export const targetText = (level: Level, target: Target): string => textOf(targetSentence(level, target, ''));

/** `≥ 60`, `≤ 80`, `60–80`; infinite: no limit there. */
export function limitsText(from: number, to: number): string {
  if (Number.isFinite(from) && Number.isFinite(to)) return rangeText(from, to, 2);
  return Number.isFinite(from) ? `≥ ${plainNumber(from)}` : `≤ ${plainNumber(to)}`;
}

const shortLimits = (from: number | null, to: number | null): string => limitsText(from ?? -Infinity, to ?? Infinity);

/** A target in few words, without how long it is played: `hasty: median final health 50–85`. */
export function shortTarget(level: Level, { outcome, statistic, least, most, than, personas }: Target): string {
  const { name, asked } = measureOf(level, outcome);
  const who = personas.map((id) => entry(level.personas, id)?.name ?? id).join(', ');
  const bounds = shortLimits(least, most) + (than === null ? '' : ` more than in “${than}”`);
  const where = statistic.type === 'share' && asked === 'number' ? ` ${shortLimits(statistic.from, statistic.to)}` : '';
  const sort = { share: '', mean: 'mean ', quantile: 'median ' }[statistic.type];
  const tail = statistic.type === 'quantile' && statistic.below !== 0.5 ? ` (${plainNumber(100 * statistic.below)} % below)` : '';
  const what = tail === '' ? `${sort}${name}` : name + tail;
  const words =
    statistic.type === 'share'
      ? `${bounds} of 100 ${asked === 'number' ? `${name}${where}` : textOf(does(outcome, '')).trim()}`
      : `${what} ${bounds}`;
  return who === '' ? words : `${who}: ${words}`;
}

/** A figure with its interval: `62 (58–66)`. */
export function estimateText({ value, low, high }: Estimate): string {
  const places = high - low < 10 ? 1 : 0;
  return `${plainNumber(value, places)} (${rangeText(low, high, places)})`;
}

/** How a target stands, in words. */
export function verdictText({ state, estimate, by, wanted, why }: Verdict): string {
  if (estimate === null) return `not judged: ${why ?? ''}`;
  const figure = `${estimateText(estimate)} from ${plainNumber(estimate.sessions, 0)} sessions`;
  if (state === 'met') return `met: ${figure}`;
  if (state === 'missed') return `missed by ${plainNumber(by, 1)}: ${figure}`;
  const would =
    wanted === null
      ? 'so near to the edge that no number of sessions would decide it'
      : `about ${plainNumber(wanted, 0)} sessions would decide it`;
  return `undecided: ${figure}; ${would}`;
}
