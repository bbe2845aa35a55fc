import type { Level } from '../level/index.ts';
import type { LedgerLine } from '../session/index.ts';

/** A number as people read it: at most `places` decimals, no trailing noughts, a true minus sign. */
export function plainNumber(value: number, places = 2): string {
  const rounded = Number(value.toFixed(places));
  return (rounded === 0 ? 0 : rounded).toString().replace('-', '−');
}

/** A change with its sign: `+18`, `−12`. */
export function signed(value: number, places = 2): string {
  return (value > 0 ? '+' : '') + plainNumber(value, places);
}

/** A moment of a session as `0:38.3`. */
export function clockTime(seconds: number, places: 0 | 1 = 1): string {
  const scale = places === 0 ? 1 : 10;
  const ticks = Math.round(seconds * scale);
  const minutes = Math.floor(ticks / (60 * scale));
  const rest = ((ticks - minutes * 60 * scale) / scale).toFixed(places);
  return `${String(minutes)}:${rest.padStart(places === 0 ? 2 : 3 + places, '0')}`;
}

/** The name of a placement: its kind's name, numbered when there are several. */
export function placementName(level: Level, id: string): string {
  const placement = level.placements[id];
  const kind = placement === undefined ? undefined : level.kinds[placement.kind];
  if (placement === undefined || kind === undefined) return id;
  const same = Object.keys(level.placements)
    .filter((other) => level.placements[other]?.kind === placement.kind)
    .sort((a, b) => (level.placements[a]?.order ?? 0) - (level.placements[b]?.order ?? 0) || (a < b ? -1 : 1));
  return same.length === 1 ? kind.name : `${kind.name} ${String(same.indexOf(id) + 1)}`;
}

function who(level: Level, toucher: string): string {
  return toucher in level.placements ? placementName(level, toucher) : toucher;
}

function refusal(level: Level, line: LedgerLine & { type: 'refused' }): string {
  const kind = level.kinds[level.placements[line.placement]?.kind ?? ''];
  const rule = kind?.rules[line.rule];
  switch (line.reason) {
    case 'resting':
      return `resting, ${plainNumber(line.secondsLeft ?? 0, 1)} s left`;
    case 'wrong tag': {
      const wanted = rule?.who.any.join(' or ') ?? '';
      const barred = rule?.who.none.join(' or ') ?? '';
      return `${who(level, line.toucher)} is ${wanted === '' ? `tagged ${barred}` : `not tagged ${wanted}`}`;
    }
    case 'full': {
      const condition = rule?.provided[line.condition ?? ''];
      return `${level.meters[condition?.meter ?? '']?.name ?? 'meter'} is full`;
    }
    case 'condition': {
      const condition = rule?.provided[line.condition ?? ''];
      if (condition?.type !== 'meter') return 'its condition does not hold';
      return `${level.meters[condition.meter]?.name ?? ''} is not ${condition.is} ${plainNumber(condition.value)}`;
    }
    default:
      return line.reason;
  }
}

/** A ledger line in plain words, without its time. */
export function lineWords(level: Level, line: LedgerLine): string {
  const meter = (id: string): string => level.meters[id]?.name ?? id;
  switch (line.type) {
    case 'changed': {
      const lost = Math.abs(line.asked - line.applied) > 1e-9 ? ` (asked ${signed(line.asked)})` : '';
      const name = placementName(level, line.placement);
      return `${name}: ${meter(line.meter)} ${signed(line.applied)}${lost}, ${plainNumber(line.before)} → ${plainNumber(line.after)}`;
    }
    case 'rate': {
      const seconds = line.seconds - line.fromSeconds;
      return `${placementName(level, line.placement)}: ${meter(line.meter)} ${signed(line.applied)} in ${plainNumber(seconds, 1)} s, to ${plainNumber(line.after)}`;
    }
    case 'refused':
      return `${placementName(level, line.placement)} refused ${who(level, line.toucher)}: ${refusal(level, line)}`;
    case 'phase': {
      const name = placementName(level, line.placement);
      if (line.phase === 'resting') return `${name} rests until ${clockTime(line.untilSeconds ?? 0)}`;
      return line.phase === 'ready' ? `${name} is ready again` : `${name} is spent`;
    }
    case 'limit':
      return `${meter(line.meter)} of ${line.toucher} is at its limit, ${plainNumber(line.value)}`;
    case 'died':
      return `${line.toucher} died${line.placement === null ? '' : ` of ${placementName(level, line.placement)}`}`;
    case 'ended':
      return line.how === 'lost' ? 'the session is lost' : 'the inputs end here';
  }
}
