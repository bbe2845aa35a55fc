import type { Level } from '@dial/core/level';
import { crowdReport, mergeSummaries, type CrowdReport, type CrowdSettings, type Summary } from '@dial/core/studies';
import type { StudyReply } from '../../state/server/api.ts';
import type { CrowdEntry, Told } from '../kept.ts';

/** A study as the page shows it: all its sessions so far, and what they come to. */
export interface CrowdResult {
  readonly study: Told<CrowdEntry>;
  /** As it was when the study was begun. */
  readonly level: Level;
  readonly summary: Summary;
  readonly report: CrowdReport;
}

/** Puts the parts of a crowd together and sums them up; null: it is no crowd. */
export function resultOf({ document: level, parts, ...study }: StudyReply): CrowdResult | null {
  if ('kind' in study.settings) return null;
  const settings: CrowdSettings = study.settings;
  const summary = mergeSummaries(level, parts);
  return { study: { ...study, settings }, level, summary, report: crowdReport(level, settings, summary.rows) };
}
