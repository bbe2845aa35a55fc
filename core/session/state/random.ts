import { CONCERN, CONCERNS } from '../compile/codes.ts';
import type { Session } from './running.ts';

/** Mixes a number into a hash: one round of the finaliser of MurmurHash3 (Appleby, public domain). */
function mix(hash: number, value: number): number {
  let mixed = Math.imul(hash ^ value, 0x85ebca6b);
  mixed ^= mixed >>> 13;
  mixed = Math.imul(mixed, 0xc2b2ae35);
  return mixed ^ (mixed >>> 16);
}

/**
 * A number from 0 to below 1 that depends on nothing but the seed, what it is for, the thing and rule (by hashes of
 * their ids), the player, and how many draws of that sort came before.
 */
function drawn(seed: number, concern: number, thing: number, rule: number, player: number, count: number): number {
  let hash = mix(0x9e3779b9, seed);
  hash = mix(hash, concern + 1);
  hash = mix(hash, thing);
  hash = mix(hash, rule);
  hash = mix(hash, player + 2);
  hash = mix(hash, count);
  return (mix(hash, 0x27d4eb2f) >>> 0) / 4294967296;
}

/** Where the count of a sort of draw stands. Draws of things, then of items, then of players coming back. */
function countAt(session: Session, concern: number, placement: number, rule: number, player: number): number {
  const { compiled } = session;
  const { placements, forms } = compiled;
  const perRule = CONCERNS * (compiled.playerCount + 1);
  const ofThings = (placements.drawSlot[placements.form.length] as number) * perRule;
  if (placement >= 0) {
    const form = session.state.form[placement] as number;
    const local = rule - (forms.ruleStart[form] as number);
    return ((placements.drawSlot[placement] as number) + local) * perRule + concern * (compiled.playerCount + 1) + player + 1;
  }
  const ofItems = compiled.playerCount * compiled.itemRuleCount * CONCERNS;
  if (rule >= 0) return ofThings + ((rule - compiled.firstItemRule) * compiled.playerCount + player) * CONCERNS + concern;
  return ofThings + ofItems + player * CONCERNS + concern;
}

/** Draws a number from 0 to below 1. `placement` and `rule` may be −1. */
export function draw(session: Session, concern: number, placement: number, rule: number, player: number): number {
  const { compiled, state } = session;
  const at = countAt(session, concern, placement, rule, player);
  const count = state.draws[at] as number;
  state.draws[at] = count + 1;
  const thing = placement < 0 ? 0 : (compiled.placements.hash[placement] as number) + (state.serialOf[placement] as number);
  return drawn(session.seed, concern, thing, rule < 0 ? 0 : (compiled.rules.hash[rule] as number), player, count);
}

/** What simulated players draw for, after the concerns of the session itself. */
const FIRST_OWN_CONCERN = 16;

/**
 * A number from 0 to below 1 for what a simulated player does, by the session's seed: it depends on nothing but the concern, the player
 * and how many of that concern came before, which whoever draws counts. No draw of the session is shifted by it.
 */
export function keyedDraw({ seed }: Pick<Session, 'seed'>, concern: number, player: number, count: number): number {
  return drawn(seed, FIRST_OWN_CONCERN + concern, 0, 0, player, count);
}

/** The direction a drifting thing starts in, as a whole number of degrees. */
export function drawDegrees(session: Session, placement: number): number {
  const thing = (session.compiled.placements.hash[placement] as number) + (session.state.serialOf[placement] as number);
  return Math.floor(drawn(session.seed, CONCERN.heading, thing, 0, -1, 0) * 360);
}

/** Chooses one of `weights[from … to)` in proportion to them. */
export function chooseWeighted(weights: Float64Array, from: number, to: number, share: number): number {
  let total = 0;
  for (let index = from; index < to; index += 1) total += weights[index] as number;
  let left = share * total;
  for (let index = from; index < to; index += 1) {
    left -= weights[index] as number;
    if (left < 0) return index;
  }
  return to - 1;
}
