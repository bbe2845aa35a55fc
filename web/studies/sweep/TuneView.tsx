import { changesText, estimateText, shortTarget, tuneSentence } from '@dial/core/formats';
import { entry, reasonOf } from '@dial/core/level';
import { turnedLevel, type Candidate, type TradeOff, type Turned, type Verdict } from '@dial/core/studies';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { Chart } from '../../charts/Chart.tsx';
import { Button } from '../../controls/controls.tsx';
import { Answer } from './Answer.tsx';
import { besideRuns, type BesideRuns } from './beside.ts';
import type { StudyResult } from './result.ts';
import { balancesAlong, tradeOffSpec } from './specs.ts';

/** What is only passed over is not played. */
const SETTLE_MILLISECONDS = 120;

const LOOKS: Readonly<Record<Verdict['state'], string>> = {
  met: 'font-bold',
  missed: 'text-harm font-bold',
  undecided: 'text-soft',
  'not judged': 'text-soft',
};

type TuneFound = StudyResult & { readonly kind: 'tune' };

/** What is done with a setting: taken as an edit, or kept as a level of its own. */
interface Doing {
  readonly onTake: (turned: readonly Turned[], session: number | null) => void;
  readonly onBranch: (turned: readonly Turned[], name: string) => void;
}

/** Draws two runs over each other. */
export type DrawStrip = (runs: BesideRuns) => ReactNode;

interface TuneViewProps extends Doing {
  readonly found: TuneFound;
  readonly strip: DrawStrip;
}

const turnedTo = ({ settings }: TuneFound, values: readonly number[]): Turned[] =>
  settings.of.dials.map(({ paths }, at) => ({ paths, value: values[at] ?? 0 }));

interface CandidateCardProps extends Doing {
  readonly found: TuneFound;
  readonly candidate: Candidate;
  readonly pointed: boolean;
  readonly onPoint: () => void;
}

function CandidateCard({ found, candidate, pointed, onPoint, onTake, onBranch }: CandidateCardProps) {
  const { level, settings } = found;
  const { name, values, fresh, verdicts } = candidate;
  const turned = turnedTo(found, values);
  return (
    <li
      className={`rounded-sm border-[1.3px] bg-card px-3 py-2 text-xs ${pointed ? 'border-needle' : 'border-ink'}`}
      aria-label={name}
      onPointerEnter={onPoint}
      onFocus={onPoint}
    >
      <p className="flex items-baseline justify-between">
        <b className="text-[13px]">{name}</b>
        <span className="text-soft">{fresh ? 'judged by fresh sessions' : 'found so far'}</span>
      </p>
      <p className="my-1">{changesText(level, settings.of, candidate)}</p>
      <table className="w-full">
        <tbody>
          {verdicts.map((verdict) => {
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
      <span className="mt-2 flex gap-2">
        <Button kind="strong" onClick={() => onTake(turned, null)}>
          Take “{name}”
        </Button>
        <Button kind="quiet" hint="a level of its own with these values; this one stays as it is" onClick={() => onBranch(turned, name)}>
          Branch off
        </Button>
      </span>
    </li>
  );
}

/** What gives way to what, drawn; a point can be taken too. */
function Balances({ found, tradeOff, onTake }: Pick<TuneViewProps, 'found' | 'onTake'> & { readonly tradeOff: TradeOff }) {
  const { level, settings } = found;
  const [chosen, setChosen] = useState<number | null>(null);
  const spec = useMemo(() => tradeOffSpec(level, tradeOff), [level, tradeOff]);
  const onDot = useMemo(() => (_: number, nth: number) => setChosen(nth), []);
  const balance = chosen === null ? undefined : balancesAlong(tradeOff)[chosen];
  if (spec === null) return null;
  return (
    <>
      <p className="text-xs">
        <b className="text-soft">what gives way to what: a point is a setting of which none other comes nearer to both; tint: target</b>
      </p>
      <Chart spec={spec} height={260} onDot={onDot} />
      {balance !== undefined && (
        <div
          role="group"
          aria-label="Chosen setting"
          className="flex items-center gap-2 rounded-sm border-[1.3px] border-needle bg-card px-2 py-1.5 text-xs"
        >
          {changesText(level, settings.of, balance)}
          <Button kind="strong" className="ml-auto" onClick={() => onTake(turnedTo(found, balance.values), null)}>
            Take it
          </Button>
        </div>
      )}
    </>
  );
}

interface Beside {
  readonly runs: BesideRuns | null;
  readonly trouble: string | null;
}

/** One session with the setting that is pointed at, beside the same as the level is; worked out aside. */
function useBeside(found: TuneFound, candidate: Candidate | undefined): Beside {
  const [shown, setShown] = useState<Beside>({ runs: null, trouble: null });
  useEffect(() => {
    if (candidate === undefined) return;
    let wanted = true;
    const timer = setTimeout(() => {
      const turned = turnedLevel(found.level, turnedTo(found, candidate.values));
      (turned.ok ? besideRuns(found.level, turned.value, candidate.name) : Promise.resolve(null)).then(
        (runs) => wanted && setShown({ runs, trouble: null }),
        (error: unknown) => wanted && setShown({ runs: null, trouble: `No session can be shown: ${reasonOf(error)}` }),
      );
    }, SETTLE_MILLISECONDS);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [found, candidate]);
  return shown;
}

/** A handful of settings that meet all targets, or come nearest: what each changes, how its targets stand, and what a session is like. */
export function TuneView({ found, strip, onTake, onBranch }: TuneViewProps) {
  const { level, result } = found;
  const [pointed, setPointed] = useState(0);
  const candidate = result.candidates[pointed] ?? result.candidates[0];
  const { runs, trouble } = useBeside(found, candidate);
  return (
    <>
      <Answer text={tuneSentence(level, result)} name="tuning" />
      <ul className="grid gap-3 desk:grid-cols-2">
        {result.candidates.map((one, at) => (
          <CandidateCard
            key={`${one.name} ${one.values.join(' ')}`}
            found={found}
            candidate={one}
            pointed={one === candidate}
            onPoint={() => setPointed(at)}
            onTake={onTake}
            onBranch={onBranch}
          />
        ))}
      </ul>
      {result.tradeOff !== null && <Balances found={found} tradeOff={result.tradeOff} onTake={onTake} />}
      {trouble !== null && <p className="text-xs text-harm">{trouble}</p>}
      {runs !== null && (
        <>
          <p className="text-xs">
            <b className="text-soft">{runs.label}</b>
          </p>
          {strip(runs)}
        </>
      )}
    </>
  );
}
