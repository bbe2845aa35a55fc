import { clockTime, plainNumber, stuckWords } from '@dial/core/formats';
import { inOrder, type Level } from '@dial/core/level';
import { Fragment } from 'react';
import { useNavigate } from 'react-router';
import { benchActions, type Evidence } from '../state/bench.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';
import { Button, Pill } from '../ui/controls.tsx';

function Closing({ name, now, was }: { readonly name: string; readonly now: number; readonly was: number | null }) {
  const text = plainNumber(now, 1);
  const before = was === null ? text : plainNumber(was, 1);
  return (
    <span className="whitespace-nowrap">
      {name} <b className="font-mono">{text}</b>
      {before !== text && <span className="font-mono text-soft"> was {before}</span>}
    </span>
  );
}

/** What the session comes to, and what it came to in the compared version. */
export function Outcome({ level }: { readonly level: Level }) {
  const { now, compared } = useAppSelector((state) => state.bench.simulated);
  return (
    <span className="ml-auto flex flex-wrap items-center gap-x-2.5" role="status" aria-label="Outcome">
      {now !== null && now.outcome.ended.how === 'lost' && <b className="text-harm">died at {clockTime(now.outcome.ended.seconds)}</b>}
      {now?.outcome.players.map((player, number) => (
        <Fragment key={number}>
          {now.outcome.players.length > 1 && <b className="text-xs text-soft">player {number + 1}</b>}
          {inOrder(level.meters).map(([id, meter], index) => (
            <Closing
              key={id}
              name={index === 0 ? `final ${meter.name}` : meter.name}
              now={player.meters[id] ?? 0}
              was={compared?.outcome.players[number]?.meters[id] ?? null}
            />
          ))}
        </Fragment>
      ))}
    </span>
  );
}

const VIEWS: readonly (readonly [view: Evidence, name: string, key: string])[] = [
  ['strip', 'Strip', ''],
  ['ledger', 'Ledger', 'L'],
  ['ghost', 'Ghost', 'C'],
];

/** Session seconds in a second, and how they are written. */
export const PACES: readonly (readonly [pace: number, name: string])[] = [
  [0.25, '×¼'],
  [0.5, '×½'],
  [1, '×1'],
  [2, '×2'],
  [4, '×4'],
  [8, '×8'],
  [16, '×16'],
];

interface RunCaptionProps {
  readonly level: Level;
}

/** The line between Plan and Strip: which run, where the needle is, and what the session comes to. */
export function RunCaption({ level }: RunCaptionProps) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { open, simulated, needleStep, playing, startFrom, evidence, pace } = useAppSelector((state) => state.bench);
  const { now } = simulated;
  const rate = now?.rate ?? level.rate;
  const stuck = now?.walk?.stuckAt ?? null;
  const several = level.players.count > 1;
  return (
    // One line where it can be: while a dial is turned figures come and go, and Plan and Strip must not change their size with them.
    <div className={`flex min-h-8 flex-wrap items-center gap-x-2 text-xs ${several || stuck !== null ? '' : 'desk:flex-nowrap'}`}>
      <Button
        kind="quiet"
        className="py-0!"
        aria-pressed={playing}
        disabled={now === null}
        onClick={() => dispatch(benchActions.playingChanged(!playing))}
      >
        {playing ? 'Halt' : 'Run'}
      </Button>
      <select
        aria-label="Speed of the needle"
        title="[ slower, ] faster"
        className="rounded-sm border border-line bg-card py-0.5 font-mono"
        value={pace}
        onChange={({ target }) => dispatch(benchActions.paceChanged(Number(target.value)))}
      >
        {PACES.map(([value, name]) => (
          <option key={value} value={value}>
            {name}
          </option>
        ))}
      </select>
      <span className="w-13 font-mono">{clockTime(needleStep / rate)}</span>
      {open !== null && open.runs.length > 0 && (
        <label className="min-w-16 shrink-[99]">
          <select
            className="w-full max-w-[132px] truncate rounded-sm border border-line bg-card px-1 py-0.5"
            aria-label="Run on the Strip"
            value={open.run?.id ?? ''}
            onChange={(event) => void navigate(`?run=${event.target.value}`)}
          >
            {open.runs.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
      )}
      {open !== null && Object.keys(level.tries).length > 0 && (
        <label className="min-w-16 shrink-[99]" title="The state that the run and a play are tried from">
          <select
            className="w-full max-w-[104px] truncate rounded-sm border border-line bg-card px-1 py-0.5"
            aria-label="Starting state"
            value={startFrom ?? ''}
            onChange={({ target }) => dispatch(benchActions.startFromChosen(target.value === '' ? null : target.value))}
          >
            <option value="">from its start</option>
            {inOrder(level.tries).map(([id, { name }]) => (
              <option key={id} value={id}>
                from {name}
              </option>
            ))}
          </select>
        </label>
      )}
      {now !== null && <Pill title={`digest ${now.digest}`}>simulated in {Math.max(1, Math.round(now.took))} ms</Pill>}
      {stuck !== null && (
        <b role="alert" className="text-harm">
          The walker is {stuckWords(level, stuck)}.
        </b>
      )}
      <span className={`ml-auto flex flex-wrap items-center justify-end gap-x-2 ${several ? '' : 'desk:min-w-0 desk:flex-nowrap'}`}>
        <Outcome level={level} />
        <span role="group" aria-label="Under the Plan" className="flex shrink-0">
          {VIEWS.filter(([view]) => view !== 'ghost' || open?.compared != null).map(([view, name, key]) => (
            <button
              key={view}
              type="button"
              title={key}
              aria-pressed={evidence === view}
              className={`-ml-px cursor-pointer border px-1.5 py-0.5 font-semibold first:rounded-l-md last:rounded-r-md ${evidence === view ? 'z-[1] border-ink bg-card' : 'border-line text-soft hover:border-ink'}`}
              onClick={() => evidence !== view && dispatch(benchActions.evidenceToggled(view))}
            >
              {name}
            </button>
          ))}
        </span>
      </span>
    </div>
  );
}
