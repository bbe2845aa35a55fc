import {
  fieldAt,
  kindOf,
  kindOfPlacement,
  levelFields,
  readAt,
  segmentsOf,
  type Field,
  type Level,
  type Problem,
  type Quantity,
} from '../../level/index.ts';
import { lackingIn } from '../measures.ts';
import { MOST_VALUES, type DialAt, type Figure } from './settings.ts';

/** The field of a value; of what a variant or a thing changes, the field of its kind. */
function fieldOf(level: Level, path: string): Field | null {
  const [map, id = '', part, within] = segmentsOf(path);
  const changed = (map === 'variants' && part === 'changes') || (map === 'placements' && part === 'own');
  if (!changed || within === undefined) return fieldAt(levelFields(), level, path);
  const kind = map === 'variants' ? kindOf(level, id) : kindOfPlacement(level, id);
  return fieldAt(levelFields(), { kinds: { it: kind } }, `/kinds/it${within}`);
}

/** What a number of the level is and what limits it has; null: there is no number there. */
function numberAtPath(level: Level, path: string): { readonly value: number; readonly quantity: Quantity } | null {
  const value = readAt(level, path);
  const field = typeof value === 'number' ? fieldOf(level, path) : null;
  const number = field?.type === 'maybe' ? field.of : field;
  const leaf = number?.type === 'either' ? number.options.find(({ type }) => type === 'number') : number;
  return typeof value === 'number' && leaf?.type === 'number' ? { value, quantity: leaf.quantity } : null;
}

/** What a dial is and stands at; null: the level has it no more. */
export const dialIn = (level: Level, { paths: [path] }: DialAt) => numberAtPath(level, path ?? '');

const countOf = (from: number, to: number, step: number): number => Math.max(0, Math.floor((to - from) / step + 1e-9) + 1);

/** The values from one to another, in steps; the last is the one that is reached. Rounded to what the step shows. */
export const valuesFrom = (from: number, to: number, step: number): number[] =>
  Array.from({ length: Math.min(MOST_VALUES + 1, countOf(from, to, step)) }, (_, nth) => Number((from + nth * step).toFixed(9)));

/** That steps are so small that they make more values than can be asked about, with steps that do not; null: they are not. */
export function tooManyValues(from: number, to: number, step: number): string | null {
  const count = countOf(from, to, step);
  if (count <= MOST_VALUES) return null;
  // Two digits, rounded up: by rounding no more than a twentieth is lost.
  const enough = Number(((1.05 * (to - from)) / (MOST_VALUES - 1)).toPrecision(2));
  const made = Number.isFinite(count) ? `makes ${String(count)} values` : 'makes values without end';
  return `a step of ${String(step)} ${made}, and at most ${String(MOST_VALUES)} are asked about: a step of about ${String(enough)} does`;
}

/** That the level has a dial no more, or that what one turns another turns, too; `at` is where the first is asked for. */
export function dialProblems(level: Level, dials: readonly DialAt[], at = (nth: number): string => `/dials/${String(nth)}`): Problem[] {
  const turned = new Set<string>();
  return dials.flatMap(({ paths }, nth): Problem[] => {
    const lost = paths.find((path) => numberAtPath(level, path) === null);
    const twice = paths.find((path) => turned.has(path));
    for (const path of paths) turned.add(path);
    if (lost !== undefined) return [{ path: at(nth), message: `the level has no number at ${lost}` }];
    return twice === undefined ? [] : [{ path: at(nth), message: `${twice} is turned twice` }];
  });
}

/** That the level has no more what a figure asks about. */
export function lostFigure(level: Level, { outcome }: Pick<Figure, 'outcome'>, path: string): Problem[] {
  const message = lackingIn(level, outcome);
  return message === null ? [] : [{ path, message }];
}
