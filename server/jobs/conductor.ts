/**
 * Leads one study of values, in a thread of its own: reads its levels, says which parts are to be played, and goes on with what came of
 * them. It plays nothing and keeps nothing itself.
 */
import { parentPort, workerData } from 'node:worker_threads';
import type { Level } from '@dial/core/level';
import type { CheckOutcome } from '@dial/core/api';
import { conduct, judging, type Answer, type Ask, type Judging, type Levels, type Verdict } from '@dial/core/studies';

/** The study, its level and versions as texts. */
export interface ConductorData {
  readonly document: string;
  readonly versions: string;
  readonly asked: Judging;
}

/** What it says: a part to be played, how far it has come, or that it is done. */
export type Said =
  | { readonly type: 'part'; readonly nth: number; readonly ask: Ask }
  | { readonly type: 'stage'; readonly of: number }
  | { readonly type: 'done'; readonly outcome: CheckOutcome | null };

/** What it is told: the answer to a part. */
export interface Told {
  readonly nth: number;
  readonly answer: Answer;
}

function outcomeOf(verdicts: readonly Verdict[]): CheckOutcome {
  const count = (wanted: Verdict['state']): number => verdicts.filter(({ state }) => state === wanted).length;
  return { met: count('met'), missed: count('missed'), undecided: count('undecided'), notJudged: count('not judged') };
}

const port = parentPort;
if (port === null) throw new Error('this is to be a thread');
const { document, versions, asked } = workerData as ConductorData;
// They have been through their schema when the study was begun.
const levels: Levels = { level: JSON.parse(document) as Level, versions: JSON.parse(versions) as Levels['versions'] };
const say = (said: Said): void => port.postMessage(said);
const waiting = new Map<number, (answer: Answer) => void>();
port.on('message', ({ nth, answer }: Told) => {
  waiting.get(nth)?.(answer);
  waiting.delete(nth);
});
const result = await conduct(judging(levels, asked), {
  play: (ask, nth) =>
    new Promise((resolve) => {
      waiting.set(nth, resolve);
      say({ type: 'part', nth, ask });
    }),
  onStage: ({ of }) => say({ type: 'stage', of }),
});
say({ type: 'done', outcome: asked.kind === 'check' && Array.isArray(result) ? outcomeOf(result as readonly Verdict[]) : null });
port.close();
