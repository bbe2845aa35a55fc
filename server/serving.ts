import { openFolder } from './opening.ts';
import type { Settings } from './settings.ts';

/** Opens the data folder and answers until the process is asked to stop. Returns the address. */
export async function serve(settings: Settings): Promise<string> {
  // The database opens in its own thread while everything else is read and put together.
  const opening = openFolder(settings.folder);
  opening.catch(() => undefined); // It is waited for below.
  const { answer } = await import('./answering.ts');
  return answer(settings, opening);
}
