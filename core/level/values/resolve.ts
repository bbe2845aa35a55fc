import { inOrder } from '../document/order.ts';
import { entry, segmentsOf } from '../document/pointers.ts';
import { problemsOf, type Parsed, type Problem } from '../document/problems.ts';
import type { Level } from '../document/schema.ts';
import { spawnedOf } from './spawned.ts';
import { tagMatches } from '../document/tags.ts';
import { Kind, type Placement } from '../document/things.ts';

/** A copy of a JSON value with what a pointer leads to replaced; null when the way there does not exist. */
function withValue(document: unknown, segments: readonly string[], value: unknown): unknown {
  const [first, ...rest] = segments;
  if (first === undefined) return value;
  if (typeof document !== 'object' || document === null || first === '__proto__') return null;
  const map = document as Record<string, unknown>;
  if (rest.length > 0 && !Object.hasOwn(map, first)) return null;
  const changed = withValue(map[first], rest, value);
  if (changed === null && value !== null) return null;
  if (Array.isArray(document)) return document.map((one: unknown, index) => (String(index) === first ? changed : one));
  return { ...map, [first]: changed };
}

/** A kind with some values changed, checked anew. `under` is where the changes stand, for problems. */
function applyChanges(kind: Kind, changes: Placement['own'], under: string): Parsed<Kind> {
  let document: unknown = kind;
  for (const [path, value] of Object.entries(changes)) {
    const changed = withValue(document, segmentsOf(path), value);
    if (changed === null) return { ok: false, problems: [{ path: `${under}${path}`, message: 'the kind has no such value' }] };
    document = changed;
  }
  const parsed = Kind.safeParse(document);
  return parsed.success ? { ok: true, value: parsed.data } : { ok: false, problems: problemsOf(parsed.error, under) };
}

/** A level's kinds with variants made whole, before rules that sit on tags. */
interface Resolved {
  readonly kinds: ReadonlyMap<string, Kind>;
  readonly problems: readonly Problem[];
}

function resolveVariants(level: Level): Resolved {
  const kinds = new Map<string, Kind>(Object.entries(level.kinds));
  const problems: Problem[] = [];
  const visit = (id: string, above: readonly string[]): Kind | undefined => {
    const known = kinds.get(id);
    const variant = entry(level.variants, id);
    if (known !== undefined || variant === undefined) return known;
    if (above.includes(id)) {
      problems.push({ path: `/variants/${id}/basedOn`, message: 'a kind cannot be based on itself' });
      return undefined;
    }
    const base = visit(variant.basedOn, [...above, id]);
    if (base === undefined) {
      if (entry(level.variants, variant.basedOn) === undefined) {
        problems.push({ path: `/variants/${id}/basedOn`, message: `there is no kind "${variant.basedOn}"` });
      }
      return undefined;
    }
    const parsed = applyChanges(base, variant.changes, `/variants/${id}/changes`);
    if (!parsed.ok) {
      problems.push(...parsed.problems);
      return undefined;
    }
    const whole = { ...parsed.value, name: variant.name, order: variant.order };
    kinds.set(id, whole);
    return whole;
  };
  for (const id of Object.keys(level.variants)) {
    if (entry(level.kinds, id) !== undefined) problems.push({ path: `/variants/${id}`, message: `there is a kind "${id}" already` });
    visit(id, []);
  }
  return { kinds, problems };
}

/** Adds the rules that sit on the kind's tags, under ids no rule of its own can have. */
function withTagRules(level: Level, kind: Kind): Kind {
  const onTags = inOrder(level.tagRules).filter(([, { tag }]) => kind.tags.some((own) => tagMatches(tag, own)));
  if (onTags.length === 0) return kind;
  const added = onTags
    .flatMap(([id, { rules }]) => inOrder(rules).map(([rule, value]) => [`${id}:${rule}`, value] as const))
    .filter(([id]) => !kind.exempt.includes(id));
  if (added.length === 0) return kind;
  const last = Math.max(0, ...Object.values(kind.rules).map(({ order }) => order));
  const shifted = added.map(([id, rule], index) => [id, { ...rule, order: last + 1 + index }] as const);
  return { ...kind, rules: { ...kind.rules, ...Object.fromEntries(shifted) } };
}

interface Whole extends Resolved {
  /** The kind of each placement with own values. */
  readonly own: ReadonlyMap<string, Kind>;
}

const known = new WeakMap<Level, Whole>();

function resolve(level: Level): Whole {
  const found = known.get(level);
  if (found !== undefined) return found;
  const { kinds, problems } = resolveVariants(level);
  const all = [...problems];
  const own = new Map<string, Kind>();
  const made = new Map<string, Parsed<Kind>>();
  for (const [id, placement] of Object.entries(level.placements)) {
    const kind = kinds.get(placement.kind);
    if (kind === undefined || Object.keys(placement.own).length === 0) continue;
    const key = placement.kind + JSON.stringify(placement.own);
    const parsed = made.get(key) ?? applyChanges(kind, placement.own, `/placements/${id}/own`);
    made.set(key, parsed);
    if (parsed.ok) own.set(id, withTagRules(level, parsed.value));
    else all.push(...parsed.problems);
  }
  // Placements with equal own values share one kind.
  const shared = new Map<string, Kind>();
  for (const [id, kind] of own) {
    const placement = level.placements[id];
    const key = placement === undefined ? id : placement.kind + JSON.stringify(placement.own);
    own.set(id, shared.get(key) ?? kind);
    if (!shared.has(key)) shared.set(key, kind);
  }
  const whole = { kinds: new Map([...kinds].map(([id, kind]) => [id, withTagRules(level, kind)])), problems: all, own };
  known.set(level, whole);
  return whole;
}

/** What is wrong with variants and own values. */
export function variantProblems(level: Level): readonly Problem[] {
  return resolve(level).problems;
}

/** A kind or variant by id, whole: values of its base, its changes, and rules that sit on its tags. */
export function kindOf(level: Level, id: string): Kind | undefined {
  return resolve(level).kinds.get(id);
}

/** All kinds and variants, whole, in order. */
export function allKinds(level: Level): [string, Kind][] {
  return inOrder(Object.fromEntries(resolve(level).kinds));
}

/** The kind of a placement with its own values in it, or of a spawned thing. */
export function kindOfPlacement(level: Level, id: string): Kind | undefined {
  const whole = resolve(level);
  return whole.own.get(id) ?? whole.kinds.get(entry(level.placements, id)?.kind ?? spawnedOf(id)?.kind ?? '');
}
