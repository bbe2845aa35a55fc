import { entry, inOrder, isAsked, parseWith, Target, type AskedOutcome, type Level, type Statistic } from '../level/index.ts';
import { allOutcomes, measureOf, usualFigure } from '../studies/index.ts';

/** What was read: a target without its place among others, or what is not understood. */
type Reading = { readonly ok: true; readonly target: Target } | { readonly ok: false; readonly why: string };

/** What stands where something was taken, and where players were. */
const [TAKEN, PLAYERS] = ['·', '‡'];

/** Text of which parts are taken one after the other, until nothing is left that was not understood. What is left stays in its place. */
class Rest {
  left: string;
  constructor(text: string) {
    this.left = text;
  }
  take(pattern: RegExp, mark = TAKEN): RegExpExecArray | null {
    const found = pattern.exec(this.left);
    if (found === null) return null;
    const [{ length }, { index }] = [found[0], found];
    this.left = this.left.slice(0, index) + mark.padEnd(length) + this.left.slice(index + length);
    return found;
  }
}

const NUMBER = '-?\\d+(?:[.,]\\d+)?';
const numberOf = (text: string | undefined): number => Number((text ?? '').replace(',', '.'));

/** As it is written here, whatever signs it was typed with: small letters, `to`, `at least`, `%`. */
function plain(words: string): string {
  return words
    .toLowerCase()
    .replace(/[“”„]/g, '"')
    .replace(/(\d)\s*[–—-]\s*(?=\d)/g, '$1 to ')
    .replace(/−/g, '-')
    .replace(/≥|>=/g, ' at least ')
    .replace(/≤|<=/g, ' at most ')
    .replace(/per ?cent\b/g, '%')
    .replace(/(\d) (?:of|in) 100\b/g, '$1 %')
    .replace(/(\d)%/g, '$1 %')
    .replace(/\s+/g, ' ');
}

const escaped = (name: string): string => name.toLowerCase().replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** One of some things by its name, a word of its own; of several the longest. */
function takeNamed<Of>(rest: Rest, named: readonly (readonly [name: string, of: Of])[], before = '', after = '', mark = TAKEN): Of | null {
  const names = named.map(([name]) => name).filter((name) => name !== '');
  if (names.length === 0) return null;
  const any = names.sort((a, b) => b.length - a.length).map(escaped);
  const found = rest.take(new RegExp(`(?<![\\p{L}\\d])${before}(${any.join('|')})${after}(?![\\p{L}\\d])`, 'u'), mark)?.[1];
  return named.find(([name]) => name.toLowerCase() === found)?.[1] ?? null;
}

/** What is asked of each session: in the words of a sentence, else by its name; a meter alone is meant at the end. */
function takeOutcome(level: Level, rest: Rest): AskedOutcome | null {
  const finishes = rest.take(new RegExp(`\\b(?:finish|finishes|win|wins)\\b(?: (?:within|in) (${NUMBER}) ?(?:s|seconds)?\\b)?`));
  if (finishes !== null) return { type: 'finishes', within: finishes[1] === undefined ? null : numberOf(finishes[1]) };
  if (rest.take(/\b(?:lose|loses) (?:a|one) life\b/) !== null) return { type: 'loses a life' };
  const outcomes = allOutcomes(level);
  const named = outcomes.map((outcome) => [measureOf(level, outcome).name, outcome] as const);
  const alone = outcomes.map((outcome) => {
    const own = outcome.type === 'final' ? entry(level.meters, outcome.meter) : undefined;
    return [own?.name ?? '', outcome] as const;
  });
  return takeNamed(rest, [...named, ...alone]);
}

function takeStatistic(rest: Rest): Statistic | null {
  const below = rest.take(new RegExp(`\\blies below in a share of (${NUMBER})`));
  if (below !== null) return { type: 'quantile', below: numberOf(below[1]) };
  if (rest.take(/\bmedian\b/) !== null) return { type: 'quantile', below: 0.5 };
  return rest.take(/\b(?:mean|average)\b/) === null ? null : { type: 'mean' };
}

/** Who plays, in the order in which they are named. */
function takePersonas(level: Level, rest: Rest): string[] {
  const named = inOrder(level.personas).map(([id, { name }]) => [name, id] as const);
  const found: string[] = [];
  const take = (): string | null => takeNamed(rest, named, '', 's?', PLAYERS);
  for (let next = take(); next !== null; next = take()) found.push(next);
  return found;
}

/** Limits as they are stated: of sessions, of 100; or of what is asked. */
interface Limits {
  readonly from: number | null;
  readonly to: number | null;
  readonly ofSessions: boolean;
}

const UNIT = '(?: ?(?:s|u|seconds|units)\\b)?(?<share> ?%)?';
const LEAST = `(?:at least|no less than|more than|over|above) (?<least>${NUMBER})`;
const MOST = `(?:at most|no more than|less than|under|below|up to) (?<most>${NUMBER})`;
const LIMITS = [
  `(?:between )?(?<least>${NUMBER})(?: ?%)? (?:to|and) (?<most>${NUMBER})${UNIT}`,
  `${LEAST}(?: ?%)?,? and ${MOST}${UNIT}`,
  LEAST + UNIT,
  MOST + UNIT,
].map((pattern) => new RegExp(pattern));

/** All limits, in their order: `30 to 50 %`, `at least 60 and at most 80`. */
function takeLimits(rest: Rest): Limits[] {
  const found: (Limits & { readonly at: number })[] = [];
  for (const pattern of LIMITS) {
    for (let next = rest.take(pattern); next !== null; next = rest.take(pattern)) {
      const { least, most, share } = next.groups ?? {};
      const end = (typed: string | undefined): number | null => (typed === undefined ? null : numberOf(typed));
      found.push({ from: end(least), to: end(most), ofSessions: share !== undefined, at: next.index });
    }
  }
  return found.sort((a, b) => a.at - b.at);
}

/** Meters of which more is better: what the core itself knows them for. */
const GOOD = new Set(['health', 'score', 'lives']);

/** Which way an outcome is worse; null: that depends on what is meant. */
function worseOf(outcome: AskedOutcome): 'less' | 'more' | null {
  switch (outcome.type) {
    case 'finishes':
    case 'carried':
      return 'less';
    case 'final':
    case 'lowest':
      return GOOD.has(outcome.meter) ? 'less' : null;
    case 'loses a life':
    case 'deaths':
    case 'waiting':
    case 'refusals':
      return 'more';
    default:
      return null;
  }
}

/** A version that is not to be surpassed for the worse, and by how much it may be: “no worse than “first fair pass” by more than 5”. */
const NO_WORSE = new RegExp(
  `\\bno worse than ["“”„](?<version>.+?)["“”„](?: by more than (?<by>${NUMBER})(?: ?%| of 100| (?:u|s)\\b)?)?`,
  'i',
);

/** By how much an outcome may differ so as to be no worse; null: it is not known which way that is. */
function noWorse(outcome: AskedOutcome, { groups }: RegExpExecArray): Limits | null {
  const worse = worseOf(outcome);
  const by = numberOf(groups?.['by'] ?? '0');
  if (worse === null) return null;
  return { from: worse === 'less' ? 0 - by : null, to: worse === 'more' ? by : null, ofSessions: isAsked(outcome) };
}

/** What need not be understood. */
const SMALL =
  /\b(?:a|all|an|and|are|be|each|every|everybody|everyone|from|had|has|have|in|is|it|its|must|of|once|or|player|players|session|sessions|shall|should|that|the|they|what|who|with)\b/g;

const refused = (why: string): Reading => ({ ok: false, why });

/** The share of sessions that is judged, and which of them count; or the value itself. */
function judgedBy(
  { asked, name, unit }: ReturnType<typeof measureOf>,
  stated: Statistic | null,
  usual: Statistic,
  limits: readonly Limits[],
): { readonly statistic: Statistic; readonly of: Limits } | { readonly why: string } {
  const [first, second, third] = limits;
  if (first === undefined) return { why: 'say how many, or how much: at least, at most, or from … to …' };
  if (third !== undefined) return { why: 'more limits than one target has' };
  if (asked === 'yes or no') {
    if (stated !== null || second !== undefined) return { why: `of “${name}” only the share of sessions is judged, by one range` };
    return first.ofSessions
      ? { statistic: usual, of: first }
      : { why: 'say of how many sessions of 100: “at least 90 %”, “30 to 50 of 100”' };
  }
  if (second === undefined) {
    if (first.ofSessions && unit !== '%') return { why: `say between what ${name} lies in so many of 100: “have ${name} of at least …”` };
    return { statistic: stated ?? usual, of: first };
  }
  const share = first.ofSessions ? first : second;
  const counts = share === first ? second : first;
  if (stated !== null || !share.ofSessions) return { why: 'more limits than one target has' };
  return { statistic: { type: 'share', from: counts.from, to: counts.to }, of: share };
}

/**
 * Reads a target in words, as they are shown or in short: “at least 90 of 100 steady players finish within 60 s”, “hasty: median final health
 * 60–95”. Nothing is guessed: what is not understood is said.
 */
export function readTarget(level: Level, words: string): Reading {
  const thousands = /\d+,\d{3}(?!\d)/.exec(words)?.[0];
  if (thousands !== undefined) return refused(`“${thousands}” could be read two ways; write it without the comma`);
  const worse = NO_WORSE.exec(words);
  const than = worse ?? /\bmore than in ["“”„](?<version>.+?)["“”„]/i.exec(words);
  const rest = new Rest(plain(than === null ? words : words.replace(than[0], ' ')));
  const long = rest.take(new RegExp(`\\bup to (${NUMBER}) s(?:econds)? each\\b`));
  const seed = rest.take(/\b(?:from )?seed (\d+)\b/);
  const start = takeNamed(
    rest,
    inOrder(level.tries).map(([id, { name }]) => [name, id] as const),
    'from ',
  );
  const outcome = takeOutcome(level, rest);
  if (outcome === null)
    return refused(`say what is asked, such as “finish within 60 s”, “lose a life”, “final health”, “uses of …” by a name`);
  const statistic = takeStatistic(rest);
  const personas = takePersonas(level, rest);
  const within = worse === null ? null : noWorse(outcome, worse);
  const limits = [...(within === null ? [] : [within]), ...takeLimits(rest)];
  const sessions = rest.take(/\bof (\d+)\b/) ?? rest.take(new RegExp(`(?<![\\d.,])(\\d+) *(?=${PLAYERS}|players|sessions)`));
  const left = rest.left
    .replace(SMALL, ' ')
    .replace(/[·‡,;:.()"]/g, ' ')
    .trim()
    .replace(/\s+/g, ' ');
  if (left !== '') return refused(`“${left}” is not understood`);
  const measure = measureOf(level, outcome);
  if (worse !== null && within === null)
    return refused(`say which way ${measure.name} is worse: “at most 5 more than in “…””, or “at least -5 more than in “…””`);
  const usual = worse === null || isAsked(outcome) ? usualFigure(outcome).statistic : ({ type: 'mean' } as const);
  const judged = judgedBy(measure, statistic, usual, limits);
  if ('why' in judged) return refused(judged.why);
  const made = parseWith(Target, {
    outcome,
    statistic: judged.statistic,
    least: judged.of.from,
    most: judged.of.to,
    than: than?.groups?.['version'] ?? null,
    personas: [...new Set(personas)],
    start,
    order: 0,
    ...(sessions === null ? {} : { sessions: Number(sessions[1]) }),
    ...(long === null ? {} : { seconds: numberOf(long[1]) }),
    ...(seed === null ? {} : { seed: Number(seed[1]) }),
  });
  return made.ok ? { ok: true, target: made.value } : refused(made.problems[0]?.message ?? 'it is no target');
}

/** Targets in words, one after the other: a sentence each, or parted by a semicolon. */
export const targetsIn = (words: string): string[] =>
  words
    .split(/;|\n|\.(?=\s|$)/)
    .map((one) => one.trim())
    .filter((one) => one !== '');
