import { gzipSync } from 'node:zlib';
import type { Level } from '@dial/core/level';
import { compile, type Compiled } from '@dial/core/session';
import { playShard, type CrowdSettings, type SessionRange } from '@dial/core/studies';

/** What a thread is asked for: some sessions of a study, of a level as a text. */
export interface ShardTask extends SessionRange {
  readonly document: string;
  readonly settings: CrowdSettings;
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

/** Plays some sessions, in a thread of its own. Answers the gzipped text of their summary. */
export default ({ document, settings, from, to }: ShardTask): Uint8Array => {
  const { level, compiled } = prepared(document);
  return new Uint8Array(gzipSync(JSON.stringify(playShard(level, settings, { from, to }, {}, compiled)), { level: 1 }));
};
