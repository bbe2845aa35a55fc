import { allDials, entry, inOrder, kindOf, personaDials, segmentsOf, type DialSpec, type Level } from '../level/index.ts';
import {
  dialIn,
  figureName,
  figureUnit,
  isSeen,
  sessionCount,
  type Candidate,
  type CrowdSettings,
  type DialAt,
  type Effect,
  type SeekResult,
  type SeekSettings,
  type SensitivityResult,
  type SensitivitySettings,
  type SweepResult,
  type SweepSettings,
  type TuneResult,
  type TuneSettings,
} from '../studies/index.ts';
import { csvText } from './csvTable.ts';
import { rangeText } from './crowdWords.ts';
import { pointerWords } from './differenceWords.ts';
import { dialText, forFile, plainNumber, signed } from './numerals.ts';
import { estimateText, shortTarget, verdictText } from './targetWords.ts';

/** A dial that a study can turn, and what it is called beside others. */
export interface NamedDial {
  readonly name: string;
  readonly spec: DialSpec;
}

const known = new WeakMap<Level, readonly NamedDial[]>();

/** What a dial is of: a kind, which may be what follows a path, the player, a persona. */
function ownerName(level: Level, { path }: DialSpec): string {
  const [map = '', id = ''] = segmentsOf(path);
  if (map === 'kinds') return kindOf(level, id)?.name ?? id;
  if (map === 'personas') return entry(level.personas, id)?.name ?? id;
  if (map === 'paths') {
    const onIt = Object.values(level.placements).find(({ travel }) => travel?.path === id);
    return (onIt === undefined ? undefined : kindOf(level, onIt.kind)?.name) ?? entry(level.paths, id)?.name ?? id;
  }
  return map === 'tagRules' ? (entry(level.tagRules, id)?.tag ?? id) : 'player';
}

/** All dials that a study can turn: of kinds, of the player, of personas. */
export function studyDials(level: Level): readonly NamedDial[] {
  const before = known.get(level);
  if (before !== undefined) return before;
  const specs = [...allDials(level), ...inOrder(level.personas).flatMap(([id]) => personaDials(level, id))];
  const dials = specs.map((spec) => ({ spec, name: `${ownerName(level, spec)}: ${spec.label}` }));
  known.set(level, dials);
  return dials;
}

/** What a dial is called. */
export function dialName(level: Level, { paths: [path = ''] }: DialAt): string {
  return studyDials(level).find(({ spec }) => spec.paths[0] === path)?.name ?? pointerWords(level, path);
}

const unitOf = (level: Level, dial: DialAt): string => {
  const unit = dialIn(level, dial)?.quantity.unit ?? '';
  return unit === '' ? '' : ` ${unit}`;
};

const capital = (sentence: string): string => sentence.charAt(0).toUpperCase() + sentence.slice(1);

/** Who stands behind a figure: `100 sessions a value, seeds from 1`. */
export const behindText = (crowd: CrowdSettings, each: string): string =>
  `${plainNumber(sessionCount(crowd), 0)} sessions ${each}, the same each time, up to ${plainNumber(crowd.seconds)} s, from seed ${String(crowd.seed)}`;

/** What a sweep came to, as a sentence: how far the first figure goes. */
export function sweepSentence(level: Level, { dials, figures }: SweepSettings, { cells, apart }: SweepResult): string {
  const [figure] = figures;
  const known = cells.filter(({ estimates }) => estimates[0] !== undefined);
  if (figure === undefined || known.length === 0) return 'Nothing has been played yet.';
  const name = figureName(level, figure);
  const unit = figureUnit(level, figure);
  const ordered = [...known].sort((a, b) => (a.estimates[0]?.value ?? 0) - (b.estimates[0]?.value ?? 0));
  const where = ({ at }: (typeof known)[number]): string =>
    dials.map((dial, nth) => `${plainNumber(dial.values[at[nth] ?? 0] ?? 0)}${unitOf(level, dial)}`).join(' and ');
  const [low, high] = [ordered[0], ordered.at(-1)] as [(typeof known)[number], (typeof known)[number]];
  const value = (cell: (typeof known)[number]): string => estimateText(cell.estimates[0] ?? { value: 0, low: 0, high: 0, sessions: 0 });
  const turned = dials.map((dial) => dialName(level, dial)).join(' and ');
  const after = unit === '' ? '' : ` ${unit}`;
  if (low.estimates[0]?.value === high.estimates[0]?.value) return capital(`${name} is ${value(low)}${after} whatever ${turned} is.`);
  // The extremes of many values lie apart by chance alone.
  const chance = apart !== null && apart.low <= 0 ? ' That may be chance: no difference between these values was seen for sure.' : '';
  return capital(
    `${name} is ${value(low)}${after} at the least, with ${turned} at ${where(low)}, and ${value(high)}${after} at the most, at ${where(high)}.${chance}`,
  );
}

/** A sweep as CSV: a row a cell. */
export function sweepCsv(level: Level, { dials, figures }: SweepSettings, { cells }: SweepResult): string {
  const heads = [
    ...dials.map((dial) => dialName(level, dial)),
    ...figures.flatMap((figure) => [figureName(level, figure), 'low (95 %)', 'high (95 %)']),
    'sessions',
    'problem',
  ];
  const rows = cells.map(({ at, estimates, problem }) => [
    ...dials.map(({ values }, nth) => values[at[nth] ?? 0] ?? 0),
    ...figures.flatMap((_, nth): (string | number)[] => {
      const one = estimates[nth];
      return one === undefined ? ['', '', ''] : [one.value, one.low, one.high];
    }),
    estimates[0]?.sessions ?? 0,
    problem ?? '',
  ]);
  return forFile(() => csvText([heads, ...rows]));
}

/** A sweep for a terminal. */
export function sweepText(level: Level, settings: SweepSettings, result: SweepResult): string {
  const rows = result.cells.map(({ at, estimates, problem }) => {
    const values = settings.dials.map(({ values: all }, nth) => plainNumber(all[at[nth] ?? 0] ?? 0)).join('  ');
    const figures = problem ?? estimates.map((one) => estimateText(one)).join('  ');
    return `  ${values.padStart(10)}  ${figures}`;
  });
  return [`${sweepSentence(level, settings, result)} ${behindText(settings.crowd, 'a cell')}.`, ...rows].join('\n');
}

/** What matters, as a sentence. */
export function sensitivitySentence(level: Level, { dials, figure }: SensitivitySettings, { base, effects }: SensitivityResult): string {
  const [first, second] = effects.filter(isSeen);
  const name = figureName(level, figure);
  if (base === null) return 'Nothing has been played yet.';
  const nudged = effects.filter(({ moves, problem }) => moves !== null || problem !== null).length;
  const isPart = nudged < effects.length;
  if (first === undefined) {
    const part = `No effect on ${name} has been seen yet: ${String(nudged)} of ${String(effects.length)} dials have been nudged.`;
    return isPart ? part : `No effect of any of these dials on ${name} was seen.`;
  }
  const called = ({ dial }: typeof first): string => dialName(level, dials[dial] ?? { paths: [''] });
  const then = second === undefined ? '' : `, then ${called(second)}`;
  return capital(`${called(first)} moves ${name} most${isPart ? ' so far' : ''}${then}.`);
}

/** Decimals by which the longest of some moves is told in two figures, and any in tenths: of a few deaths in a hundred sessions all would be nought. */
export function movesPlaces(effects: readonly Effect[]): number {
  const most = Math.max(...effects.map(({ moves }) => Math.abs(moves?.value ?? 0)));
  let places = 1;
  for (let unit = 1; most < unit && places < MOST_PLACES; unit /= 10) places += 1;
  return places;
}

const MOST_PLACES = 6;

/** How far something moves a figure, with its interval. */
export const movesText = ({ low, high, value }: NonNullable<Effect['moves']>, places: number): string =>
  `${signed(value, places)} (${rangeText(low, high, places)})`;

/** What matters, for a terminal. */
export function sensitivityText(level: Level, settings: SensitivitySettings, result: SensitivityResult): string {
  const called = (dial: number): string => dialName(level, settings.dials[dial] ?? { paths: [''] });
  const places = movesPlaces(result.effects);
  const rows = result.effects.map((effect) => {
    const { dial, down, up, moves, problem } = effect;
    const what = problem ?? (moves === null ? '–' : movesText(moves, places));
    const unseen = problem !== null || isSeen(effect) ? '' : '  no effect seen';
    return `  ${called(dial)}, ${plainNumber(down)} to ${plainNumber(up)}: ${what}${unseen}`;
  });
  const pairs = result.interactions.map(
    ({ dials: [one, other], beyond }) => `  ${called(one)} with ${called(other)}: ${movesText(beyond, places)}`,
  );
  return [
    `${sensitivitySentence(level, settings, result)} ${behindText(settings.crowd, 'a value')}.`,
    ...rows,
    ...(pairs.length === 0 ? [] : ['together beyond each alone:', ...pairs]),
  ].join('\n');
}

/** What matters, as CSV: a row a dial. */
export function sensitivityCsv(level: Level, { dials }: SensitivitySettings, { effects }: SensitivityResult): string {
  const rows = effects.map(({ dial, down, up, moves, problem }) => [
    dialName(level, dials[dial] ?? { paths: [''] }),
    down,
    up,
    ...(moves === null ? ['', '', ''] : [moves.value, moves.low, moves.high]),
    problem ?? '',
  ]);
  return forFile(() => csvText([['dial', 'down', 'up', 'moves', 'low (95 %)', 'high (95 %)', 'problem'], ...rows]));
}

/** What was found for a wish, as a sentence; that there is none or that there are several is said. */
export function seekSentence(level: Level, { dial, from, to, figure, wish }: SeekSettings, { points, found, done }: SeekResult): string {
  const name = figureName(level, figure);
  const unit = unitOf(level, dial);
  const wished = `${plainNumber(wish)}${figureUnit(level, figure) === '' ? '' : ` ${figureUnit(level, figure)}`}`;
  if (points.length === 0) return 'Nothing has been played yet.';
  if (found.length === 0) {
    const ordered = [...points].sort((a, b) => a.estimate.value - b.estimate.value);
    const [low, high] = [ordered[0], ordered.at(-1)] as [(typeof points)[number], (typeof points)[number]];
    const range = `from ${plainNumber(from)} to ${plainNumber(to)}${unit}`;
    if (!done)
      return `Not found so far: ${range}, ${name} is ${rangeText(low.estimate.value, high.estimate.value, 1)} where it was looked at.`;
    const over = low.estimate.value > wish;
    const end = over ? low : high;
    return `None: ${range}, ${name} goes no ${over ? 'lower' : 'higher'} than ${estimateText(end.estimate)}, at ${dialText(end.value)}${unit}; ${wished} is not reached.`;
  }
  const at = found.map(({ value, low, high, jump }) => {
    const near = jump ? ', where it jumps over it' : ` (${rangeText(low, high, 2)})`;
    return `at ${dialText(value)}${unit}${near}`;
  });
  const several = found.length > 1 ? `${String(found.length)} values: ` : '';
  return capital(`${several}${dialName(level, dial)} ${at.join(' and ')} gives ${name} ${wished}.`);
}

/** What was found for a wish, for a terminal. */
export const seekText = (level: Level, settings: SeekSettings, result: SeekResult): string =>
  `${seekSentence(level, settings, result)} ${plainNumber(result.sessions, 0)} sessions in all; ${behindText(settings.crowd, 'a value')}.`;

/** What a seek has played, as CSV: a row a value. */
export function seekCsv(level: Level, { dial, figure }: SeekSettings, { points }: SeekResult): string {
  const rows = points.map(({ value, estimate: { value: is, low, high, sessions } }) => [value, is, low, high, sessions]);
  return forFile(() => csvText([[dialName(level, dial), figureName(level, figure), 'low (95 %)', 'high (95 %)', 'sessions'], ...rows]));
}

/** What a candidate changes, in words: `cart: speed 2.4 → 1.9`. */
export function changesText(level: Level, { dials }: TuneSettings, { values }: Pick<Candidate, 'values'>): string {
  const parts = dials.flatMap((dial, at) => {
    const [was, now] = [dialIn(level, dial)?.value, values[at]];
    if (now === undefined || was === now) return [];
    return [`${dialName(level, dial)} ${was === undefined ? '–' : plainNumber(was)} → ${plainNumber(now)}${unitOf(level, dial)}`];
  });
  return parts.length === 0 ? 'nothing changed' : parts.join(' · ');
}

/** What tuning came to, as a sentence. */
export function tuneSentence(level: Level, result: TuneResult): string {
  const { candidates, contradict, unmet, sessions, tried } = result;
  const met = candidates.filter(({ verdicts }) => verdicts.every(({ state }) => state === 'met')).length;
  const behind = `${plainNumber(tried, 0)} settings tried with ${plainNumber(sessions, 0)} sessions`;
  const fresh = candidates.every((one) => one.fresh) ? '; judged by fresh sessions' : '';
  if (candidates.length === 0) return 'Nothing has been tried yet.';
  if (met > 0) return `${met === 1 ? 'One setting meets' : `${String(met)} settings meet`} all targets: ${behind}${fresh}.`;
  const namesOf = (ids: readonly string[]): string =>
    ids
      .map((id) => entry(level.targets, id))
      .map((target, at) => `“${target === undefined ? (ids[at] ?? '') : shortTarget(level, target)}”`)
      .join(' and ');
  const why = [
    unmet.length === 0 ? '' : ` Nothing that was tried meets ${namesOf(unmet)}.`,
    contradict.length < 2
      ? ''
      : ` Within these ranges they contradict each other: each of ${namesOf(contradict)} is met alone, never all together.`,
  ].join('');
  const none = candidates.filter(({ verdicts }) => verdicts.every(({ state }) => state !== 'missed')).length;
  const found =
    none === 0
      ? 'No setting meets all targets; these come nearest'
      : `No setting is sure to meet all targets, though ${none === 1 ? 'one misses none for sure' : `${String(none)} miss none for sure`}`;
  return `${found}: ${behind}${fresh}.${why}`;
}

/** Tuning for a terminal. */
export function tuneText(level: Level, settings: TuneSettings, result: TuneResult): string {
  const rows = result.candidates.map((candidate) => {
    const verdicts = candidate.verdicts.map((verdict) => {
      const target = entry(level.targets, verdict.target);
      return `    ${target === undefined ? verdict.target : shortTarget(level, target)}: ${verdictText(verdict)}`;
    });
    return [`  ${candidate.name}: ${changesText(level, settings, candidate)}`, ...verdicts].join('\n');
  });
  return [tuneSentence(level, result), ...rows].join('\n');
}

/** Tuning as CSV: a row a candidate. */
export function tuneCsv(level: Level, { dials }: TuneSettings, { candidates }: TuneResult): string {
  const targets = candidates[0]?.verdicts.map(({ target }) => target) ?? [];
  const heads = ['candidate', ...dials.map((dial) => dialName(level, dial)), ...targets.flatMap((id) => [id, `${id} stands`])];
  const rows = candidates.map(({ name, values, verdicts }) => [
    name,
    ...values,
    ...verdicts.flatMap(({ estimate, state }): (string | number)[] => [estimate?.value ?? '', state]),
  ]);
  return forFile(() => csvText([heads, ...rows]));
}
