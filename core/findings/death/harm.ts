import { whoMatches } from '../../level/index.ts';
import type { LevelView, Thing } from '../view.ts';
import { touchesAt, type Landing } from '../where.ts';

/** What a thing does to a player who touches it while it is ready: kills, takes so much health (a second, if it is a rate), or nothing. */
export function harmOf({ players }: LevelView, { form: { kind } }: Thing): 'kills' | number {
  let taken = 0;
  if (!kind.phases.ready.sensing) return 0;
  for (const rule of Object.values(kind.rules)) {
    const { type } = rule.setOffBy;
    if ((type !== 'arriving' && type !== 'inside') || !players.some((tags) => whoMatches(rule.who, tags))) continue;
    for (const effect of Object.values(rule.effects)) {
      if (effect.type === 'kill') return 'kills';
      if (effect.type === 'meter' && effect.meter === 'health' && effect.change === 'take')
        taken += typeof effect.amount === 'number' ? effect.amount : 1;
    }
  }
  return taken;
}

/** Tells in which thing that harms a place lies; undefined: in none. */
export function harmUnder(view: LevelView): (landing: Landing) => Thing | undefined {
  const harms = view.things.filter((thing) => !thing.moves && harmOf(view, thing) !== 0);
  return ({ x, y }) => harms.find((thing) => touchesAt(view.level, thing, x, y));
}
