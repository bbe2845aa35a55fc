import { BUTTON, LIFE, REASON, SET_OFF_BY } from '../compile/codes.ts';
import { attempted, mayAct, setOff } from './acting.ts';
import { dropThing } from './chain.ts';
import { failedCondition } from './conditions.ts';
import { runEffects } from './effects.ts';
import { changeItems, holdNext, itemsOf, itemThatStops } from './items.ts';
import { NONE, refuse } from '../state/lines.ts';
import type { Session } from '../state/running.ts';
import { distanceTo, exists, phaseFor } from '../state/things.ts';

/** The thing a player would use now: the nearest in reach of one of its rules set off by use; −1 for none. */
export function inReach(session: Session, player: number): number {
  const { compiled, state } = session;
  const { rules, forms } = compiled;
  if (!compiled.has.use) return NONE;
  let nearest = Infinity;
  let found = NONE;
  for (let placement = 0; placement < state.form.length; placement += 1) {
    if (!exists(session, placement)) continue;
    const form = state.form[placement] as number;
    let reach = -1;
    for (let rule = forms.ruleStart[form] as number; rule < (forms.ruleStart[form + 1] as number); rule += 1) {
      if (rules.setOffBy[rule] === SET_OFF_BY.use) reach = Math.max(reach, rules.reach[rule] as number);
    }
    if (reach < 0) continue;
    const distance = distanceTo(session, player, placement);
    if (distance > reach || distance >= nearest) continue;
    nearest = distance;
    found = placement;
  }
  return found;
}

function use(session: Session, player: number): void {
  const { compiled, state } = session;
  const { rules, forms } = compiled;
  const placement = inReach(session, player);
  if (placement === NONE) return;
  const form = state.form[placement] as number;
  const distance = distanceTo(session, player, placement);
  const phase = phaseFor(session, placement, player);
  for (let rule = forms.ruleStart[form] as number; rule < (forms.ruleStart[form + 1] as number); rule += 1) {
    if (rules.setOffBy[rule] !== SET_OFF_BY.use || distance > (rules.reach[rule] as number)) continue;
    if (state.form[placement] === form && mayAct(session, attempted(session, player, placement, rule, phase)))
      setOff(session, player, placement, rule, NONE);
  }
}

function isAlive({ state }: Session, player: number): boolean {
  return state.life[player] === LIFE.alive;
}

function useHeld(session: Session, player: number): void {
  const { compiled, state } = session;
  const { rules, items } = compiled;
  const item = state.held[player] as number;
  if (item < 0) return;
  for (let rule = items.ruleStart[item] as number; rule < (items.ruleStart[item + 1] as number); rule += 1) {
    if (rules.setOffBy[rule] !== SET_OFF_BY['use held'] || state.life[player] !== LIFE.alive) continue;
    const spends = rules.spends[rule] as number;
    if (itemsOf(session, player, item) < spends) {
      refuse(session, player, NONE, rule, REASON.empty, item, NONE);
      continue;
    }
    const failed = failedCondition(session, rule, player, NONE);
    if (failed !== NONE) {
      refuse(session, player, NONE, rule, REASON.condition, failed, NONE);
      continue;
    }
    const stops = itemThatStops(session, player, rule);
    if (stops !== NONE) {
      const { subject, value } = compiled.effects;
      const reason = (value[stops] as number) > 0 ? REASON.carryLimit : REASON.empty;
      refuse(session, player, NONE, rule, reason, subject[stops] as number, NONE);
      continue;
    }
    const line = runEffects(session, player, NONE, rule, NONE, false);
    if (spends > 0 && isAlive(session, player)) changeItems(session, player, NONE, rule, item, -spends, false, line);
  }
}

function drop(session: Session, player: number): void {
  const { compiled, state } = session;
  const item = state.held[player] as number;
  if (item < 0) return;
  const form = compiled.items.dropsAs[item] as number;
  if (form < 0) {
    refuse(session, player, NONE, NONE, REASON.noItem, item, NONE);
    return;
  }
  const made = dropThing(session, player, form, NONE);
  if (!made) {
    refuse(session, player, NONE, NONE, REASON.spawnLimit, item, NONE);
    return;
  }
  changeItems(session, player, NONE, NONE, item, -1, false, NONE);
}

/** 7 uses: what keys pressed since the last step call for. */
export function actOnButtons(session: Session, player: number, pressed: number): void {
  if (session.state.life[player] !== LIFE.alive) return;
  if ((pressed & BUTTON.use) !== 0) use(session, player);
  if ((pressed & BUTTON.nextHeld) !== 0) holdNext(session, player);
  if ((pressed & BUTTON.useHeld) !== 0) useHeld(session, player);
  if ((pressed & BUTTON.drop) !== 0) drop(session, player);
}
