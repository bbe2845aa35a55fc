import { z } from 'zod';
import { Persona } from '../level/index.ts';
import { CrowdSettings } from './settings.ts';
import { Summary } from './summary.ts';

/** The published JSON Schema (2020-12) of what a study takes and gives: a crowd's settings, its sessions, and a persona's numbers. */
export function studyJsonSchema(): object {
  const study = z
    .strictObject({ persona: Persona, settings: CrowdSettings, summary: Summary })
    .partial()
    .meta({ title: 'Study', description: 'What goes into a crowd and what comes out of it.' });
  return z.toJSONSchema(study, { target: 'draft-2020-12', io: 'input', unrepresentable: 'any' });
}
