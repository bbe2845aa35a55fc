import { unfeltFindings } from '@dial/core/findings';
import { dialName, movesPlaces, movesText, plainNumber, sensitivitySentence } from '@dial/core/formats';
import { figureName, isSeen, type Effect } from '@dial/core/studies';
import { Folded } from '../../controls/Folded.tsx';
import { FoundList } from '../../controls/FoundList.tsx';
import { useNotAside } from '../../state/document/meant.ts';
import { Answer } from './Answer.tsx';
import type { StudyResult } from './result.ts';

/** Pixels of the longest bar, on either side of nought. */
const LONGEST = 130;

/** A bar from nought to how far a dial moves the figure, with its interval. */
function Bar({ effect: { moves }, most }: { readonly effect: Effect; readonly most: number }) {
  if (moves === null) return null;
  const x = (value: number): number => LONGEST + (value / most) * LONGEST;
  const [from, to] = [Math.min(x(0), x(moves.value)), Math.max(x(0), x(moves.value))];
  const clip = (at: number): number => Math.max(0, Math.min(2 * LONGEST, at));
  return (
    <svg width={2 * LONGEST} height={16} aria-hidden="true">
      <pattern id="moved" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="5" height="5" fill="var(--card)" />
        <rect width="2" height="5" fill="var(--movement)" />
      </pattern>
      <rect x={from} y={3} width={Math.max(1, to - from)} height={10} fill="url(#moved)" stroke="var(--movement)" />
      <line x1={clip(x(moves.low))} x2={clip(x(moves.high))} y1={8} y2={8} stroke="var(--ink)" strokeWidth={1.4} />
      <line x1={LONGEST} x2={LONGEST} y1={0} y2={16} stroke="var(--line)" />
    </svg>
  );
}

interface MattersViewProps {
  readonly found: StudyResult & { readonly kind: 'sensitivity' };
  /** Is told of the dial that is pressed. */
  readonly onDial: (paths: readonly string[]) => void;
}

/** Dials by how far they move a figure, the longest bar first; those of which no effect was seen are folded away. */
export function MattersView({ found, onDial }: MattersViewProps) {
  const { level, settings, result } = found;
  const { dials, figure, share } = settings.of;
  const isToCome = ({ moves, problem }: Effect): boolean => moves === null && problem === null;
  const toCome = result.effects.filter(isToCome).length;
  const [seen, unseen] = [result.effects.filter(isSeen), result.effects.filter((effect) => !isSeen(effect) && !isToCome(effect))];
  const most = Math.max(1e-9, ...result.effects.map(({ moves }) => Math.abs(moves?.value ?? 0)));
  const places = movesPlaces(result.effects);
  const { findings: unfelt, onMeant } = useNotAside(unfeltFindings(level, settings.of, result));
  const called = (dial: number): string => dialName(level, dials[dial] ?? { paths: [''] });
  const row = (effect: Effect) => {
    const { dial, down, up, moves, problem } = effect;
    return (
      <tr key={dial} className="border-t border-line/60">
        <td className="py-0.5 pr-3">
          <button
            type="button"
            className="cursor-pointer text-left font-semibold hover:underline"
            onClick={() => onDial(dials[dial]?.paths ?? [])}
          >
            {called(dial)}
          </button>
        </td>
        <td className="pr-3 text-right font-mono text-soft">
          {plainNumber(down, 2)} → {plainNumber(up, 2)}
        </td>
        <td className="pr-3">
          <Bar effect={effect} most={most} />
        </td>
        <td className="font-mono">
          {problem === null ? moves === null ? '–' : movesText(moves, places) : <span className="text-harm">{problem}</span>}
        </td>
      </tr>
    );
  };
  return (
    <>
      <Answer text={sensitivitySentence(level, settings.of, result)} name={figureName(level, figure)} />
      {seen.length > 0 && (
        <table className="self-start text-xs" aria-label="What matters, most first">
          <thead>
            <tr className="text-left text-soft">
              <th className="pr-3">dial</th>
              <th className="pr-3 text-right">{plainNumber(100 * share)} % down and up</th>
              <th className="pr-3">moves {figureName(level, figure)} by</th>
              <th>95 %</th>
            </tr>
          </thead>
          <tbody>{seen.map(row)}</tbody>
        </table>
      )}
      {result.interactions.length > 0 && (
        <table className="self-start text-xs" aria-label="Together, beyond each alone">
          <tbody>
            {result.interactions.map(({ dials: [one, other], beyond }) => (
              <tr key={`${String(one)} ${String(other)}`} className="border-t border-line/60">
                <td className="pr-3">
                  <b>{called(one)}</b> with <b>{called(other)}</b>, together beyond each alone
                </td>
                <td className="font-mono">{movesText(beyond, places)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {toCome > 0 && <p className="text-xs text-soft">{toCome} more dials have not been nudged yet.</p>}
      {unseen.length > 0 && (
        <Folded
          name="no effect seen"
          heading={`no effect seen: ${String(unseen.length)} dials`}
          className="text-xs"
          headingClass="text-soft"
        >
          <table aria-label="No effect seen">
            <tbody>{unseen.map(row)}</tbody>
          </table>
        </Folded>
      )}
      {unfelt.length > 0 && toCome === 0 && (
        <Folded name="not felt" heading={`not felt: ${String(unfelt.length)}`} className="text-xs" headingClass="text-soft">
          <FoundList label="Not felt" findings={unfelt} onMeant={onMeant} />
        </Folded>
      )}
    </>
  );
}
