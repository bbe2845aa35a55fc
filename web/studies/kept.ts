import { askingOf, type Judging, type CrowdSettings } from '@dial/core/studies';
import type { StudyEntry, StudyReply } from '../state/server/api.ts';

/** A crowd that is kept. */
export type CrowdEntry = StudyEntry & { readonly settings: CrowdSettings };
/** A study of values that is kept. */
export type JudgingEntry = StudyEntry & { readonly settings: Judging };

export const isCrowd = (study: StudyEntry): study is CrowdEntry => !('kind' in study.settings);
export const isJudging = (study: StudyEntry): study is JudgingEntry => 'kind' in study.settings;

/** Whether what was answered to a study can be told: it was asked as it would be now. */
export const isTold = ({ settings, asking }: Pick<StudyEntry, 'settings' | 'asking'>): boolean => asking === askingOf(settings);

/** What is told of a study beside what came of it. */
export type Told<Entry extends StudyEntry> = Omit<StudyReply, 'document' | 'parts' | 'versions' | 'answers' | 'settings'> &
  Pick<Entry, 'settings'>;
