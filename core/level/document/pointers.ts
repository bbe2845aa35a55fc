/** `['kinds', 'a/b']` → `/kinds/a~1b`. */
export function pointer(segments: readonly PropertyKey[]): string {
  return segments.map((segment) => '/' + String(segment).replaceAll('~', '~0').replaceAll('/', '~1')).join('');
}

/** `/kinds/a~1b` → `['kinds', 'a/b']`. */
export function segmentsOf(path: string): string[] {
  return path
    .split('/')
    .slice(1)
    .map((segment) => segment.replaceAll('~1', '/').replaceAll('~0', '~'));
}

/** The entry of a map, never something inherited from Object. */
export function entry<Value>(map: Readonly<Record<string, Value>>, id: string): Value | undefined {
  return Object.hasOwn(map, id) ? map[id] : undefined;
}

/** The value at a JSON Pointer. */
export function valueAt(document: unknown, path: string): unknown {
  let value: unknown = document;
  for (const key of segmentsOf(path)) {
    if (typeof value !== 'object' || value === null || !Object.hasOwn(value, key)) return undefined;
    value = (value as Record<string, unknown>)[key];
  }
  return value;
}

/** Sets the value at a JSON Pointer whose parent there is; `undefined` removes it. */
export function setAt(draft: object, path: string, value: unknown): void {
  const cut = path.lastIndexOf('/');
  const parent = valueAt(draft, path.slice(0, cut));
  const [last = ''] = segmentsOf(path.slice(cut));
  if (cut < 0 || typeof parent !== 'object' || parent === null) throw new RangeError(`there is nothing at ${path}`);
  if (value === undefined) Reflect.deleteProperty(parent, last);
  else (parent as Record<string, unknown>)[last] = value;
}
