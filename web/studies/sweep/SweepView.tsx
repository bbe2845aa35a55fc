import { dialName, estimateText, plainNumber, sweepSentence } from '@dial/core/formats';
import { dialIn, figureName, type SweepCell, type Turned } from '@dial/core/studies';
import { useMemo, useState } from 'react';
import { Chart } from '../../charts/Chart.tsx';
import { Button } from '../../controls/controls.tsx';
import { Folded } from '../../controls/Folded.tsx';
import { Answer } from './Answer.tsx';
import type { StudyResult } from './result.ts';
import { curveSpec, mapSpec, type Present } from './specs.ts';

interface SweepViewProps {
  readonly found: StudyResult & { readonly kind: 'sweep' };
  readonly present: Present;
  /** Takes values; `session` is one of the crowd that is opened then. */
  readonly onTake: (turned: readonly Turned[], session: number | null) => void;
}

/** A sweep: its answer, the curve or the map, and what can be done with the cell that is pointed at. */
export function SweepView({ found, present, onTake }: SweepViewProps) {
  const { level, settings, result } = found;
  const { dials, figures } = settings.of;
  const [chosen, setChosen] = useState<number | null>(null);
  const two = dials.length === 2;
  const spec = useMemo(
    () => (two ? mapSpec(level, settings.of, result, present) : curveSpec(level, settings.of, result, present)),
    [two, level, settings.of, result, present],
  );
  const known = useMemo(() => result.cells.flatMap((cell, at) => (cell.estimates.length > 0 ? [at] : [])), [result]);
  // A curve counts its points among those that are known, a map its cells among all.
  const onDot = useMemo(() => (_: number, nth: number) => setChosen(two ? nth : (known[nth] ?? null)), [two, known]);
  const turnedAt = ({ at }: SweepCell): Turned[] => dials.map(({ paths, values }, nth) => ({ paths, value: values[at[nth] ?? 0] ?? 0 }));
  const words = (cell: SweepCell): string =>
    turnedAt(cell)
      .map(({ paths, value }) => {
        const unit = dialIn(level, { paths })?.quantity.unit ?? '';
        return `${dialName(level, { paths })} ${plainNumber(value)}${unit === '' ? '' : ` ${unit}`}`;
      })
      .join(', ');
  const cell = chosen === null ? undefined : result.cells[chosen];
  return (
    <>
      <Answer text={sweepSentence(level, settings.of, result)} name={figures.map((figure) => figureName(level, figure)).join(', ')} />
      {spec !== null && <Chart spec={spec} height={two ? 420 : 320} onDot={onDot} />}
      <p className="text-[11px] text-soft">
        {two
          ? 'numbers: the figure · thin lines: contours · dashed: edge of the target · press a cell to take its values'
          : 'line: the figure · dark band: how sure, 95 % · light band: 8 of 10 sessions · press a point to take its value or to open a session'}
      </p>
      {cell !== undefined && (
        <div
          role="group"
          aria-label="Chosen cell"
          className="flex flex-wrap items-center gap-2 rounded-sm border-[1.3px] border-needle bg-card px-2 py-1.5 text-xs"
        >
          <b>{words(cell)}</b>
          {cell.estimates.map((estimate, nth) => (
            <span key={nth}>
              {figures[nth] === undefined ? '' : figureName(level, figures[nth])}{' '}
              <span className="font-mono">{estimateText(estimate)}</span>
            </span>
          ))}
          <span className="ml-auto flex gap-1.5">
            <Button kind="strong" onClick={() => onTake(turnedAt(cell), null)}>
              Take{' '}
              {turnedAt(cell)
                .map(({ value }) => plainNumber(value))
                .join(' and ')}
            </Button>
            <Button
              hint="takes the value, and opens the session nearest the middle on the Bench"
              onClick={() => onTake(turnedAt(cell), cell.typical)}
            >
              Take and open a session
            </Button>
          </span>
        </div>
      )}
      <CellsTable found={found} words={words} onChoose={setChosen} />
    </>
  );
}

/** Every cell as a row, to be chosen by keyboard. */
function CellsTable({
  found,
  words,
  onChoose,
}: Pick<SweepViewProps, 'found'> & { readonly words: (cell: SweepCell) => string; readonly onChoose: (at: number) => void }) {
  const { result } = found;
  return (
    <Folded
      name="values of a sweep"
      heading={`${String(result.done)} of ${String(result.cells.length)} values, a row each`}
      className="text-xs"
      headingClass="text-soft"
    >
      <div className="max-h-72 overflow-auto" tabIndex={0} role="group" aria-label="Values, a row each">
        <table className="text-xs" aria-label="Values">
          <tbody>
            {result.cells.map((cell, at) => (
              <tr key={at} className="border-t border-line/60">
                <td className="pr-4">
                  <button type="button" className="cursor-pointer hover:underline" onClick={() => onChoose(at)}>
                    {words(cell)}
                  </button>
                </td>
                {cell.problem !== null && <td className="pr-4 text-harm">{cell.problem}</td>}
                {cell.estimates.map((estimate, nth) => (
                  <td key={nth} className="pr-4 font-mono">
                    {estimateText(estimate)}
                  </td>
                ))}
                <td className="text-soft">{cell.estimates[0]?.sessions ?? 0} sessions</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </Folded>
  );
}
