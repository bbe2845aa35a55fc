import type { Links, Session } from './running.ts';

/** What a rule sets off beyond its own effects. */
export const LINK = { notice: 0, spawn: 1, relocate: 2 } as const;

/** Links acted on in one step; the rest is stopped with a ledger line. */
export const MOST_LINKS = 64;
const ROOM = 512;

export function createLinks(): Links {
  return {
    count: 0,
    done: 0,
    type: new Uint8Array(ROOM),
    subject: new Int32Array(ROOM),
    placement: new Int32Array(ROOM),
    toucher: new Int32Array(ROOM),
    cause: new Int32Array(ROOM),
  };
}

/** Queues something to happen at the end of this step. What no longer fits would be stopped anyway. */
export function addLink(session: Session, type: number, subject: number, placement: number, toucher: number, cause: number): void {
  const { links } = session.scratch;
  const at = links.count;
  if (at >= ROOM) return;
  links.count = at + 1;
  links.type[at] = type;
  links.subject[at] = subject;
  links.placement[at] = placement;
  links.toucher[at] = toucher;
  links.cause[at] = cause;
}
