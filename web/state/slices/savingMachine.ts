import type { Level } from '@dial/core/level';

/** A value that was changed here and, differently, somewhere else. */
export interface ClashedValue {
  readonly path: string;
  readonly mine: unknown;
  readonly theirs: unknown;
}

/**
 * Whether the edits of the open level are on the server.
 * - idle: nothing is under way; whatever waits is sent next
 * - sending: one edit is on its way
 * - waiting: it did not get there, for a reason that may pass; it is sent again after a while, each time a longer one
 * - clash: the same value was changed elsewhere; the person chooses
 * - rejected: the server will never take this edit; the person takes it back, or changes what stands in its way
 */
export type Saving =
  | { readonly state: 'idle' }
  | { readonly state: 'sending'; readonly key: string; readonly tries: number }
  | { readonly state: 'waiting'; readonly key: string; readonly tries: number; readonly why: string }
  | { readonly state: 'clash'; readonly theirs: Level; readonly revision: number; readonly values: readonly ClashedValue[] }
  | { readonly state: 'rejected'; readonly key: string; readonly why: string; readonly gone: boolean };

export type SavingEvent =
  /** There is an edit to send, and nothing keeps it from being sent. */
  | { readonly what: 'send'; readonly key: string }
  | { readonly what: 'saved' }
  /** The server answered with an error, or not at all (status 0). */
  | { readonly what: 'failed'; readonly status: number; readonly why: string }
  | { readonly what: 'clashed'; readonly theirs: Level; readonly revision: number; readonly values: readonly ClashedValue[] }
  /** The edits stand on the server's level as it is now: nothing is in their way any more. */
  | { readonly what: 'cleared' };

const FIRST_WAIT = 500;
const LONGEST_WAIT = 8000;

/** Reasons that may pass by themselves; 401 passes when one has signed in. All others are for good. */
const PASSING: ReadonlySet<number> = new Set([0, 401, 408, 425, 429, 500, 502, 503, 504, 507]);

/** Milliseconds to wait after so many tries. */
export const waitAfter = (tries: number): number => Math.min(LONGEST_WAIT, FIRST_WAIT * 2 ** (tries - 1));

/** Whether the next edit may be sent. */
export const maySend = (saving: Saving): boolean => saving.state === 'idle' || saving.state === 'waiting';

/** What an event makes of a state; an event that has no meaning in it leaves it as it is. */
export function savingAfter(saving: Saving, event: SavingEvent): Saving {
  switch (event.what) {
    case 'send': {
      if (!maySend(saving)) return saving;
      const again = saving.state === 'waiting' && saving.key === event.key;
      return { state: 'sending', key: event.key, tries: (again ? saving.tries : 0) + 1 };
    }
    case 'saved':
      return saving.state === 'sending' ? { state: 'idle' } : saving;
    case 'failed': {
      if (saving.state !== 'sending') return saving;
      const { key, tries } = saving;
      const { status, why } = event;
      return PASSING.has(status) ? { state: 'waiting', key, tries, why } : { state: 'rejected', key, why, gone: status === 404 };
    }
    case 'clashed': {
      const { theirs, revision, values } = event;
      return { state: 'clash', theirs, revision, values };
    }
    case 'cleared':
      return { state: 'idle' };
  }
}
