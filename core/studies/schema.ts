import { z } from 'zod';
import { Persona, Target } from '../level/index.ts';
import { CrowdSettings } from './settings.ts';
import { Answer, Judging } from './judging/index.ts';
import { Summary } from './summary.ts';

/** The published JSON Schema (2020-12) of what studies take and give: a crowd's settings and its sessions, what a study of values asks and is answered, a target, and a persona's numbers. */
export function studyJsonSchema(): object {
  const study = z
    .strictObject({ persona: Persona, target: Target, settings: CrowdSettings, summary: Summary, judging: Judging, answer: Answer })
    .partial()
    .meta({ title: 'Study', description: 'What goes into studies and what comes out of them.' });
  return z.toJSONSchema(study, { target: 'draft-2020-12', io: 'input', unrepresentable: 'any' });
}
