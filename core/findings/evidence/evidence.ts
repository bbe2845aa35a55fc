import type { Level } from '../../level/index.ts';
import type { Run } from '../../players/index.ts';
import { playRuns, type SensitivityResult, type SensitivitySettings, type SessionRow } from '../../studies/index.ts';
import type { Finding } from '../finding.ts';
import { findingOf } from '../telling.ts';
import { deathsAtOneSpot } from './deathsAtOneSpot.ts';
import { gaveUp } from './gaveUp.ts';
import { neverTouched } from './neverTouched.ts';
import { notFelt } from './notFelt.ts';
import { healingWasted } from './healingWasted.ts';
import { LEAST_RUNS, LEAST_SESSIONS, playedBy, type Shown } from './played.ts';
import { refusedOften } from './refusedOften.ts';
import { stuckAtOneSpot } from './stuckAtOneSpot.ts';
import { usedAtOnce } from './usedAtOnce.ts';
import { waitedFor } from './waitedFor.ts';

/** Every sort of mistake that shows only when it is played. */
export const EVIDENCE: readonly Shown[] = [
  deathsAtOneSpot,
  gaveUp,
  stuckAtOneSpot,
  neverTouched,
  usedAtOnce,
  refusedOften,
  waitedFor,
  healingWasted,
];

/** What nudged dials show not to be felt. */
export const unfeltFindings = (level: Level, settings: SensitivitySettings, result: SensitivityResult): readonly Finding[] =>
  notFelt.find(level, settings, result).map((found) => findingOf(level, notFelt, found));

/** What the sessions of a crowd show to be wrong, or worth a look; few sessions show nothing. */
export function crowdFindings(level: Level, rows: readonly SessionRow[], least = LEAST_SESSIONS): readonly Finding[] {
  if (rows.length < least) return [];
  const played = playedBy(level, rows);
  return EVIDENCE.flatMap((sort) => sort.find(played).map((found) => findingOf(level, sort, found)));
}

/** What runs that people played show: of people fewer tell something than of simulated players. */
export const runFindings = (level: Level, runs: readonly Run[]): readonly Finding[] =>
  crowdFindings(level, playRuns(level, runs), LEAST_RUNS);
