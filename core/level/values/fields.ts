import { z } from 'zod';
import type { Refers } from '../document/basics.ts';
import { inOrder } from '../document/order.ts';
import { entry, segmentsOf } from '../document/pointers.ts';
import { quantities, type Quantity, type QuantityName } from '../document/quantities.ts';
import { placementNames } from './placementNames.ts';
import { allKinds } from './resolve.ts';
import { sizedLike } from './reshaping.ts';
import { Level } from '../document/schema.ts';

interface About {
  readonly description: string;
  /** The value it has when nothing is said. */
  readonly initial?: unknown;
}

/** What may stand at a place of the document, as an editor needs to know it: read off the published JSON Schema. */
export type Field = About &
  (
    | { readonly type: 'number'; readonly quantity: Quantity }
    | { readonly type: 'choice'; readonly options: readonly string[] }
    | { readonly type: 'flag' }
    | { readonly type: 'text'; readonly suggests: Refers | null }
    | { readonly type: 'reference'; readonly to: Refers }
    | { readonly type: 'group'; readonly fields: Readonly<Record<string, Field>> }
    /** A group whose `type` says which of several it is. */
    | { readonly type: 'cases'; readonly cases: Readonly<Record<string, Field & { readonly type: 'group' }>> }
    | { readonly type: 'either'; readonly options: readonly Field[] }
    /** Something, or null for none. */
    | { readonly type: 'maybe'; readonly of: Field }
    | { readonly type: 'list'; readonly of: Field }
    | { readonly type: 'tuple'; readonly of: readonly Field[] }
    | { readonly type: 'map'; readonly of: Field; readonly keys: Refers | null }
  );

/** The part of a JSON Schema that the level's uses. */
interface JsonSchema {
  readonly type?: string;
  readonly description?: string;
  readonly default?: unknown;
  readonly const?: string;
  readonly enum?: readonly string[];
  readonly properties?: Readonly<Record<string, JsonSchema>>;
  readonly items?: JsonSchema;
  readonly prefixItems?: readonly JsonSchema[];
  readonly anyOf?: readonly JsonSchema[];
  readonly oneOf?: readonly JsonSchema[];
  readonly propertyNames?: JsonSchema;
  readonly additionalProperties?: JsonSchema | false;
  readonly quantity?: QuantityName;
  readonly refers?: Refers;
}

function group(schema: JsonSchema, about: About): Field & { readonly type: 'group' } {
  const fields = Object.entries(schema.properties ?? {}).filter(([, one]) => one.const === undefined);
  return { ...about, type: 'group', fields: Object.fromEntries(fields.map(([name, one]) => [name, fieldOf(one)])) };
}

function fieldOf(schema: JsonSchema): Field {
  const about: About = { description: schema.description ?? '', ...('default' in schema ? { initial: schema.default } : {}) };
  const { refers } = schema;
  if (schema.oneOf !== undefined) {
    const cases = schema.oneOf.map((one) => {
      const type = one.properties?.['type'];
      return [type?.const ?? '', group(one, { description: type?.description ?? '' })] as const;
    });
    return { ...about, type: 'cases', cases: Object.fromEntries(cases) };
  }
  if (schema.anyOf !== undefined) {
    const options = schema.anyOf.filter(({ type }) => type !== 'null');
    const [only, ...others] = options.map(fieldOf);
    const of: Field = only !== undefined && others.length === 0 ? only : { description: '', type: 'either', options: options.map(fieldOf) };
    return options.length < schema.anyOf.length ? { ...about, type: 'maybe', of } : { ...of, ...about };
  }
  if (schema.quantity !== undefined) return { ...about, type: 'number', quantity: quantities[schema.quantity] };
  if (schema.enum !== undefined) return { ...about, type: 'choice', options: schema.enum };
  if (schema.type === 'boolean') return { ...about, type: 'flag' };
  if (schema.prefixItems !== undefined) return { ...about, type: 'tuple', of: schema.prefixItems.map(fieldOf) };
  if (schema.items !== undefined) return { ...about, type: 'list', of: fieldOf(schema.items) };
  if (schema.properties !== undefined) return group(schema, about);
  if (schema.propertyNames !== undefined && typeof schema.additionalProperties === 'object') {
    return { ...about, type: 'map', of: fieldOf(schema.additionalProperties), keys: schema.propertyNames.refers ?? null };
  }
  if (refers === undefined || refers === 'notices' || refers === 'tags') return { ...about, type: 'text', suggests: refers ?? null };
  return { ...about, type: 'reference', to: refers };
}

let wholeLevel: Field | null = null;
/** The fields of a whole level. */
export function levelFields(): Field {
  wholeLevel ??= fieldOf(z.toJSONSchema(Level) as JsonSchema);
  return wholeLevel;
}

/** Whether a value is of the sort a field takes; no more is asked than tells the options of an `either` apart. */
export function fits(field: Field, value: unknown): boolean {
  switch (field.type) {
    case 'number':
      return typeof value === 'number';
    case 'group':
      return typeof value === 'object' && value !== null && Object.keys(field.fields).every((name) => Object.hasOwn(value, name));
    case 'list':
    case 'tuple':
      return Array.isArray(value);
    case 'flag':
      return typeof value === 'boolean';
    case 'maybe':
      return value === null || fits(field.of, value);
    case 'choice':
      return typeof value === 'string' && field.options.includes(value);
    default:
      return typeof value === (field.type === 'text' || field.type === 'reference' ? 'string' : 'object');
  }
}

/** The field one step further in, given the value there is. */
export function fieldWithin(field: Field, value: unknown, name: string): Field | null {
  switch (field.type) {
    case 'group':
      return entry(field.fields, name) ?? null;
    case 'cases': {
      const type = (value as { readonly type?: string } | null)?.type ?? '';
      return entry(entry(field.cases, type)?.fields ?? {}, name) ?? null;
    }
    case 'maybe':
      return fieldWithin(field.of, value, name);
    case 'either': {
      const option = field.options.find((one) => fits(one, value));
      return option === undefined ? null : fieldWithin(option, value, name);
    }
    case 'list':
    case 'map':
      return field.of;
    case 'tuple':
      return field.of[Number(name)] ?? null;
    default:
      return null;
  }
}

/** The field at a JSON Pointer below a field, given the value that stands at the field; null where there is none. */
export function fieldAt(field: Field, value: unknown, path: string): Field | null {
  let found: Field | null = field;
  let within = value;
  for (const name of segmentsOf(path)) {
    if (found === null) return null;
    found = fieldWithin(found, within, name);
    within = typeof within === 'object' && within !== null ? (within as Record<string, unknown>)[name] : undefined;
  }
  return found;
}

/** What an id or a word may name in a level: ids and the names people read. */
export function named(level: Level, to: Refers): readonly (readonly [id: string, name: string])[] {
  if (to === 'kinds') return allKinds(level).map(([id, { name }]) => [id, name]);
  if (to === 'placements') return [...placementNames(level)];
  if (to === 'notices' || to === 'tags') return [...new Set(wordsOf(level, to))].sort().map((word) => [word, word]);
  return inOrder<{ readonly name: string; readonly order: number }>(level[to]).map(([id, { name }]) => [id, name]);
}

const knownWords = new WeakMap<object, Map<Refers, string[]>>();

/** All words of a sort that a level has somewhere; those of its parts are kept, since an edit leaves most of them as they are. */
function wordsOf(level: Level, sort: Refers): string[] {
  return Object.entries(level).flatMap(([name, part]: [string, unknown]) => {
    const field = fieldWithin(levelFields(), level, name);
    if (typeof part !== 'object' || part === null || !Object.isFrozen(part)) return words(part, field, sort);
    const known = knownWords.get(part) ?? new Map<Refers, string[]>();
    knownWords.set(part, known);
    const found = known.get(sort) ?? words(part, field, sort);
    known.set(sort, found);
    return found;
  });
}

/** All words of a sort that a value has somewhere. */
function words(value: unknown, field: Field | null, sort: Refers): string[] {
  if (field === null || value === null) return [];
  if (field.type === 'text') return field.suggests === sort && typeof value === 'string' ? [value] : [];
  if (typeof value !== 'object') return [];
  return Object.entries(value).flatMap(([name, one]) => words(one, fieldWithin(field, value, name), sort));
}

/** What an entry is called that comes with the first edit that speaks of one, where there are none yet. */
export const FIRST_IDS = { items: 'item', points: 'point', paths: 'path', flourishes: 'flourish' } as const;

/**
 * A sound value for a field to begin with; undefined where the level has nothing it could name. Of what may come with an edit
 * it names the first.
 */
export function blank(field: Field, level: Level): unknown {
  if (field.initial !== undefined && field.type !== 'either') return field.initial;
  switch (field.type) {
    case 'number':
      return blankNumber(field.quantity, level);
    case 'choice':
      return field.options[0];
    case 'flag':
      return true;
    case 'text':
      return field.suggests === null ? 'new' : (named(level, field.suggests)[0]?.[0] ?? field.suggests.slice(0, -1));
    case 'reference':
      return named(level, field.to)[0]?.[0] ?? entry(FIRST_IDS, field.to);
    case 'group':
      return blankGroup(field.fields, level, {});
    case 'cases':
      return Object.keys(field.cases)
        .map((type) => blankCase(field, type, level, null))
        .find((made) => made !== undefined);
    case 'either':
      return field.options[0] === undefined ? undefined : blank(field.options[0], level);
    case 'maybe':
      return null;
    case 'tuple':
      return field.of.map((one) => blank(one, level));
    case 'list': {
      const one = blank(field.of, level);
      return one === undefined ? undefined : [one];
    }
    case 'map': {
      if (field.keys === null) return {};
      const first = named(level, field.keys)[0]?.[0] ?? entry(FIRST_IDS, field.keys);
      return first === undefined ? undefined : { [first]: blank(field.of, level) };
    }
  }
}

/** A number in the middle of its dial; where that is nought and nought does nothing, 1. Seen from the side, a direction is upwards. */
function blankNumber({ low, high, integer, label }: Quantity, { view }: Level): number {
  if (label === quantities.direction.label && view === 'side') return 90;
  const middle = (low + high) / 2;
  if (middle === 0) return label === quantities.change.label && integer === true ? 1 : 0;
  return integer === true ? Math.round(middle) : Number(middle.toFixed(2));
}

function blankGroup(fields: Readonly<Record<string, Field>>, level: Level, begun: Record<string, unknown>): object | undefined {
  for (const [name, field] of Object.entries(fields)) {
    if (name in begun) continue;
    const value = blank(field, level);
    if (value === undefined) return undefined;
    begun[name] = value;
  }
  return begun;
}

/** One of the cases of a field, keeping of the value before it what both have; undefined where the level has nothing it could name. */
export function blankCase(field: Field & { readonly type: 'cases' }, type: string, level: Level, before: unknown): object | undefined {
  const fields = entry(field.cases, type)?.fields ?? {};
  const kept = Object.entries(before ?? {}).filter(([name, value]) => {
    const same = entry(fields, name);
    return same !== undefined && fits(same, value);
  });
  return blankGroup(fields, level, { type, ...sizedLike(type, before), ...Object.fromEntries(kept) });
}
