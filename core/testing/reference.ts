import { createTrack, NearSolids, pushOut, slide, SLIDE_PIECES, Mobile, type Track } from '../geometry/index.ts';
import {
  allKinds,
  inOrder,
  kindOfPlacement,
  whoMatches,
  type Condition,
  type Effect,
  type Kind,
  type Level,
  type Rule,
} from '../level/index.ts';
import type { Run } from '../players/index.ts';
import { compile } from '../session/index.ts';
import { gap, outline, type Point } from './outlines.ts';
import { closed, wayOf, type Way } from './ways.ts';

/**
 * A slow, plain stepper written from the rules alone, to hold the fast one against: objects for everything, every pair
 * looked at in every step, and times of contact found by search instead of by formula. Only sliding along solids is
 * shared. It answers the ledger in short lines. It knows levels seen from above, with several players who come and go, and
 * what happens from outside, and magnets that pass solids; what it does not know (sides, drift, spawns, random places and
 * solid things) is held by worked sessions.
 */
type Phase = 'ready' | 'resting' | 'spent' | 'winding up' | 'active' | 'off';

interface Slot {
  /** Whose it is; null for the thing's own. */
  readonly forPlayer: string | null;
  phase: Phase;
  due: number;
  rule: string;
  by: string | null;
  backAt: number;
}

/** Where a thing that is drawn goes within the step at hand, and by whom; null when by nobody. */
interface Pull {
  readonly home: Point;
  from: Point;
  to: Point;
  by: string | null;
  since: number;
  readonly gaveUp: Set<string>;
}

interface Thing extends Way {
  readonly pull: Pull | null;
  readonly id: string;
  readonly kindId: string;
  readonly kind: Kind;
  readonly moves: boolean;
  readonly own: Slot;
  readonly ofPlayers: readonly Slot[];
  off: boolean;
  cycleDue: number;
  readonly used: Map<string, number>;
  readonly every: Map<string, number>;
}

interface Contact {
  readonly toucher: string;
  readonly thing: Thing;
  inside: number;
  leaving: boolean;
  graced: boolean;
  /** By rule: what has been said, done, and asked for. */
  readonly refused: Set<string>;
  readonly running: Set<string>;
  readonly trying: Set<string>;
  readonly pulses: Map<string, { inside: number; done: number }>;
  readonly spans: Map<string, { asked: number; applied: number }>;
}

interface Change {
  readonly key: string;
  readonly effect: Extract<Effect, { type: 'movement' }>;
  readonly thing: Thing;
  readonly rule: string;
  until: number;
}

interface Player {
  readonly name: string;
  readonly body: Mobile;
  readonly track: Track;
  readonly meters: Map<string, number>;
  readonly items: Map<string, number>;
  readonly remainders: Map<string, number>;
  readonly regenerated: Map<string, { sum: number; from: number; to: number }>;
  readonly lost: Map<string, number>;
  changes: Change[];
  life: 'alive' | 'dead' | 'out' | 'absent';
  /** Died in this step: what comes of it is not settled yet. */
  died: boolean;
  dropped: boolean;
  moved: boolean;
  returnAt: number;
  shieldFrom: number;
  shieldUntil: number;
  graceFrom: number;
  graceUntil: number;
  lockUntil: number;
  checkpoint: Point | null;
  facing: [number, number];
  pressedBefore: number;
}

interface Link {
  readonly notice: string;
  readonly toucher: string | null;
}

const NEVER = Infinity;
/** Drawn by nobody, on its way back. */
const HOME = 'home';
/** No path of the levels tried is travelled faster. Units a second. */
const FASTEST = 10;
const PHASE_KEY = { ready: 'ready', resting: 'resting', spent: 'spent', 'winding up': 'windingUp', active: 'active', off: 'off' } as const;

function reachOf(kind: Kind): number {
  return Math.max(
    ...Object.values(kind.shapes).map((shape) => {
      const size = shape.type === 'circle' ? shape.radius : shape.type === 'box' ? Math.hypot(shape.width, shape.height) / 2 : 2;
      return Math.hypot(shape.x, shape.y) + size;
    }),
  );
}

/** Steps a run and answers its ledger in short lines, numbers to five digits. */
export function referenceLedger(level: Level, run: Run): string[] {
  const { rate } = level;
  const lines: string[] = [];
  const digits = (value: number): string => String(Number(value.toFixed(5)) + 0);
  const steps = (seconds: number): number => (seconds > 0 ? Math.max(1, Math.round(seconds * rate)) : 0);
  const slot = (forPlayer: string | null, phase: Phase = 'ready', due = NEVER): Slot => ({
    forPlayer,
    phase,
    due,
    rule: '',
    by: null,
    backAt: -1,
  });
  const names = Array.from({ length: level.players.count }, (_, at) => `player ${String(at + 1)}`);
  let now = 0;
  const wayWithin = ({ from, to }: Pull, time: number): Point => {
    const share = Math.max(0, Math.min(1, time * rate - (now - 1)));
    return { x: from.x + (to.x - from.x) * share, y: from.y + (to.y - from.y) * share };
  };
  const things: Thing[] = inOrder(level.placements).map(([id, placement]) => {
    const kind = kindOfPlacement(level, id)!;
    const { cycle } = kind;
    const [on, off] = [steps(cycle?.on ?? 0), steps(cycle?.off ?? 0)];
    const within = on > 0 ? steps(cycle?.offset ?? 0) % (on + off) : 0;
    const pull: Pull | null =
      kind.magnet === null || placement.travel !== null
        ? null
        : { home: placement, from: placement, to: placement, by: null, since: 0, gaveUp: new Set() };
    const rests = placement.starts.type === 'resting' && placement.starts.seconds > 0 ? steps(placement.starts.seconds) : NEVER;
    return {
      id,
      kindId: placement.kind,
      kind,
      moves: placement.travel !== null || kind.magnet !== null,
      pull,
      ...(placement.travel === null
        ? { at: (time: number) => (pull === null ? placement : wayWithin(pull, time)), corners: () => [] }
        : wayOf(level, placement.travel.path, placement.travel.startOffset)),
      own: slot(null, placement.starts.type === 'resting' && rests === NEVER ? 'ready' : placement.starts.type, rests),
      ofPlayers: names.map((name) => slot(name)),
      off: on > 0 && within >= on,
      cycleDue: on === 0 ? NEVER : within >= on ? on + off - within : on - within,
      used: new Map(),
      every: new Map(
        inOrder(kind.rules).flatMap(([rule, { setOffBy }]) =>
          setOffBy.type === 'every' ? [[rule, steps(setOffBy.seconds)] as const] : [],
        ),
      ),
    };
  });
  const perPlayer = allKinds(level).some(([, kind]) => Object.values(kind.rules).some(({ scope }) => scope === 'player'));
  const players = names.map((name): Player => ({
    name,
    body: new Mobile(),
    track: createTrack(SLIDE_PIECES),
    meters: new Map(inOrder(level.meters).map(([id, { start }]) => [id, start])),
    items: new Map(inOrder(level.items).map(([id, { start }]) => [id, start])),
    remainders: new Map(),
    regenerated: new Map(),
    lost: new Map(),
    changes: [],
    life: 'alive',
    died: false,
    dropped: false,
    moved: false,
    returnAt: NEVER,
    shieldFrom: 0,
    shieldUntil: 0,
    graceFrom: 0,
    graceUntil: 0,
    lockUntil: 0,
    checkpoint: null,
    facing: [1, 0],
    pressedBefore: 0,
  }));
  /** Whoever something is done to, or does something. */
  let me = players[0]!;
  /** Does something as a player; of one who is none, as nobody in particular. */
  const as = <Value>(toucher: string | null, act: () => Value): Value => {
    const before = me;
    me = players.find(({ name }) => name === toucher) ?? me;
    const value = act();
    me = before;
    return value;
  };
  const posted = new Set<string>();
  let contacts: Contact[] = [];
  let links: Link[] = [];
  /** The share of the step at which the contact that is acted on came about. */
  let contactAt = 1;
  const hasGrace = (): boolean => now >= me.graceFrom && now <= me.graceUntil;
  const isShielded = (): boolean => now >= me.shieldFrom && now <= me.shieldUntil;
  const giveGrace = (seconds: number): void => {
    if (me.graceUntil <= now) me.graceFrom = now + 1;
    me.graceUntil = Math.max(me.graceUntil, now + steps(seconds));
  };
  let ending: string | null = null;

  const say = (...words: (string | number)[]): void => void lines.push([now, ...words].join(' ').trimEnd());
  const isPlayer = (toucher: string | null): toucher is string => toucher !== null && names.includes(toucher);
  const tagsOf = (toucher: string): readonly string[] =>
    isPlayer(toucher) ? level.body.tags : things.find(({ id }) => id === toucher)!.kind.tags;
  const kindKey = (thing: Thing, rule: string, effect: string): string => `${thing.kindId}/${rule}/${effect}`;

  // Movement: latest set, adds, multiplies; of one cause only the first counts unless it stacks.
  const movementOf = (of: Change['effect']['of']): number => {
    const base = {
      speed: level.body.speed,
      jump: level.body.jumpSpeed,
      gravity: level.body.gravity,
      acceleration: level.body.acceleration,
      control: 1,
    }[of];
    const counting = me.changes.filter(
      (one, index) =>
        one.effect.of === of && (one.effect.again === 'stack' || me.changes.findIndex(({ key }) => key === one.key) === index),
    );
    const set = counting.findLast(({ effect }) => effect.change === 'set')?.effect.value ?? base;
    const added = counting.filter(({ effect }) => effect.change === 'add').reduce((sum, { effect }) => sum + effect.value, set);
    return Math.max(
      0,
      counting.filter(({ effect }) => effect.change === 'multiply').reduce((value, { effect }) => value * effect.value, added),
    );
  };

  const slotFor = (thing: Thing, player: string): Slot => thing.ofPlayers[names.indexOf(player)]!;
  const countingSlot = (thing: Thing, toucher: string | null): Slot =>
    perPlayer && isPlayer(toucher) && slotFor(thing, toucher).phase !== 'ready' ? slotFor(thing, toucher) : thing.own;
  const phaseFor = (thing: Thing, toucher: string | null): Phase => {
    const { phase } = countingSlot(thing, toucher);
    return phase === 'ready' && thing.off ? 'off' : phase;
  };
  const ruleSlot = (thing: Thing, rule: Rule, toucher: string | null): Slot =>
    rule.scope === 'player' && isPlayer(toucher) ? slotFor(thing, toucher) : thing.own;
  const sensesFor = (thing: Thing, forPlayer: string | null): boolean => thing.kind.phases[PHASE_KEY[phaseFor(thing, forPlayer)]].sensing;
  const changing = (thing: Thing, at: Slot, change: () => void): void => {
    const before = sensesFor(thing, at.forPlayer);
    change();
    if (!before && sensesFor(thing, at.forPlayer)) at.backAt = now + 1;
  };
  const enter = (thing: Thing, at: Slot, phase: Phase, rule: string, by: string | null, due: number): void => {
    changing(thing, at, () => Object.assign(at, { phase, rule, by, due }));
    say('phase', thing.id, phase + (at.forPlayer === null ? '' : ` for ${at.forPlayer}`));
  };

  const usesOf = (ruleId: string, rule: Rule, toucher: string | null): string =>
    rule.scope === 'player' && isPlayer(toucher) ? `${ruleId} of ${toucher}` : ruleId;
  const kindUses = new Map<string, Map<string, number>>();
  const usedBy = (thing: Thing, rule: Rule): Map<string, number> => {
    if (rule.scope !== 'kind') return thing.used;
    const known = kindUses.get(thing.kindId) ?? new Map<string, number>();
    kindUses.set(thing.kindId, known);
    return known;
  };

  const failed = (thing: Thing, ruleId: string, rule: Rule, toucher: string | null): Condition | null => {
    const compare = (is: string, value: number, with_: number): boolean =>
      ({ 'at least': value >= with_, 'at most': value <= with_, above: value > with_, below: value < with_ })[is]!;
    const holds = (one: Condition): boolean => {
      if (one.type === 'times used') return compare(one.is, usedBy(thing, rule).get(usesOf(ruleId, rule, toucher)) ?? 0, one.value);
      if (one.type === 'time') return compare(one.is, now / rate, one.value);
      if (one.type === 'notice') return posted.has(one.notice) === one.posted;
      if (!isPlayer(toucher)) return true;
      switch (one.type) {
        case 'below limit':
          return me.meters.get(one.meter)! < (level.meters[one.meter]!.upper ?? Infinity);
        case 'meter':
          return compare(one.is, me.meters.get(one.meter)!, one.value);
        case 'share': {
          const { lower, upper } = level.meters[one.meter]!;
          return compare(one.is, me.meters.get(one.meter)! - lower, one.value * ((upper ?? Infinity) - lower));
        }
        case 'item':
          return compare(one.is, me.items.get(one.item)!, one.value);
        case 'movement':
          return me.changes.some(({ effect }) => effect.of === one.of) === one.present;
        case 'speed':
          return compare(one.is, Math.hypot(me.body.velocityX, me.body.velocityY), one.value);
        default:
          return false;
      }
    };
    const list = inOrder(rule.provided).map(([, one]) => one);
    if (rule.needs === 'any') return list.length === 0 || list.some(holds) ? null : list.at(-1)!;
    return list.find((one) => !holds(one)) ?? null;
  };

  /** Why a rule's items would not fit, where one refuses what does not. */
  const doesNotFit = (rule: Rule): string | null => {
    const would = new Map(me.items);
    for (const [, effect] of inOrder(rule.effects)) {
      if (effect.type !== 'item') continue;
      const after = would.get(effect.item)! + effect.count;
      const fits = Math.max(0, Math.min(level.items[effect.item]!.most ?? Infinity, after));
      if (effect.atLimit === 'refuse' && after !== fits) return effect.count > 0 ? 'carry limit' : 'empty';
      would.set(effect.item, fits);
    }
    return null;
  };
  const refusalOf = (thing: Thing, ruleId: string, rule: Rule, toucher: string | null, phase: Phase, begun = false): string | null => {
    if (toucher !== null && !whoMatches(rule.who, tagsOf(toucher))) return 'wrong tag';
    if (rule.becomes.type !== 'ready') {
      if (phase === 'resting' || phase === 'off') return phase;
      if (phase === 'spent') return 'used up';
      const asIs = rule.windUp === null && rule.becomes.type === 'stays' && rule.active.type === 'instant' && rule.uses === null;
      if (phase !== 'ready' && !asIs) return phase;
      if (!thing.kind.phases[PHASE_KEY[phase]].sensing) return phase === 'ready' ? 'off' : phase;
    }
    if (rule.scope === 'kind' && rule.uses !== null && (usedBy(thing, rule).get(ruleId) ?? 0) >= rule.uses) return 'used up';
    if (isPlayer(toucher) && me.life !== 'alive') return 'dead';
    const condition = failed(thing, ruleId, rule, toucher);
    if (condition === null && isPlayer(toucher) && rule.hits !== 'all inside' && !begun) return doesNotFit(rule);
    return condition === null ? null : condition.type === 'below limit' ? 'full' : 'condition';
  };
  const mayAct = (
    thing: Thing,
    ruleId: string,
    rule: Rule,
    toucher: string | null,
    phase: Phase,
    quiet = false,
    begun = false,
  ): boolean => {
    const reason = as(toucher, () => refusalOf(thing, ruleId, rule, toucher, phase, begun));
    if (reason !== null && !quiet) say('refused', toucher ?? 'nobody', thing.id, reason);
    return reason === null;
  };

  // Meters.
  const clamp = (id: string, value: number): number =>
    Math.max(level.meters[id]!.lower, Math.min(level.meters[id]!.upper ?? Infinity, value));
  const noteLimit = (id: string, before: number, after: number): void => {
    const { lower, upper, atLower, atUpper } = level.meters[id]!;
    if (after === before || (after !== lower && after !== upper)) return;
    say('limit', id, digits(after));
    const notice = after === upper ? atUpper : atLower;
    if (notice !== null) links.push({ notice, toucher: me.name });
  };
  const move = (id: string, wanted: number): { before: number; after: number } => {
    const before = me.meters.get(id)!;
    const after = clamp(id, before + wanted);
    me.meters.set(id, after);
    if (after < before) me.lost.set(id, now);
    return { before, after };
  };
  type MeterEffect = Extract<Effect, { type: 'meter' }>;
  const askedBy = (effect: MeterEffect, factor: number): number => {
    const { lower, upper } = level.meters[effect.meter]!;
    const before = me.meters.get(effect.meter)!;
    if (effect.change === 'fill') return upper! - before;
    const amount =
      typeof effect.amount === 'number' ? effect.amount : 'share' in effect.amount ? effect.amount.share * (upper! - lower) : NaN;
    if (effect.change === 'set') return amount - before;
    return (effect.change === 'add' ? 1 : -1) * amount * factor;
  };
  const apply = (effect: MeterEffect, key: string, factor: number): { asked: number; wanted: number; before: number; after: number } => {
    const asked = askedBy(effect, factor);
    let wanted = asked;
    if (level.meters[effect.meter]!.whole) {
      const before = me.meters.get(effect.meter)!;
      if (effect.change === 'set' || effect.change === 'fill') wanted = Math.round(before + asked) - before;
      else {
        const sum = asked + (me.remainders.get(key) ?? 0);
        wanted = Math.trunc(sum + (sum < 0 ? -1e-9 : 1e-9));
        me.remainders.set(key, sum - wanted);
      }
    }
    return { asked, wanted, ...move(effect.meter, wanted) };
  };
  const stoppedBy = (effect: MeterEffect): string | null => {
    if (askedBy(effect, 1) >= 0) return null;
    if (hasGrace() && effect.meter === 'health') return 'grace';
    return effect.blockable && isShielded() ? 'blocked' : null;
  };
  const noteStopped = (thing: Thing, reason: string): void => {
    say('nothing', me.name, thing.id, reason);
    const contact = contacts.find((one) => one.toucher === me.name && one.thing === thing);
    if (reason === 'grace' && contact !== undefined) contact.graced = true;
  };
  const closeRegeneration = (id: string): void => {
    const span = me.regenerated.get(id);
    if (span === undefined) return;
    me.regenerated.delete(id);
    say('rate', '-', id, `${digits(span.sum)}/${digits(span.sum)} → ${digits(span.to)}`);
  };
  const changePlainly = (id: string, by: number): void => {
    closeRegeneration(id);
    const { before, after } = move(id, level.meters[id]!.whole ? Math.round(by) : by);
    say('changed', '-', id, `${digits(by)}/${digits(after - before)} → ${digits(after)}`);
    noteLimit(id, before, after);
  };

  // What becomes of things, and changes of movement.
  const becomesHere = (thing: Thing, ruleId: string, rule: Rule, toucher: string | null, become: string): void => {
    const at = ruleSlot(thing, rule, toucher);
    if (become === 'ready') {
      if (at.phase !== 'ready') enter(thing, at, 'ready', ruleId, toucher, NEVER);
      return;
    }
    const ends = at.phase === 'active' && at.rule === ruleId;
    if (at.phase !== 'ready' && !ends) return;
    const rest = rule.becomes.type === 'rests' ? steps(rule.becomes.seconds) : 0;
    if (become === 'rests' && rest > 0) enter(thing, at, 'resting', ruleId, toucher, now + rest);
    else if (become === 'spent' || become === 'off') enter(thing, at, become, ruleId, toucher, NEVER);
    else if (ends) enter(thing, at, 'ready', ruleId, toucher, NEVER);
  };
  const becomes = (thing: Thing, ruleId: string, rule: Rule, toucher: string | null): void => {
    const worn = rule.uses !== null && (usedBy(thing, rule).get(usesOf(ruleId, rule, toucher)) ?? 0) >= rule.uses;
    const all = rule.scope === 'kind' ? things.filter(({ kindId }) => kindId === thing.kindId) : [thing];
    for (const one of all) becomesHere(one, ruleId, rule, toucher, worn ? 'spent' : rule.becomes.type);
  };
  const settleActive = (thing: Thing, ruleId: string): void => {
    if (players.some(({ changes }) => changes.some((one) => one.thing === thing && one.rule === ruleId))) return;
    for (const at of [thing.own, ...thing.ofPlayers]) {
      if (at.phase === 'active' && at.rule === ruleId && at.due === NEVER) becomes(thing, ruleId, thing.kind.rules[ruleId]!, at.by);
    }
  };
  const endChange = (change: Change): void => {
    const before = movementOf(change.effect.of);
    me.changes = me.changes.filter((one) => one !== change);
    say('movement', change.thing.id, change.effect.of, `ends ${digits(before)} → ${digits(movementOf(change.effect.of))}`);
    settleActive(change.thing, change.rule);
  };
  const endChanges = (which: (change: Change) => boolean): void => {
    for (let next = me.changes.find(which); next !== undefined; next = me.changes.find(which)) endChange(next);
  };
  const addChange = (thing: Thing, ruleId: string, effectId: string, effect: Change['effect']): void => {
    const key = kindKey(thing, ruleId, effectId);
    const length = effect.lasts.type === 'for' ? steps(effect.lasts.seconds) : null;
    const same = me.changes.filter((one) => one.key === key);
    const before = movementOf(effect.of);
    if (length === 0) return;
    const until = length === null ? NEVER : now + length;
    if (same.length > 0 && effect.again !== 'stack') {
      if (effect.again === 'ignore' || length === null) {
        say('nothing', me.name, thing.id, 'already present');
        if (effect.lasts.type === 'while') me.changes.push({ key, effect, thing, rule: ruleId, until });
        return;
      }
      const last = same.at(-1)!;
      last.until = effect.again === 'extend' ? last.until + length : until;
      say('movement', thing.id, effect.of, `${digits(before)} → ${digits(before)}`);
      return;
    }
    if (same.length >= effect.most && effect.again === 'stack') {
      say('nothing', me.name, thing.id, 'already present');
      return;
    }
    me.changes.push({ key, effect, thing, rule: ruleId, until });
    say('movement', thing.id, effect.of, `${digits(before)} → ${digits(movementOf(effect.of))}`);
  };

  // Contacts.
  const closeSpan = (contact: Contact, key: string, meter: string): void => {
    const span = contact.spans.get(key);
    if (span === undefined) return;
    contact.spans.delete(key);
    const after = as(contact.toucher, () => me.meters.get(meter)!);
    say('rate', contact.thing.id, meter, `${digits(span.asked)}/${digits(span.applied)} → ${digits(after)}`);
  };
  const closeRule = (contact: Contact, ruleId: string, rule: Rule): void => {
    if (!contact.running.delete(ruleId)) return;
    for (const [id, effect] of inOrder(rule.effects)) if (effect.type === 'meter') closeSpan(contact, `${ruleId}/${id}`, effect.meter);
    as(contact.toucher, () => {
      if (isPlayer(contact.toucher))
        endChanges((one) => one.effect.lasts.type === 'while' && one.thing === contact.thing && one.rule === ruleId);
    });
    becomes(contact.thing, ruleId, rule, contact.toucher);
  };
  const closeAll = (contact: Contact): void => {
    for (const [id, rule] of inOrder(contact.thing.kind.rules)) if (rule.setOffBy.type === 'inside') closeRule(contact, id, rule);
  };
  const remove = (contact: Contact): void => {
    closeAll(contact);
    contacts = contacts.filter((one) => one !== contact);
    as(contact.toucher, () => {
      if (isPlayer(contact.toucher)) endChanges((one) => one.effect.lasts.type === 'while' && one.thing === contact.thing);
    });
  };
  const contactsOf = (player: string): Contact[] => contacts.filter(({ toucher }) => toucher === player);
  const die = (thing: Thing | null): void => {
    if (me.life !== 'alive') return;
    for (const contact of contactsOf(me.name)) closeAll(contact);
    me.life = 'dead';
    me.died = true;
    me.dropped = true;
    me.body.velocityX = 0;
    me.body.velocityY = 0;
    say('died', thing?.id ?? '-');
    for (const [id] of inOrder(level.meters)) closeRegeneration(id);
    endChanges(({ effect }) => effect.lasts.type !== 'for');
    for (const contact of contactsOf(me.name)) remove(contact);
  };
  const put = (to: Point): void => {
    me.body.x = to.x;
    me.body.y = to.y;
    pushOut(solids, hull, me.body);
    me.dropped = true;
  };
  /** Being put elsewhere ends all contacts; their leaving rules act. */
  const endMoved = (): void => {
    for (const player of players) {
      while (player.moved) {
        player.moved = false;
        for (let [next] = contactsOf(player.name); next !== undefined; [next] = contactsOf(player.name)) {
          dropWindUps(next.thing, player.name);
          touch(next.thing, player.name, 'leaving');
          if (contacts.includes(next)) remove(next);
        }
      }
    }
  };
  const dropWindUps = (thing: Thing, toucher: string): void => {
    for (const slotOf of [thing.own, ...thing.ofPlayers]) {
      const rule = thing.kind.rules[slotOf.rule];
      if (slotOf.phase === 'winding up' && slotOf.by === toucher && rule?.windUp?.ifLeft === 'dropped')
        enter(thing, slotOf, 'ready', slotOf.rule, toucher, NEVER);
    }
  };

  // Effects.
  const runOnPlayer = (thing: Thing, ruleId: string, effectId: string, effect: Effect): void => {
    if (me.life !== 'alive') {
      say('nothing', me.name, thing.id, 'dead');
      return;
    }
    switch (effect.type) {
      case 'meter': {
        const stopped = stoppedBy(effect);
        if (stopped !== null) {
          noteStopped(thing, stopped);
          return;
        }
        closeRegeneration(effect.meter);
        const { asked, wanted, before, after } = apply(effect, kindKey(thing, ruleId, effectId), 1);
        if (wanted !== 0 && after === before) {
          say('nothing', me.name, thing.id, wanted > 0 ? 'full' : 'empty');
          return;
        }
        say('changed', thing.id, effect.meter, `${digits(asked)}/${digits(after - before)} → ${digits(after)}`);
        noteLimit(effect.meter, before, after);
        if (me.meters.get('health')! <= level.meters['health']!.lower) die(thing);
        return;
      }
      case 'item': {
        const before = me.items.get(effect.item)!;
        const after = Math.max(0, Math.min(level.items[effect.item]!.most ?? Infinity, before + effect.count));
        if (after === before || (effect.atLimit === 'refuse' && after - before !== effect.count)) {
          say('nothing', me.name, thing.id, effect.count > 0 ? 'carry limit' : 'empty');
          return;
        }
        me.items.set(effect.item, after);
        say('item', thing.id, effect.item, `${effect.count}/${after - before} → ${after}`);
        return;
      }
      case 'movement':
        addChange(thing, ruleId, effectId, effect);
        return;
      case 'move': {
        const { to } = effect;
        put(to.type === 'point' ? level.points[to.point]! : to.type === 'checkpoint' ? (me.checkpoint ?? startOf(me)) : startOf(me));
        if (effect.velocity === 'zeroed') Object.assign(me.body, { velocityX: 0, velocityY: 0 });
        me.moved = true;
        say('moved', thing.id, `${digits(me.body.x)},${digits(me.body.y)}`);
        if (effect.grace > 0) giveGrace(effect.grace);
        if (effect.lock > 0) me.lockUntil = Math.max(me.lockUntil, now + steps(effect.lock));
        return;
      }
      case 'kill':
        if (hasGrace() || (effect.blockable && isShielded())) noteStopped(thing, hasGrace() ? 'grace' : 'blocked');
        else die(thing);
        return;
      case 'checkpoint': {
        const to = effect.point === null ? thing.at(now / rate) : level.points[effect.point]!;
        if (me.checkpoint !== null && me.checkpoint.x === to.x && me.checkpoint.y === to.y)
          say('nothing', me.name, thing.id, 'already present');
        else {
          me.checkpoint = { x: to.x, y: to.y };
          say('checkpoint', thing.id, `${digits(to.x)},${digits(to.y)}`);
        }
        return;
      }
      case 'shield':
        if (me.shieldUntil <= now) me.shieldFrom = now + 1;
        me.shieldUntil = Math.max(me.shieldUntil, now + steps(effect.seconds));
        say('shield', thing.id, 'begins');
        return;
      case 'push':
        return;
      case 'launch': {
        if (typeof effect.strength !== 'number') throw new Error('the plain stepper knows no curves of strength');
        const centre = thing.at((now - 1 + contactAt) / rate);
        const from = contactAt < 1 && !me.dropped ? playerAt(contactAt) : me.body;
        const [x, y] = effect.direction.type === 'away' ? [from.x - centre.x, from.y - centre.y] : me.facing;
        const angle = effect.direction.type === 'fixed' ? (effect.direction.degrees / 180) * Math.PI : Math.atan2(y, x);
        const before = Math.hypot(me.body.velocityX, me.body.velocityY);
        const keeps = effect.change === 'add' ? 1 : 0;
        me.body.velocityX = keeps * me.body.velocityX + Math.cos(angle) * effect.strength;
        me.body.velocityY = keeps * me.body.velocityY + Math.sin(angle) * effect.strength;
        say('launched', thing.id, `${digits(before)} → ${digits(Math.hypot(me.body.velocityX, me.body.velocityY))}`);
        return;
      }
      default:
        throw new Error(`the plain stepper knows no ${effect.type}`);
    }
  };
  const runEffects = (thing: Thing, ruleId: string, rule: Rule, toucher: string | null, exceptMeters = false): void => {
    for (const [id, effect] of inOrder(rule.effects)) {
      if (exceptMeters && effect.type === 'meter') continue;
      if (effect.type === 'notice') {
        say('notice', thing.id, effect.notice);
        links.push({ notice: effect.notice, toucher });
      } else if (rule.hits === 'all inside') {
        const inside = contacts.filter((one) => one.thing === thing && isPlayer(one.toucher)).map((one) => one.toucher);
        for (const one of inside) as(one, () => runOnPlayer(thing, ruleId, id, effect));
        if (inside.length === 0) say('nothing', toucher ?? 'nobody', thing.id, 'nobody there');
      } else if (!isPlayer(toucher)) say('nothing', toucher ?? 'nobody', thing.id, 'no player');
      else as(toucher, () => runOnPlayer(thing, ruleId, id, effect));
    }
  };
  const act = (thing: Thing, ruleId: string, rule: Rule, toucher: string | null): void => {
    const uses = usesOf(ruleId, rule, toucher);
    usedBy(thing, rule).set(uses, (usedBy(thing, rule).get(uses) ?? 0) + 1);
    runEffects(thing, ruleId, rule, toucher);
    const at = ruleSlot(thing, rule, toucher);
    const length = rule.active.type === 'for' ? steps(rule.active.seconds) : null;
    if (rule.active.type === 'instant' || at.phase !== 'ready' || length === 0) {
      becomes(thing, ruleId, rule, toucher);
      return;
    }
    enter(thing, at, 'active', ruleId, toucher, length === null ? NEVER : now + length);
    if (rule.active.type === 'movement') settleActive(thing, ruleId);
  };
  const setOff = (thing: Thing, ruleId: string, rule: Rule, toucher: string | null): void => {
    const length = steps(rule.windUp?.seconds ?? 0);
    if (length === 0) act(thing, ruleId, rule, toucher);
    else enter(thing, ruleSlot(thing, rule, toucher), 'winding up', ruleId, toucher, now + length);
  };
  const setOffWaiting = (matches: (rule: Rule) => boolean, toucher: string | null): void => {
    for (const thing of things) {
      for (const [id, rule] of inOrder(thing.kind.rules)) {
        if (matches(rule) && mayAct(thing, id, rule, toucher, phaseFor(thing, toucher))) setOff(thing, id, rule, toucher);
      }
    }
  };
  const runLinks = (): void => {
    for (let done = 0; done < links.length; done += 1) {
      if (done >= 64) {
        say('stopped', links.length - done);
        break;
      }
      const { notice, toucher } = links[done]!;
      posted.add(notice);
      setOffWaiting(({ setOffBy }) => setOffBy.type === 'notice' && setOffBy.notice === notice, toucher);
    }
    links = [];
  };
  const touch = (thing: Thing, toucher: string, by: 'arriving' | 'leaving'): void => {
    const phase = phaseFor(thing, toucher);
    for (const [id, rule] of inOrder(thing.kind.rules)) {
      if (
        by === 'arriving' &&
        rule.setOffBy.type === 'inside' &&
        !isPlayer(toucher) &&
        mayAct(thing, id, rule, toucher, phaseFor(thing, toucher))
      ) {
        act(thing, id, rule, toucher);
      }
      if (rule.setOffBy.type !== by) continue;
      if (mayAct(thing, id, rule, toucher, phase)) setOff(thing, id, rule, toucher);
      else if (rule.keepTrying) contacts.find((one) => one.toucher === toucher && one.thing === thing)?.trying.add(id);
    }
  };

  // Going on inside.
  const goesOn = (contact: Contact, ruleId: string, rule: Rule): boolean => {
    const { thing, toucher } = contact;
    const begun = contact.running.has(ruleId);
    const may = mayAct(thing, ruleId, rule, toucher, phaseFor(thing, toucher), contact.refused.has(ruleId), begun);
    if (may) contact.refused.delete(ruleId);
    else contact.refused.add(ruleId);
    return may;
  };
  const runRate = (contact: Contact, ruleId: string, rule: Rule): void => {
    const { thing } = contact;
    if (!goesOn(contact, ruleId, rule)) {
      closeRule(contact, ruleId, rule);
      return;
    }
    if (!contact.running.has(ruleId)) {
      contact.running.add(ruleId);
      const uses = usesOf(ruleId, rule, me.name);
      usedBy(thing, rule).set(uses, (usedBy(thing, rule).get(uses) ?? 0) + 1);
      runEffects(thing, ruleId, rule, me.name, true);
      if (me.moved) return;
    }
    for (const [id, effect] of inOrder(rule.effects)) {
      if (effect.type !== 'meter' || me.life !== 'alive') continue;
      const key = `${ruleId}/${id}`;
      const stopped = stoppedBy(effect);
      if (stopped !== null) {
        closeSpan(contact, key, effect.meter);
        if (!contact.refused.has(key)) noteStopped(thing, stopped);
        contact.refused.add(key);
        continue;
      }
      contact.refused.delete(key);
      const span = contact.spans.get(key) ?? { asked: 0, applied: 0 };
      contact.spans.set(key, span);
      const { asked, before, after } = apply(effect, kindKey(thing, ruleId, id), contact.inside);
      span.asked += asked;
      span.applied += after - before;
      noteLimit(effect.meter, before, after);
      if (me.meters.get('health')! <= level.meters['health']!.lower) die(thing);
    }
  };
  const runPulses = (contact: Contact, ruleId: string, rule: Rule): void => {
    const pulse = rule.setOffBy.type === 'inside' ? rule.setOffBy.pulse! : null;
    const state = contact.pulses.get(ruleId) ?? { inside: 0, done: 0 };
    contact.pulses.set(ruleId, state);
    state.inside += contact.inside;
    const due = Math.floor(state.inside / pulse!.every + 1e-9) + (pulse!.first === 'at once' ? 1 : 0);
    for (; state.done < due && me.life === 'alive' && !me.moved; state.done += 1) {
      if (goesOn(contact, ruleId, rule)) setOff(contact.thing, ruleId, rule, me.name);
    }
  };
  const actInside = (contact: Contact): void => {
    for (const [id, rule] of inOrder(contact.thing.kind.rules)) {
      if (me.life !== 'alive' || me.moved) return;
      if (rule.setOffBy.type === 'inside') (rule.setOffBy.pulse === null ? runRate : runPulses)(contact, id, rule);
      else if (rule.keepTrying && contact.trying.has(id)) {
        if (!mayAct(contact.thing, id, rule, me.name, phaseFor(contact.thing, me.name), true)) continue;
        contact.trying.delete(id);
        setOff(contact.thing, id, rule, me.name);
      }
    }
  };

  // Timers.
  const runPlayerTimers = (): void => {
    endChanges(({ until }) => until <= now);
    if (me.shieldUntil === now) say('shield', '-', 'ends');
    if (me.graceUntil === now) {
      for (const contact of contactsOf(me.name)) {
        if (!contact.graced) continue;
        contact.graced = false;
        (perPlayer ? slotFor(contact.thing, me.name) : contact.thing.own).backAt = now + 1;
      }
    }
    if (me.life === 'dead' && me.returnAt <= now) comeBack();
  };
  const runTimers = (): void => {
    for (const { name } of players) as(name, runPlayerTimers);
    for (const thing of things) {
      for (const at of perPlayer ? [thing.own, ...thing.ofPlayers] : [thing.own]) {
        if (at.due > now) continue;
        const { rule: ruleId, by } = at;
        const rule = thing.kind.rules[ruleId];
        at.due = NEVER;
        if (at.phase === 'winding up') {
          changing(thing, at, () => {
            at.phase = 'ready';
            if (mayAct(thing, ruleId, rule!, by, 'ready')) act(thing, ruleId, rule!, by);
            if ((at.phase as Phase) === 'ready') say('phase', thing.id, 'ready');
          });
        } else if (at.phase === 'active') becomes(thing, ruleId, rule!, by);
        else enter(thing, at, 'ready', '', null, NEVER);
      }
      if (thing.cycleDue <= now) {
        changing(thing, thing.own, () => (thing.off = !thing.off));
        thing.cycleDue = now + steps(thing.off ? thing.kind.cycle!.off : thing.kind.cycle!.on);
        say('phase', thing.id, thing.off ? 'off' : 'ready');
      }
      for (const [id, due] of thing.every) {
        if (due > now) continue;
        const rule = thing.kind.rules[id]!;
        thing.every.set(id, due + steps(rule.setOffBy.type === 'every' ? rule.setOffBy.seconds : 0));
        if (mayAct(thing, id, rule, null, phaseFor(thing, null))) setOff(thing, id, rule, null);
      }
    }
  };
  const comeBack = (): void => {
    me.returnAt = NEVER;
    me.life = 'alive';
    const { returnTo } = level.death;
    put(
      returnTo.type === 'point'
        ? level.points[returnTo.point]!
        : returnTo.type === 'checkpoint'
          ? (me.checkpoint ?? startOf(me))
          : startOf(me),
    );
    say('returned', `${digits(me.body.x)},${digits(me.body.y)}`);
    const missing = (level.death.health ?? level.meters['health']!.start) - me.meters.get('health')!;
    if (missing !== 0) changePlainly('health', missing);
    if (level.death.grace > 0) giveGrace(level.death.grace);
    if (level.death.lock > 0) me.lockUntil = Math.max(me.lockUntil, now + steps(level.death.lock));
  };
  /** Score and items are kept in the levels tried. */
  const settleDeath = (): void => {
    if (!me.died) return;
    me.died = false;
    const lower = level.meters['lives']?.lower ?? 0;
    if (level.death.returns === 'never' || (level.death.returns === 'while lives last' && me.meters.get('lives')! <= lower)) {
      me.life = 'out';
      return;
    }
    if (level.death.returns === 'while lives last') changePlainly('lives', -1);
    me.returnAt = now + Math.max(1, steps(level.death.pause));
  };
  const settleEnds = (): void => {
    for (const { name } of players) as(name, settleDeath);
    const lives = players.map(({ life }) => life);
    if (lives.includes('out') && !lives.includes('alive') && !lives.includes('dead')) ending = 'lost';
  };

  // From outside.
  const joins = (): void => {
    if (me.life !== 'absent') return;
    me.life = 'alive';
    put(startOf(me));
    say('present', me.name, 'joins');
    for (const [id, { start }] of inOrder(level.meters)) {
      const before = me.meters.get(id)!;
      me.lost.delete(id);
      if (before === start) continue;
      me.meters.set(id, start);
      say('changed', '-', id, `${digits(start - before)}/${digits(start - before)} → ${digits(start)}`);
    }
    for (const [id, { start }] of inOrder(level.items)) giveItem(id, start - me.items.get(id)!);
    Object.assign(me, { checkpoint: null, facing: [1, 0], pressedBefore: 0 });
    me.remainders.clear();
    Object.assign(me.body, { velocityX: 0, velocityY: 0 });
    if (!perPlayer) return;
    for (const thing of things) {
      for (const ids of [thing.used, kindUses.get(thing.kindId) ?? thing.used]) {
        for (const id of ids.keys()) if (id.endsWith(` of ${me.name}`)) ids.delete(id);
      }
      const own = slotFor(thing, me.name);
      if (own.phase !== 'ready') enter(thing, own, 'ready', '', null, NEVER);
    }
  };
  const leaves = (): void => {
    if (me.life === 'absent') return;
    for (const contact of contactsOf(me.name)) remove(contact);
    for (const [id] of inOrder(level.meters)) closeRegeneration(id);
    Object.assign(me, { life: 'absent', died: false, returnAt: NEVER });
    say('present', me.name, 'leaves');
    endChanges(() => true);
    if (me.shieldUntil >= now) say('shield', '-', 'ends');
    Object.assign(me, { shieldUntil: 0, graceUntil: 0, lockUntil: 0 });
  };
  const giveItem = (id: string, count: number): void => {
    const before = me.items.get(id)!;
    const after = Math.max(0, Math.min(level.items[id]!.most ?? Infinity, before + count));
    if (count === 0) return;
    me.items.set(id, after);
    if (after === before) say('nothing', me.name, '-', count > 0 ? 'carry limit' : 'empty');
    else say('item', '-', id, `${count}/${after - before} → ${after}`);
  };
  const happen = (event: Run['events'][number]): void => {
    say('outside', event.what);
    if (event.what === 'join') joins();
    else if (event.what === 'leave') leaves();
    else if (event.what === 'notice') links.push({ notice: event.notice, toucher: me.name });
    if (me.life !== 'alive') return;
    if (event.what === 'item') giveItem(event.item, event.by);
    if (event.what !== 'meter') return;
    changePlainly(event.meter, event.by);
    if (me.meters.get('health')! <= level.meters['health']!.lower) die(null);
  };
  const regenerate = (): void => {
    for (const [id, { regeneration, upper, whole }] of inOrder(level.meters)) {
      if (regeneration === null || regeneration.perSecond === 0) continue;
      const before = me.meters.get(id)!;
      const hurt = me.lost.get(id) ?? 0;
      if ((hurt > 0 && now <= hurt + steps(regeneration.pauseAfterLoss)) || before >= (upper ?? Infinity)) {
        closeRegeneration(id);
        continue;
      }
      const span = me.regenerated.get(id) ?? { sum: 0, from: now - 1, to: before };
      me.regenerated.set(id, span);
      const wanted = whole
        ? Math.floor((regeneration.perSecond * (now - span.from)) / rate + 1e-9) - span.sum
        : regeneration.perSecond / rate;
      const moved = move(id, wanted);
      span.sum += moved.after - moved.before;
      span.to = moved.after;
      if (moved.after !== upper) continue;
      closeRegeneration(id);
      noteLimit(id, moved.before, moved.after);
    }
  };

  const touchers = [...names, ...things.filter(({ moves, pull }) => moves && pull === null).map(({ id }) => id)];
  const compiled = compile(level);
  const { hull } = compiled;
  const solids = {
    ...compiled.solids,
    on: new Uint8Array(compiled.solids.x.length).fill(1),
    near: new NearSolids(compiled.solids.firstMoving),
    mayCover: new Float64Array(0),
    bring: () => undefined,
  };
  // Magnets.
  const distanceTo = ({ body }: Player, { to }: Pull): number => Math.hypot(body.x - to.x, body.y - to.y);
  const accepts = (thing: Thing, player: string): boolean =>
    inOrder(thing.kind.rules).some(
      ([id, rule]) => rule.setOffBy.type === 'arriving' && mayAct(thing, id, rule, player, phaseFor(thing, player), true),
    );
  const drawBy = (thing: Thing, pull: Pull, by: string | null): void => {
    pull.by = by;
    pull.since = now - 1;
    say('drawn', thing.id, isPlayer(by) ? `to ${by}` : 'no more');
  };
  const chooseTarget = (thing: Thing, pull: Pull): void => {
    const { reach, giveUp, latched, then } = thing.kind.magnet!;
    const drawer = players.find(({ name }) => name === pull.by);
    if (drawer !== undefined && phaseFor(thing, drawer.name) !== 'ready') {
      pull.by = null;
      return;
    }
    if (drawer !== undefined) {
      const distance = distanceTo(drawer, pull);
      const near = distance <= giveUp && (latched || distance <= reach);
      if (near && drawer.life === 'alive' && accepts(thing, drawer.name)) return;
      if (distance > giveUp) pull.gaveUp.add(drawer.name);
      else pull.gaveUp.delete(drawer.name);
      drawBy(thing, pull, then === 'goes home' ? HOME : null);
      return;
    }
    let best: { readonly name: string; readonly distance: number } | null = null;
    for (const player of players.filter(({ life }) => life === 'alive')) {
      const { name } = player;
      const distance = distanceTo(player, pull);
      if (distance > reach) pull.gaveUp.delete(name);
      else if (distance < (best?.distance ?? Infinity) && !pull.gaveUp.has(name) && accepts(thing, name)) best = { name, distance };
    }
    if (best !== null) drawBy(thing, pull, best.name);
  };
  /** What a magnet's curve gives from its beginning to a time. */
  const drawnUntil = (speed: readonly (readonly [number, number])[], time: number): number => {
    const at = (when: number): number => {
      const next = speed.findIndex(([knot]) => knot > when);
      const [before, after] = next < 0 ? [speed.at(-1)!, speed.at(-1)!] : [speed[Math.max(0, next - 1)]!, speed[next]!];
      const span = after[0] - before[0];
      return span <= 0 ? before[1] : before[1] + ((after[1] - before[1]) * Math.max(0, when - before[0])) / span;
    };
    const knots = [0, ...speed.map(([knot]) => knot).filter((knot) => knot > 0 && knot < time), time];
    return knots.slice(1).reduce((sum, knot, index) => sum + ((at(knots[index]!) + at(knot - 1e-12)) / 2) * (knot - knots[index]!), 0);
  };
  const draw = (thing: Thing): void => {
    const { pull } = thing;
    if (pull === null) return;
    pull.from = pull.to;
    chooseTarget(thing, pull);
    if (pull.by === null) return;
    const to = pull.by === HOME ? pull.home : players.find(({ name }) => name === pull.by)!.body;
    const distance = Math.hypot(to.x - pull.from.x, to.y - pull.from.y);
    const since = (now - 1 - pull.since) / rate;
    const { speed } = thing.kind.magnet!;
    const way = Math.min(distance, drawnUntil(speed, since + 1 / rate) - drawnUntil(speed, since));
    const share = distance > 0 ? way / distance : 0;
    pull.to = { x: pull.from.x + (to.x - pull.from.x) * share, y: pull.from.y + (to.y - pull.from.y) * share };
    if (pull.by === HOME && distance <= way) pull.by = null;
  };

  const startOf = ({ name }: Player): Point => level.points[level.players.starts[names.indexOf(name)] ?? ''] ?? level.start;
  for (const player of players) {
    const { x, y } = startOf(player);
    Object.assign(player.body, { x, y });
    pushOut(solids, hull, player.body);
  }
  const keysOf = ({ name }: Player): Run['players'][number]['changes'] => run.players[names.indexOf(name)]?.changes ?? [];
  const pressedAt = (step: number): readonly (number | undefined)[] =>
    keysOf(me)
      .findLast(([at]) => at <= step)
      ?.slice(1) ?? [0, 0, 0, 0];

  const walk = (): void => {
    const [right = 0, up = 0] = pressedAt(now);
    const control = now <= me.lockUntil ? 0 : Math.min(1, movementOf('control'));
    const wish = { x: (right / 127) * control, y: (up / 127) * control };
    const length = Math.hypot(wish.x, wish.y);
    if (length > 0) me.facing = [wish.x, wish.y];
    const pushed = { velocity: { x: 0, y: 0 }, acceleration: { x: 0, y: 0 } };
    for (const { thing, running } of contactsOf(me.name)) {
      for (const [id, rule] of inOrder(thing.kind.rules)) {
        for (const effect of Object.values(rule.effects)) {
          if (effect.type !== 'push' || !running.has(id)) continue;
          pushed[effect.as].x += Math.cos((effect.degrees / 180) * Math.PI) * effect.strength;
          pushed[effect.as].y += Math.sin((effect.degrees / 180) * Math.PI) * effect.strength;
        }
      }
    }
    me.body.velocityX += pushed.acceleration.x / rate;
    me.body.velocityY += pushed.acceleration.y / rate;
    const share = (length > 1 ? 1 / length : 1) * movementOf('speed');
    const [dvx, dvy] = [wish.x * share - me.body.velocityX, wish.y * share - me.body.velocityY];
    const a = length > 0 ? movementOf('acceleration') : level.body.braking;
    const change = Math.hypot(dvx, dvy);
    const turning = a > 0 ? Math.min(1 / rate, change / a) : 1 / rate;
    const part = change > 0 ? (a * turning) / change : 0;
    const [fromX, fromY] = [me.body.velocityX, me.body.velocityY];
    me.body.velocityX += dvx * part;
    me.body.velocityY += dvy * part;
    const steady = 1 / rate - turning;
    me.body.wayX = ((fromX + me.body.velocityX) / 2) * turning + me.body.velocityX * steady + pushed.velocity.x / rate;
    me.body.wayY = ((fromY + me.body.velocityY) / 2) * turning + me.body.velocityY * steady + pushed.velocity.y / rate;
    slide(solids, hull, me.body, me.track);
  };
  const playerAt = (share: number): Point => {
    let index = 0;
    while (index < me.track.count - 2 && me.track.at[index + 1]! <= share) index += 1;
    const span = me.track.at[index + 1]! - me.track.at[index]!;
    const part = span === 0 ? 1 : Math.max(0, Math.min(1, (share - me.track.at[index]!) / span));
    return {
      x: me.track.x[index]! + (me.track.x[index + 1]! - me.track.x[index]!) * part,
      y: me.track.y[index]! + (me.track.y[index + 1]! - me.track.y[index]!) * part,
    };
  };

  /** Shares of this step in which two touch, joined where they meet. */
  const touching = (toucher: string, thing: Thing): [number, number][] => {
    const mover = things.find(({ id }) => id === toucher);
    const begin = (now - 1) / rate;
    // Far apart: no need to search.
    const [placeOfA, placeOfB] = [mover === undefined ? playerAt(0) : mover.at(begin), thing.at(begin)];
    const walked =
      mover === undefined
        ? Math.hypot(me.track.x[me.track.count - 1]! - me.track.x[0]!, me.track.y[me.track.count - 1]! - me.track.y[0]!)
        : FASTEST / rate;
    const reach = (mover === undefined ? level.body.radius : reachOf(mover.kind)) + reachOf(thing.kind) + 2 * walked + FASTEST / rate;
    if (Math.hypot(placeOfA.x - placeOfB.x, placeOfA.y - placeOfB.y) > reach + 1) return [];
    const breaks = [
      0,
      1,
      ...(mover === undefined
        ? [...me.track.at.slice(0, me.track.count)]
        : mover.corners(begin, now / rate).map((time) => (time - begin) * rate)),
    ];
    const all = [...breaks, ...thing.corners(begin, now / rate).map((time) => (time - begin) * rate)].sort((a, b) => a - b);
    const found: [number, number][] = [];
    const position = (one: Thing, share: number, from: number, to: number): Point => {
      // Straight between two corners: the end of a leg must not be read from the next one.
      const [a, b] = [one.at(begin + (from + (to - from) * 1e-7) / rate), one.at(begin + (to - (to - from) * 1e-7) / rate)];
      const part = (share - from) / (to - from);
      return { x: a.x + (b.x - a.x) * part, y: a.y + (b.y - a.y) * part };
    };
    for (const [index, to] of all.slice(1).entries()) {
      const from = all[index]!;
      if (to - from < 1e-12) continue;
      for (const own of mover === undefined ? [null] : Object.values(mover.kind.shapes)) {
        for (const shape of Object.values(thing.kind.shapes)) {
          const placeA = (share: number): Point => (own === null ? playerAt(share) : position(mover!, share, from, to));
          const placeB = (share: number): Point => (thing.moves ? position(thing, share, from, to) : thing.at(0));
          const [a, b, c, d] = [placeA(from), placeA(to), placeB(from), placeB(to)];
          const travel = Math.hypot(b.x - a.x - d.x + c.x, b.y - a.y - d.y + c.y);
          const stretch = closed(from, to, travel, (share) =>
            gap(
              own === null ? { points: [placeA(share)], radius: level.body.radius } : outline(own, placeA(share)),
              outline(shape, placeB(share)),
            ),
          );
          if (stretch !== null) found.push(stretch);
        }
      }
    }
    found.sort(([a], [b]) => a - b);
    return found.reduce<[number, number][]>((joined, [from, to]) => {
      const last = joined.at(-1);
      if (last !== undefined && from <= last[1] + 1e-6) last[1] = Math.max(last[1], to);
      else joined.push([from, to]);
      return joined;
    }, []);
  };

  const use = (): void => {
    const here = things.flatMap((thing) => {
      const reaches = Object.values(thing.kind.rules).flatMap(({ setOffBy }) => (setOffBy.type === 'use' ? [setOffBy.reach] : []));
      const at = thing.at(now / rate);
      const distance = Math.hypot(me.body.x - at.x, me.body.y - at.y);
      return reaches.length > 0 && distance <= Math.max(...reaches) ? [{ thing, distance }] : [];
    });
    const nearest = here.reduce<(typeof here)[number] | null>(
      (best, one) => (best === null || one.distance < best.distance ? one : best),
      null,
    );
    if (nearest === null) return;
    const phase = phaseFor(nearest.thing, me.name);
    for (const [id, rule] of inOrder(nearest.thing.kind.rules)) {
      if (rule.setOffBy.type !== 'use' || nearest.distance > rule.setOffBy.reach) continue;
      if (mayAct(nearest.thing, id, rule, me.name, phase)) setOff(nearest.thing, id, rule, me.name);
    }
  };

  interface Crossing {
    readonly at: number;
    readonly toucher: string;
    readonly thing: Thing;
    readonly arrives: boolean;
    readonly inside: number;
  }
  const crossingsOf = (toucher: string): Crossing[] => {
    const crossings: Crossing[] = [];
    const mover = things.find(({ id }) => id === toucher);
    if (mover === undefined && me.life !== 'alive') return [];
    const gone = mover !== undefined && (mover.own.phase === 'spent' || mover.own.phase === 'off');
    for (const thing of things) {
      // Movers take no notice of what has no rule for touching.
      const deaf = !Object.values(thing.kind.rules).some(({ setOffBy }) => ['arriving', 'inside', 'leaving'].includes(setOffBy.type));
      if (thing.id === toucher || (mover !== undefined && deaf)) continue;
      const contact = contacts.find((one) => one.toucher === toucher && one.thing === thing);
      const stretches = gone ? [] : touching(toucher, thing);
      const inside = stretches.reduce((sum, [from, to]) => sum + to - from, 0) / rate;
      if (contact !== undefined) contact.inside = inside;
      const goesOn = contact !== undefined && (stretches[0]?.[0] ?? 1) <= 1e-6;
      const back = thing.own.backAt === now || (isPlayer(toucher) && perPlayer && slotFor(thing, toucher).backAt === now);
      if (contact !== undefined && !goesOn) crossings.push({ at: 0, toucher, thing, arrives: false, inside });
      if (goesOn && back) crossings.push({ at: 0, toucher, thing, arrives: true, inside });
      for (const [index, [from, to]] of stretches.entries()) {
        if (index > 0 || !goesOn) crossings.push({ at: from, toucher, thing, arrives: true, inside });
        if (to < 1 - 1e-6) crossings.push({ at: to, toucher, thing, arrives: false, inside });
      }
    }
    return crossings;
  };
  const cross = (): void => {
    const found = touchers.flatMap((toucher) => as(toucher, () => crossingsOf(toucher)));
    // What the search cannot tell apart stays by toucher, then placement.
    const moments = found.map(({ at }) => at).sort((a, b) => a - b);
    const momentOf = (at: number): number => {
      let index = moments.indexOf(at);
      while (index > 0 && moments[index]! - moments[index - 1]! < 1e-7) index -= 1;
      return index;
    };
    const crossings = found.map((one) => ({ ...one, moment: momentOf(one.at) })).sort((a, b) => a.moment - b.moment);
    for (const { at, toucher, thing, arrives, inside } of crossings) {
      if (players.some(({ name, dropped }) => name === toucher && dropped)) continue;
      contactAt = at;
      let contact = contacts.find((one) => one.toucher === toucher && one.thing === thing);
      if (!arrives) {
        if (contact === undefined) continue;
        contact.leaving = true;
        dropWindUps(thing, toucher);
        touch(thing, toucher, 'leaving');
        endMoved();
        continue;
      }
      const again = contact !== undefined && !contact.leaving;
      if (contact === undefined) {
        const sets = {
          refused: new Set<string>(),
          running: new Set<string>(),
          trying: new Set<string>(),
          pulses: new Map(),
          spans: new Map(),
        };
        contact = { toucher, thing, inside, leaving: false, graced: false, ...sets };
        contacts.push(contact);
        const order = (one: Contact): number => touchers.indexOf(one.toucher) * things.length + things.indexOf(one.thing);
        contacts.sort((a, b) => order(a) - order(b));
      } else if (again) {
        const rules = Object.values(thing.kind.rules).filter(({ setOffBy }) => setOffBy.type === 'inside');
        if (rules.length > 0 && rules.every(({ setOffBy }) => setOffBy.type === 'inside' && setOffBy.pulse !== null)) {
          contact.pulses.clear();
          contact.refused.clear();
          contact.trying.clear();
        }
      }
      contact.leaving = false;
      touch(thing, toucher, 'arriving');
      endMoved();
    }
    contactAt = 1;
  };

  setOffWaiting(({ setOffBy }) => setOffBy.type === 'start', null);
  runLinks();
  const each = (act: () => void): void => {
    for (const { name } of players) as(name, act);
  };
  while (now < run.steps && ending === null) {
    now += 1;
    each(() => (me.dropped = false));
    for (const event of run.events) if (event.step === now) as(`player ${String(event.player)}`, () => happen(event));
    for (const thing of things) draw(thing);
    each(() => {
      if (me.life === 'alive') walk();
    });
    cross();
    for (const contact of [...contacts]) {
      if (isPlayer(contact.toucher) && contacts.includes(contact)) as(contact.toucher, () => actInside(contact));
    }
    endMoved();
    each(() => {
      if (me.life === 'alive') regenerate();
    });
    for (const contact of contacts.filter(({ leaving }) => leaving)) remove(contact);
    each(() => {
      const [, , held = 0] = pressedAt(now);
      const tapped = keysOf(me).find(([at]) => at === now)?.[4] ?? 0;
      if (me.life === 'alive' && now > me.lockUntil && ((tapped | (held & ~me.pressedBefore)) & 2) !== 0) use();
      me.pressedBefore = held;
      endMoved();
    });
    runTimers();
    endMoved();
    runLinks();
    endMoved();
    settleEnds();
  }
  for (const contact of [...contacts]) remove(contact);
  each(() => {
    for (const [id] of inOrder(level.meters)) closeRegeneration(id);
  });
  say('ended', ending ?? 'running');
  return lines;
}
