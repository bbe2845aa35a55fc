import { valueIn } from '../../geometry/index.ts';
import { exists, placeX, placeY, stepOf } from '../../session/index.ts';
import { hereOf } from './ways.ts';
import { travellersNear } from './dodging.ts';
import type { Offer } from './deeds.ts';
import { stir, type Hands } from './hands.ts';
import type { Errand } from './mind.ts';
import { knows } from './risk.ts';
import { sees, vantageFrom } from './seeing.ts';

/** Looks round: what is in sight is known, and what is new calls for a choice. */
export function look(hands: Hands): void {
  const { world, session, persona, mind, player } = hands;
  const { placements, travellers } = world.compiled;
  const now = stepOf(session);
  const { x, y } = hereOf(hands);
  const { things, areas } = vantageFrom(world, persona.sight, x, y);
  /** Answers whether it is new, and something that does anything. */
  const note = (placement: number, atX: number, atY: number): boolean => {
    const deeds = knows(hands, placement) ? undefined : world.deeds[player]?.[valueIn(session.state.form, placement)];
    mind.seen[placement] = now;
    mind.seenX[placement] = atX;
    mind.seenY[placement] = atY;
    return deeds !== undefined && (deeds.harm !== null || deeds.offers.some((offer) => matters(hands, offer)));
  };
  let fresh = false;
  for (const placement of things) fresh = note(placement, valueIn(placements.x, placement), valueIn(placements.y, placement)) || fresh;
  for (const traveller of travellersNear(hands, persona.sight)) {
    const placement = valueIn(travellers.placement, traveller);
    if (!exists(session, placement)) continue;
    const [atX, atY] = [placeX(session, placement), placeY(session, placement)];
    const far = (atX - x) * (atX - x) + (atY - y) * (atY - y) > persona.sight * persona.sight;
    if (!far && sees(world.walls, x, y, atX, atY)) fresh = note(placement, atX, atY) || fresh;
  }
  for (let word = 0; word < areas.length; word += 1) mind.areas[word] = valueIn(mind.areas, word) | valueIn(areas, word);
  if (fresh) stir(hands);
}

/** Whether an offer that is new may change what a persona does. */
function matters({ persona, mind, world }: Hands, { what }: Offer): boolean {
  if (what === 'boost') return persona.boosts === 'sought';
  if (what !== 'heal') return true;
  // Healing is looked for when it is needed.
  const { meters } = world.compiled;
  const [lower, upper] = [valueIn(meters.lower, meters.health), valueIn(meters.upper, meters.health)];
  const full = Number.isFinite(upper) ? upper : valueIn(meters.start, meters.health);
  return !(mind.health - lower >= persona.healsBelow * (full - lower));
}

/** How near one comes to where a thing was seen, without seeing it, to know that it is there no more. Units. */
const GONE = 3;

/** Forgets a thing that travels and is not where it was. */
export function miss({ mind, session, world }: Hands, { placement, x, y }: Errand): boolean {
  if (placement < 0 || valueIn(world.compiled.placements.traveller, placement) < 0 || mind.seen[placement] === stepOf(session))
    return false;
  const [dx, dy] = [x - mind.lastX, y - mind.lastY];
  if (dx * dx + dy * dy > GONE * GONE) return false;
  mind.seen[placement] = -1;
  return true;
}
