import type { Level } from '@dial/core/level';
import {
  judging,
  replayed,
  type Judging,
  type JudgingResult,
  type SeekResult,
  type SensitivityResult,
  type SweepResult,
  type TuneResult,
} from '@dial/core/studies';
import type { StudyReply } from '../../state/server/api.ts';
import { isTold, type JudgingEntry, type Told } from '../kept.ts';

interface Of<Kind extends Judging['kind'], Result> {
  readonly kind: Kind;
  readonly settings: Extract<Judging, { kind: Kind }>;
  readonly result: Result;
}

/** A study of values as the page shows it: what is known of it so far. */
export type StudyResult = (
  Of<'sweep', SweepResult> | Of<'sensitivity', SensitivityResult> | Of<'seek', SeekResult> | Of<'tune', TuneResult>
) & {
  readonly study: Told<JudgingEntry>;
  /** As it was when the study was begun. */
  readonly level: Level;
  readonly done: boolean;
};

/** Tells a study again what has been played of it; null: it is a crowd, a check, of an earlier Dial, or nothing is known yet. */
export function resultOf({ document: level, versions, answers, ...study }: StudyReply): StudyResult | null {
  if (!('kind' in study.settings) || study.settings.kind === 'check' || !isTold(study)) return null;
  const settings: Judging = study.settings;
  const known = new Map(answers.map(({ part, answer }) => [part, answer]));
  const { result, soFar } = replayed<JudgingResult['result']>(judging({ level, versions }, settings), known);
  const found = result ?? soFar;
  // What each kind comes to is what `judging` gives for it.
  return found === null
    ? null
    : ({ kind: settings.kind, settings, result: found, study: { ...study, settings }, level, done: result !== null } as StudyResult);
}
