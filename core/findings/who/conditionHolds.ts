import { entry, type Condition } from '../../level/index.ts';
import { figure, meterName, quoted } from '../saying.ts';
import type { LevelView } from '../view.ts';

/** What a condition comes to whatever is played, and why; null: it depends. */
export interface Settled {
  readonly holds: boolean;
  readonly why: string;
}

type Compared = 'at least' | 'at most' | 'above' | 'below';

/** Whether something that lies between two numbers is at least, at most … a third, whatever it is. */
function compared(low: number, high: number, is: Compared, value: number): boolean | null {
  switch (is) {
    case 'at least':
      return low >= value ? true : high < value ? false : null;
    case 'above':
      return low > value ? true : high <= value ? false : null;
    case 'at most':
      return high <= value ? true : low > value ? false : null;
    case 'below':
      return high < value ? true : low >= value ? false : null;
  }
}

function meterSettled({ level, meters }: LevelView, id: string, is: Compared, value: number): Settled | null {
  const span = meters.get(id);
  const holds = span === undefined ? null : compared(span.low, span.high, is, value);
  if (span === undefined || holds === null) return null;
  const name = meterName(level, id);
  const stays =
    span.low === span.high
      ? `is ${figure(span.low)} throughout`
      : !span.lowered
        ? `is never lowered from ${figure(span.low)}`
        : `goes no higher than ${figure(span.high)}`;
  return { holds, why: `${name} ${stays}` };
}

function itemSettled({ level, effects }: LevelView, id: string, is: Compared, value: number): Settled | null {
  const item = entry(level.items, id);
  if (item === undefined) return null;
  const counts = effects.flatMap(({ effect }) => (effect.type === 'item' && effect.item === id ? [effect.count] : []));
  const given = counts.some((count) => count > 0);
  const taken =
    counts.some((count) => count < 0) ||
    item.dropsAs !== null ||
    level.death.items !== 'kept' ||
    Object.values(item.rules).some(({ spends }) => spends > 0);
  const [low, high] = [taken ? 0 : item.start, given ? (item.most ?? Infinity) : item.start];
  const holds = compared(low, high, is, value);
  if (holds === null) return null;
  const most = given ? `no more than ${figure(high)} can be carried` : `nobody gives ${item.name}`;
  return {
    holds,
    why: holds
      ? `${item.name} is never fewer than ${figure(low)}`
      : high < value || is === 'above'
        ? most
        : `there are always ${figure(low)}`,
  };
}

/** Whether a condition always holds, or never, by what else is in the level. */
export function settled(view: LevelView, condition: Condition): Settled | null {
  const { level } = view;
  switch (condition.type) {
    case 'below limit': {
      const upper = entry(level.meters, condition.meter)?.upper ?? null;
      if (upper === null) return null;
      return meterSettled(view, condition.meter, 'below', upper);
    }
    case 'meter':
      return meterSettled(view, condition.meter, condition.is, condition.value);
    case 'share': {
      const meter = entry(level.meters, condition.meter);
      if (meter === undefined || meter.upper === null) return null;
      return meterSettled(view, condition.meter, condition.is, meter.lower + condition.value * (meter.upper - meter.lower));
    }
    case 'item':
      return itemSettled(view, condition.item, condition.is, condition.value);
    case 'held': {
      const item = entry(level.items, condition.item);
      if (item?.holdable === false) return { holds: false, why: `${item.name} cannot be held` };
      const never = itemSettled(view, condition.item, 'at least', 1);
      return never?.holds === false ? never : null;
    }
    case 'movement': {
      const changed = view.effects.some(({ effect }) => effect.type === 'movement' && effect.of === condition.of);
      return changed ? null : { holds: !condition.present, why: `nothing changes ${condition.of}` };
    }
    case 'ground':
      return level.view === 'top' ? { holds: false, why: 'seen from above nobody stands on the ground' } : null;
    case 'chance':
      return condition.value <= 0
        ? { holds: false, why: 'the chance is nought' }
        : condition.value >= 1
          ? { holds: true, why: 'the chance is one' }
          : null;
    case 'time': {
      const limit = level.ends.timeLimit;
      const holds = compared(0, limit ?? Infinity, condition.is, condition.value);
      return holds === null ? null : { holds, why: limit === null ? 'time begins at nought' : `the session ends at ${figure(limit, 's')}` };
    }
    case 'notice':
      if (view.posted.has(condition.notice)) return null;
      return { holds: !condition.posted, why: `nothing posts ${quoted(condition.notice)}` };
    case 'times used':
      return condition.value <= 0
        ? compared(0, Infinity, condition.is, condition.value) === null
          ? null
          : { holds: compared(0, Infinity, condition.is, condition.value) === true, why: 'uses are counted from nought' }
        : null;
    case 'speed':
      return null;
  }
}
