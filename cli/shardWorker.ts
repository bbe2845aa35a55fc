import type { Level } from '@dial/core/level';
import { playShard, type CrowdSettings, type SessionRange, type Summary } from '@dial/core/studies';

/** What a thread is asked for: some sessions of a crowd. */
export interface ShardTask {
  readonly level: Level;
  readonly settings: CrowdSettings;
  readonly range: SessionRange;
}

export default ({ level, settings, range }: ShardTask): Summary => playShard(level, settings, range);
