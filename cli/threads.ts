import { availableParallelism } from 'node:os';
import { conduct, type Answer, type Levels, type Study } from '@dial/core/studies';
import { Presets, SingleBar } from 'cli-progress';
import { Piscina } from 'piscina';
import type { AskTask } from './askWorker.ts';
import { wholeNumber } from './reading.ts';

export interface ThreadOptions {
  readonly threads?: string;
}

/** As many as were asked for, else as there are cores. */
export const threadsOf = ({ threads }: ThreadOptions): number =>
  threads === undefined ? availableParallelism() : wholeNumber('--threads', threads, 1, 256);

/** How far sessions have come, on a terminal only. */
export function progressBar(): { readonly show: (done: number, of: number) => void; readonly stop: () => void } {
  const bar = process.stderr.isTTY ? new SingleBar({ format: '{bar} {value} of {total} sessions, {eta} s left' }, Presets.rect) : null;
  let begun = false;
  return {
    show(done, of) {
      if (!begun) bar?.start(of, done);
      begun = true;
      bar?.setTotal(of);
      bar?.update(done);
    },
    stop: () => bar?.stop(),
  };
}

/** Brings a study to its result, with its sessions played in threads. */
export async function studied<Result>(levels: Levels, study: Study<Result>, threads: number): Promise<Result> {
  const pool = new Piscina<AskTask, Answer>({
    filename: new URL('./askWorker.js', import.meta.url).href,
    maxThreads: threads,
    minThreads: threads,
  });
  const bar = progressBar();
  try {
    const result = await conduct(study, {
      play: (ask) => pool.run({ levels, ask }),
      onStage: ({ done, of }) => bar.show(done, of),
    });
    if (result === null) throw new Error('the study was stopped');
    return result;
  } finally {
    bar.stop();
    await pool.destroy();
  }
}
