import { differencesOf, setAt, type Level } from '@dial/core/level';
import type { Run } from '@dial/core/players';
import { produce } from 'immer';
import { z } from 'zod';
import { knownChanges } from '../document/origins.ts';

// Levels and runs have been through their schemas on the way into the page; here only their presence is checked.
const level = z.custom<Level>((value) => typeof value === 'object' && value !== null && 'placements' in value);
const run = z.custom<Run>((value) => typeof value === 'object' && value !== null && 'players' in value);

/** What in a level is other than in the one sent before it, by JSON Pointer; undefined: it is gone. */
const LevelChanges = z.array(z.strictObject({ path: z.string(), now: z.unknown() }));

/**
 * A level and a run as they are sent to a worker. Both are long, and from turn to turn nearly the same: a level is sent
 * whole once, then only what is other in it than in the message numbered `base`; of a run, null stands for that one's.
 */
export const Sent = z.strictObject({
  message: z.int(),
  base: z.int().nullable(),
  level: z.union([LevelChanges, level]),
  run: run.nullable(),
});
export type Sent = z.infer<typeof Sent>;

/** A level and a run before they are sent. */
export interface LevelAndRun {
  readonly level: Level;
  readonly run: Run;
}

type AsChanges = <Request extends LevelAndRun>(request: Request) => Omit<Request, keyof Sent> & Sent;

/**
 * The sending side, one for each worker: makes what is sent of a request as little as the other side needs. After
 * `forget` the next is sent whole.
 */
export function createSending(): AsChanges & { forget(): void } {
  let last: (LevelAndRun & { readonly message: number }) | null = null;
  let message = 0;
  const asChanges: AsChanges = (request) => {
    const before = last;
    message += 1;
    last = { level: request.level, run: request.run, message };
    if (before === null) return { ...request, message, base: null };
    // A turned dial says what it turned; two levels of which that is not known are compared.
    const changes =
      knownChanges(before.level, request.level) ?? differencesOf(before.level, request.level).map(({ path, now }) => ({ path, now }));
    return { ...request, message, base: before.message, level: changes, run: before.run === request.run ? null : request.run };
  };
  return Object.assign(asChanges, {
    forget: () => {
      last = null;
    },
  });
}

/** The name of the error by which a worker says that it lacks what a message builds on. */
export const BASE_MISSING = 'BaseMissing';

/** What a message builds on is not what was received last: it must be sent whole. */
export class BaseMissing extends Error {
  constructor() {
    super('what it is other than was never received');
    this.name = BASE_MISSING;
  }
}

/** The receiving side: the level and the run as they are on the sending side. Throws `BaseMissing`. */
export function createReceiving(): (sent: Sent) => LevelAndRun {
  let last: (LevelAndRun & { readonly message: number }) | null = null;
  return ({ message, base, level: sentLevel, run: sentRun }) => {
    const before = base !== null && last?.message === base ? last : null;
    const sentRunOrBase = sentRun ?? before?.run;
    const whole = Array.isArray(sentLevel)
      ? before &&
        produce(before.level, (draft) => {
          for (const { path, now } of sentLevel) setAt(draft, path, now);
        })
      : sentLevel;
    if (whole === null || sentRunOrBase === undefined) throw new BaseMissing();
    const received = { level: whole, run: sentRunOrBase };
    last = { ...received, message };
    return received;
  };
}
