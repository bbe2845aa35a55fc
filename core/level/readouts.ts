import { inOrder } from './order.ts';
import type { Level } from './schema.ts';
import type { Readout } from './showing.ts';

/** More than so many pips cannot be counted at a glance. */
export const MOST_PIPS = 12;

/** The readouts of a level, in order. One that states none shows its meters, its items, what is held and the time. */
export function readoutsOf(level: Level): readonly (readonly [id: string, readout: Readout])[] {
  const stated = inOrder(level.readouts);
  if (stated.length > 0) return stated;
  const meters = inOrder(level.meters).map(([id, { upper, lower, whole }], order): [string, Readout] => {
    const few = whole && upper !== null && upper - lower <= MOST_PIPS;
    return [`meter-${id}`, { type: 'meter', order, meter: id, as: few ? 'pips' : upper === null ? 'number' : 'bar and number', digits: 0 }];
  });
  const items = inOrder(level.items).map(([id], order): [string, Readout] => [
    `item-${id}`,
    { type: 'item', order, item: id, as: 'number', digits: 0 },
  ]);
  return [...meters, ...items, ['held', { type: 'held item', order: 0 }], ['time', { type: 'time', order: 0 }]];
}
