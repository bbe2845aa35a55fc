import type { Level } from '@dial/core/level';
import { crowdReport, mergeSummaries, type CrowdReport, type Summary } from '@dial/core/studies';
import type { StudyReply } from '../state/server/api.ts';

/** A study as the page shows it: all its sessions so far, and what they come to. */
export interface CrowdResult {
  readonly study: Omit<StudyReply, 'document' | 'parts'>;
  /** As it was when the study was begun. */
  readonly level: Level;
  readonly summary: Summary;
  readonly report: CrowdReport;
}

/** Puts the parts of a study together and sums them up. */
export function resultOf({ document: level, parts, ...study }: StudyReply): CrowdResult {
  const summary = mergeSummaries(level, parts);
  return { study, level, summary, report: crowdReport(level, study.settings, summary.rows) };
}
