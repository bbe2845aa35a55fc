import { changesText, estimateText, shortTarget, tuneSentence } from '@dial/core/formats';
import { entry } from '@dial/core/level';
import type { Turned, Verdict } from '@dial/core/studies';
import { Button } from '../../controls/controls.tsx';
import { Answer } from './Answer.tsx';
import type { StudyResult } from './result.ts';

const LOOKS: Readonly<Record<Verdict['state'], string>> = {
  met: 'font-bold',
  missed: 'text-harm font-bold',
  undecided: 'text-soft',
  'not judged': 'text-soft',
};

interface TuneViewProps {
  readonly found: StudyResult & { readonly kind: 'tune' };
  readonly onTake: (turned: readonly Turned[], session: number | null) => void;
}

/** A handful of settings that meet all targets, or come nearest: what each changes, and how its targets stand. */
export function TuneView({ found, onTake }: TuneViewProps) {
  const { level, settings, result } = found;
  const { dials } = settings.of;
  return (
    <>
      <Answer text={tuneSentence(level, result)} name="tuning" />
      <ul className="grid gap-3 desk:grid-cols-2">
        {result.candidates.map((candidate) => (
          <li
            key={`${candidate.name} ${candidate.values.join(' ')}`}
            className="rounded-sm border-[1.3px] border-ink bg-card px-3 py-2 text-xs"
            aria-label={candidate.name}
          >
            <p className="flex items-baseline justify-between">
              <b className="text-[13px]">{candidate.name}</b>
              <span className="text-soft">{candidate.fresh ? 'judged by fresh sessions' : 'found so far'}</span>
            </p>
            <p className="my-1">{changesText(level, settings.of, candidate)}</p>
            <table className="w-full">
              <tbody>
                {candidate.verdicts.map((verdict) => {
                  const target = entry(level.targets, verdict.target);
                  return (
                    <tr key={verdict.target} className="border-t border-line/60">
                      <td className="pr-3">{target === undefined ? verdict.target : shortTarget(level, target)}</td>
                      <td className="pr-3 text-right font-mono">{verdict.estimate === null ? '' : estimateText(verdict.estimate)}</td>
                      <td className={`text-right ${LOOKS[verdict.state]}`}>{verdict.state}</td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
            <Button
              kind="strong"
              className="mt-2"
              onClick={() =>
                onTake(
                  dials.map(({ paths }, at) => ({ paths, value: candidate.values[at] ?? 0 })),
                  null,
                )
              }
            >
              Take “{candidate.name}”
            </Button>
          </li>
        ))}
      </ul>
    </>
  );
}
