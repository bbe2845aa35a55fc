import { plainNumber, signed } from '@dial/core/formats';
import { kindOf, type Level } from '@dial/core/level';
import { isStopped, type LedgerLine, type Moment } from '@dial/core/session';
import type { Palette } from '../palette.ts';
import type { PlanLabel } from './PlanDrawing.tsx';

/** How long what happened stays written at its place. Seconds. */
const SHOWN_SECONDS = 1.4;
const MOST_LABELS = 6;
/** Labels nearer than this share of the level are stacked. */
const CROWDED = 0.12;

function words(level: Level, line: LedgerLine): string | null {
  switch (line.type) {
    case 'changed':
      return `${line.meter === 'health' ? '' : `${level.meters[line.meter]?.name ?? ''} `}${signed(line.applied, 1)} → ${plainNumber(line.after, 1)}`;
    case 'rate':
      return `${signed(line.applied, 1)} in ${plainNumber(line.seconds - line.fromSeconds, 1)} s`;
    case 'refused':
    case 'nothing':
      return line.secondsLeft === null ? line.reason : `${line.reason}, ${plainNumber(line.secondsLeft, 1)} s left`;
    case 'item':
      return `${level.items[line.item]?.name ?? line.item} ${signed(line.applied)} → ${plainNumber(line.after)}`;
    case 'movement':
      return `${line.of} ${plainNumber(line.before)} → ${plainNumber(line.after)}`;
    case 'launched':
      return `launched, ${plainNumber(line.after, 1)} u/s`;
    case 'shield':
      return line.begun ? 'shielded' : 'shield ends';
    case 'checkpoint':
      return 'checkpoint';
    case 'died':
      return 'died';
    default:
      return null;
  }
}

/** How many of the lines, which are in the order of time, are up to a moment. */
function linesUntil(lines: readonly LedgerLine[], seconds: number): number {
  let [low, high] = [0, lines.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((lines[middle]?.seconds ?? Infinity) <= seconds) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** What is handed out where nothing has happened, so that it is seen to be the same as before. */
const NONE: readonly PlanLabel[] = [];

/** Labels for what players have just done or been refused, at the places of the things. Lines are in the order of time. */
export function happenings(level: Level, moment: Moment, lines: readonly LedgerLine[], palette: Palette): readonly PlanLabel[] {
  const labels: PlanLabel[] = [];
  const crowd = Math.max(level.size.width, level.size.height) * CROWDED;
  for (const line of lines.slice(linesUntil(lines, moment.seconds - SHOWN_SECONDS), linesUntil(lines, moment.seconds))) {
    if (!('placement' in line) || line.placement === null || !('toucher' in line)) continue;
    if (line.toucher === null || line.toucher in level.placements) continue;
    const at = moment.placements[line.placement];
    const kind = kindOf(level, at?.kind ?? '');
    const text = words(level, line);
    if (at === undefined || kind === undefined || text === null) continue;
    const row = labels.filter((label) => Math.abs(label.x - at.x) < crowd && Math.abs(label.y - at.y) < crowd).length;
    const colour = isStopped(line) ? palette.soft : palette.role[kind.role];
    labels.push({ key: line.index, x: at.x, y: at.y, row, text, colour });
  }
  return labels.length === 0 ? NONE : labels.slice(-MOST_LABELS);
}

/** Labels for what goes on while players are inside of things: what it has come to so far, at the player. */
export function goingOn(level: Level, moment: Moment, palette: Palette): readonly PlanLabel[] {
  const labels = moment.players.flatMap(({ x, y, changing }, player) =>
    changing.flatMap(({ placement, meter, applied, seconds }, index): PlanLabel[] => {
      const kind = kindOf(level, moment.placements[placement]?.kind ?? '');
      if (kind === undefined || applied === 0) return [];
      const name = meter === 'health' ? '' : `${level.meters[meter]?.name ?? ''} `;
      const text = `${name}${signed(applied, 1)} in ${plainNumber(seconds, 1)} s`;
      return [{ key: -10_000 - player * 100 - index, x, y, row: index, text, colour: palette.role[kind.role] }];
    }),
  );
  return labels.length === 0 ? NONE : labels;
}
