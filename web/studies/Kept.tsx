import { levelHash, reasonOf, type Level } from '@dial/core/level';
import type { StudyAsked } from '@dial/core/api';
import { SIMULATION_VERSION } from '@dial/core/session';
import { useMemo, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { Button, Notice } from '../controls/controls.tsx';
import { Progress } from '../controls/Progress.tsx';
import { Select } from '../controls/Select.tsx';
import { api, type StudyChange, type StudyEntry } from '../state/server/api.ts';
import { lists, useStudiesQuery, useVersionsQuery } from '../state/server/lists.ts';
import { useAppDispatch, useAppSelector, useAppStore } from '../state/store.ts';
import { beginStudy } from '../state/sync/studying.ts';
import { isTold } from './kept.ts';

const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);

/** A study that is played: how far it has come, how long it will take still, and the way to stop it. */
function Running({ study, onStop }: { readonly study: StudyEntry; readonly onStop: () => void }) {
  const progress = useAppSelector((state) => state.crowd.studies[study.id]);
  const done = progress?.done ?? study.done;
  const left = progress?.secondsLeft ?? null;
  return (
    <div className="flex items-center gap-3 text-xs" role="group" aria-label="Progress">
      <Progress label="Sessions played" done={done} of={study.sessions} />
      <span>
        {done} of {study.sessions} sessions{left === null ? '' : `, about ${String(left)} s left`}
      </span>
      <Button onClick={onStop}>Stop</Button>
    </div>
  );
}

const isOver = (state: StudyEntry['state']): boolean => !['waiting', 'running'].includes(state);

interface ChoicesProps {
  readonly level: string;
  /** What a study is called here: crowd, sweep. */
  readonly what: string;
  readonly studies: readonly StudyEntry[];
  readonly chosen: string | null;
  /** Undefined: nothing is shown beside it. */
  readonly beside?: string | null;
  readonly version: string;
  readonly onVersion: (version: string) => void;
  readonly onChoose: (params: Record<string, string>) => void;
  /** Changes a study that is kept. Answers whether that could be done. */
  readonly onChange: (id: string, change: StudyChange) => Promise<boolean>;
}

/** Which level is played next, and which of the studies that are kept are shown. */
export function Choices({ level, what, studies, chosen, beside, version, onVersion, onChoose, onChange }: ChoicesProps) {
  const { data: versions = [] } = useVersionsQuery(level);
  const shown = studies.find(({ id }) => id === chosen);
  const names = studies.map(({ id, name }) => [id, name] as const);
  const [gone, setGone] = useState<StudyEntry | null>(null);
  const remove = async (study: StudyEntry): Promise<void> => {
    if (!(await onChange(study.id, { deleted: true }))) return;
    setGone(study);
    onChoose({ study: '', beside: '' });
  };
  const bringBack = async ({ id }: StudyEntry): Promise<void> => {
    if (!(await onChange(id, { deleted: false }))) return;
    setGone(null);
    onChoose({ study: id });
  };
  return (
    <div className="flex flex-wrap items-center gap-2 text-xs">
      <span>plays</span>
      <Select
        label="Which level is played"
        value={version}
        options={[['', 'the level as it is'], ...versions.map(({ id, name }) => [String(id), `“${name}”`] as const)]}
        onChoose={onVersion}
      />
      {shown !== undefined && chosen !== null && (
        <>
          <span className="ml-3">shown</span>
          <Select label={`${capital(what)} shown`} value={chosen} options={names} onChoose={(id) => onChoose({ study: id })} />
          {beside !== undefined && (
            <>
              <span>beside</span>
              <Select
                label="Crowd beside it"
                value={beside ?? ''}
                options={[['', 'none'], ...names.filter(([id]) => id !== chosen)]}
                onChoose={(id) => onChoose({ beside: id })}
              />
            </>
          )}
          <input
            key={shown.id}
            aria-label={`Name of the ${what}`}
            className="w-64 rounded-sm border border-line bg-card px-1 py-0.5"
            maxLength={80}
            defaultValue={shown.name}
            onBlur={({ target: { value } }) =>
              value.trim() !== '' && value.trim() !== shown.name && void onChange(shown.id, { name: value.trim() })
            }
            onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
          />
          <Button kind="quiet" onClick={() => void remove(shown)}>
            Delete
          </Button>
        </>
      )}
      {gone !== null && (
        <span role="status" className="flex items-center gap-2">
          “{gone.name}” is deleted.
          <Button kind="quiet" onClick={() => void bringBack(gone)}>
            Bring back
          </Button>
        </span>
      )}
    </div>
  );
}

/** What went wrong, each by itself; null: nothing. */
export function Troubles({ all }: { readonly all: readonly (string | null)[] }) {
  return all.map(
    (one) =>
      one !== null && (
        <Notice key={one}>
          <span className="flex-1">{one}</span>
        </Notice>
      ),
  );
}

interface OutdatedProps {
  readonly study: StudyEntry;
  /** The level that was played, once it is here. */
  readonly played: Level | undefined;
  /** What the button says that asks for the same again. */
  readonly again: string;
  readonly onAgain: () => void;
}

/** That a study is of an older revision of the level, or was played by an earlier Dial, and the way to the same of today. */
export function Outdated({ study, played, again, onAgain }: OutdatedProps) {
  const revision = useAppSelector((state) => state.saving.revision);
  const level = useAppSelector((state) => state.document.open?.level);
  const same = useMemo(() => level !== undefined && played !== undefined && levelHash(level) === levelHash(played), [level, played]);
  const since = `It is of revision ${String(study.revision)}; the level is at ${String(revision)} by now${same ? ', and plays as it did' : ''}.`;
  const reasons = [
    ...(study.revision === revision ? [] : [since]),
    ...(study.simulation === SIMULATION_VERSION ? [] : ['An earlier Dial played it: the same sessions may come out otherwise now.']),
    ...(isTold(study) ? [] : ['What was answered then cannot be told any more.']),
  ];
  if (reasons.length === 0) return null;
  return (
    <p className="flex items-center gap-2 text-xs">
      {reasons.join(' ')}
      <Button kind="quiet" onClick={onAgain}>
        {again}
      </Button>
    </p>
  );
}

interface UnfinishedProps {
  readonly study: StudyEntry;
  readonly onStop: () => void;
  readonly onGoOn: () => void;
}

/** What is to be said of a study that has not come to its end, and the way to go on with one that was stopped. */
export function Unfinished({ study, onStop, onGoOn }: UnfinishedProps) {
  const heard = useAppSelector((state) => state.crowd.studies[study.id]?.state);
  // Of one that goes on again what was heard before may be that it had stopped.
  const goesOn = heard === 'done' || (heard !== undefined && !isOver(heard));
  const state = isOver(study.state) || !goesOn ? study.state : heard;
  if (!isOver(state)) return <Running study={study} onStop={onStop} />;
  if (state === 'done') return null;
  const words =
    state === 'cancelled' ? `Stopped after ${String(study.done)} of ${String(study.sessions)} sessions` : `It failed: ${study.why ?? ''}`;
  return (
    <p className="flex items-center gap-2 text-xs text-harm">
      {words}: this is what had been played.
      <Button kind="quiet" onClick={onGoOn}>
        Go on
      </Button>
    </p>
  );
}

/**
 * The studies of a level that are of one sort: which is chosen by the address, and what is done to them. What else the address says of what
 * is asked, by the names in `drops`, goes once a study is chosen.
 */
export function useKept<Entry extends StudyEntry>(
  level: string,
  what: string,
  isOne: (study: StudyEntry) => study is Entry,
  drops: readonly string[] = [],
) {
  const store = useAppStore();
  const dispatch = useAppDispatch();
  const [search, setSearch] = useSearchParams();
  const { data } = useStudiesQuery(level);
  const [trouble, setTrouble] = useState<string | null>(null);
  const isBeginning = useRef(false);
  const studies = data?.filter(isOne);
  const asked = search.get('study') ?? '';
  const chosen = asked === '' ? (studies?.[0]?.id ?? null) : asked;
  const choose = (params: Record<string, string>): void => {
    const wanted = Object.entries({ ...Object.fromEntries(search), ...Object.fromEntries(drops.map((name) => [name, ''])), ...params });
    setSearch(Object.fromEntries(wanted.filter(([, value]) => value !== '')), { replace: true });
  };
  /** Does something to a study, and shows what the server has then. Answers whether it could be done. */
  const does = async (done: string, act: () => Promise<unknown>): Promise<boolean> => {
    setTrouble(null);
    try {
      await act();
      return true;
    } catch (error) {
      setTrouble(`The ${what} could not be ${done}: ${reasonOf(error)}`);
      return false;
    } finally {
      dispatch(lists.util.invalidateTags(['studies']));
    }
  };
  return {
    search,
    studies,
    chosen,
    shown: studies?.find(({ id }) => id === chosen),
    trouble,
    choose,
    /** Begins a study and shows it; while one is being begun, nothing. Answers whether that could be done. */
    begin: async (study: (revision: number) => StudyAsked): Promise<boolean> => {
      if (isBeginning.current) return false;
      isBeginning.current = true;
      const begun = await does('begun', async () => choose({ study: await beginStudy(store, level, study) }));
      isBeginning.current = false;
      return begun;
    },
    change: (id: string, change: StudyChange): Promise<boolean> => does('changed', () => api.changeStudy(level, id, change)),
    stop: (id: string): void => void does('stopped', () => api.cancelStudy(level, id)),
    goOn: (id: string): void => void does('gone on with', () => api.resumeStudy(level, id)),
  };
}
