import { inOrder, type Level } from '../../level/index.ts';
import * as codes from './codes.ts';
import { stepsOf, type Names } from './laying.ts';

/** The goals that end a session. */
export function compileGoals(level: Level, names: Names) {
  return inOrder(level.ends.goals).map(([id, goal]) => {
    const point = goal.type === 'reach' ? level.points[goal.point] : undefined;
    const subject =
      goal.type === 'item'
        ? names.items.of(goal.item)
        : goal.type === 'meter'
          ? names.meters.of(goal.meter)
          : goal.type === 'notice'
            ? names.notices.of(goal.notice)
            : -1;
    const value = goal.type === 'reach' ? goal.within : goal.type === 'item' ? goal.count : goal.type === 'meter' ? goal.value : 1;
    return { id, type: codes.GOAL[goal.type], subject, value, x: point?.x ?? 0, y: point?.y ?? 0 };
  });
}

/** Meters by number. Limits are infinite where there are none; regeneration is a second’s. */
export function compileMeters(level: Level, names: Names, rate: number) {
  const list = inOrder(level.meters).map(([, meter]) => meter);
  return {
    health: names.meters.of('health'),
    score: names.meters.of('score'),
    lives: names.meters.of('lives'),
    lower: Float64Array.from(list, (meter) => meter.lower),
    upper: Float64Array.from(list, (meter) => meter.upper ?? Infinity),
    start: Float64Array.from(list, (meter) => meter.start),
    whole: Uint8Array.from(list, (meter) => (meter.whole ? 1 : 0)),
    regeneration: Float64Array.from(list, (meter) => meter.regeneration?.perSecond ?? 0),
    pauseSteps: Int32Array.from(list, (meter) => stepsOf(meter.regeneration?.pauseAfterLoss ?? 0, rate)),
    atLower: Int32Array.from(list, (meter) => names.notices.of(meter.atLower)),
    atUpper: Int32Array.from(list, (meter) => names.notices.of(meter.atUpper)),
    regenerates: list.some((meter) => (meter.regeneration?.perSecond ?? 0) > 0),
  };
}

/** Where the meters of each player stand; a shared score is the first player's. */
export function meterCells(level: Level, names: Names): Int32Array {
  const count = names.meters.ids.length;
  return Int32Array.from({ length: level.players.count * count }, (_, cell) => {
    const meter = cell % count;
    return level.players.sharedScore && meter === names.meters.of('score') ? meter : cell;
  });
}

/** Items by number, and where the rules of each begin. */
export function compileItems(level: Level, names: Names, ruleStart: Int32Array) {
  const items = inOrder(level.items).map(([, item]) => item);
  return {
    start: Int32Array.from(items, ({ start }) => start),
    most: Float64Array.from(items, ({ most }) => most ?? Infinity),
    holdable: Uint8Array.from(items, ({ holdable }) => (holdable ? 1 : 0)),
    /** The kind that one becomes when it is dropped, or −1. */
    dropsAs: Int32Array.from(items, ({ dropsAs }) => names.kinds.of(dropsAs)),
    ruleStart,
  };
}

/** Death and coming back. Durations in steps; `destination` is a row of the destinations. */
export function compileDeath(level: Level, names: Names, destination: number, rate: number) {
  const { death, meters } = level;
  return {
    returns: ['never', 'while lives last', 'always'].indexOf(death.returns),
    pauseSteps: Math.max(1, stepsOf(death.pause, rate)),
    destination,
    dropHeight: death.dropHeight,
    health: death.health ?? meters['health']?.start ?? 0,
    graceSteps: stepsOf(death.grace, rate),
    lockSteps: stepsOf(death.lock, rate),
    items: codes.SHARE_KEPT[death.items],
    score: codes.SHARE_KEPT[death.score],
    /** For each kind, whether its things begin anew. */
    resets: Uint8Array.from(names.kinds.ids, (id) => (death.resets.includes(id) ? 1 : 0)),
    squeezed: codes.SQUEEZED[death.squeezed],
  };
}
