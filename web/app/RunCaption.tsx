import { SIMULATION_VERSION } from '@dial/core/session';
import { clockTime, endedWords, plainNumber, stuckWords } from '@dial/core/formats';
import { entry, inOrder, type Level } from '@dial/core/level';
import { skipToken } from '@reduxjs/toolkit/query';
import { Fragment, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { askedBy, isWalk, walkOf, simulatedActions } from '../state/slices/simulated.ts';
import { walkerOn } from '../state/simulation/walker.ts';
import { playbackActions } from '../state/slices/playback.ts';
import { useRunsQuery } from '../state/server/lists.ts';
import type { Evidence } from '../state/slices/view.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';
import { CrowdChoice } from './CrowdCaption.tsx';
import { Select } from '../controls/Select.tsx';
import { Button, Pill } from '../controls/controls.tsx';
import { SeedField } from '../fields/SeedField.tsx';
import { TabList, type Tab } from '../controls/Tabs.tsx';
import { Hint, ITS_WORDS } from '../controls/Hint.tsx';

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
  const { now, compared } = useAppSelector((state) => state.simulated.shown);
  return (
    // One line, however much there is to say: Plan and Strip keep their size. What does not fit is read by pointing at it.
    <Hint says={ITS_WORDS}>
      <span className="min-w-0 flex-auto truncate text-right [&>*]:ml-2.5" role="status" aria-label="Outcome">
        {now?.outcome.ended.how.startsWith('too many') === true && <b className="text-harm">{endedWords(now.outcome)}</b>}
        {now !== null && now.outcome.ended.how === 'lost' && <b className="text-harm">died at {clockTime(now.outcome.ended.seconds)}</b>}
        {now?.outcome.players.map((player, number) => (
          <Fragment key={number}>
            {now.outcome.players.length > 1 && <b className="text-xs text-soft">player {number + 1}</b>}
            {Math.max(player.deaths, compared?.outcome.players[number]?.deaths ?? 0) > 0 && (
              <Closing name="deaths" now={player.deaths} was={compared?.outcome.players[number]?.deaths ?? null} />
            )}
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
        {now?.walk?.ending != null && (
          <b className="text-soft">
            {now.walk.ending === 'time' ? 'still at it' : now.walk.ending} at {clockTime(now.steps / now.rate)}
          </b>
        )}
      </span>
    </Hint>
  );
}

const VIEWS: readonly (Tab & { readonly value: Evidence })[] = [
  { value: 'strip', name: 'Strip' },
  { value: 'ledger', name: 'Ledger', keys: 'L' },
  { value: 'ghost', name: 'Ghost', keys: 'C' },
  { value: 'findings', name: 'Findings', keys: 'J' },
];

/** Without another version there is no ghost. */
const VIEWS_ALONE = VIEWS.filter(({ value }) => value !== 'ghost');

/** Session seconds in a second, and how they are written. */
const PACES: readonly (readonly [pace: number, name: string])[] = [
  [0.25, '×¼'],
  [0.5, '×½'],
  [1, '×1'],
  [2, '×2'],
  [4, '×4'],
  [8, '×8'],
  [16, '×16'],
];

/** Where the walker got stuck: over the lower edge of the Plan, where it moves nothing, until it is closed or something else stops it. */
function Stuck({ children }: { readonly children: ReactNode }) {
  const [closed, setClosed] = useState(false);
  if (closed) return null;
  return (
    <div className="absolute bottom-full left-2 z-20 mb-1 flex max-w-[calc(100%-16px)] items-center gap-2 rounded-sm border border-harm bg-card px-2 py-0.5">
      <b role="alert" className="text-harm">
        {children}
      </b>
      <Button kind="quiet" className="px-1.5! py-0!" onClick={() => setClosed(true)}>
        Close
      </Button>
    </div>
  );
}

interface RunCaptionProps {
  readonly level: Level;
}

/** The line between Plan and Strip: which run, where the needle is, and what the session comes to. */
export function RunCaption({ level }: RunCaptionProps) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const isCompared = useAppSelector((state) => state.document.compared !== null);
  const now = useAppSelector((state) => state.simulated.shown.now);
  const { data: runs = [] } = useRunsQuery(useAppSelector((state) => state.document.open?.id) ?? skipToken);
  const drawn = useAppSelector((state) => state.simulated.run);
  const startFrom = useAppSelector((state) => state.simulated.startFrom);
  const needleStep = useAppSelector((state) => state.playback.needleStep);
  const playing = useAppSelector((state) => state.playback.playing);
  const pace = useAppSelector((state) => state.playback.pace);
  const rate = now?.rate ?? level.rate;
  const stuck = now?.walk?.stuckAt ?? null;
  const routes = inOrder(level.routes);
  const personas = inOrder(level.personas);
  /** Who plays with a persona: those who do already, where it is on the Strip. */
  const withIt = (id: string): readonly string[] => (drawn?.personas?.[0] === id ? drawn.personas : [id]);
  const namesOf = (ids: readonly string[]): string => ids.map((id) => entry(level.personas, id)?.name ?? id).join(' and ');
  const seedOf = (persona: string): number => (drawn?.personas?.[0] === persona ? drawn.run.seed : 1);
  return (
    // One line where it can be: while a dial is turned figures come and go, and Plan and Strip must not change their size with them.
    <div className="relative flex min-h-8 flex-wrap items-center gap-x-2 text-xs min-[1180px]:flex-nowrap">
      {stuck !== null && <Stuck key={stuckWords(level, stuck)}>The walker is {stuckWords(level, stuck)}.</Stuck>}
      <Button
        kind="quiet"
        className="py-0!"
        aria-pressed={playing}
        disabled={now === null}
        onClick={() => dispatch(playbackActions.playingChanged(!playing))}
      >
        {playing ? 'Halt' : 'Run'}
      </Button>
      <Select
        label="Speed of the needle"
        hint="[ slower, ] faster"
        className="shrink-0 font-mono"
        value={String(pace)}
        options={PACES.map(([value, name]) => [String(value), name])}
        onChoose={(chosen) => dispatch(playbackActions.paceChanged(Number(chosen)))}
      />
      <span className="w-13 font-mono">{clockTime(needleStep / rate)}</span>
      {runs.length + routes.length + personas.length > 0 && (
        <span className="min-w-24 shrink-[99]">
          <Select
            label="Run on the Strip"
            className="w-full max-w-[132px]"
            value={askedBy(drawn)}
            options={[
              ...(drawn === null ? [['', 'no run'] as const] : []),
              // Who walked is gone: the last walk stays.
              ...(isWalk(drawn) && walkerOn(level, drawn) === null
                ? [[askedBy(drawn), `${drawn?.run.name ?? 'walk'}, as it was`] as const]
                : []),
              ...runs.map(({ id, name }) => [id, name] as const),
              ...routes.map(([id, { name }]) => [walkOf({ route: id }), `${name}, walked`] as const),
              ...personas.flatMap(([id]) => [
                [walkOf({ personas: withIt(id) }), `${namesOf(withIt(id))}, seed ${String(seedOf(id))}`] as const,
                // Whoever is on the Strip may also be sent along a route, with its errors.
                ...(drawn?.personas?.[0] === id ? routes : []).map(
                  ([route, { name: along }]) => [walkOf({ personas: withIt(id), route }), `${namesOf(withIt(id))} on ${along}`] as const,
                ),
              ]),
            ]}
            onChoose={(run) => void navigate(`?run=${encodeURIComponent(run)}`)}
          />
        </span>
      )}
      {drawn !== null && isWalk(drawn) && (
        <Hint says="What is left to chance comes out otherwise with another seed.">
          <span>
            <SeedField
              seed={drawn.run.seed}
              width="w-14"
              onSeed={(seed) => dispatch(simulatedActions.runChanged({ ...drawn, run: { ...drawn.run, seed } }))}
            />
          </span>
        </Hint>
      )}
      {Object.keys(level.tries).length > 0 && (
        <Hint says="The state that the run and a play are tried from">
          <span className="min-w-16 shrink-[99]">
            <Select
              label="Starting state"
              className="w-full max-w-[104px]"
              value={startFrom ?? ''}
              options={[['', 'from its start'], ...inOrder(level.tries).map(([id, { name }]) => [id, `from ${name}`] as const)]}
              onChoose={(from) => dispatch(simulatedActions.startFromChosen(from === '' ? null : from))}
            />
          </span>
        </Hint>
      )}
      {now !== null && <CrowdChoice />}
      {now !== null && (
        <Pill hint={`digest ${now.digest} by simulation ${String(SIMULATION_VERSION)}`}>
          <span data-digest={now.digest} className="max-[1399px]:sr-only">
            simulated in{' '}
          </span>
          {Math.max(1, Math.round(now.took))} ms
        </Pill>
      )}
      <span className="ml-auto flex min-w-0 shrink grow basis-[420px] items-center justify-end gap-x-2 max-[1179px]:basis-full">
        <Outcome level={level} />
        <TabList label="Under the Plan" tabs={isCompared ? VIEWS : VIEWS_ALONE} />
      </span>
    </div>
  );
}
