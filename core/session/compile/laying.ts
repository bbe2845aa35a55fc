import { ALL_FACES, BOTTOM, LEFT, RIGHT, TOP } from '../../geometry/index.ts';

interface Flat<Value> {
  readonly values: Value[];
  readonly starts: Int32Array;
}

/** Lays lists end to end; list i runs from starts[i] to starts[i + 1]. */
export function flatten<Value>(lists: readonly (readonly Value[])[]): Flat<Value> {
  const values: Value[] = [];
  const starts = new Int32Array(lists.length + 1);
  lists.forEach((list, index) => {
    for (const value of list) values.push(value);
    starts[index + 1] = values.length;
  });
  return { values, starts };
}

/** A duration in steps: rounded, and at least one step when it is not nothing. */
export function stepsOf(seconds: number, rate: number): number {
  return seconds > 0 ? Math.max(1, Math.round(seconds * rate)) : 0;
}

const FACE = { top: TOP, bottom: BOTTOM, left: LEFT, right: RIGHT } as const;

/** Faces as bits; none stands for all. */
export function facesOf(sides: readonly (keyof typeof FACE)[]): number {
  return sides.length === 0 ? ALL_FACES : sides.reduce((bits, side) => bits | FACE[side], 0);
}

/** Numbers for ids, in order; −1 for none. */
export interface Numbering {
  readonly ids: readonly string[];
  readonly of: (id: string | null) => number;
}

export function numbering(ids: readonly string[]): Numbering {
  const index = new Map(ids.map((id, at) => [id, at]));
  return { ids, of: (id) => (id === null ? -1 : (index.get(id) ?? -1)) };
}

/** Everything rules refer to by id, numbered. */
export interface Names {
  readonly meters: Numbering;
  readonly items: Numbering;
  readonly kinds: Numbering;
  readonly points: Numbering;
  readonly notices: Numbering;
  readonly flourishes: Numbering;
}
