import { entry, inOrder, tryOf, type Level } from '@dial/core/level';
import { createRunWriter } from '@dial/core/players';
import { crowdOfTarget } from '@dial/core/studies';
import type { ShownRun } from '../../state/simulation/protocol.ts';
import { simulateOnce } from '../../state/simulation/simulation.ts';
import { walkerOn } from '../../state/simulation/walker.ts';

/** One and the same session on the level as it is and with a setting. */
export interface BesideRuns {
  readonly label: string;
  readonly now: ShownRun;
  readonly then: ShownRun;
}

/** The first session of the players of a level's first target, now and with a setting; null where no target names one. */
export async function besideRuns(level: Level, turned: Level, name: string): Promise<BesideRuns | null> {
  const target = inOrder(level.targets)[0]?.[1];
  const crowd = target === undefined ? null : crowdOfTarget(level, target);
  const persona = crowd?.personas[0]?.persona;
  if (crowd === null || persona === undefined) return null;
  const { seed, seconds, start } = crowd;
  const played = async (on: Level): Promise<ShownRun> => {
    const run = { ...createRunWriter(on.rate, 1).finish('', ''), seed, start: start === null ? null : tryOf(on, start) };
    return { ...(await simulateOnce(on, run, walkerOn(on, { personas: [persona], seconds }))), level: on };
  };
  const who = entry(level.personas, persona)?.name ?? persona;
  return {
    label: `One session of ${who}, seed ${String(seed)}, with “${name}”; dashed: as the level is`,
    now: await played(level),
    then: await played(turned),
  };
}
