import { plainNumber } from '@dial/core/formats';
import { allKinds, isOwn, kindOf, type Level } from '@dial/core/level';
import { kindDials, playerDials, type DialSpec } from '../state/dialList.ts';

/** Numbers that were turned, in words: "cooling basin: rests for 9 → 6.5 s". */
function turned(name: string, was: readonly DialSpec[], now: readonly DialSpec[]): string[] {
  const before = new Map(was.map((spec) => [spec.path, spec.value]));
  return now.flatMap(({ path, label, value, range }) => {
    const old = before.get(path);
    const unit = range.unit === '' ? '' : ` ${range.unit}`;
    return old === undefined || old === value ? [] : [`${name}: ${label} ${plainNumber(old)} → ${plainNumber(value)}${unit}`];
  });
}

/** The dials of a kind; of one based on another only those it does not follow in. */
function ownDials(level: Level, id: string): DialSpec[] {
  const dials = kindDials(level, { kind: id, placements: [] });
  return id in level.variants ? dials.filter(({ paths }) => paths.some((path) => isOwn(level, path))) : dials;
}

/** How many entries of a map came, went, or are otherwise now. */
function counted(one: string, many: string, was: Readonly<Record<string, unknown>>, now: Readonly<Record<string, unknown>>): string[] {
  const say = (count: number, word: string): string[] => (count === 0 ? [] : [`${String(count)} ${count === 1 ? one : many} ${word}`]);
  const added = Object.keys(now).filter((id) => !(id in was));
  const gone = Object.keys(was).filter((id) => !(id in now));
  const changed = Object.keys(now).filter((id) => id in was && JSON.stringify(was[id]) !== JSON.stringify(now[id]));
  return [...say(added.length, 'added'), ...say(gone.length, 'deleted'), ...say(changed.length, 'moved or changed')];
}

/** What has changed from one state of a level to another, in words. */
export function differences(was: Level, now: Level): string[] {
  const kinds = allKinds(now).flatMap(([id, kind]) => {
    const before = kindOf(was, id);
    if (before === undefined) return [`new kind: ${kind.name}`];
    const renamed = before.name === kind.name ? [] : [`${before.name} is now called ${kind.name}`];
    return [...renamed, ...turned(kind.name, ownDials(was, id), ownDials(now, id))];
  });
  const gone = allKinds(was).flatMap(([id, { name }]) => (kindOf(now, id) === undefined ? [`kind deleted: ${name}`] : []));
  return [
    ...(was.name === now.name ? [] : [`the level was called ${was.name}`]),
    ...turned('the player', playerDials(was), playerDials(now)),
    ...kinds,
    ...gone,
    ...counted('placement', 'placements', was.placements, now.placements),
    ...counted('solid', 'solids', was.solids, now.solids),
    ...counted('point', 'points', was.points, now.points),
    ...counted('path', 'paths', was.paths, now.paths),
  ];
}
