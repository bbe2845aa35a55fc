import { curveValue, LEFT, RIGHT } from '../../geometry/index.ts';
import {
  ACTIVE,
  AMOUNT,
  BECOMES,
  CHANGE,
  DESTINATION,
  DIRECTION,
  EFFECT,
  ENDING,
  HOW,
  LASTS,
  MOVEMENT,
  PHASE,
  SET_OFF_BY,
  TEST,
  type Compiled,
} from '../../session/index.ts';
import { isSolidIn } from './opening.ts';

/** Something a rule of a thing gives to a player who sets it off. */
export interface Offer {
  readonly rule: number;
  readonly what: 'heal' | 'meter' | 'item' | 'notice' | 'win' | 'boost' | 'lift' | 'opens' | 'sends' | 'shield';
  /** Number of the meter, item or notice; −1 for none. */
  readonly subject: number;
  /** How much: of a meter or item so many, while inside so many a second; of a boost the way gained, as a share of walk speed × seconds. */
  readonly amount: number;
  /** Set off by the use key within this distance; 0: by touching. Units. */
  readonly reach: number;
  /** Given by staying inside, not by coming. */
  readonly inside: boolean;
}

/** What touching a thing takes from a player. */
export interface Harm {
  /** Health lost on coming to it, and in each second inside. */
  readonly onTouch: number;
  readonly perSecond: number;
  /** Chance of being killed by it outright. */
  readonly kills: number;
  /** The destination one is put to, or −1. */
  readonly puts: number;
  /** Whether it surely does, and back to where one came from: nobody gets through. */
  readonly bars: boolean;
  /** Share of walk speed left while inside. */
  readonly slows: number;
  /** Seconds without control. */
  readonly roots: number;
  /** It makes quicker: a persona that avoids boosts goes round it. */
  readonly quickens: boolean;
  /** Seen from above, it throws one off one's way. */
  readonly throws: boolean;
}

/** What a sort of thing does to a player. */
export interface Deeds {
  readonly offers: readonly Offer[];
  /** Null: nothing. */
  readonly harm: Harm | null;
}

const NO_HARM: Harm = { onTouch: 0, perSecond: 0, kills: 0, puts: -1, bars: false, slows: 1, roots: 0, quickens: false, throws: false };

/** A harm that is being summed up, and how something that is offered is noted. */
type Taken = { -readonly [Key in keyof Harm]: Harm[Key] };
type OfferOf = (what: Offer['what'], subject: number, amount: number) => void;

/** The chance that the draws of a rule hold. */
function chanceOf({ conditions, rules }: Compiled, rule: number): number {
  let chance = 1;
  for (let at = rules.conditionStart[rule] as number; at < (rules.conditionStart[rule + 1] as number); at += 1) {
    if (conditions.test[at] === TEST.chance) chance *= conditions.value[at] as number;
  }
  return chance;
}

/** A kill that asks for more than a chance is not certain: the share of one that is. */
const CONDITIONAL = 0.9;

/** How certain it is that a rule acts on whoever comes. */
function certaintyOf(compiled: Compiled, rule: number): number {
  const { conditions, rules } = compiled;
  const chance = chanceOf(compiled, rule);
  for (let at = rules.conditionStart[rule] as number; at < (rules.conditionStart[rule + 1] as number); at += 1) {
    if (conditions.test[at] !== TEST.chance) return chance * CONDITIONAL;
  }
  return chance;
}

/** Whether a rule that puts one somewhere lets nobody through. */
const bars = (compiled: Compiled, rule: number, destination: number): boolean =>
  compiled.destinations.type[destination] !== DESTINATION.point && certaintyOf(compiled, rule) >= 1;

/** Where one has been before. */
const BACK: ReadonlySet<number> = new Set([DESTINATION.start, DESTINATION.checkpoint]);

/** By how much an effect raises a meter, or lowers it when below nought. A curve counts by its beginning. */
function changeOf({ effects, meters, curves }: Compiled, effect: number): number {
  const meter = effects.subject[effect] as number;
  const span = (meters.upper[meter] as number) - (meters.lower[meter] as number);
  const value = effects.value[effect] as number;
  const amount =
    effects.amountOf[effect] === AMOUNT.share
      ? value * span
      : effects.amountOf[effect] === AMOUNT.curve
        ? curveValue(curves, effects.curve[effect] as number, 0)
        : value;
  switch (effects.mode[effect]) {
    case CHANGE.add:
      return amount;
    case CHANGE.take:
      return -amount;
    case CHANGE.fill:
      return Number.isFinite(span) ? span : 0;
    default:
      // Set: below the start it is a loss.
      return amount - (meters.start[meter] as number);
  }
}

/** Whether a change of movement lets one jump higher wherever one goes. */
function liftsBy({ effects, level: { body } }: Compiled, effect: number): boolean {
  const subject = effects.subject[effect] as number;
  const value = effects.value[effect] as number;
  if (effects.lasts[effect] === LASTS.while || (subject !== MOVEMENT.jump && subject !== MOVEMENT.gravity)) return false;
  const base = subject === MOVEMENT.jump ? body.jumpSpeed : body.gravity;
  const how = effects.mode[effect];
  const after = how === HOW.multiply ? base * value : how === HOW.add ? base + value : value;
  return subject === MOVEMENT.jump ? after > base : after < base;
}

/** The phase a thing is in after what becomes of it. */
const PHASE_AFTER: ReadonlyMap<number, number> = new Map([
  [BECOMES.rests, PHASE.resting],
  [BECOMES.spent, PHASE.spent],
  [BECOMES.off, PHASE.off],
]);

/** Whether a thing that bars the way bars it no more once a rule of it has acted. */
function opensBy(compiled: Compiled, form: number, rule: number): boolean {
  const { forms, rules, side } = compiled;
  const bars = !side || ((forms.solidFaces[form] as number) & (LEFT | RIGHT)) !== 0;
  if (forms.hasSolid[form] === 0 || !bars || !isSolidIn(compiled, form, PHASE.ready)) return false;
  const becomes = rules.becomes[rule] as number;
  const after = PHASE_AFTER.get(becomes);
  if (becomes === BECOMES.moves || (after !== undefined && !isSolidIn(compiled, form, after))) return true;
  return rules.active[rule] !== ACTIVE.instant && !isSolidIn(compiled, form, PHASE.active);
}

/** What a change of movement offers to a player, or does to it. */
function moveOtherwise(compiled: Compiled, effect: number, harm: Taken, offer: OfferOf): void {
  const { effects, rate } = compiled;
  const subject = effects.subject[effect];
  const value = effects.value[effect] as number;
  const multiplies = effects.mode[effect] === HOW.multiply;
  const seconds = effects.lasts[effect] === LASTS.for ? (effects.steps[effect] as number) / rate : 0;
  if (liftsBy(compiled, effect)) offer('lift', -1, 1);
  if (subject === MOVEMENT.control && value <= 0 && !multiplies) harm.roots = Math.max(harm.roots, seconds);
  else if (subject !== MOVEMENT.speed || !multiplies) return;
  else if (value > 1) {
    harm.quickens = true;
    offer('boost', -1, (value - 1) * seconds);
  } else if (seconds > 0) harm.roots = Math.max(harm.roots, (1 - value) * seconds);
  else harm.slows = Math.min(harm.slows, Math.max(0.05, value));
}

const BY_PLAYER: ReadonlySet<number> = new Set([SET_OFF_BY.arriving, SET_OFF_BY.inside, SET_OFF_BY.use]);

/** What one rule does to a player: what it offers goes to the list, what it takes is answered. */
function deedsOf(compiled: Compiled, rule: number, offers: Offer[]): Harm {
  const { rules, effects, meters } = compiled;
  const chance = chanceOf(compiled, rule);
  const inside = rules.setOffBy[rule] === SET_OFF_BY.inside;
  const every = inside ? (rules.pulseEvery[rule] as number) : 0;
  const uses = rules.setOffBy[rule] === SET_OFF_BY.use;
  const reach = uses ? (rules.reach[rule] as number) : 0;
  const harm: Taken = { ...NO_HARM };
  const offer: OfferOf = (what, subject, amount) => void offers.push({ rule, what, subject, amount, reach, inside });
  for (let effect = rules.effectStart[rule] as number; effect < (rules.effectStart[rule + 1] as number); effect += 1) {
    const subject = effects.subject[effect] as number;
    const value = effects.value[effect] as number;
    switch (effects.op[effect]) {
      case EFFECT.meter: {
        const change = changeOf(compiled, effect) * chance;
        const perSecond = every > 0 ? change / every : change;
        if (change > 0) offer(subject === meters.health ? 'heal' : 'meter', subject, inside ? perSecond : change);
        else if (subject !== meters.health) break;
        else if (inside) harm.perSecond -= perSecond;
        else harm.onTouch -= change;
        break;
      }
      case EFFECT.kill:
        harm.kills = Math.max(harm.kills, certaintyOf(compiled, rule));
        break;
      case EFFECT.launch:
        harm.throws ||= !compiled.side && effects.lasts[effect] !== DIRECTION.along;
        break;
      case EFFECT.item:
        if (value > 0) offer('item', subject, value);
        break;
      case EFFECT.notice:
        offer('notice', subject, 1);
        break;
      case EFFECT.shield:
        offer('shield', -1, 1);
        break;
      case EFFECT.end:
        if (effects.mode[effect] === ENDING.won) offer('win', -1, 1);
        else harm.kills = Math.max(harm.kills, certaintyOf(compiled, rule));
        break;
      case EFFECT.move:
        harm.puts = effects.destination[effect] as number;
        harm.bars ||= bars(compiled, rule, harm.puts);
        if (!BACK.has(compiled.destinations.type[harm.puts] as number)) offer('sends', harm.puts, 1);
        break;
      case EFFECT.movement:
        moveOtherwise(compiled, effect, harm, offer);
        break;
      default:
    }
  }
  return uses ? NO_HARM : harm;
}

/** What each form does to a player, as far as its rules tell. */
export function deedsOfForms(compiled: Compiled, player: number): Deeds[] {
  const { forms, rules } = compiled;
  return Array.from({ length: forms.kind.length }, (_, form): Deeds => {
    const offers: Offer[] = [];
    const harms: Harm[] = [];
    for (let rule = forms.ruleStart[form] as number; rule < (forms.ruleStart[form + 1] as number); rule += 1) {
      const accepted = forms.accepted[form] === 1 && rules.accepts[rule * compiled.classCount + player] === 1;
      if (!accepted || !BY_PLAYER.has(rules.setOffBy[rule] as number)) continue;
      harms.push(deedsOf(compiled, rule, offers));
      const reach = rules.setOffBy[rule] === SET_OFF_BY.use ? (rules.reach[rule] as number) : 0;
      if (opensBy(compiled, form, rule)) offers.push({ rule, what: 'opens', subject: -1, amount: 1, reach, inside: false });
    }
    const harm: Harm = {
      onTouch: harms.reduce((sum, one) => sum + one.onTouch, 0),
      perSecond: harms.reduce((sum, one) => sum + one.perSecond, 0),
      kills: Math.max(0, ...harms.map(({ kills }) => kills)),
      puts: Math.max(-1, ...harms.map(({ puts }) => puts)),
      bars: harms.some(({ bars }) => bars),
      slows: Math.min(1, ...harms.map(({ slows }) => slows)),
      roots: Math.max(0, ...harms.map(({ roots }) => roots)),
      quickens: harms.some(({ quickens }) => quickens),
      throws: harms.some(({ throws }) => throws),
    };
    const harmless = Object.entries(NO_HARM).every(([of, none]) => harm[of as keyof Harm] === none);
    return { offers, harm: harmless ? null : harm };
  });
}
