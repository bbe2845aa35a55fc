import { Run } from '@dial/core/players';
import { z } from 'zod';
import { newId } from '../../browser/ids.ts';
import { lasting, ofThisTab } from '../../browser/storage.ts';
import { api, ApiError } from '../server/api.ts';
import { readText } from '../../browser/reading.ts';

/*
 * Every play is kept, however it ends. While it is played it is written down in the browser again and again under an id
 * made when it began; it goes to the server when it is over, or when Dial is next opened here.
 */

const PREFIX = 'dial.play.';
const TAB = 'dial.tab';
/** A play of another tab that was not written down for so long is over. Milliseconds. */
const OVER_MILLISECONDS = 10_000;

/** A play as far as it has come: the run it makes, known by an id from its beginning on. */
export interface Play {
  readonly level: string;
  readonly id: string;
  readonly run: Run;
}

const WrittenPlay = z.object({ level: z.string(), tab: z.string(), writtenAt: z.number(), run: Run });

/** Plays that go on in this page. */
const going = new Set<string>();
/** Plays of this page that the server has, or is being sent. */
const sent = new Map<string, Promise<void>>();

function tabId(): string {
  const known = ofThisTab.get(TAB);
  if (known !== null) return known;
  const made = newId();
  ofThisTab.set(TAB, made);
  return made;
}

/** Writes down a play as it is now. Throws when the browser has no room for it. */
export function writePlay({ level, id, run }: Play): void {
  if (sent.has(id)) return;
  going.add(id);
  const written: z.infer<typeof WrittenPlay> = { level, tab: tabId(), writtenAt: Date.now(), run };
  lasting.set(PREFIX + id, JSON.stringify(written));
}

async function put({ level, id, run }: Play): Promise<void> {
  try {
    await api.putRun(level, id, run);
  } catch (error) {
    // The server has it as it was some time ago: now it has both.
    if (!(error instanceof ApiError) || error.status !== 409) throw error;
    await api.putRun(level, newId(), run);
  }
  lasting.remove(PREFIX + id);
}

/** Sends a play that is over to the server, once, and then forgets it here. */
export function sendPlay(play: Play): Promise<void> {
  const { id } = play;
  going.delete(id);
  const known = sent.get(id);
  if (known !== undefined) return known;
  const sending = put(play);
  sent.set(id, sending);
  sending.catch(() => sent.delete(id));
  return sending;
}

/** Sends all plays that are over. Those that cannot be sent now stay here for the next time. */
export async function sendPlays(): Promise<void> {
  for (const name of lasting.names().filter((one) => one.startsWith(PREFIX))) {
    const id = name.slice(PREFIX.length);
    const play = readText(lasting.get(name), WrittenPlay);
    const over = play !== undefined && (play.tab === tabId() || Date.now() - play.writtenAt > OVER_MILLISECONDS);
    if (!over || going.has(id)) continue;
    await sendPlay({ level: play.level, id, run: play.run }).catch((error: unknown) => {
      if (!(error instanceof ApiError)) throw error;
    });
  }
}
