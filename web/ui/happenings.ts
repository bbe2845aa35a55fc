import { plainNumber, signed } from '@dial/core/formats';
import { kindOf, type Level } from '@dial/core/level';
import type { LedgerLine, Moment } from '@dial/core/session';
import type { Palette } from './palette.ts';
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

/** Labels for what players have just done or been refused, at the places of the things. */
export function happenings(level: Level, moment: Moment, lines: Iterable<LedgerLine>, palette: Palette): PlanLabel[] {
  const labels: PlanLabel[] = [];
  const crowd = Math.max(level.size.width, level.size.height) * CROWDED;
  for (const line of lines) {
    if (line.seconds > moment.seconds || line.seconds < moment.seconds - SHOWN_SECONDS) continue;
    if (!('placement' in line) || line.placement === null || !('toucher' in line)) continue;
    if (line.toucher === null || line.toucher in level.placements) continue;
    const at = moment.placements[line.placement];
    const kind = kindOf(level, at?.kind ?? '');
    const text = words(level, line);
    if (at === undefined || kind === undefined || text === null) continue;
    const row = labels.filter((label) => Math.abs(label.x - at.x) < crowd && Math.abs(label.y - at.y) < crowd).length;
    const colour = line.type === 'refused' ? palette.soft : palette.role[kind.role];
    labels.push({ key: line.index, x: at.x, y: at.y, row, text, colour });
  }
  return labels.slice(-MOST_LABELS);
}
