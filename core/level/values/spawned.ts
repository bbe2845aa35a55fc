/** A thing that was not placed but spawned or dropped. */
export interface Spawned {
  readonly kind: string;
  /** Goes on from the number of things of the kind that are placed. */
  readonly serial: number;
}

/** The id of a spawned thing. No placement has it, since theirs have no blank. */
export const spawnedId = ({ kind, serial }: Spawned): string => `${kind} ${String(serial)}`;

/** Reads the id of a spawned thing; null for any other. */
export function spawnedOf(id: string): Spawned | null {
  const [kind = '', serial, more] = id.split(' ');
  return serial === undefined || more !== undefined ? null : { kind, serial: Number(serial) };
}
