import { gzipSync } from 'node:zlib';
import type { Level } from '@dial/core/level';
import { compile, type Compiled } from '@dial/core/session';
import { answer, playShard, type Ask, type CrowdSettings, type Levels, type SessionRange } from '@dial/core/studies';

/** What a thread is asked for: some sessions of a crowd, of a level as a text. */
interface ShardTask extends SessionRange {
  readonly document: string;
  readonly settings: CrowdSettings;
}

/** Or a part of what a study of values asks. */
interface PartTask {
  readonly document: string;
  readonly versions: string;
  readonly ask: Ask;
}

/** Or to play some sessions of a level for nobody to see, each time others: the engine makes quick what is played often. */
interface WarmTask {
  readonly document: string;
  readonly warming: number;
}

export type Task = ShardTask | PartTask | WarmTask;

let last: { readonly document: string; readonly level: Level; readonly compiled: Compiled } | null = null;

/** A level is read and compiled once, however many parts of a study are played on it. */
function prepared(document: string): { readonly level: Level; readonly compiled: Compiled } {
  if (last?.document === document) return last;
  // It has been through its schema when the study was begun.
  const level = JSON.parse(document) as Level;
  last = { document, level, compiled: compile(level) };
  return last;
}

let lastVersions: { readonly text: string; readonly versions: Levels['versions'] } | null = null;

function versionsIn(text: string): Levels['versions'] {
  if (lastVersions?.text !== text) lastVersions = { text, versions: JSON.parse(text) as Levels['versions'] };
  return lastVersions.versions;
}

const packed = (value: unknown): Uint8Array => new Uint8Array(gzipSync(JSON.stringify(value), { level: 1 }));

/** So many sessions warm a thread at a time, each of so many seconds at most: a study that is begun does not wait for long. */
const WARMED_BY = 2;
const WARM_SECONDS = 60;

function warm({ document, warming }: WarmTask): void {
  const { level, compiled } = prepared(document);
  const ids = Object.keys(level.personas);
  const persona = ids[warming % ids.length];
  // A level nobody plays warms nothing.
  if (persona === undefined) return;
  const settings = { personas: [{ persona, sessions: WARMED_BY }], seconds: WARM_SECONDS, seed: 1 + warming * WARMED_BY, start: null };
  playShard(level, settings, { from: 0, to: WARMED_BY }, {}, compiled);
}

/** Plays some sessions, in a thread of its own. Answers the gzipped text of what they came to; of those that warm it nothing. */
export default (task: Task): Uint8Array => {
  if ('warming' in task) {
    warm(task);
    return new Uint8Array();
  }
  const known = prepared(task.document);
  if ('ask' in task) return packed(answer({ level: known.level, versions: versionsIn(task.versions) }, task.ask));
  const { settings, from, to } = task;
  return packed(playShard(known.level, settings, { from, to }, {}, known.compiled));
};
