import { Worker } from 'node:worker_threads';
import { gunzipSync } from 'node:zlib';
import type { CheckOutcome } from '@dial/core/api';
import type { Answer, Ask } from '@dial/core/studies';
import type { ConductorData, Said, Told } from './conductor.ts';

interface Conducted {
  readonly data: ConductorData;
  /** Parts that are played at a time. */
  readonly threads: number;
  readonly wanted: () => boolean;
  /** Is told how many sessions there will be in all, as far as is known. */
  readonly onOf: (of: number) => void;
  /** Plays and keeps a part, or finds it kept: the gzipped text of its answer. Null: it is not wanted any more. */
  readonly play: (nth: number, ask: Ask) => Promise<Uint8Array | null>;
}

/** Lets a thread lead a study of values, and plays for it what it asks, a few parts at a time. Answers how targets stand, of a check. */
export async function conducted({ data, threads, wanted, onOf, play }: Conducted): Promise<CheckOutcome | null | 'stopped'> {
  const conductor = new Worker(new URL('./conductor.js', import.meta.url), { workerData: data });
  const queue: { readonly nth: number; readonly ask: Ask }[] = [];
  let playing = 0;
  try {
    return await new Promise((resolve, reject) => {
      const next = (): void => {
        while (playing < threads && queue.length > 0) {
          if (!wanted()) {
            resolve('stopped');
            return;
          }
          const { nth, ask } = queue.shift() as (typeof queue)[number];
          playing += 1;
          play(nth, ask).then((part) => {
            playing -= 1;
            if (part === null) resolve('stopped');
            else conductor.postMessage({ nth, answer: JSON.parse(gunzipSync(part).toString('utf8')) as Answer } satisfies Told);
            next();
          }, reject);
        }
      };
      conductor.on('message', (said: Said) => {
        if (said.type === 'part') queue.push(said);
        else if (said.type === 'stage') onOf(said.of);
        else resolve(said.outcome);
        next();
      });
      conductor.on('error', reject);
      conductor.on('exit', (code) => code !== 0 && reject(new Error(`the thread that leads it ended with ${String(code)}`)));
    });
  } finally {
    await conductor.terminate();
  }
}
