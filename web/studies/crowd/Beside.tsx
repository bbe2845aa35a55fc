import { plainNumber, rangeText } from '@dial/core/formats';
import { measuresOf, pairedOf, type SessionRow } from '@dial/core/studies';
import { Folded } from '../../controls/Folded.tsx';
import type { CrowdResult } from './result.ts';

/** A figure in both crowds, and by how much the pairs differ. */
interface Compared {
  readonly name: string;
  readonly ours: string;
  readonly theirs: string;
  readonly difference: string;
  /** Whether the interval of the difference holds nought. */
  readonly nothing: boolean;
}

function comparedOf({ level }: CrowdResult, pairs: readonly (readonly [SessionRow, SessionRow])[]): Compared[] {
  return measuresOf(level).map(({ name, unit, asked, of }) => {
    const [ours, theirs] = [pairs.map(([row]) => of(row)), pairs.map(([, row]) => of(row))];
    const { value, low, high } = pairedOf(ours, theirs);
    const times = asked === 'yes or no' ? 100 : 1;
    const mean = (values: readonly number[]): string => plainNumber((times * values.reduce((sum, one) => sum + one, 0)) / values.length, 1);
    return {
      name: `${name}${times === 100 ? ', of 100' : unit === '' ? '' : ` (${unit})`}`,
      ours: mean(ours),
      theirs: mean(theirs),
      difference: `${plainNumber(times * value, 1)} (${rangeText(times * low, times * high, 1)})`,
      nothing: low <= 0 && high >= 0,
    };
  });
}

/** Two crowds of the same personas and seeds: by how much each comes out otherwise, pair by pair; what does not is folded away. */
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
  const all = comparedOf(now, pairs);
  const [same, other] = [all.filter(({ nothing }) => nothing), all.filter(({ nothing }) => !nothing)];
  const table = (label: string, rows: readonly Compared[]) => (
    <table className="self-start text-xs" aria-label={label}>
      <thead>
        <tr className="text-left text-soft">
          <th className="pr-4">mean of {pairs.length} pairs with the same seed</th>
          <th className="pr-4 text-right">“{now.study.name}”</th>
          <th className="pr-4 text-right">“{was.study.name}”</th>
          <th className="text-right">difference (95 %)</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ name, ours, theirs, difference, nothing }) => (
          <tr key={name} className="border-t border-line/60">
            <td className="pr-4">{name}</td>
            <td className="pr-4 text-right font-mono">{ours}</td>
            <td className="pr-4 text-right font-mono">{theirs}</td>
            <td className={`text-right font-mono ${nothing ? 'text-soft' : 'font-bold'}`}>{difference}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
  return (
    <div className="flex flex-col gap-1">
      {other.length > 0 && table('The two crowds, pair by pair', other)}
      {same.length > 0 && (
        <Folded
          name="no difference seen"
          heading={
            other.length === 0
              ? `no difference seen in ${String(pairs.length)} pairs with the same seed`
              : `no difference seen: ${String(same.length)} figures`
          }
          className="text-xs"
          headingClass="text-soft"
        >
          {table('No difference seen', same)}
        </Folded>
      )}
    </div>
  );
}
