import type { Destination } from '../../level/index.ts';
import type { Box, Place } from '../../geometry/index.ts';
import { grownBy, hullOf, landings, pointsOf, type Landing } from '../where.ts';
import { isTouched, takesPlayer, type EffectAt, type LevelView, type Thing } from '../view.ts';
import { meshOf, roomAround } from './fromAbove.ts';
import { jumpsIn } from './fromTheSide.ts';

/** Where players may come to: more than they do, never less. */
export interface Reach {
  /** Whether the middle of a body may come into a box. */
  readonly comesInto: (box: Box) => boolean;
  readonly setsOff: (thing: Thing) => boolean;
  /** Whether an effect is come by: its rule is set off, or what has it is no thing, or one that may be anywhere. */
  readonly comesBy: (effect: EffectAt) => boolean;
}

/** What is touched, or used, by nothing more than a hair, is touched. Units. */
const HAIR = 1e-3;

/** Where the middle of a body has to be to be so near to a place. */
export const around = ({ x, y }: Place, within: number): Box => grownBy({ left: x, right: x, bottom: y, top: y }, within + HAIR);

/** Where the middle of a body has to be for a player to set off some rule of a thing; null: nowhere, by no player. */
function boxToSetOff(view: LevelView, { form: { kind }, box, x, y }: Thing): Box | null {
  const own = Object.values(kind.rules).filter((rule) => takesPlayer(view, rule));
  const hull = hullOf(view.level);
  const drawn = kind.magnet?.reach ?? 0;
  if (box !== null && own.some(isTouched)) return grownBy(box, Math.max(hull.x, drawn) + HAIR, Math.max(hull.y, drawn) + HAIR);
  const reaches = own.flatMap(({ setOffBy }) => (setOffBy.type === 'use' ? [setOffBy.reach] : []));
  return reaches.length === 0 ? null : around({ x, y }, Math.max(...reaches));
}

/** Where players start. */
const startsIn = (view: LevelView): readonly Landing[] =>
  landings(view).filter(({ at, point }) => at === '/start' || (point !== null && view.level.players.starts.includes(point)));

/** Places that an effect puts players at, now or when they come back; null: it may be anywhere. */
function leadsTo(view: LevelView, { effect, rule }: EffectAt): readonly Place[] | null {
  const { level } = view;
  const placesOf = (to: Destination | null): readonly Place[] | null => {
    if (to?.type === 'clear') return null;
    if (to?.type === 'start') return startsIn(view);
    return pointsOf(to).flatMap((id) => level.points[id] ?? []);
  };
  if (effect.type === 'move') return placesOf(effect.to);
  if (effect.type === 'kill') return placesOf(effect.returnTo);
  if (effect.type !== 'checkpoint') return [];
  if (effect.point !== null) return placesOf({ type: 'point', point: effect.point });
  return (rule?.form.placements ?? []).flatMap((id) => level.placements[id] ?? []);
}

/** Whether an effect comes to somebody who touches nothing of what has it, or what cannot be told of by where it lies. */
function comesAnyway({ rule }: EffectAt, moving: ReadonlySet<unknown>): boolean {
  if (rule === null || moving.has(rule.form) || rule.form.placements.length === 0) return true;
  return !isTouched(rule.rule) && rule.rule.setOffBy.type !== 'use';
}

/** How far one comes without being put anywhere, from some places on; null: that cannot be told. */
function legsOf(view: LevelView): ((places: readonly Place[]) => ((box: Box) => boolean) | null) | null {
  const mesh = meshOf(view.level);
  // What carries goes through walls.
  if (mesh === null || view.things.some(({ form }) => form.kind.carries)) return null;
  if (view.level.view === 'top') return (places) => roomAround(mesh, places);
  const jumps = jumpsIn(view);
  if (jumps === null) return null;
  return (places) => {
    const room = roomAround(mesh, places);
    const comes = jumps(places);
    return room === null ? null : (box) => room(box) && comes(box);
  };
}

type From = (places: readonly Landing[]) => Reach | null;

const knownFrom = new WeakMap<LevelView, From | null>();

/**
 * Tells where players may come to from some places on: by their own legs, and by what puts them elsewhere on the way. Null: players
 * may be put anywhere, or be lifted or shoved to where nobody walks.
 */
export function reachIn(view: LevelView): From | null {
  const before = knownFrom.get(view);
  if (before !== undefined) return before;
  const from = fromIn(view);
  knownFrom.set(view, from);
  return from;
}

function fromIn(view: LevelView): From | null {
  const { level, effects, things } = view;
  const legs = legsOf(view);
  const leads = effects.map((one) => ({ one, to: leadsTo(view, one) }));
  const back = level.death.returns === 'never' ? [] : pointsOf(level.death.returnTo).flatMap((id) => level.points[id] ?? []);
  if (legs === null || leads.some(({ to }) => to === null) || level.death.returnTo.type === 'clear') return null;
  const moving = new Set(things.filter(({ moves }) => moves).map(({ form }) => form));
  const boxes = new Map(things.map((thing) => [thing, thing.moves ? null : boxToSetOff(view, thing)]));
  const ofForm = new Map<unknown, Thing[]>();
  for (const thing of things) {
    const same = ofForm.get(thing.form);
    if (same === undefined) ofForm.set(thing.form, [thing]);
    else same.push(thing);
  }
  return (from) => {
    const places: Place[] = [...from, ...back];
    const open = new Set(leads.filter(({ to }) => to !== null && to.length > 0));
    for (;;) {
      const comesInto = legs(places);
      if (comesInto === null) return null;
      const setsOff = (thing: Thing): boolean => {
        const box = boxes.get(thing) ?? null;
        return box !== null && comesInto(box);
      };
      const comesBy = (one: EffectAt): boolean => comesAnyway(one, moving) || (ofForm.get(one.rule?.form) ?? []).some(setsOff);
      const more = [...open].filter(({ one }) => comesBy(one));
      if (more.length === 0) return { comesInto, setsOff, comesBy };
      for (const lead of more) {
        open.delete(lead);
        places.push(...(lead.to ?? []));
      }
    }
  };
}

const known = new WeakMap<LevelView, Reach | null>();

/** Where players may come to from where they start; null: that cannot be told. */
export function reachFromStart(view: LevelView): Reach | null {
  const before = known.get(view);
  if (before !== undefined) return before;
  const reach = reachIn(view)?.(startsIn(view)) ?? null;
  known.set(view, reach);
  return reach;
}
