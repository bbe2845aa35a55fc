import { stepOf } from '../../session/index.ts';
import { hereOf } from './ways.ts';
import { reactionSteps, type Ending, type Errand } from './mind.ts';
import { healthOf, type Thinker } from './risk.ts';

/** What a persona decided: taken down for whoever asks why it went there. */
export interface Decision {
  readonly step: number;
  readonly player: number;
  readonly what: Errand['purpose'] | Ending;
  readonly placement: number;
  readonly rule: number;
  readonly x: number;
  readonly y: number;
  readonly health: number;
}

/** Takes down decisions as they are made. */
export type Note = (decision: Decision) => void;

/** A persona at the keys of one player. */
export interface Hands extends Thinker {
  readonly note: Note | null;
}

export const said = (hands: Hands, what: Decision['what'], about: Partial<Pick<Decision, 'placement' | 'rule' | 'x' | 'y'>> = {}): void => {
  if (hands.note === null) return;
  const { session, player } = hands;
  const place = hereOf(hands);
  hands.note({ step: stepOf(session), player, what, placement: -1, rule: -1, ...place, health: healthOf(hands), ...about });
};

/** Asks for a choice once what was seen has sunk in. */
export function stir({ session, mind, persona, player }: Hands): void {
  mind.chooseAt = Math.min(mind.chooseAt, stepOf(session) + reactionSteps(session, mind, persona, player));
}
