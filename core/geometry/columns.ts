/**
 * The number at an index of a column that is known to be there. For what is done once, as compiling and reading: where a
 * step is made, the column is read in place, since one function for all sorts of arrays runs several times slower.
 */
export const valueIn = (column: ArrayLike<number>, index: number): number => column[index] as number;

/** The numbers of a column in one twice as long. */
export function grown<Numbers extends Float64Array | Int32Array | Uint8Array>(column: Numbers): Numbers {
  const larger = new (column.constructor as new (length: number) => Numbers)(2 * column.length);
  larger.set(column);
  return larger;
}
