import { gzipSync } from 'node:zlib';
import type { Level } from '@dial/core/level';
import { compile, type Compiled } from '@dial/core/session';
import { answer, playShard, type Ask, type CrowdSettings, type Levels, type SessionRange } from '@dial/core/studies';

/** What a thread is asked for: some sessions of a crowd, of a level as a text. */
export interface ShardTask extends SessionRange {
  readonly document: string;
  readonly settings: CrowdSettings;
}

/** Or a part of what a study of values asks. */
export interface PartTask {
  readonly document: string;
  readonly versions: string;
  readonly ask: Ask;
}

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

/** Plays some sessions, in a thread of its own. Answers the gzipped text of what they came to. */
export default (task: ShardTask | PartTask): Uint8Array => {
  const known = prepared(task.document);
  if ('ask' in task) return packed(answer({ level: known.level, versions: versionsIn(task.versions) }, task.ask));
  const { settings, from, to } = task;
  return packed(playShard(known.level, settings, { from, to }, {}, known.compiled));
};
