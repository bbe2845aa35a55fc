import { Run } from '@dial/core/players';
import { z } from 'zod';
import { newId } from '../browser/ids.ts';
import { lasting, ofThisTab } from '../browser/storage.ts';
import { api, ApiError } from './api.ts';
import { readText } from './reading.ts';

/*
 * Every play is kept, however it ends. While it is played it is written down in the browser again and again under an id
 * made when it began; it goes to the server when it is over, or when Dial is next opened here.
 */

const PREFIX = 'dial.play.';
const TAB = 'dial.tab';
/** A play of another tab that was not written down for so long is over. Milliseconds. */
const OVER_MILLISECONDS = 10_000;

const Play = z.object({ level: z.string(), tab: z.string(), writtenAt: z.number(), run: Run });

/** Plays that go on in this page. */
const going = new Set<string>();
/** Plays of this page that the server has. */
const stored = new Set<string>();

function tabId(): string {
  const known = ofThisTab.get(TAB);
  if (known !== null) return known;
  const made = newId();
  ofThisTab.set(TAB, made);
  return made;
}

/** Writes down a play as it is now. Throws when the browser has no room for it. */
export function keepPlay(level: string, id: string, run: Run): void {
  if (stored.has(id)) return;
  going.add(id);
  lasting.set(PREFIX + id, JSON.stringify({ level, tab: tabId(), writtenAt: Date.now(), run } satisfies z.infer<typeof Play>));
}

/** Sends a play that is over to the server, and then forgets it here. */
export async function sendPlay(id: string): Promise<void> {
  going.delete(id);
  const play = readText(lasting.get(PREFIX + id), Play);
  if (play === undefined) return;
  try {
    await api.putRun(play.level, id, play.run);
  } catch (error) {
    // The server has it as it was some time ago: now it has both.
    if (!(error instanceof ApiError) || error.status !== 409) throw error;
    await api.putRun(play.level, newId(), play.run);
  }
  stored.add(id);
  lasting.remove(PREFIX + id);
}

/** Sends all plays that are over. Those that cannot be sent now stay here for the next time. */
export async function sendPlays(): Promise<void> {
  for (const name of lasting.names().filter((one) => one.startsWith(PREFIX))) {
    const id = name.slice(PREFIX.length);
    const play = readText(lasting.get(name), Play);
    const over = play !== undefined && (play.tab === tabId() || Date.now() - play.writtenAt > OVER_MILLISECONDS);
    if (!over || going.has(id)) continue;
    await sendPlay(id).catch((error: unknown) => {
      if (!(error instanceof ApiError)) throw error;
    });
  }
}
