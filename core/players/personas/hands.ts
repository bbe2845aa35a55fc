import { BUTTON, idOf, stepOf } from '../../session/index.ts';
import { reactionSteps, type Ending, type Errand, type Mind } from './mind.ts';
import { healthOf, hereOf, offerAt, type Thinker } from './thinker.ts';
import { waitFor } from './wants.ts';
import { apart } from '../../geometry/index.ts';

/** What a persona decided: taken down for whoever asks why it went there. */
export interface Decision {
  readonly step: number;
  readonly player: number;
  readonly what: Errand['purpose'] | Ending;
  /** The thing it is about; null: none. */
  readonly placement: string | null;
  readonly x: number;
  readonly y: number;
  readonly health: number;
  /** The longest detour it is worth. Units. */
  readonly worth: number;
  /** Of a route, the number of the way-point. */
  readonly wayPoint: number;
}

/** Takes down decisions as they are made. */
type Note = (decision: Decision) => void;

/** A persona at the keys of one player. */
export interface Hands extends Thinker {
  readonly note: Note | null;
}

/** Takes down what it decides, as it stands there. */
export function said(
  hands: Hands,
  what: Decision['what'],
  about: { placement?: number; x?: number; y?: number; worth?: number } = {},
): void {
  if (hands.note === null) return;
  const { session, player, mind } = hands;
  const { placement = -1, worth = 0, ...at } = about;
  const id = placement < 0 ? null : idOf(session, placement);
  const step = stepOf(session);
  hands.note({ step, player, what, placement: id, ...hereOf(hands), health: healthOf(hands), worth, wayPoint: mind.wayPoint, ...at });
}

/** Asks for a choice once what was seen has sunk in. */
export function stir({ session, mind, persona, player }: Hands): void {
  mind.chooseAt = Math.min(mind.chooseAt, stepOf(session) + reactionSteps(session, mind, persona, player));
}

/** Lets go of all keys. */
export function letGo(mind: Mind): void {
  mind.x = 0;
  mind.y = 0;
  mind.buttons = 0;
}

/**
 * Where the use key reaches what it came for, it stands there, and presses it as soon as that may act; once more after it was let go.
 * Answers whether it does.
 */
export function usesInReach(hands: Hands, { placement, rule, within, x, y }: Errand): boolean {
  if (placement < 0 || within === 0) return false;
  const { mind, session, player } = hands;
  const distance = apart(hereOf(hands), { x, y });
  if (distance * distance >= within * within * 0.9) return false;
  const held = (mind.buttons & BUTTON.use) !== 0;
  const offer = offerAt(hands, placement, rule);
  const rests = offer !== undefined && waitFor(session, player, placement, offer) > 0;
  letGo(mind);
  mind.buttons = held || rests ? 0 : BUTTON.use;
  return true;
}
