import { inOrder, type Level } from '../level/index.ts';
import { measuresOf, type CrowdSettings, type SessionRow } from '../studies/index.ts';
import { csvText } from './csvTable.ts';
import { forFile } from './numerals.ts';

/** The sessions of a crowd as CSV: a row a session, a column for all that can be asked of one. */
export function crowdCsv(level: Level, { personas }: CrowdSettings, rows: readonly SessionRow[]): string {
  const names = new Map(inOrder(level.personas).map(([id, { name }]) => [id, name]));
  const measures = measuresOf(level).filter(({ name }) => name !== 'time');
  const heads = [
    'session',
    'persona',
    'seed',
    'ended',
    'seconds',
    ...measures.map(({ name, unit }) => (unit === '' ? name : `${name} (${unit})`)),
  ];
  return forFile(() =>
    csvText([
      heads,
      ...rows.map((row) => {
        const persona = personas[row.persona]?.persona ?? '';
        return [row.index, names.get(persona) ?? persona, row.seed, row.ended, row.seconds, ...measures.map(({ of }) => of(row))];
      }),
    ]),
  );
}
