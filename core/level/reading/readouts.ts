import { inOrder } from '../document/order.ts';
import { entry } from '../document/pointers.ts';
import type { Level } from '../document/schema.ts';
import type { Readout } from '../document/showing.ts';

/** More than so many pips cannot be counted at a glance. */
export const MOST_PIPS = 12;

/** As many pips are drawn where they are asked for. */
export const MOST_PIPS_DRAWN = 24;

/** How many pips a readout would have; null when what it shows has no upper limit. */
function pipsOf(level: Level, readout: Extract<Readout, { type: 'meter' | 'item' }>): number | null {
  if (readout.type === 'item') return entry(level.items, readout.item)?.most ?? null;
  const meter = entry(level.meters, readout.meter);
  return meter?.upper == null ? null : meter.upper - meter.lower;
}

/** Why a readout that is to show pips shows none; null when it does, or is to show something else. */
export function whyNoPips(level: Level, readout: Readout): string | null {
  if ((readout.type !== 'meter' && readout.type !== 'item') || readout.as !== 'pips') return null;
  const pips = pipsOf(level, readout);
  if (pips === null) return 'has no upper limit, so no pips: it is shown as a number';
  if (pips <= MOST_PIPS_DRAWN) return null;
  return `has ${String(pips)}, too many for pips, of which ${String(MOST_PIPS_DRAWN)} are the most: it is shown as a ${readout.type === 'meter' ? 'bar' : 'number'}`;
}

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
