import isEqual from 'fast-deep-equal';
import { levelHash, type Level } from '@dial/core/level';
import { judging, replayed, type Verdict } from '@dial/core/studies';
import { useMemo } from 'react';
import type { StudyReply } from '../server/api.ts';
import { useStudiesQuery } from '../server/lists.ts';
import { useAppSelector } from '../store.ts';
import { ofValues, useStudy } from './useStudy.ts';

/** How targets stand by a full check, and of which level. */
interface Checked {
  readonly level: Level;
  readonly verdicts: readonly Verdict[];
  readonly done: boolean;
}

function checkedOf({ document: level, versions, answers, settings }: StudyReply): Checked | null {
  if (!('kind' in settings) || settings.kind !== 'check') return null;
  const known = new Map(answers.map(({ part, answer }) => [part, answer]));
  const { result, soFar } = replayed(judging({ level, versions }, settings), known);
  const verdicts = result ?? soFar;
  return Array.isArray(verdicts) ? { level, verdicts: verdicts as readonly Verdict[], done: result !== null } : null;
}

/** Whether two levels come to the same, and are held to the same. */
const alike = (a: Level, b: Level): boolean => a === b || (levelHash(a) === levelHash(b) && isEqual(a.targets, b.targets));

/** The newest full check of a level. */
function useCheck(id: string) {
  const { data: studies = [] } = useStudiesQuery(id);
  const newest = studies.find(({ settings }) => 'kind' in settings && settings.kind === 'check');
  const heard = useAppSelector((state) => (newest === undefined ? undefined : state.crowd.studies[newest.id]?.state));
  const { result } = useStudy(id, newest?.id ?? null, checkedOf, ofValues);
  const state = heard ?? newest?.state;
  return { checked: result, running: state === 'waiting' || state === 'running' };
}

/** How the targets of a level stand, and by what that is known. */
export interface Standing {
  readonly verdicts: readonly Verdict[];
  readonly source: string;
  /** Whether they are being checked in full. */
  readonly running: boolean;
}

/** How the targets of a level stand: by the last full check, where it was of the level as it is, or else by the crowd beside the run. */
export function useVerdicts(id: string, level: Level): Standing {
  const crowd = useAppSelector((state) => state.crowd.shown.now);
  const { checked, running } = useCheck(id);
  const holds = useMemo(() => checked !== null && alike(checked.level, level), [checked, level]);
  if (holds && checked !== null) return { verdicts: checked.verdicts, source: checked.done ? 'full check' : 'being checked', running };
  const source = crowd === null ? '' : `from ${String(crowd.bands.sessions)} sessions`;
  return { verdicts: crowd?.verdicts ?? [], source, running };
}
