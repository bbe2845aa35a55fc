import { apart, isClear } from '../../geometry/index.ts';
import { exists, placeX, placeY, stepOf } from '../../session/index.ts';
import type { Offer } from './deeds.ts';
import { travellersNear } from './dodging.ts';
import { stir, type Hands } from './hands.ts';
import type { Errand } from './mind.ts';
import { vantageFrom } from './seeing.ts';
import { healthOf, hereOf, knows, wantsHealing } from './thinker.ts';

/** Looks round: what is in sight is known, and what is new calls for a choice. */
export function look(hands: Hands): void {
  const { world, session, persona, mind, player } = hands;
  const { placements, travellers } = world.compiled;
  const now = stepOf(session);
  const here = hereOf(hands);
  const { things, areas } = vantageFrom(world, persona.sight, here.x, here.y);
  /** Answers whether it is new, and something that does anything. */
  const note = (placement: number, atX: number, atY: number): boolean => {
    const deeds = knows(hands, placement) ? undefined : world.deeds[player]?.[session.state.form[placement] as number];
    mind.seen[placement] = now;
    mind.seenX[placement] = atX;
    mind.seenY[placement] = atY;
    return deeds !== undefined && (deeds.harm !== null || deeds.offers.some((offer) => matters(hands, offer)));
  };
  let fresh = false;
  for (const placement of things) fresh = note(placement, placements.x[placement] as number, placements.y[placement] as number) || fresh;
  for (const traveller of travellersNear(hands, persona.sight)) {
    const placement = travellers.placement[traveller] as number;
    if (!exists(session, placement)) continue;
    const [atX, atY] = [placeX(session, placement), placeY(session, placement)];
    const isFar = apart(here, { x: atX, y: atY }) > persona.sight;
    if (!isFar && isClear(world.walls, here.x, here.y, atX, atY)) fresh = note(placement, atX, atY) || fresh;
  }
  for (let word = 0; word < areas.length; word += 1) mind.areas[word] = (mind.areas[word] as number) | (areas[word] as number);
  if (fresh) stir(hands);
}

/** Whether an offer that is new may change what a persona does. */
function matters(hands: Hands, { what }: Offer): boolean {
  if (what === 'boost') return hands.persona.boosts === 'sought';
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
