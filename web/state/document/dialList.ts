import { byColumn } from '@dial/core/formats';
import { entry, keptAt, mainNumbers, type DialSpec, type Level, type Owner } from '@dial/core/level';

/** The dials that things of several kinds have in common, by name and unit; each turns all of them together. */
export function sharedDials(level: Level, placements: readonly string[], only: boolean): DialSpec[] {
  const ofKind = new Map<string, string[]>();
  for (const id of placements) {
    const kind = entry(level.placements, id)?.kind;
    if (kind !== undefined) ofKind.set(kind, [...(ofKind.get(kind) ?? []), id]);
  }
  const tables = [...ofKind].map(([kind, ids]) => {
    const owner: Owner = { kind, placements: only ? ids : [] };
    return { owner, numbers: byColumn(mainNumbers(level, owner)) };
  });
  const [first, ...others] = tables;
  return [...(first?.numbers ?? [])].flatMap(([name, number]) => {
    const alike = tables.flatMap(({ owner, numbers }) => {
      const found = numbers.get(name);
      return found === undefined ? [] : keptAt(level, owner, found.path);
    });
    return others.every(({ numbers }) => numbers.has(name)) ? [{ ...number, path: `shared ${name}`, paths: alike }] : [];
  });
}
