import {
  allNumbers,
  differencesOf,
  entry,
  fieldAt,
  kindOf,
  levelFields,
  segmentsOf,
  valueAt,
  type Difference,
  type Level,
  type LevelNumber,
} from '../level/index.ts';
import { placementName } from './words.ts';
import { pairText, plainNumber } from './numerals.ts';
import { shortTarget } from './targetWords.ts';

/** `startOffset` → `start offset`. */
const spaced = (name: string): string => name.replaceAll(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);

/** What an entry of a map is called. */
const THINGS: Readonly<Record<string, string>> = {
  kinds: 'kind',
  variants: 'kind',
  placements: 'placement',
  solids: 'solid',
  points: 'point',
  paths: 'path',
  routes: 'route',
  meters: 'meter',
  items: 'item',
  flourishes: 'flourish',
  tries: 'starting state',
  readouts: 'readout',
  tagRules: 'tag with rules',
  personas: 'persona',
  targets: 'target',
};

/** A value in a few words. */
function valueWords(value: unknown, unit: string): string {
  if (typeof value === 'number') return plainNumber(value) + (unit === '' ? '' : ` ${unit}`);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string') return value;
  if (value === null || value === undefined) return 'none';
  if (Array.isArray(value)) {
    if (value.every((one) => typeof one === 'string')) return value.length === 0 ? 'none' : value.join(', ');
    return `${String(value.length)} points`;
  }
  const { type } = value as { readonly type?: unknown };
  return typeof type === 'string' ? type : 'set';
}

const change = (was: unknown, now: unknown, unit: string): string => {
  const [before, after] = [valueWords(was, typeof now === 'number' ? '' : unit), valueWords(now, unit)];
  return before === after ? 'changed' : `${before} → ${after}`;
};

/** How entries of a map are called: by their name; placements by that of their kind, solids by their place, targets by what they ask. */
function nameOf(level: Level, map: string, id: string): string {
  if (map === 'placements') return placementName(level, id);
  if (map === 'kinds' || map === 'variants') return kindOf(level, id)?.name ?? id;
  const target = map === 'targets' ? entry(level.targets, id) : undefined;
  if (target !== undefined) return shortTarget(level, target);
  const one = (entry(level as unknown as Readonly<Record<string, unknown>>, map) ?? {}) as Readonly<Record<string, object>>;
  const found = entry(one, id) as { readonly name?: string; readonly tag?: string; readonly x?: number; readonly y?: number } | undefined;
  if (map === 'solids') return `solid at ${pairText(found?.x ?? 0, found?.y ?? 0)}`;
  return found?.name ?? found?.tag ?? spaced(id.replaceAll('-', ' '));
}

/** What a pointer into a level points to, in words: `/points/q` → "point q", `/meters/health/start` → "meter health: start". */
export function pointerWords(level: Level, path: string): string {
  const [map = '', id, ...within] = segmentsOf(path);
  const thing = entry(THINGS, map);
  if (thing === undefined || id === undefined) return segmentsOf(path).map(spaced).join(': ');
  const part = within.slice(-2).map(spaced).join(' ');
  return `${map === 'solids' ? '' : `${thing} `}${nameOf(level, map, id)}${part === '' ? '' : `: ${part}`}`;
}

/** What to call a value of a kind: its number's label, else the last words on the way to it. */
function labelWithin(numbers: readonly LevelNumber[], within: string): string {
  const number = numbers.find(({ path }) => path.endsWith(within));
  if (number !== undefined) return number.label;
  const words = segmentsOf(within).filter((word) => !/^\d+$/.test(word) && !['rules', 'changes', 'own'].includes(word));
  // Which of several sorts something is, is said by what it is of.
  return (words.at(-1) === 'type' ? words.slice(-2, -1) : words.slice(-2)).map(spaced).join(' ');
}

/** Says where a level has changed from one state to another, a line for each place: "cooling basin: rests for 9 → 6.5 s". */
export function differenceWords(was: Level, now: Level): readonly (Difference & { readonly words: string })[] {
  const differences = differencesOf(was, now);
  const numbersOf = new Map<string, readonly LevelNumber[]>();
  /** The numbers of a kind, as it is and, of those that have gone, as it was. */
  const numbers = (kind: string): readonly LevelNumber[] => {
    const known = numbersOf.get(kind);
    if (known !== undefined) return known;
    const all = [now, was].flatMap((level) => (kindOf(level, kind) === undefined ? [] : allNumbers(level, { kind, placements: [] })));
    numbersOf.set(kind, all);
    return all;
  };
  const unitAt = (path: string): string => {
    const field = fieldAt(levelFields(), now, path);
    const number = field?.type === 'maybe' ? field.of : field;
    return number?.type === 'number' ? number.quantity.unit : '';
  };
  const numberUnit = (kind: string, within: string): string => numbers(kind).find(({ path }) => path.endsWith(within))?.range.unit ?? '';
  /** An own value of a placement, or of a variant, which otherwise follows its kind. */
  const ownWords = (kind: string, within: string, old: unknown, here: unknown): string =>
    `${labelWithin(numbers(kind), within)} ${change(old, here, numberUnit(kind, within))}`;
  const placementWords = (id: string, [field, within]: readonly string[], before: unknown, after: unknown): string | null => {
    if (field === 'x' || field === 'y') {
      const [old, here] = [was.placements[id], now.placements[id]];
      // Both coordinates are one move: said once, with the first of them that differs.
      if (field === 'y' && old?.x !== here?.x) return null;
      const place = (at: typeof old): string => pairText(at?.x ?? 0, at?.y ?? 0);
      return `${placementName(now, id)}: moved ${place(old)} → ${place(here)}`;
    }
    if (field !== 'own' || within === undefined) return '';
    const kind = now.placements[id]?.kind ?? '';
    if (after === undefined) return `${placementName(now, id)}: own ${labelWithin(numbers(kind), within)} back to its kind’s`;
    return `${placementName(now, id)}: own ${ownWords(kind, within, before ?? valueAt(kindOf(was, kind), within), after)}`;
  };
  const kindWords = ({ path, was: before, now: after }: Difference, id: string): string => {
    const number = numbers(id).find(({ path: known }) => known === path);
    const label = labelWithin(numbers(id), path.slice(`/kinds/${id}`.length));
    return `${label} ${change(before, after, number?.range.unit ?? unitAt(path))}`;
  };
  /** A value in no map. */
  const settingWords = ({ path, was: before, now: after }: Difference): string => {
    const [map = '', ...rest] = segmentsOf(path);
    const words = [map, ...rest].filter((word) => word !== '').map(spaced);
    const subject = map === 'body' ? 'the player' : words.length > 1 ? words[0] : 'the level';
    return `${subject ?? ''}: ${(words.length > 1 ? words.slice(1) : words).join(' ')} ${change(before, after, unitAt(path))}`;
  };
  const one = (difference: Difference): string[] => {
    const { path, was: before, now: after } = difference;
    const [map = '', id = '', ...rest] = segmentsOf(path);
    const sort = entry(THINGS, map);
    if (rest.at(-1) === 'order') return [];
    if (sort === undefined) return [settingWords(difference)];
    if (rest.length === 0 && before === undefined) return [`new ${sort}: ${nameOf(now, map, id)}`];
    if (rest.length === 0 && after === undefined) return [`${sort} deleted: ${nameOf(was, map, id)}`];
    if (map === 'placements') {
      const words = placementWords(id, rest, before, after);
      if (words !== '') return words === null ? [] : [words];
    }
    const name = nameOf(now, map, id);
    const within = rest[1];
    if (map === 'variants' && rest[0] === 'changes' && within !== undefined) {
      return [`${name}: ${ownWords(id, within, before ?? valueAt(kindOf(was, id), within), after ?? valueAt(kindOf(now, id), within))}`];
    }
    if (map === 'kinds') return [`${name}: ${kindWords(difference, id)}`];
    return [`${name}: ${rest.map(spaced).join(' ')} ${change(before, after, unitAt(path))}`];
  };
  return differences.flatMap((difference) => one(difference).map((words) => ({ ...difference, words })));
}
