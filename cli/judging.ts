import { seekCsv, seekText, tuneCsv, tuneText, sensitivityCsv, sensitivityText, sweepCsv, sweepText } from '@dial/core/formats';
import { allDials, levelHash, parseWith, type Level, type Problem } from '@dial/core/level';
import { SIMULATION_VERSION } from '@dial/core/session';
import {
  allOutcomes,
  Figure,
  measureOf,
  outcomeNamed,
  seek as seekStudy,
  seekProblems,
  SeekSettings,
  sensitivity as sensitivityStudy,
  sensitivityCost,
  sensitivityProblems,
  SensitivitySettings,
  smallCrowd,
  sweep as sweepStudy,
  sweepProblems,
  SweepSettings,
  tune as tuneStudy,
  tuneProblems,
  TuneSettings,
  usualFigure,
  tooManyValues,
  valuesFrom,
} from '@dial/core/studies';
import { settingsOf, type WhoPlays } from './crowd.ts';
import { accepted, BadInput, problemWords, readLevel, withTargets } from './reading.ts';
import { studied, threadsOf, type ThreadOptions } from './threads.ts';

interface StudyOptions extends WhoPlays, ThreadOptions {
  readonly dial?: readonly string[];
  readonly outcome?: string;
  readonly statistic?: string;
  readonly json?: true;
  readonly csv?: true;
}

/** Sessions of all personas together when nothing else is said. */
const SESSIONS = 100;

const numberIn = (option: string, given: string): number => {
  const value = given.trim() === '' ? NaN : Number(given);
  if (!Number.isFinite(value)) throw new BadInput(`${option}: “${given}” is no number`);
  return value;
};

/** `final health`, and `mean`, `median`, `quantile:0.1` or `share:60:80` of it, where an end left out is open. */
function figureIn(level: Level, { outcome = 'final health', statistic }: StudyOptions): Figure {
  const found = outcomeNamed(level, outcome);
  if (found === null) {
    const plain = allOutcomes(level).filter(({ type }) => type !== 'uses' && type !== 'refusals');
    const names = plain.map((one) => measureOf(level, one).name).join(', ');
    throw new BadInput(
      `no session has an outcome “${outcome}”; there are: ${names}, and uses of and refusals of a kind or a thing, by its name`,
    );
  }
  if (statistic === undefined) return usualFigure(found);
  const [type = '', one, other] = statistic.split(':');
  const end = (given: string | undefined): number | null => (given === undefined || given === '' ? null : numberIn('--statistic', given));
  const stated = {
    mean: { type: 'mean' },
    median: { type: 'quantile', below: 0.5 },
    quantile: { type: 'quantile', below: end(one) ?? 0.5 },
    share: { type: 'share', from: end(one), to: end(other) },
  }[type];
  if (stated === undefined) throw new BadInput(`--statistic takes mean, median, quantile:0.1 or share:60:80, not “${statistic}”`);
  return accepted('--statistic', parseWith(Figure, { outcome: found, statistic: stated }));
}

/** `/kinds/basin/…/seconds=2:12:0.5`: a pointer, and its range with steps where there is one. */
function dialIn(given: string): { readonly path: string; readonly range: readonly number[] } {
  const cut = given.lastIndexOf('=');
  const path = cut < 0 ? given : given.slice(0, cut);
  if (!path.startsWith('/')) throw new BadInput(`--dial takes a JSON Pointer, /kinds/…, with =FROM:TO:STEP; not “${given}”`);
  return {
    path,
    range:
      cut < 0
        ? []
        : given
            .slice(cut + 1)
            .split(':')
            .map((one) => numberIn('--dial', one)),
  };
}

/** A dial and the two ends of its range, with steps and a weight where there are any. */
function stretchIn(given: string, most: number) {
  const { path, range } = dialIn(given);
  const [from, to, step = null, weight = 1] = range;
  if (from === undefined || to === undefined || range.length > most)
    throw new BadInput(
      `--dial ${given}: a range is FROM:TO${most > 2 ? ', with steps FROM:TO:STEP, with a weight FROM:TO:STEP:WEIGHT' : ''}`,
    );
  return { dial: { paths: [path] }, from, to, step, weight };
}

function refuse(problems: readonly Problem[]): void {
  if (problems.length > 0) throw new BadInput(problemWords('study', problems));
}

const usual = (level: Level) => (level.crowd === null ? smallCrowd(level, SESSIONS, 60) : settingsOf(level, {}));

const print = (
  level: Level,
  options: StudyOptions,
  found: object,
  words: { readonly csv: () => string; readonly text: () => string },
): void => {
  if (options.csv === true) process.stdout.write(words.csv());
  else
    console.log(
      options.json === true ? JSON.stringify({ level: levelHash(level), simulation: SIMULATION_VERSION, ...found }) : words.text(),
    );
};

/** Turns one or two dials over their ranges. */
export async function sweep(file: string, options: StudyOptions): Promise<void> {
  const level = await readLevel(file);
  const dials = (options.dial ?? []).map((given) => {
    const { path, range } = dialIn(given);
    const [from, to, step] = range;
    if (from === undefined || to === undefined || step === undefined) throw new BadInput(`--dial ${given}: a range is FROM:TO:STEP`);
    if (!(step > 0)) throw new BadInput(`--dial ${given}: the step must be more than nought`);
    if (from > to) throw new BadInput(`--dial ${given}: the range is empty`);
    const many = tooManyValues(from, to, step);
    if (many !== null) throw new BadInput(`--dial ${given}: ${many}`);
    return { paths: [path], values: valuesFrom(from, to, step) };
  });
  const settings = accepted(
    'sweep',
    parseWith(SweepSettings, { dials, figures: [figureIn(level, options)], crowd: settingsOf(level, options, usual) }),
  );
  refuse(sweepProblems(level, settings));
  const result = await studied({ level, versions: {} }, sweepStudy(level, settings), threadsOf(options));
  print(
    level,
    options,
    { settings, result },
    { csv: () => sweepCsv(level, settings, result), text: () => sweepText(level, settings, result) },
  );
}

/** Nudges dials, all where none is named, and ranks them. */
export async function sensitivity(file: string, options: StudyOptions & { readonly share?: string }): Promise<void> {
  const level = await readLevel(file);
  const named = (options.dial ?? []).map((given) => ({ paths: [dialIn(given).path] }));
  const dials = named.length > 0 ? named : allDials(level).map(({ paths }) => ({ paths: [...paths] }));
  const settings = accepted(
    'sensitivity',
    parseWith(SensitivitySettings, {
      dials,
      figure: figureIn(level, options),
      crowd: settingsOf(level, options, usual),
      ...(options.share === undefined ? {} : { share: numberIn('--share', options.share) }),
    }),
  );
  refuse(sensitivityProblems(level, settings));
  console.error(`${String(settings.dials.length)} dials: at most ${String(sensitivityCost(settings))} sessions`);
  const result = await studied({ level, versions: {} }, sensitivityStudy(level, settings), threadsOf(options));
  print(
    level,
    options,
    { settings, result },
    {
      csv: () => sensitivityCsv(level, settings, result),
      text: () => sensitivityText(level, settings, result),
    },
  );
}

/** Looks for the value of a dial at which a figure is as wished. */
export async function seek(file: string, options: StudyOptions & { readonly wish?: string }): Promise<void> {
  const level = await readLevel(file);
  const [given, another] = options.dial ?? [];
  if (given === undefined || another !== undefined) throw new BadInput('seek takes one --dial /…=FROM:TO');
  if (options.wish === undefined) throw new BadInput('seek wants --wish NUMBER: what the outcome shall be');
  const { dial, from, to } = stretchIn(given, 2);
  const settings = accepted(
    'seek',
    parseWith(SeekSettings, {
      dial,
      from,
      to,
      wish: numberIn('--wish', options.wish),
      figure: figureIn(level, options),
      crowd: settingsOf(level, options, usual),
    }),
  );
  refuse(seekProblems(level, settings));
  const result = await studied({ level, versions: {} }, seekStudy(level, settings), threadsOf(options));
  print(
    level,
    options,
    { settings, result },
    { csv: () => seekCsv(level, settings, result), text: () => seekText(level, settings, result) },
  );
}

interface TuneOptions extends StudyOptions {
  readonly target?: readonly string[];
  readonly targets?: string;
  readonly sessions?: string;
}

/** Moves several dials so that the targets of the level, or those that are given, are met. */
export async function tune(file: string, options: TuneOptions): Promise<void> {
  const level = withTargets(await readLevel(file), options.target);
  const dials = (options.dial ?? []).map((given) => {
    const { dial, ...stretch } = stretchIn(given, 4);
    return { ...dial, ...stretch };
  });
  const settings = accepted(
    'tune',
    parseWith(TuneSettings, {
      dials,
      targets: options.targets === undefined ? [] : options.targets.split(',').map((id) => id.trim()),
      ...(options.sessions === undefined ? {} : { sessions: numberIn('--sessions', options.sessions) }),
      ...(options.seed === undefined ? {} : { seed: numberIn('--seed', options.seed) }),
    }),
  );
  refuse(tuneProblems(level, settings));
  const result = await studied({ level, versions: {} }, tuneStudy(level, settings), threadsOf(options));
  print(
    level,
    options,
    { settings, result },
    { csv: () => tuneCsv(level, settings, result), text: () => tuneText(level, settings, result) },
  );
}
