import { plainNumber, rangeText } from '@dial/core/formats';
import { measuresOf, pairedOf, type SessionRow } from '@dial/core/studies';
import type { CrowdResult } from './result.ts';

/** Two crowds of the same personas and seeds: by how much each comes out otherwise, pair by pair. */
export function Beside({ now, was }: { readonly now: CrowdResult; readonly was: CrowdResult }) {
  const key = ({ study }: CrowdResult, row: SessionRow): string =>
    `${study.settings.personas[row.persona]?.persona ?? ''} ${String(row.seed)}`;
  const before = new Map(was.summary.rows.map((row) => [key(was, row), row]));
  const pairs = now.summary.rows.flatMap((row) => {
    const other = before.get(key(now, row));
    return other === undefined ? [] : [[row, other] as const];
  });
  if (pairs.length === 0)
    return <p className="text-xs text-soft">The two crowds have no session in common: no persona with the same seed.</p>;
  return (
    <table className="self-start text-xs" aria-label="The two crowds, pair by pair">
      <thead>
        <tr className="text-left text-soft">
          <th className="pr-4">mean of {pairs.length} pairs with the same seed</th>
          <th className="pr-4 text-right">“{now.study.name}”</th>
          <th className="pr-4 text-right">“{was.study.name}”</th>
          <th className="text-right">difference (95 %)</th>
        </tr>
      </thead>
      <tbody>
        {measuresOf(now.level).map(({ name, unit, asked, of }) => {
          const [ours, theirs] = [pairs.map(([row]) => of(row)), pairs.map(([, row]) => of(row))];
          const { value, low, high } = pairedOf(ours, theirs);
          const times = asked === 'yes or no' ? 100 : 1;
          const mean = (values: readonly number[]): string =>
            plainNumber((times * values.reduce((sum, one) => sum + one, 0)) / values.length, 1);
          const nothing = low <= 0 && high >= 0;
          return (
            <tr key={name} className="border-t border-line/60">
              <td className="pr-4">
                {name}
                {times === 100 ? ', of 100' : unit === '' ? '' : ` (${unit})`}
              </td>
              <td className="pr-4 text-right font-mono">{mean(ours)}</td>
              <td className="pr-4 text-right font-mono">{mean(theirs)}</td>
              <td className={`text-right font-mono ${nothing ? 'text-soft' : 'font-bold'}`}>
                {plainNumber(times * value, 1)} ({rangeText(times * low, times * high, 1)}){nothing ? ' no difference seen' : ''}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
