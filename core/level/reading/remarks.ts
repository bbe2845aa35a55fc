import { inOrder } from '../document/order.ts';
import { pointer } from '../document/pointers.ts';
import type { Problem } from '../document/problems.ts';
import { whyNoPips } from './readouts.ts';
import { boxAround } from '../values/reshaping.ts';
import { kindOf, kindOfPlacement } from '../values/resolve.ts';
import type { Effect, ItemRule, Rule } from '../document/rules.ts';
import type { Level } from '../document/schema.ts';
import type { Kind } from '../document/things.ts';

/** Standing against a solid is not being in it. Units. */
const TOUCHES = 1e-4;

type Path = readonly PropertyKey[];
/** Says something about a value at a path. */
type Say = (path: Path, message: string) => void;

function remarkOnEffect(level: Level, effect: Effect, rate: boolean, path: Path, say: Say): void {
  if (effect.type === 'movement' && effect.value < 0 && effect.change !== 'add') {
    say([...path, 'value'], 'a movement value is never below 0: this comes out as 0');
  }
  if (effect.type !== 'meter' || rate) return;
  const { amount, change } = effect;
  const meter = level.meters[effect.meter];
  if (typeof amount !== 'number' || Number.isInteger(amount) || meter?.whole !== true) return;
  const how =
    change === 'set'
      ? `it is set to ${String(Math.round(amount))}`
      : `${String(Math.trunc(amount))} at first, what is over is kept for the next time`;
  say([...path, 'amount'], `${meter.name} is whole: ${how}`);
}

function remarkOnRules(level: Level, rules: Readonly<Record<string, Rule | ItemRule>>, path: Path, say: Say): void {
  for (const [id, rule] of inOrder(rules)) {
    const { setOffBy } = rule;
    const rate = typeof setOffBy === 'string' ? setOffBy !== 'use' : setOffBy.type === 'inside' && setOffBy.pulse === null;
    for (const [effect, one] of inOrder(rule.effects)) remarkOnEffect(level, one, rate, [...path, id, 'effects', effect], say);
  }
}

/** Whether a kind's solid box keeps everyone off its sensing shapes. */
function isCovered({ solid, shapes, phases, rules }: Kind): boolean {
  const around = boxAround({ shapes });
  const touched = Object.values(rules).some(({ setOffBy: { type } }) => type === 'arriving' || type === 'inside' || type === 'leaving');
  if (!touched || solid === null || around === null || solid.sides.length < 4 || !phases.ready.solid) return false;
  const within = (at: number, half: number, own: number, ownHalf: number): boolean => Math.abs(own - at) + ownHalf < half - TOUCHES;
  return within(solid.x, solid.width / 2, around.x, around.width / 2) && within(solid.y, solid.height / 2, around.y, around.height / 2);
}

function remarkOnKind(level: Level, kind: Kind, path: Path, say: Say): void {
  remarkOnRules(level, kind.rules, [...path, 'rules'], say);
  if (isCovered(kind)) say([...path, 'solid'], 'covers all its sensing shapes: whoever comes against it does not touch it');
  const { magnet } = kind;
  if (magnet !== null && magnet.giveUp < magnet.reach) {
    const [reach, giveUp] = [String(magnet.reach), String(magnet.giveUp)];
    say(
      [...path, 'magnet', 'giveUp'],
      `lies within the reach of ${reach} u: farther off than ${giveUp} u it is drawn and gives up at once`,
    );
  }
}

interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Boxes that stop players on all sides at the start. */
function walls(level: Level): Box[] {
  const solids = Object.values(level.solids).filter(({ sides }) => sides.length === 4);
  const things = Object.entries(level.placements).flatMap(([id, { x, y, starts, travel }]) => {
    const kind = kindOfPlacement(level, id);
    const solid = kind?.solid ?? null;
    if (kind === undefined || solid === null || solid.sides.length < 4 || travel !== null || !kind.phases[starts.type].solid) return [];
    const { width, height } = solid;
    return [{ x: x + solid.x - width / 2, y: y + solid.y - height / 2, width, height }];
  });
  return [...solids, ...things];
}

function remarkOnStarts(level: Level, say: Say): void {
  const { body, size, start, view, players, points } = level;
  const [right, up, round] = view === 'top' ? [0, 0, body.radius] : [body.width / 2, body.height / 2, 0];
  const boxes = walls(level);
  const at = ({ x, y }: { readonly x: number; readonly y: number }, path: Path): void => {
    if (x < 0 || y < 0 || x > size.width || y > size.height) {
      say(path, 'lies outside the level: whoever starts here is put inside');
      return;
    }
    const overlaps = boxes.some((box) => {
      const [dx, dy] = [Math.max(box.x - x, 0, x - box.x - box.width), Math.max(box.y - y, 0, y - box.y - box.height)];
      return round > 0 ? dx * dx + dy * dy < (round - TOUCHES) * (round - TOUCHES) : dx < right - TOUCHES && dy < up - TOUCHES;
    });
    if (overlaps) say(path, 'lies in a solid: whoever starts here is put beside it');
  };
  if (players.starts.length < players.count) at(start, ['start']);
  for (const id of new Set(players.starts)) {
    const point = points[id];
    if (point !== undefined) at(point, ['points', id]);
  }
}

/** What a level may be and is probably not meant to be. It is valid all the same; each says what comes of it. */
export function remarksOf(level: Level): Problem[] {
  const remarks: Problem[] = [];
  const say: Say = (path, message) => remarks.push({ path: pointer(path), message });
  const { death } = level;
  const health = level.meters['health'];
  if (health !== undefined && health.start <= health.lower) {
    say(['meters', 'health', 'start'], 'is the lower limit: every player is dead from the start');
  }
  if (health !== undefined && death.returns !== 'never' && death.health !== null && death.health <= health.lower) {
    say(['death', 'health'], 'is the lower limit: whoever comes back is dead at once');
  }
  remarkOnStarts(level, say);
  for (const [id, readout] of inOrder(level.readouts)) {
    const why = whyNoPips(level, readout);
    if (why !== null) say(['readouts', id, 'as'], why);
  }
  for (const [id, kind] of Object.entries(level.kinds)) remarkOnKind(level, kind, ['kinds', id], say);
  for (const [id, { rules }] of Object.entries(level.tagRules)) remarkOnRules(level, rules, ['tagRules', id, 'rules'], say);
  for (const [id, { rules }] of Object.entries(level.items)) remarkOnRules(level, rules, ['items', id, 'rules'], say);
  // Of what is made from a kind only what the kind does not say itself.
  const made = [
    ...Object.entries(level.variants).map(([id, { basedOn }]) => ({
      path: ['variants', id],
      own: kindOf(level, id),
      from: kindOf(level, basedOn),
    })),
    ...Object.entries(level.placements)
      .filter(([, { own }]) => Object.keys(own).length > 0)
      .map(([id, { kind }]) => ({ path: ['placements', id], own: kindOfPlacement(level, id), from: kindOf(level, kind) })),
  ];
  for (const { path, own, from } of made) {
    const known = new Set<string>();
    if (from !== undefined) remarkOnKind(level, from, [], (at, message) => known.add(pointer(at) + message));
    if (own === undefined) continue;
    remarkOnKind(level, own, [], (at, message) => {
      if (!known.has(pointer(at) + message)) say([...path, ...at], message);
    });
  }
  return remarks;
}

/** What a kind, or a thing with own values, may be and is probably not meant to be. Paths are within the kind. */
export function remarksOnKind(level: Level, kind: Kind): Problem[] {
  const remarks: Problem[] = [];
  remarkOnKind(level, kind, [], (path, message) => remarks.push({ path: pointer(path), message }));
  return remarks;
}
