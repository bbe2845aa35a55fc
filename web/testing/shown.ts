import { basin, level, play, pressed, shard, vent } from '../../core/testing/levels.ts';
import { compile, lineNames } from '../../core/session/index.ts';
import type { ShownRun } from '../state/simulation/protocol.ts';

/** A level with a vent, a basin and a shard in a row, for what is drawn of runs through it. */
export const works = level({
  kinds: { vent, basin: { ...basin, name: 'basin' }, shard: { ...shard, name: 'shard' } },
  items: { jar: { name: 'jar', most: 3 } },
  placements: { vent: { kind: 'vent', x: 8, y: 10 }, basin: { kind: 'basin', x: 16, y: 10 }, shard: { kind: 'shard', x: 22, y: 10 } },
});

/** What the page is shown of a walk to the right through a level, of so many seconds. */
export const shownOf = (of: typeof works, seconds: number, from = 0): ShownRun => {
  const { recording } = play(of, pressed(60, [from, 0, 0], [seconds, 1, 0]));
  return { ...recording, level: of, names: lineNames(compile(of)), walk: null, took: 1 };
};
