import { CONCERN, TEST } from '../compile/codes.ts';
import { NONE } from '../state/lines.ts';
import { meterOf } from './meters.ts';
import { isChanged } from './modifiers.ts';
import { timesUsed } from './phases.ts';
import { draw } from '../state/random.ts';
import type { Session } from '../state/running.ts';
import { CLOCK } from '../state/state.ts';

function compare(is: number, now: number, value: number): boolean {
  if (is === 0) return now >= value;
  if (is === 1) return now <= value;
  return is === 2 ? now > value : now < value;
}

/** How fast a player moves. Units a second. */
export function speedOf(session: Session, player: number): number {
  const x = session.state.velocityX[player] as number;
  const y = session.state.velocityY[player] as number;
  return Math.sqrt(x * x + y * y);
}

/** Whether one condition of a rule holds. What is about a player holds for whoever is none. */
export function holds(session: Session, condition: number, rule: number, toucher: number, placement: number, draws: boolean): boolean {
  const { compiled, state } = session;
  const { conditions, meters } = compiled;
  const test = conditions.test[condition] as number;
  const subject = conditions.subject[condition] as number;
  const is = conditions.is[condition] as number;
  const value = conditions.value[condition] as number;
  switch (test) {
    case TEST.chance:
      return !draws || draw(session, CONCERN.chance, placement, rule, toucher >= compiled.playerCount ? -1 : toucher) < value;
    case TEST['times used']:
      return placement < 0 || compare(is, timesUsed(session, placement, rule, toucher), value);
    case TEST.time:
      return compare(is, (state.clock[CLOCK.step] as number) * compiled.stepSeconds, value);
    case TEST.notice:
      return (state.noticed[subject] as number) > 0 === (value === 1);
    default:
  }
  if (toucher < 0 || toucher >= compiled.playerCount) return true;
  switch (test) {
    case TEST['below limit']:
      return meterOf(session, toucher, subject) < (meters.upper[subject] as number);
    case TEST.meter:
      return compare(is, meterOf(session, toucher, subject), value);
    case TEST.share: {
      const lower = meters.lower[subject] as number;
      return compare(is, meterOf(session, toucher, subject) - lower, value * ((meters.upper[subject] as number) - lower));
    }
    case TEST.item:
      return compare(is, state.items[toucher * compiled.ids.items.length + subject] as number, value);
    case TEST.held:
      return state.held[toucher] === subject;
    case TEST.movement:
      return isChanged(session, toucher, subject) === (value === 1);
    case TEST.speed:
      return compare(is, speedOf(session, toucher), value);
    default:
      return (state.floor[toucher] as number) >= 0;
  }
}

/**
 * The condition for which a rule does not act, or −1: the first that fails, or, when any one is enough, the last.
 * Without `draws`, chance is taken to hold.
 */
export function failedCondition(session: Session, rule: number, toucher: number, placement: number, draws = true): number {
  const { rules } = session.compiled;
  const start = rules.conditionStart[rule] as number;
  const end = rules.conditionStart[rule + 1] as number;
  const any = rules.needsAny[rule] === 1;
  for (let condition = start; condition < end; condition += 1) {
    const held = holds(session, condition, rule, toucher, placement, draws);
    if (any && held) return NONE;
    if (!any && !held) return condition;
  }
  return any && end > start ? end - 1 : NONE;
}
