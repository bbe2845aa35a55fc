import { entry, inOrder, kindOf, type Level } from '../level/index.ts';
import type { CrowdReport, Estimate, GroupReport, ThingReport, Touches } from '../studies/index.ts';
import { plainNumber } from './numerals.ts';
import { placementName } from './words.ts';

/** A piece of a sentence: words, a figure in it, its interval, or the name of a thing that can be pressed. */
export interface Piece {
  readonly text: string;
  readonly as: 'words' | 'figure' | 'interval' | 'thing';
  /** Of a thing, its placement. */
  readonly placement?: string;
  /** Of a thing at which lives are lost, who loses them; null: everybody. */
  readonly dies?: string | null;
}

const words = (text: string): Piece => ({ text, as: 'words' });
const figure = (text: string): Piece => ({ text, as: 'figure' });
const hundredth = (share: number): string => plainNumber(100 * share, 0);

/** `84–88`; one number where both ends are written alike, and `−4 to −2` where a dash would be read as a sign. */
export function rangeText(low: number, high: number, places = 0): string {
  const [from, to] = [plainNumber(low, places), plainNumber(high, places)];
  if (from === to) return from;
  return low < 0 ? `${from} to ${to}` : `${from}–${to}`;
}

const shareInterval = ({ low, high }: Estimate): Piece => ({ text: ` (${rangeText(100 * low, 100 * high)})`, as: 'interval' });

/** A share in words: `86 of 100 (84–88)`. */
export const shareText = (share: Estimate): string => `${hundredth(share.value)} of 100${shareInterval(share).text}`;

/** What a row of a crowd's table is about. */
export const thingName = (level: Level, { placement, kind }: Pick<ThingReport, 'placement' | 'kind'>): string =>
  placement === null ? `${kindOf(level, kind)?.name ?? kind}, spawned` : placementName(level, placement);

function listed(pieces: readonly Piece[]): Piece[] {
  return pieces.flatMap((piece, at) => {
    if (at === 0) return [piece];
    return [words(at === pieces.length - 1 ? ' and ' : ', '), piece];
  });
}

/** Whoever loses lives most often, and what at. */
function losses(level: Level, { personas, all, things }: CrowdReport): Piece[] {
  const worst = [...personas].filter(({ sessions }) => sessions > 0).sort((a, b) => b.losesALife.value - a.losesALife.value)[0] ?? all;
  if (worst.losesALife.value === 0) return [words(' Nobody loses a life.')];
  const name = worst.persona === null ? 'everybody' : (entry(level.personas, worst.persona)?.name ?? worst.persona);
  const cause = things.find(({ thing }) => thing === worst.diesAt);
  return [
    words(` Of all, ${name} loses a life most often: in `),
    figure(`${hundredth(worst.losesALife.value)} of 100`),
    shareInterval(worst.losesALife),
    ...(cause === undefined ? [] : [words(', mostly at '), { ...thingPiece(level, cause), dies: worst.persona }]),
    words('.'),
  ];
}

const thingPiece = (level: Level, thing: ThingReport): Piece => ({
  text: thingName(level, thing),
  as: 'thing',
  ...(thing.placement === null ? {} : { placement: thing.placement }),
});

/** So many things that nobody touched are named; of more it is said how many. */
const MOST_NAMED = 3;

function untouched(level: Level, { things, sessions }: CrowdReport): Piece[] {
  const never = things.filter(({ touched }) => touched.value === 0);
  if (never.length === 0 || sessions === 0) return [];
  if (never.length > MOST_NAMED) return [words(' Nobody ever touched '), figure(`${String(never.length)} things`), words('.')];
  return [words(' Nobody ever touched '), ...listed(never.map((one) => thingPiece(level, one))), words('.')];
}

/** What a crowd came to, as its answer: who finishes, with how much health, who loses lives at what, and what nobody touched. */
export function crowdSentence(level: Level, report: CrowdReport): Piece[] {
  const { all, sessions } = report;
  if (sessions === 0) return [words('No session has been played yet.')];
  const health = all.spreads.find(({ measure }) => measure === `final ${entry(level.meters, 'health')?.name ?? 'health'}`);
  return [
    figure(`${hundredth(all.finishes.value)} of 100 finish`),
    shareInterval(all.finishes),
    ...(health === undefined
      ? []
      : [
          words('; half end with '),
          figure(`${plainNumber(health.median.value, 0)} health or more`),
          { text: ` (${rangeText(health.median.low, health.median.high)})`, as: 'interval' as const },
        ]),
    words('.'),
    ...losses(level, report),
    ...untouched(level, report),
  ];
}

/** How the sessions of some ended, the most frequent first: `won 92, gave up 8`. */
export const endsText = ({ ended }: Pick<GroupReport, 'ended'>): string =>
  Object.entries(ended)
    .map(([how, times]) => `${how} ${String(times)}`)
    .join(', ');

/** What a crowd came to, for a terminal. */
export function crowdText(level: Level, report: CrowdReport): string {
  const { personas, all, things, sessions, asked } = report;
  const groups = personas.length > 1 ? [...personas, all] : personas;
  const lines = groups.map((group) => {
    const name = group.persona === null ? 'all' : (entry(level.personas, group.persona)?.name ?? group.persona);
    const spreads = group.spreads
      .filter(({ measure }) => [...inOrder(level.meters).map(([, meter]) => `final ${meter.name}`), 'time'].includes(measure))
      .map(({ measure, median, tenth, ninetieth, unit }) => {
        const spread = rangeText(tenth, ninetieth, 1);
        return `${measure} ${plainNumber(median.value, 1)}${unit === '' ? '' : ` ${unit}`} (${spread})`;
      });
    return `  ${name}, ${String(group.sessions)}: finish ${shareText(group.finishes)}, lose a life ${shareText(group.losesALife)}; ${[...spreads, endsText(group)].join('; ')}`;
  });
  const rows = things.map((thing) => {
    const refused = thing.refused.map(({ reason, times }) => `${reason} ${plainNumber(times, 2)}`).join(', ');
    const parts = [
      `touched by ${hundredth(thing.touched.value)} %`,
      `used ${plainNumber(thing.uses, 2)} a session`,
      ...(refused === '' ? [] : [`refused ${refused}`]),
      ...(thing.health === 0 ? [] : [`health ${plainNumber(thing.health, 1)}`]),
      ...(thing.deaths === 0 ? [] : [`${String(thing.deaths)} deaths`]),
    ];
    return `  ${thingName(level, thing)}: ${thing.touched.value === 0 ? 'never touched' : parts.join(', ')}`;
  });
  const part = sessions < asked ? ` (of ${String(asked)} asked for)` : '';
  const sentence = crowdSentence(level, report)
    .map(({ text }) => text)
    .join('');
  return [`${String(sessions)} sessions${part}. ${sentence}`, ...lines, 'things:', ...rows].join('\n');
}

/** A figure of what a crowd did at a thing; what it was in another version, where that differs. */
export interface TouchFigure {
  readonly name: string;
  readonly figure: string;
  readonly was: string | null;
}

const someOf = (value: number, places: number): string | null => (value === 0 ? null : plainNumber(value, places));

/** What there is to say of touches; null where a figure says nothing. */
const TOUCH_FIGURES: readonly { readonly name: string; readonly of: (touches: Touches) => string | null }[] = [
  { name: 'of 100 players touch it', of: ({ touched }) => hundredth(touched.value) },
  { name: 'times used, a player', of: ({ uses }) => someOf(uses, 2) },
  {
    name: 'times refused',
    of: ({ refused }) =>
      someOf(
        refused.reduce((sum, { times }) => sum + times, 0),
        2,
      ),
  },
  { name: 'health given', of: ({ health }) => someOf(Math.max(0, health), 1) },
  { name: 'health taken', of: ({ health }) => someOf(Math.max(0, -health), 1) },
  { name: 'wasted', of: ({ wasted }) => someOf(wasted, 1) },
  { name: 'score given', of: ({ scored }) => someOf(scored, 1) },
  { name: 'deaths in 100 sessions', of: ({ deaths, touched }) => someOf((100 * deaths) / Math.max(1, touched.sessions), 1) },
  { name: 'seconds waited', of: ({ waitingSeconds }) => someOf(waitingSeconds, 1) },
];

/** What a crowd did at a thing, or at all of a kind, each figure with what it was in another version. */
export function touchFigures(now: Touches, before: Touches | null): TouchFigure[] {
  return TOUCH_FIGURES.flatMap(({ name, of }): TouchFigure[] => {
    const [figure, was] = [of(now), before === null ? null : of(before)];
    if (figure === null && was === null) return [];
    const shown = figure ?? '0';
    return [{ name, figure: shown, was: before === null || (was ?? '0') === shown ? null : (was ?? '0') }];
  });
}
