import { CHANGE, EFFECT, LIFE, LINE, REASON, SET_OFF_BY } from '../compile/codes.ts';
import { failedCondition } from './conditions.ts';
import { NONE, note, writeLine, beginLine } from '../state/lines.ts';
import { changeMeter, cellOf, noteLimit, noteStopped, stoppedBy } from './meters.ts';
import { addChange, endWhile } from './modifiers.ts';
import type { Session } from '../state/running.ts';
import { CLOCK } from '../state/state.ts';

export function itemsOf(session: Session, player: number, item: number): number {
  return session.state.items[player * session.compiled.ids.items.length + item] as number;
}

/** Holds an item, or nothing (−1); what was held is put away. */
export function hold(session: Session, player: number, item: number, cause: number): void {
  const { state } = session;
  if (state.held[player] === item) return;
  state.held[player] = item;
  const line = note(session, LINE.held, player, NONE, NONE, item, cause, NONE);
  refreshItemRules(session, player, line);
}

/**
 * The first item effect of a rule that refuses what does not fit and would not fit now, as the others of the rule leave it;
 * −1 when there is none.
 */
export function itemThatStops(session: Session, player: number, rule: number): number {
  const { rules, effects, items } = session.compiled;
  if (rules.refusesItems[rule] === 0) return NONE;
  const from = rules.effectStart[rule] as number;
  for (let effect = from; effect < (rules.effectStart[rule + 1] as number); effect += 1) {
    if (effects.op[effect] !== EFFECT.item || effects.mode[effect] !== 1) continue;
    const item = effects.subject[effect] as number;
    const most = items.most[item] as number;
    let carried = itemsOf(session, player, item);
    for (let earlier = from; earlier < effect; earlier += 1) {
      if (effects.op[earlier] !== EFFECT.item || effects.subject[earlier] !== item) continue;
      carried = Math.max(0, Math.min(most, carried + (effects.value[earlier] as number)));
    }
    const after = carried + (effects.value[effect] as number);
    if (after < 0 || after > most) return effect;
  }
  return NONE;
}

/** Gives or takes items: what fits at the limits, or none of it. Writes the line. Answers the line, or −1 when it came to nothing. */
export function changeItems(
  session: Session,
  player: number,
  placement: number,
  rule: number,
  item: number,
  count: number,
  allOrNone: boolean,
  cause: number,
): number {
  const { compiled, state } = session;
  const at = player * compiled.ids.items.length + item;
  const before = state.items[at] as number;
  const after = Math.max(0, Math.min(compiled.items.most[item] as number, before + count));
  const fits = after - before === count;
  if (count !== 0 && (after === before || (allOrNone && !fits))) {
    const about = beginLine(session, LINE.nothing, player, placement, rule);
    about.subject = item;
    about.reason = count > 0 ? REASON.carryLimit : REASON.empty;
    about.asked = count;
    about.cause = cause;
    writeLine(session, about);
    return NONE;
  }
  state.items[at] = after;
  const about = beginLine(session, LINE.item, player, placement, rule);
  about.subject = item;
  about.asked = count;
  about.applied = after - before;
  about.before = before;
  about.after = after;
  about.cause = cause;
  const line = writeLine(session, about);
  session.scratch.itemLine[at] = line;
  if (after === 0 && state.held[player] === item) hold(session, player, NONE, line);
  refreshItemRules(session, player, line);
  return line;
}

/** Whether an item's rule applies now: its item is carried, or held. */
function applies(session: Session, player: number, item: number, rule: number): boolean {
  if (session.state.life[player] !== LIFE.alive) return false;
  if (session.compiled.rules.setOffBy[rule] === SET_OFF_BY.held) return session.state.held[player] === item;
  return itemsOf(session, player, item) > 0;
}

function ruleState(session: Session, player: number, rule: number): number {
  return player * session.compiled.itemRuleCount + rule - session.compiled.firstItemRule;
}

/** Begins and ends the changes of movement of items, after what is carried or held has changed. */
export function refreshItemRules(session: Session, player: number, cause: number): void {
  const { compiled, state } = session;
  const { rules, items, effects } = compiled;
  for (let item = 0; item < compiled.ids.items.length; item += 1) {
    for (let rule = items.ruleStart[item] as number; rule < (items.ruleStart[item + 1] as number); rule += 1) {
      if (rules.setOffBy[rule] === SET_OFF_BY['use held']) continue;
      const at = ruleState(session, player, rule);
      const on = applies(session, player, item, rule);
      if (on === (state.itemUses[at] === 1)) continue;
      state.itemUses[at] = on ? 1 : 0;
      if (!on) {
        endWhile(session, player, NONE, rule, NONE, cause);
        closeItemSpans(session, player, rule);
        continue;
      }
      state.itemRefused[at] = 0;
      if (failedCondition(session, rule, player, NONE) !== NONE) continue;
      for (let effect = rules.effectStart[rule] as number; effect < (rules.effectStart[rule + 1] as number); effect += 1) {
        if (effects.op[effect] === EFFECT.movement) addChange(session, player, NONE, rule, effect);
      }
    }
  }
}

/** Where the span of a meter effect of an item's rule stands. */
function spanAt(session: Session, player: number, effect: number): number {
  const { compiled } = session;
  const first = compiled.rules.effectStart[compiled.firstItemRule] as number;
  return player * (compiled.effects.op.length - first) + effect - first;
}

/** Ends the spans of an item's rule. Returns the line about health, else the last; −1 when none ran. */
function closeItemSpans(session: Session, player: number, rule: number): number {
  const { compiled, state } = session;
  let last = NONE;
  for (let effect = compiled.rules.effectStart[rule] as number; effect < (compiled.rules.effectStart[rule + 1] as number); effect += 1) {
    const at = spanAt(session, player, effect);
    const from = state.itemFrom[at] as number;
    if (from === NONE) continue;
    state.itemFrom[at] = NONE;
    const meter = compiled.effects.subject[effect] as number;
    const asked = state.itemAsked[at] as number;
    const applied = state.itemApplied[at] as number;
    const after = state.meter[cellOf(session, player, meter)] as number;
    const about = beginLine(session, LINE.rate, player, NONE, rule);
    about.subject = meter;
    about.asked = asked;
    about.applied = applied;
    about.after = after;
    about.other = from;
    const line = writeLine(session, about);
    if (last === NONE || meter === compiled.meters.health) last = line;
  }
  return last;
}

/** Ends the spans of all items' rules. Returns the last line about health there was, else the last; −1 when none ran. */
export function closeAllItemSpans(session: Session, player: number): number {
  const { compiled } = session;
  let last = NONE;
  for (let rule = compiled.firstItemRule; rule < compiled.firstItemRule + compiled.itemRuleCount; rule += 1) {
    last = Math.max(last, closeItemSpans(session, player, rule));
  }
  return last;
}

function runItemMeter(session: Session, player: number, rule: number, effect: number): void {
  const { compiled, state } = session;
  const refused = ruleState(session, player, rule);
  const stopped = stoppedBy(session, player, NONE, effect);
  if (stopped !== NONE) {
    if (state.itemRefused[refused] === 0) noteStopped(session, player, NONE, rule, stopped);
    state.itemRefused[refused] = 1;
    return;
  }
  const at = spanAt(session, player, effect);
  if (state.itemFrom[at] === NONE) {
    state.itemFrom[at] = (state.clock[CLOCK.step] as number) - 1;
    state.itemAsked[at] = 0;
    state.itemApplied[at] = 0;
  }
  const rate = compiled.effects.mode[effect] === CHANGE.add || compiled.effects.mode[effect] === CHANGE.take;
  const amounts = changeMeter(session, player, NONE, effect, rate ? compiled.stepSeconds : 1);
  state.itemAsked[at] = (state.itemAsked[at] as number) + amounts.asked;
  state.itemApplied[at] = (state.itemApplied[at] as number) + amounts.applied;
  noteLimit(session, player, compiled.effects.subject[effect] as number, NONE);
}

/** 6 what items do while carried or held: meter effects are rates per second. */
export function runItemRules(session: Session, player: number): void {
  const { compiled, state } = session;
  const { rules, effects } = compiled;
  for (let rule = compiled.firstItemRule; rule < compiled.firstItemRule + compiled.itemRuleCount; rule += 1) {
    if (rules.setOffBy[rule] === SET_OFF_BY['use held'] || state.itemUses[ruleState(session, player, rule)] !== 1) continue;
    const holds = failedCondition(session, rule, player, NONE) === NONE;
    for (let effect = rules.effectStart[rule] as number; effect < (rules.effectStart[rule + 1] as number); effect += 1) {
      if (effects.op[effect] !== EFFECT.meter) continue;
      if (holds) runItemMeter(session, player, rule, effect);
      else closeItemSpans(session, player, rule);
    }
  }
}

/** Whether nothing a player carries or holds changes a meter as time goes by. */
export function itemsRest(session: Session, player: number): boolean {
  const { compiled, state } = session;
  const { rules, effects } = compiled;
  for (let rule = compiled.firstItemRule; rule < compiled.firstItemRule + compiled.itemRuleCount; rule += 1) {
    if (rules.setOffBy[rule] === SET_OFF_BY['use held'] || state.itemUses[ruleState(session, player, rule)] !== 1) continue;
    for (let effect = rules.effectStart[rule] as number; effect < (rules.effectStart[rule + 1] as number); effect += 1) {
      if (effects.op[effect] === EFFECT.meter) return false;
    }
  }
  return true;
}

/** The next item that can be held, after the one held; nothing comes after the last. */
export function holdNext(session: Session, player: number): void {
  const { compiled, state } = session;
  const count = compiled.ids.items.length;
  for (let item = (state.held[player] as number) + 1; item < count; item += 1) {
    if (compiled.items.holdable[item] === 1 && itemsOf(session, player, item) > 0) {
      hold(session, player, item, NONE);
      return;
    }
  }
  hold(session, player, NONE, NONE);
}
