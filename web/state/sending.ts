import { differencesOf, setAt, type Level } from '@dial/core/level';
import type { Run } from '@dial/core/players';
import { produce } from 'immer';
import { z } from 'zod';

// Levels and runs have been through their schemas on the way into the page; here only their presence is checked.
const level = z.custom<Level>((value) => typeof value === 'object' && value !== null && 'placements' in value);
const run = z.custom<Run>((value) => typeof value === 'object' && value !== null && 'players' in value);

/** What in a level is other than in the one sent before it, by JSON Pointer; undefined: it is gone. */
const LevelChanges = z.array(z.strictObject({ path: z.string(), now: z.unknown() }));

/**
 * A level and a run as they are sent to a worker. Both are long, and from turn to turn nearly the same: a level is sent
 * whole once, then only what is other in it; of a run, null stands for the one sent last.
 */
export const Sent = z.strictObject({ level: z.union([LevelChanges, level]), run: run.nullable() });
export type Sent = z.infer<typeof Sent>;

/** A level and a run before they are sent. */
export interface LevelAndRun {
  readonly level: Level;
  readonly run: Run;
}

/** The sending side, one for each worker: makes what is sent of a request as little as the other side needs. */
export function createSending(): <Request extends LevelAndRun>(request: Request) => Omit<Request, keyof Sent> & Sent {
  let last: LevelAndRun | null = null;
  return (request) => {
    const before = last;
    last = { level: request.level, run: request.run };
    if (before === null) return request;
    const changes = differencesOf(before.level, request.level).map(({ path, now }) => ({ path, now }));
    return { ...request, level: changes, run: before.run === request.run ? null : request.run };
  };
}

/** The receiving side: the level and the run as they are on the sending side. */
export function createReceiving(): (sent: Sent) => LevelAndRun {
  let last: LevelAndRun | null = null;
  return ({ level: sentLevel, run: sentRun }) => {
    const before = last;
    const run = sentRun ?? before?.run;
    const level = Array.isArray(sentLevel)
      ? before &&
        produce(before.level, (draft) => {
          for (const { path, now } of sentLevel) setAt(draft, path, now);
        })
      : sentLevel;
    if (level === null || run === undefined) throw new Error('what it is other than was never sent');
    last = { level, run };
    return last;
  };
}
