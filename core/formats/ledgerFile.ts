import { entry, kindOf, type Level } from '../level/index.ts';
import { isStopped, type LedgerLine } from '../session/index.ts';
import { csvText } from './csvTable.ts';
import { forFile } from './numerals.ts';
import { lineWords, placementName } from './words.ts';

/** Ledger lines as NDJSON: one JSON object a line. */
export function ledgerNdjson(lines: readonly LedgerLine[]): string {
  return lines.map((line) => JSON.stringify(line) + '\n').join('');
}

const HEADS = [
  'line',
  'seconds',
  'step',
  'type',
  'who',
  'thing',
  'kind',
  'rule',
  'of',
  'asked',
  'applied',
  'before',
  'after',
  'reason',
  'cause',
  'words',
];

/** What a line is of: a meter, an item, a movement, a notice. */
function subjectOf(line: LedgerLine): string {
  if ('meter' in line && line.meter !== null) return line.meter;
  if ('item' in line && line.item !== null) return line.item;
  if (line.type === 'movement') return line.of;
  if (line.type === 'notice') return line.notice;
  return line.type === 'phase' ? line.phase : '';
}

/** Ledger lines as CSV, with a line of headings; each ends with the line in words. */
export function ledgerCsv(level: Level, lines: readonly LedgerLine[]): string {
  /** To a millionth: sums of many steps carry noise beyond. */
  const number = (value: number): number => Number(value.toFixed(6));
  const rows = lines.map((line) => {
    const placement = 'placement' in line ? line.placement : null;
    const kind = placement === null ? '' : (kindOf(level, entry(level.placements, placement)?.kind ?? '')?.name ?? '');
    return [
      line.index,
      number(line.seconds),
      line.step,
      line.type,
      'toucher' in line ? (line.toucher ?? '') : '',
      placement === null ? '' : placementName(level, placement),
      kind,
      'rule' in line ? (line.rule ?? '') : '',
      subjectOf(line),
      'asked' in line ? number(line.asked) : '',
      'applied' in line ? number(line.applied) : '',
      'before' in line ? number(line.before) : '',
      'after' in line ? number(line.after) : '',
      isStopped(line) ? line.reason : '',
      line.cause ?? '',
      forFile(() => lineWords(level, line)),
    ];
  });
  return csvText([HEADS, ...rows]);
}
