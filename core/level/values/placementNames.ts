import { inOrder } from '../document/order.ts';
import type { Level } from '../document/schema.ts';
import { kindOf } from './resolve.ts';

const known = new WeakMap<Level, ReadonlyMap<string, string>>();

/** The names of all placements: the name of the kind, numbered when there are several. */
export function placementNames(level: Level): ReadonlyMap<string, string> {
  const found = known.get(level);
  if (found !== undefined) return found;
  const ofKind = new Map<string, string[]>();
  for (const [id, { kind }] of inOrder(level.placements)) {
    const ids = ofKind.get(kind);
    if (ids === undefined) ofKind.set(kind, [id]);
    else ids.push(id);
  }
  const names = [...ofKind].flatMap(([kind, ids]) => {
    const name = kindOf(level, kind)?.name;
    return ids.map((id, index) => [id, name === undefined ? id : ids.length === 1 ? name : `${name} ${String(index + 1)}`] as const);
  });
  const made = new Map(names);
  known.set(level, made);
  return made;
}
