import { CrowdSettings, Turned, type Summary } from '@dial/core/studies';
import { z } from 'zod';
import { Sent } from './sending.ts';

/** Some sessions of a crowd; of the level with one dial turned, where `turned` says so. */
export const CrowdRequest = Sent.extend({
  settings: CrowdSettings,
  from: z.int().min(0),
  to: z.int().min(0),
  turned: Turned.nullable(),
});
export type CrowdRequest = z.infer<typeof CrowdRequest>;

/** What a worker of the crowd beside the run does. */
export interface CrowdApi {
  /** Plays sessions, with their tracks where nothing is turned; null where the level would not be valid. */
  play(request: CrowdRequest): Pick<Summary, 'rows' | 'heat'> | null;
}
