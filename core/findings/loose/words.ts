import type { Level } from '../../level/index.ts';

const used = new WeakMap<Level, ReadonlySet<string>>();

/** Every word that stands anywhere in a level as a value, or as a name within a value: what is not among them is used nowhere. */
export function wordsIn(level: Level): ReadonlySet<string> {
  const known = used.get(level);
  if (known !== undefined) return known;
  const found = new Set<string>();
  const visit = (value: unknown, keys: boolean): void => {
    if (typeof value === 'string') found.add(value);
    else if (Array.isArray(value)) value.forEach((one) => visit(one, true));
    else if (typeof value === 'object' && value !== null)
      for (const [key, one] of Object.entries(value)) {
        // What people read is no use of an id.
        if (key === 'name') continue;
        if (keys) found.add(key);
        visit(one, true);
      }
  };
  // Ids of the maps themselves are no use of them; what lies within is. Readouts and targets speak of what there is, and use nothing.
  for (const [part, value] of Object.entries(level)) {
    if (part === 'targets' || part === 'readouts' || part === 'meant') continue;
    if (typeof value === 'object' && value !== null && !Array.isArray(value)) for (const one of Object.values(value)) visit(one, true);
    else visit(value, false);
  }
  used.set(level, found);
  return found;
}
