import { inOrder, type Level } from '../../level/index.ts';
import { itemsOf, meterOf, type Compiled, type OutsideEvent } from '../../session/index.ts';
import { figure, meterName } from '../saying.ts';
import { only, trialOf, type Trial } from '../trial.ts';

/** What a player has and where, after something was tried out. */
interface Came {
  readonly alive: boolean;
  readonly meters: readonly number[];
  readonly items: readonly number[];
  readonly x: number;
  readonly y: number;
}

function cameTo({ session, isAlive, at }: Trial): Came {
  const { ids } = session.compiled;
  return {
    alive: isAlive(),
    meters: ids.meters.map((_, meter) => meterOf(session, 0, meter)),
    items: ids.items.map((_, item) => itemsOf(session, 0, item)),
    ...at(),
  };
}

/** Two places so near are the same. Units. */
const NEAR = 0.05;

/** In words, where two ways of the same differ; null: they come to the same. `unsaid` is by how much meters may differ. */
function difference(level: Level, { ids }: Compiled, one: Came, other: Came, unsaid: number): string | null {
  if (one.alive !== other.alive) return 'whether the player lives';
  const meter = ids.meters.findIndex((_, at) => Math.abs((one.meters[at] ?? 0) - (other.meters[at] ?? 0)) > unsaid);
  const shown = (value: number | undefined): string => figure(Number((value ?? 0).toFixed(1)));
  if (meter >= 0) return `${meterName(level, ids.meters[meter] ?? '')} ${shown(one.meters[meter])} or ${shown(other.meters[meter])}`;
  const item = ids.items.findIndex((_, at) => one.items[at] !== other.items[at]);
  if (item >= 0)
    return `${level.items[ids.items[item] ?? '']?.name ?? 'items'} ${figure(one.items[item] ?? 0)} or ${figure(other.items[item] ?? 0)}`;
  const apart = Math.max(Math.abs(one.x - other.x), Math.abs(one.y - other.y));
  return apart > NEAR ? `where the player is, ${figure(Number(apart.toFixed(1)), 'u')} apart` : null;
}

/** Plays the same in a level and in one in which some things come in the opposite order. */
export interface BothOrders {
  /** What is other in the other order, in words; null: nothing is. */
  readonly differ: (play: (trial: Trial) => void) => string | null;
}

export function bothOrders(
  level: Level,
  things: ReadonlySet<string>,
  more: Partial<Level>,
  unsaid: number,
  eventsOf?: (compiled: Compiled) => readonly OutsideEvent[],
): BothOrders {
  const placed = inOrder(only(level, things));
  const inTurn = (back: boolean): Level['placements'] =>
    Object.fromEntries(placed.map(([id, placement], at) => [id, { ...placement, order: back ? placed.length - at : at }]));
  const [there, back] = [trialOf(level, inTurn(false), more, eventsOf), trialOf(level, inTurn(true), more, eventsOf)];
  return {
    differ: (play) => {
      play(there);
      play(back);
      return difference(level, there.session.compiled, cameTo(there), cameTo(back), unsaid);
    },
  };
}
