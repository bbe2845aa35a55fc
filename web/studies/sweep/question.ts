import { dialName, studyDials } from '@dial/core/formats';
import { allKinds, entry, parseWith, type DialSpec, type Level, type AskedOutcome } from '@dial/core/level';
import {
  dialIn,
  Judging,
  judgingCost,
  judgingProblems,
  measureOf,
  outcomesOf,
  sessionCount,
  smallCrowd,
  usualCrowd,
  tooManyValues,
  turnedLevel,
  usualFigure,
  valuesFrom,
  type CrowdSettings,
  type Figure,
} from '@dial/core/studies';

/** What can be asked here. */
export const QUESTIONS = [
  ['one', 'one dial'],
  ['two', 'two dials'],
  ['matters', 'what matters'],
  ['seek', 'seek'],
  ['tune', 'tune'],
] as const;
export type QuestionKind = (typeof QUESTIONS)[number][0];

/** One dial and the stretch of its values that is asked about. */
export interface Stretch {
  readonly paths: readonly string[];
  readonly from: number;
  readonly to: number;
  readonly step: number;
  /** In a search: how much it is wished to stay where it is, beside the others. */
  readonly weight: number;
}

/** What is asked, as it stands in the form. */
export interface Question {
  readonly kind: QuestionKind;
  readonly dials: readonly Stretch[];
  readonly figures: readonly Figure[];
  readonly crowd: CrowdSettings;
  readonly wish: number;
  /** By so much of its value each dial is nudged. */
  readonly share: number;
  /** Which dials are nudged, by the paths of each; none: all but those of personas. */
  readonly nudged: readonly string[];
  /** Dials that may move together. */
  readonly moving: readonly Stretch[];
  /** Ids of the targets that they are tuned to; null: all of the level. */
  readonly held: readonly string[] | null;
  /** Sessions that tuning may cost. */
  readonly budget: number;
}

/** Values of a stretch at first: so many, and of two dials fewer each. */
const VALUES = 11;
/** Sessions at each value, and how long each goes on. */
const [SESSIONS, SECONDS] = [100, 60];

/** Dials that are nudged together: so few that the first bars come within seconds. */
const NUDGED_AT_A_TIME = 8;

/** Sessions that tuning may cost at first. */
const BUDGET = 10_000;

/** The nearest of 1, 2 and 5 times a power of ten. */
function roundStep(value: number): number {
  const unit = Number(`1e${String(Math.floor(Math.log10(value)))}`);
  const times = value / unit;
  return unit * (times < 1.5 ? 1 : times < 3.5 ? 2 : times < 7.5 ? 5 : 10);
}

/** What is looked at of a dial's range: steps around where it stands, which is one of its values; or all of the range, which is searched. */
export type Looked = 'around' | 'all';

/** A stretch of a dial within its limits; where it would begin with a value that is not valid, from the next on. */
function stretchOf(level: Level, { paths, value, range: { low, high, min, max, step, integer } }: DialSpec, looked: Looked): Stretch {
  const aside = (VALUES - 1) / 2;
  const isAround = looked === 'around' && value !== 0;
  const [begins, ends] =
    value > low && value < high ? [Math.max(min, low), Math.min(max, high)] : [Math.max(min, value / 2), Math.min(max, value * 2)];
  const wide = roundStep(isAround ? Math.abs(value) / aside : (ends - begins) / (VALUES - 1));
  const each = integer === true ? Math.max(1, Math.round(wide)) : Math.max(step, wide);
  const below = Math.min(aside, Math.floor((value - min) / each + 1e-9));
  const above = Math.min(aside, Math.floor((max - value) / each + 1e-9));
  const [from, to] = isAround ? [value - below * each, value + above * each] : [begins, ends];
  const isValid = turnedLevel(level, [{ paths: [...paths], value: Number(from.toFixed(6)) }]).ok;
  const first = isValid ? from : Math.min(to, from + (isAround ? each : step));
  const [least, most] = [Number(first.toFixed(6)), Number(to.toFixed(6))];
  // What is searched for is looked for in the steps that the dial has itself.
  const apart = looked === 'all' ? Math.max(step, integer === true ? 1 : 0) : each;
  return { paths, from: least, to: most, step: Number(apart.toFixed(6)), weight: 1 };
}

const specAt = (level: Level, paths: readonly string[]): DialSpec | undefined =>
  studyDials(level).find(({ spec }) => spec.paths.join(' ') === paths.join(' '))?.spec;

/** A dial by where it is kept; null: the level has none there. */
export function stretchAt(level: Level, paths: readonly string[], looked: Looked): Stretch | null {
  const spec = specAt(level, paths);
  if (spec !== undefined) return stretchOf(level, spec, looked);
  const found = dialIn(level, { paths: [...paths] });
  if (found === null) return null;
  const { value, quantity } = found;
  return stretchOf(level, { path: paths[0] ?? '', paths, group: '', label: quantity.label, sign: '', value, range: quantity }, looked);
}

/** A search is for all of the range, a sweep shows what lies around. */
export const lookedAt = (kind: QuestionKind): Looked => (kind === 'seek' || kind === 'tune' ? 'all' : 'around');

/** The crowd that studies of values ask first: what the level states, else a hundred of all personas together. */
const firstCrowd = (level: Level): CrowdSettings => (level.crowd === null ? smallCrowd(level, SESSIONS, SECONDS) : usualCrowd(level));

/** What is asked at first: of the dials that were pressed, else of the first there is. */
export function firstQuestion(level: Level, kind: QuestionKind, pressed: readonly (readonly string[])[]): Question {
  const looked = lookedAt(kind);
  const given = pressed.flatMap((paths) => stretchAt(level, paths, looked) ?? []);
  const others = studyDials(level).filter(({ spec }) => !given.some(({ paths }) => paths.join(' ') === spec.paths.join(' ')));
  const dials = [...given, ...others.slice(0, 2).map(({ spec }) => stretchOf(level, spec, looked))];
  const health: AskedOutcome = { type: 'final', meter: 'health' };
  return {
    kind,
    dials,
    figures: [usualFigure(health)],
    crowd: firstCrowd(level),
    wish: 60,
    share: 0.2,
    nudged: [],
    // Tuning searches all of a range, whatever is asked first.
    moving: dials.slice(0, Math.max(1, given.length)).flatMap(({ paths }) => stretchAt(level, paths, 'all') ?? []),
    held: null,
    budget: BUDGET,
  };
}

/** How a dial is known among those of a level. */
export const dialKey = ({ paths }: Pick<Stretch, 'paths'>): string => paths.join(' ');

/** All dials that are nudged when nothing else is said. */
const allNudged = (level: Level): string[] =>
  studyDials(level)
    .filter(({ spec }) => !spec.path.startsWith('/personas/'))
    .map(({ spec }) => dialKey(spec));

/** Dials to nudge together: those of the player, of each kind, of each persona; by its name. */
export function nudgeGroups(level: Level): readonly (readonly [name: string, keys: readonly string[]])[] {
  const groups = new Map<string, string[]>();
  for (const { spec, name } of studyDials(level)) {
    const owner = name.slice(0, name.indexOf(':'));
    groups.set(owner, [...(groups.get(owner) ?? []), dialKey(spec)]);
  }
  return [...groups];
}

const dialOf = ({ paths }: Pick<Stretch, 'paths'>) => ({ paths: [...paths] });

/** Why dials, or the stretches of them that are asked about, do not fit a level or a question; null: they do. */
function unfitOf(level: Level, kind: QuestionKind, dials: readonly (Pick<Stretch, 'paths'> | Stretch)[]): string | null {
  for (const dial of dials) {
    if (dialIn(level, dialOf(dial)) === null) return `the level has no dial “${dialName(level, dialOf(dial))}” any more`;
    if (!('step' in dial)) continue;
    const { from, to, step } = dial;
    if (![from, to, step].every(Number.isFinite)) return 'a range wants numbers: from, to and a step';
    if (!(from < to)) return 'the range is empty: from must be less than to';
    if (kind !== 'seek' && !(step > 0)) return 'the step must be more than nought';
    const many = kind === 'one' || kind === 'two' ? tooManyValues(from, to, step) : null;
    if (many !== null) return many;
  }
  return null;
}

/** The question as the server and the core are asked it; or why it cannot be. */
export function asked(
  level: Level,
  question: Question,
): { readonly ok: true; readonly judging: Judging; readonly sessions: number } | { readonly ok: false; readonly why: string } {
  const refused = (why: string) => ({ ok: false, why }) as const;
  const { kind, dials, figures, crowd, wish, share, nudged, moving, held, budget } = question;
  const [first, second] = dials;
  const [figure] = figures;
  if (kind !== 'tune' && crowd.personas.length === 0) return refused('nobody plays: choose a persona');
  if (figure === undefined || first === undefined) return refused('the level has no dial');
  const used =
    kind === 'tune' ? moving : kind === 'two' ? [first, second].filter((one) => one !== undefined) : kind === 'matters' ? [] : [first];
  const unfit = unfitOf(level, kind, kind === 'matters' ? nudged.map((key) => ({ paths: key.split(' ') })) : used);
  if (unfit !== null) return refused(unfit);
  if (kind === 'two' && (second === undefined || second.paths.join(' ') === first.paths.join(' ')))
    return refused('choose two different dials');
  // One that is gone by now is not held to.
  const tunedTo = held?.filter((id) => entry(level.targets, id) !== undefined) ?? [];
  if (kind === 'tune' && held !== null && tunedTo.length === 0) return refused('choose a target that the dials are tuned to');
  const made = (): unknown => {
    switch (kind) {
      case 'one':
      case 'two':
        return {
          kind: 'sweep',
          of: {
            dials: used.map((one) => ({ ...dialOf(one), values: valuesFrom(one.from, one.to, one.step) })),
            figures: kind === 'two' ? [figure] : figures,
            crowd,
          },
        };
      case 'matters':
        return {
          kind: 'sensitivity',
          of: {
            dials: (nudged.length > 0 ? nudged : allNudged(level)).map((paths) => ({ paths: paths.split(' ') })),
            share,
            figure,
            crowd,
            atATime: NUDGED_AT_A_TIME,
          },
        };
      case 'tune':
        return {
          kind: 'tune',
          of: {
            dials: moving.map((one) => ({ ...dialOf(one), from: one.from, to: one.to, step: one.step, weight: one.weight })),
            targets: tunedTo,
            sessions: budget,
            seed: crowd.seed,
          },
        };
      case 'seek':
        return { kind: 'seek', of: { dial: dialOf(first), from: first.from, to: first.to, figure, wish, crowd } };
    }
  };
  const parsed = parseWith(Judging, made());
  if (!parsed.ok) return refused(parsed.problems[0]?.message ?? 'it cannot be asked so');
  const [problem] = judgingProblems(level, parsed.value);
  if (problem !== undefined) return refused(problem.message);
  return { ok: true, judging: parsed.value, sessions: judgingCost(level, parsed.value) };
}

/** What it costs, in words, before it is asked. */
export function costText(question: Question, sessions: number): string {
  const each = sessionCount(question.crowd);
  if (question.kind === 'seek' || question.kind === 'tune') return `up to ${String(sessions)} sessions`;
  return `${String(Math.round(sessions / each))} ${question.kind === 'matters' ? 'settings' : 'values'} × ${String(each)} sessions`;
}

/** The form as a study asked it. */
export function questionOf(level: Level, judging: Judging): Question | null {
  if (judging.kind === 'check') return null;
  const base = { figures: [], dials: [], wish: 60, share: 0.2 };
  if (judging.kind === 'sensitivity') {
    const { figure, crowd, share } = judging.of;
    const keys = judging.of.dials.map(dialKey);
    const nudged = keys.join('\n') === allNudged(level).join('\n') ? [] : keys;
    return { ...base, ...firstQuestion(level, 'matters', []), figures: [figure], crowd, share, nudged };
  }
  if (judging.kind === 'tune') {
    const { dials, targets, sessions, seed } = judging.of;
    const first = firstQuestion(level, 'tune', []);
    const moving = dials.map(({ paths, from, to, step, weight }): Stretch => {
      return { paths, from, to, step: step ?? stretchAt(level, paths, 'all')?.step ?? 1, weight };
    });
    return { ...first, moving, held: targets.length === 0 ? null : targets, budget: sessions, crowd: { ...first.crowd, seed } };
  }
  if (judging.kind === 'seek') {
    const { dial, from, to, figure, crowd, wish } = judging.of;
    const step = stretchAt(level, dial.paths, 'all')?.step ?? 1;
    return {
      ...firstQuestion(level, 'seek', [dial.paths]),
      dials: [{ paths: dial.paths, from, to, step, weight: 1 }],
      figures: [figure],
      crowd,
      wish,
    };
  }
  const { dials, figures, crowd } = judging.of;
  const stretches = dials.map(({ paths, values }): Stretch => {
    const [from = 0, next = from + 1] = values;
    return { paths, from, to: values.at(-1) ?? from, step: Number((next - from).toFixed(9)), weight: 1 };
  });
  return {
    ...firstQuestion(
      level,
      dials.length === 2 ? 'two' : 'one',
      dials.map(({ paths }) => paths),
    ),
    dials: stretches,
    figures,
    crowd,
  };
}

/** Outcomes to choose from: those of every level, and uses and refusals of each kind. */
export function outcomeChoices(level: Level): readonly (readonly [key: string, name: string, outcome: AskedOutcome])[] {
  const kinds = allKinds(level).map(([kind]) => kind);
  const things = kinds.flatMap((kind): AskedOutcome[] => [
    { type: 'uses', of: { type: 'kind', kind } },
    { type: 'refusals', of: { type: 'kind', kind } },
  ]);
  return [...outcomesOf(level), ...things].map((outcome) => [JSON.stringify(outcome), measureOf(level, outcome).name, outcome]);
}

/** The name that a study is given at first. */
export function studyName(level: Level, { kind, dials, figures, wish, moving }: Question): string {
  const nameOf = (dial: Stretch): string => dialName(level, dialOf(dial));
  const [first, second] = dials.map(nameOf);
  const [moved] = moving.map(nameOf);
  const outcome = figures[0] === undefined ? '' : measureOf(level, figures[0].outcome).name;
  const names = {
    one: `${first ?? ''}, ${outcome}`,
    two: `${first ?? ''} × ${second ?? ''}, ${outcome}`,
    matters: `what matters for ${outcome}`,
    seek: `${first ?? ''} for ${outcome} ${String(wish)}`,
    tune: moving.length === 1 ? `tune ${moved ?? ''}` : `tune ${String(moving.length)} dials`,
  };
  return names[kind].slice(0, 80);
}
