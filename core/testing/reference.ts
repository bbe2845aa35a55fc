import { createTrack, pushOut, slide, SLIDE_PIECES, type Mobile, type Track } from '../geometry/index.ts';
import { inOrder, whoMatches, type Kind, type Level, type Rule, type Shape } from '../level/index.ts';
import type { Run } from '../players/index.ts';
import { compile } from '../session/index.ts';

/**
 * A slow, plain stepper written from the rules alone, to hold the fast one against: objects for everything, every pair
 * looked at in every step, and times of contact found by search instead of by formula. Only sliding along solids is
 * shared. It answers the ledger in short lines.
 */
interface Thing {
  readonly id: string;
  readonly kind: Kind;
  /** Where it is at a time, in seconds; corners of its way between two times. */
  readonly at: (time: number) => Point;
  readonly corners: (from: number, to: number) => number[];
  readonly moves: boolean;
  phase: 'ready' | 'resting' | 'spent';
  due: number;
  backAt: number;
}

interface Point {
  readonly x: number;
  readonly y: number;
}

interface Contact {
  readonly toucher: string;
  readonly thing: Thing;
  inside: number;
  leaving: boolean;
  readonly spans: Map<string, { from: number; asked: number; applied: number }>;
  readonly refused: Set<string>;
}

const RADIANS = Math.PI / 180;

/** Corners of a box, or the centre of a circle, around a place. */
function outline(shape: Shape, place: Point): { points: Point[]; radius: number } {
  const centre = { x: place.x + shape.x, y: place.y + shape.y };
  if (shape.type === 'circle') return { points: [centre], radius: shape.radius };
  const cos = Math.cos(shape.rotation * RADIANS);
  const sin = Math.sin(shape.rotation * RADIANS);
  const corner = (u: number, v: number): Point => ({
    x: centre.x + (u * shape.width * cos - v * shape.height * sin) / 2,
    y: centre.y + (u * shape.width * sin + v * shape.height * cos) / 2,
  });
  return { points: [corner(1, 1), corner(-1, 1), corner(-1, -1), corner(1, -1)], radius: 0 };
}

function edges(points: Point[]): [Point, Point][] {
  return points.map((point, index) => [point, points[(index + 1) % points.length]!]);
}

function toSegment(p: Point, [a, b]: [Point, Point]): number {
  const length = (b.x - a.x) ** 2 + (b.y - a.y) ** 2;
  const share = length === 0 ? 0 : Math.max(0, Math.min(1, ((p.x - a.x) * (b.x - a.x) + (p.y - a.y) * (b.y - a.y)) / length));
  return Math.hypot(p.x - a.x - share * (b.x - a.x), p.y - a.y - share * (b.y - a.y));
}

/** How far two convex outlines are from touching: the greatest gap over all face directions, or between corners. */
function gap(a: { points: Point[]; radius: number }, b: { points: Point[]; radius: number }): number {
  const depth = Math.max(
    ...[a, b].flatMap(({ points }) =>
      points.length === 1
        ? []
        : edges(points).map(([from, to]) => {
            const length = Math.hypot(to.x - from.x, to.y - from.y);
            const normal = { x: (to.y - from.y) / length, y: (from.x - to.x) / length };
            const along = (list: Point[]): number[] => list.map((point) => point.x * normal.x + point.y * normal.y);
            const other = points === a.points ? b.points : a.points;
            return Math.min(...along(other)) - Math.max(...along(points));
          }),
    ),
    -Infinity,
  );
  if (depth < 0 && depth > -Infinity) return depth - a.radius - b.radius;
  const between = [
    ...a.points.flatMap((point) => edges(b.points).map((edge) => toSegment(point, edge))),
    ...b.points.flatMap((point) => edges(a.points).map((edge) => toSegment(point, edge))),
  ];
  return Math.min(...between) - a.radius - b.radius;
}

/** The stretch of [from, to] in which a gap that is convex in time is closed: search for its least, then for both ends. */
function closed(from: number, to: number, travel: number, gapAt: (time: number) => number): [number, number] | null {
  // A gap closes no faster than the two move towards each other.
  if (gapAt(from) > travel + 1e-6) return null;
  let least = gapAt(from) <= 0 ? from : to;
  if (gapAt(least) > 0) {
    let [low, high] = [from, to];
    for (let round = 0; round < 60; round += 1) {
      const a = low + (high - low) / 3;
      const b = high - (high - low) / 3;
      if (gapAt(a) <= gapAt(b)) high = b;
      else low = a;
    }
    least = (low + high) / 2;
  }
  if (gapAt(least) > 0) return null;
  const end = (outside: number): number => {
    if (gapAt(outside) <= 0) return outside;
    let [out, inside] = [outside, least];
    for (let round = 0; round < 50; round += 1) {
      const middle = (out + inside) / 2;
      if (gapAt(middle) <= 0) inside = middle;
      else out = middle;
    }
    return inside;
  };
  return [end(from), end(to)];
}

/** No path of the levels tried is travelled faster. Units a second. */
const FASTEST = 10;

function reachOf(kind: Kind): number {
  return Math.max(
    ...Object.values(kind.shapes).map(
      (shape) => Math.hypot(shape.x, shape.y) + (shape.type === 'circle' ? shape.radius : Math.hypot(shape.width, shape.height) / 2),
    ),
  );
}

/** The legs of a path, walked by hand: seconds at which each begins, where, and how fast. */
function wayOf(level: Level, pathId: string, offset: number): Pick<Thing, 'at' | 'corners'> {
  const path = level.paths[pathId]!;
  const stops =
    path.round === 'loop' ? [...path.wayPoints, path.wayPoints[0]!] : [...path.wayPoints, ...path.wayPoints.slice(0, -1).reverse()];
  const legs: { begin: number; end: number; from: Point; to: Point }[] = [];
  let clock = 0;
  for (const [index, to] of stops.slice(1).entries()) {
    const from = stops[index]!;
    legs.push({ begin: clock, end: clock + from.pause, from, to: from });
    clock += from.pause;
    const seconds = Math.hypot(to.x - from.x, to.y - from.y) / path.speed;
    legs.push({ begin: clock, end: clock + seconds, from, to });
    clock += seconds;
  }
  const round = clock;
  return {
    at(time) {
      const inRound = (time + offset) % round;
      const leg = legs.find(({ begin, end }) => inRound >= begin && inRound < end) ?? legs.at(-1)!;
      const share = leg.end === leg.begin ? 0 : Math.min(1, (inRound - leg.begin) / (leg.end - leg.begin));
      return { x: leg.from.x + (leg.to.x - leg.from.x) * share, y: leg.from.y + (leg.to.y - leg.from.y) * share };
    },
    corners(from, to) {
      const first = Math.floor((from + offset) / round);
      const times = [first, first + 1].flatMap((lap) => legs.map(({ begin }) => lap * round + begin - offset));
      return times.filter((time) => time > from + 1e-12 && time < to - 1e-12);
    },
  };
}

/** Steps a run and answers its ledger: `step type …` with ids, reasons and amounts to six digits. */
export function referenceLedger(level: Level, run: Run): string[] {
  const { rate } = level;
  const lines: string[] = [];
  const digits = (value: number): string => String(Number(value.toFixed(5)) + 0);
  const things: Thing[] = inOrder(level.placements).map(([id, placement]) => ({
    id,
    kind: level.kinds[placement.kind]!,
    moves: placement.travel !== null,
    ...(placement.travel === null
      ? { at: () => placement, corners: () => [] }
      : wayOf(level, placement.travel.path, placement.travel.startOffset)),
    phase: 'ready',
    due: Infinity,
    backAt: -1,
  }));
  const meters = new Map(inOrder(level.meters).map(([id, meter]) => [id, meter.start]));
  const remainders = new Map<string, number>();
  let contacts: Contact[] = [];
  let dead = false;
  let now = 0;

  const say = (...words: (string | number)[]): void => void lines.push([now, ...words].join(' '));
  const isPlayer = (toucher: string): boolean => toucher === 'player 1';
  const tagsOf = (toucher: string): readonly string[] =>
    isPlayer(toucher) ? level.body.tags : things.find(({ id }) => id === toucher)!.kind.tags;

  const refusalOf = (rule: Rule, toucher: string, phase: Thing['phase']): string | null => {
    if (!whoMatches(rule.who, tagsOf(toucher))) return 'wrong tag';
    if (phase !== 'ready') return phase === 'resting' ? 'resting' : 'used up';
    if (!isPlayer(toucher)) return null;
    if (dead) return 'dead';
    for (const [, condition] of inOrder(rule.provided)) {
      const value = meters.get(condition.meter)!;
      if (condition.type === 'below limit') {
        if (value >= (level.meters[condition.meter]!.upper ?? Infinity)) return 'full';
        continue;
      }
      const holds = {
        'at least': value >= condition.value,
        'at most': value <= condition.value,
        above: value > condition.value,
        below: value < condition.value,
      };
      if (!holds[condition.is]) return 'condition';
    }
    return null;
  };

  const change = (cause: string, effect: Rule['effects'][string], factor: number): { asked: number; applied: number } => {
    const meter = level.meters[effect.meter]!;
    const before = meters.get(effect.meter)!;
    const amount = effect.amount * factor;
    const asked = effect.change === 'set' ? amount - before : effect.change === 'add' ? amount : -amount;
    let wanted = asked;
    if (meter.whole && effect.change !== 'set') {
      const sum = asked + (remainders.get(cause) ?? 0);
      wanted = Math.trunc(sum + Math.sign(sum) * 1e-9);
      remainders.set(cause, sum - wanted);
    }
    const after = Math.max(meter.lower, Math.min(meter.upper ?? Infinity, before + wanted));
    meters.set(effect.meter, after);
    return { asked, applied: after - before };
  };
  const noteLimit = (meterId: string, applied: number): void => {
    const { lower, upper } = level.meters[meterId]!;
    const value = meters.get(meterId)!;
    if (applied !== 0 && (value === lower || value === upper)) say('limit', meterId, digits(value));
  };
  const outOfHealth = (): boolean => meters.get('health')! <= level.meters['health']!.lower;

  const become = (thing: Thing, rule: Rule): void => {
    if (thing.phase !== 'ready' || rule.becomes.type === 'stays') return;
    if (rule.becomes.type === 'spent') thing.phase = 'spent';
    else {
      if (rule.becomes.seconds === 0) return;
      thing.phase = 'resting';
      thing.due = now + Math.max(1, Math.round(rule.becomes.seconds * rate));
    }
    say('phase', thing.id, thing.phase);
  };
  const closeRule = (contact: Contact, ruleId: string, rule: Rule): void => {
    let any = false;
    for (const [effectId, effect] of inOrder(rule.effects)) {
      const span = contact.spans.get(`${ruleId}/${effectId}`);
      if (span === undefined) continue;
      contact.spans.delete(`${ruleId}/${effectId}`);
      say('rate', contact.thing.id, effect.meter, `${digits(span.asked)}/${digits(span.applied)}`);
      any = true;
    }
    if (any) become(contact.thing, rule);
  };
  const closeAll = (contact: Contact): void => {
    for (const [id, rule] of inOrder(contact.thing.kind.rules)) if (rule.setOffBy.type === 'inside') closeRule(contact, id, rule);
  };
  const die = (thing: Thing): void => {
    for (const contact of contacts) if (isPlayer(contact.toucher)) closeAll(contact);
    dead = true;
    say('died', thing.id);
  };

  const arrive = (toucher: string, thing: Thing): void => {
    const { phase } = thing;
    for (const [ruleId, rule] of inOrder(thing.kind.rules)) {
      if (rule.setOffBy.type !== 'arriving') continue;
      const refusal = refusalOf(rule, toucher, phase);
      if (refusal !== null) {
        say('refused', toucher, thing.id, refusal);
        continue;
      }
      for (const [effectId, effect] of inOrder(rule.effects)) {
        if (!isPlayer(toucher) || dead) {
          say('refused', toucher, thing.id, isPlayer(toucher) ? 'dead' : 'no player');
          continue;
        }
        const { asked, applied } = change(
          `${thing.kind.name}/${inOrder(level.kinds).findIndex(([, kind]) => kind === thing.kind)}/${ruleId}/${effectId}`,
          effect,
          1,
        );
        say('changed', thing.id, effect.meter, `${digits(asked)}/${digits(applied)}`);
        noteLimit(effect.meter, applied);
        if (outOfHealth()) die(thing);
      }
      become(thing, rule);
    }
  };

  const actInside = (contact: Contact, ruleId: string, rule: Rule): void => {
    const refusal = refusalOf(rule, contact.toucher, contact.thing.phase);
    if (refusal !== null) {
      if (!contact.refused.has(ruleId)) say('refused', contact.toucher, contact.thing.id, refusal);
      contact.refused.add(ruleId);
      closeRule(contact, ruleId, rule);
      return;
    }
    contact.refused.delete(ruleId);
    if (!isPlayer(contact.toucher)) return;
    for (const [effectId, effect] of inOrder(rule.effects)) {
      const key = `${ruleId}/${effectId}`;
      const span = contact.spans.get(key) ?? { from: now, asked: 0, applied: 0 };
      contact.spans.set(key, span);
      const kindAt = inOrder(level.kinds).findIndex(([, kind]) => kind === contact.thing.kind);
      const { asked, applied } = change(`${contact.thing.kind.name}/${kindAt}/${key}`, effect, contact.inside);
      span.asked += asked;
      span.applied += applied;
      noteLimit(effect.meter, applied);
      if (outOfHealth()) {
        die(contact.thing);
        return;
      }
    }
  };

  const touchers = ['player 1', ...things.filter(({ moves }) => moves).map(({ id }) => id)];
  const body: Mobile = { x: 0, y: 0, velocityX: 0, velocityY: 0 };
  const { solids } = compile(level);
  const track: Track = createTrack(SLIDE_PIECES);
  Object.assign(body, level.start);
  pushOut(solids, body, level.body.radius);
  const pressedAt = (step: number): number[] =>
    run.players[0]!.changes.filter(([at]) => at <= step)
      .at(-1)
      ?.slice(1) ?? [0, 0, 0];

  const walk = (): void => {
    const [right = 0, up = 0] = pressedAt(now);
    const wish = { x: right / 127, y: up / 127 };
    const length = Math.hypot(wish.x, wish.y);
    const share = (length > 1 ? 1 / length : 1) * level.body.speed;
    const [dvx, dvy] = [wish.x * share - body.velocityX, wish.y * share - body.velocityY];
    const a = length > 0 ? level.body.acceleration : level.body.braking;
    const needed = Math.hypot(dvx, dvy) / a;
    const turning = Math.min(1 / rate, needed);
    const part = needed > 0 ? turning / needed : 0;
    const [fromX, fromY] = [body.velocityX, body.velocityY];
    body.velocityX += dvx * part;
    body.velocityY += dvy * part;
    const steady = 1 / rate - turning;
    slide(
      solids,
      body,
      level.body.radius,
      ((fromX + body.velocityX) / 2) * turning + body.velocityX * steady,
      ((fromY + body.velocityY) / 2) * turning + body.velocityY * steady,
      track,
    );
  };
  const playerAt = (share: number): Point => {
    let index = 0;
    while (index < track.count - 2 && track.at[index + 1]! <= share) index += 1;
    const span = track.at[index + 1]! - track.at[index]!;
    const part = span === 0 ? 1 : Math.max(0, Math.min(1, (share - track.at[index]!) / span));
    return {
      x: track.x[index]! + (track.x[index + 1]! - track.x[index]!) * part,
      y: track.y[index]! + (track.y[index + 1]! - track.y[index]!) * part,
    };
  };

  /** Shares of this step in which two touch, joined where they meet. */
  const touching = (toucher: string, thing: Thing): [number, number][] => {
    const mover = things.find(({ id }) => id === toucher);
    const begin = (now - 1) / rate;
    // Far apart: no need to search.
    const [placeOfA, placeOfB] = [mover === undefined ? playerAt(0) : mover.at(begin), thing.at(begin)];
    const walked =
      mover === undefined ? Math.hypot(track.x[track.count - 1]! - track.x[0]!, track.y[track.count - 1]! - track.y[0]!) : FASTEST / rate;
    const reach = (mover === undefined ? level.body.radius : reachOf(mover.kind)) + reachOf(thing.kind) + 2 * walked + FASTEST / rate;
    if (Math.hypot(placeOfA.x - placeOfB.x, placeOfA.y - placeOfB.y) > reach + 1) return [];
    const breaks = [
      0,
      1,
      ...(mover === undefined
        ? [...track.at.slice(0, track.count)]
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

  while (now < run.steps && !dead) {
    now += 1;
    for (const thing of things) {
      if (thing.phase !== 'resting' || thing.due > now) continue;
      thing.phase = 'ready';
      if (!thing.kind.phases.resting.sensing) thing.backAt = now;
      say('phase', thing.id, 'ready');
    }
    walk();
    const crossings: { at: number; toucher: string; thing: Thing; arrives: boolean; inside: number }[] = [];
    for (const toucher of touchers) {
      for (const thing of things) {
        if (thing.id === toucher) continue;
        const contact = contacts.find((one) => one.toucher === toucher && one.thing === thing);
        const stretches = touching(toucher, thing);
        const inside = stretches.reduce((sum, [from, to]) => sum + to - from, 0) / rate;
        if (contact !== undefined) contact.inside = inside;
        const goesOn = contact !== undefined && (stretches[0]?.[0] ?? 1) <= 1e-6;
        if (contact !== undefined && !goesOn) crossings.push({ at: 0, toucher, thing, arrives: false, inside });
        if (goesOn && thing.backAt === now) crossings.push({ at: 0, toucher, thing, arrives: true, inside });
        for (const [index, [from, to]] of stretches.entries()) {
          if (index > 0 || !goesOn) crossings.push({ at: from, toucher, thing, arrives: true, inside });
          if (to < 1 - 1e-6) crossings.push({ at: to, toucher, thing, arrives: false, inside });
        }
      }
    }
    // Stable: what the search cannot tell apart stays by toucher, then placement.
    crossings.sort((a, b) => Math.round(a.at * 1e8) - Math.round(b.at * 1e8));
    for (const { toucher, thing, arrives, inside } of crossings) {
      if (dead && isPlayer(toucher)) continue;
      let contact = contacts.find((one) => one.toucher === toucher && one.thing === thing);
      if (!arrives) {
        if (contact !== undefined) contact.leaving = true;
        continue;
      }
      if (contact === undefined) {
        contact = { toucher, thing, inside, leaving: false, spans: new Map(), refused: new Set() };
        contacts.push(contact);
      }
      contact.leaving = false;
      arrive(toucher, thing);
    }
    const order = (contact: Contact): number => touchers.indexOf(contact.toucher) * things.length + things.indexOf(contact.thing);
    contacts.sort((a, b) => order(a) - order(b));
    for (const contact of contacts) {
      for (const [id, rule] of inOrder(contact.thing.kind.rules)) {
        if (rule.setOffBy.type === 'inside' && !(dead && isPlayer(contact.toucher))) actInside(contact, id, rule);
      }
    }
    for (const contact of contacts.filter(({ leaving }) => leaving)) closeAll(contact);
    contacts = contacts.filter(({ leaving }) => !leaving);
  }
  for (const contact of contacts) closeAll(contact);
  say('ended', dead ? 'lost' : 'running');
  return lines;
}
