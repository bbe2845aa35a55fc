import { apart, type Place } from '../../geometry/index.ts';
import { exists, type Session } from '../../session/index.ts';
import { findWay } from '../navigation/index.ts';
import { lengthWithin, shareOn } from './risk.ts';
import { lossBy } from './thinker.ts';
import type { World, Zone } from './world.ts';

/** A harm that lay on the shortest way: how much longer the way round it was, for each point of health it was likely to take, and which was gone. */
export interface Detour {
  readonly perLoss: number;
  readonly round: boolean;
}

/** A way so much longer than the shortest was not gone to get there. */
const STRAYS = 2.5;

/** What a player chose who went from the first place of a trail to its last: of each harm on the shortest way that could be gone round. */
export function detourOf(world: World, session: Session, trail: readonly Place[], health: number, pace: number): Detour | null {
  const [from, ...went] = trail;
  const to = went.at(-1);
  if (world.terrain !== null || from === undefined || to === undefined) return null;
  const plain = findWay(world.bare, from, to);
  const length = went.reduce((sum, place, at) => sum + apart(trail[at] ?? place, place), 0);
  if (plain === null || length > STRAYS * plain.length) return null;
  const onWay = world.harmZones.flatMap((number): { number: number; zone: Zone; inside: number; loss: number }[] => {
    const zone = world.zones[number] as Zone;
    const harm = world.deeds[0]?.[session.state.form[zone.placement] ?? -1]?.harm ?? null;
    const inside = harm === null || !exists(session, zone.placement) ? 0 : lengthWithin(zone, from, plain.places);
    if (harm === null || inside <= 0) return [];
    const loss = shareOn({ world, session }, zone.placement) * lossBy(harm, inside / (pace * harm.slows), health);
    return [{ number, zone, inside, loss }];
  });
  const loss = onWay.reduce((sum, one) => sum + one.loss, 0);
  if (loss <= 0) return null;
  const round = findWay(world.mesh, from, to, new Set(onWay.map(({ number }) => number)));
  if (round === null) return null;
  const through = onWay.some(({ zone, inside }) => lengthWithin(zone, from, went) > inside / 4);
  return { perLoss: Math.max(0, round.length - plain.length) / loss, round: !through };
}

/** The detour for a point of health that tells best what was gone round from what was gone through. Units. */
export function cautionFrom(detours: readonly Detour[]): number {
  const sorted = [...detours].sort((a, b) => a.perLoss - b.perLoss);
  let best = { wrong: Infinity, at: 0 };
  for (let at = 0; at <= sorted.length; at += 1) {
    // Below the edge one goes round, above it through.
    const wrong = sorted.filter(({ round }, index) => (index < at ? !round : round)).length;
    if (wrong < best.wrong) best = { wrong, at };
  }
  const [under, over] = [sorted[best.at - 1]?.perLoss, sorted[best.at]?.perLoss];
  return ((under ?? over ?? 0) + (over ?? under ?? 0)) / 2;
}
