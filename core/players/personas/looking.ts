import { apart, isClear } from '../../geometry/index.ts';
import { exists, placeX, placeY, stepOf } from '../../session/index.ts';
import type { Offer } from './deeds.ts';
import { travellersNear } from './dodging.ts';
import { stir, type Hands } from './hands.ts';
import type { Errand } from './mind.ts';
import { vantageFrom } from './seeing.ts';
import { healthOf, hereOf, knows, wantsHealing } from './thinker.ts';

/** Notes that a thing is seen. Answers whether it is new, and does anything that matters. */
function noteSeen(hands: Hands, placement: number): boolean {
  const { world, session, mind, player } = hands;
  const isNew = !knows(hands, placement);
  mind.seen[placement] = stepOf(session);
  const deeds = isNew ? world.deeds[player]?.[session.state.form[placement] as number] : undefined;
  return deeds !== undefined && (deeds.harm !== null || deeds.offers.some((offer) => matters(hands, offer)));
}

/** Looks round: what is in sight is known, and what is new calls for a choice. */
export function look(hands: Hands): void {
  const { world, session, persona, mind } = hands;
  const { placements, travellers } = world.compiled;
  const here = hereOf(hands);
  const { things, areas } = vantageFrom(world, persona.sight, here.x, here.y);
  const now = stepOf(session);
  let fresh = false;
  for (let k = 0; k < things.length; k += 1) {
    const placement = things[k] as number;
    // Where it stands it stood before.
    if (knows(hands, placement)) {
      mind.seen[placement] = now;
      continue;
    }
    mind.seenX[placement] = placements.x[placement] as number;
    mind.seenY[placement] = placements.y[placement] as number;
    if (noteSeen(hands, placement)) fresh = true;
  }
  for (const traveller of travellersNear(hands, persona.sight)) {
    const placement = travellers.placement[traveller] as number;
    if (!exists(session, placement)) continue;
    const atX = placeX(session, placement);
    const atY = placeY(session, placement);
    if (apart(here, { x: atX, y: atY }) > persona.sight || !isClear(world.walls, here.x, here.y, atX, atY)) continue;
    mind.seenX[placement] = atX;
    mind.seenY[placement] = atY;
    if (noteSeen(hands, placement)) fresh = true;
  }
  for (let word = 0; word < areas.length; word += 1) mind.areas[word] = (mind.areas[word] as number) | (areas[word] as number);
  if (fresh) stir(hands);
}

/** Whether an offer that is new may change what a persona does. */
function matters(hands: Hands, { what }: Offer): boolean {
  if (what === 'boost') return hands.persona.boosts === 'sought';
  // What helps where the way is barred is thought of once it is.
  if (what === 'opens' || what === 'lift' || what === 'sends' || what === 'shield') return false;
  return what !== 'heal' || wantsHealing(hands, healthOf(hands));
}

/** How near one comes to where a thing was seen, without seeing it, to know that it is there no more. Units. */
const GONE = 3;

/** Forgets a thing that travels and is not where it was. Answers whether it does. */
export function miss(hands: Hands, { placement, x, y }: Errand): boolean {
  const { mind, session } = hands;
  if (mind.seen[placement] === stepOf(session) || apart(hereOf(hands), { x, y }) > GONE) return false;
  mind.seen[placement] = -1;
  return true;
}
