import { reasonOf, type Level } from '@dial/core/level';
import { crowdProblems, sessionCount, usualCrowd, type CrowdSettings } from '@dial/core/studies';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { newId } from '../browser/ids.ts';
import { Button, Notice } from '../controls/controls.tsx';
import { Progress } from '../controls/Progress.tsx';
import { Select } from '../controls/Select.tsx';
import { api, type StudyChange, type StudyEntry } from '../state/server/api.ts';
import { lists, useStudiesQuery, useVersionsQuery } from '../state/server/lists.ts';
import type { OpenLevel } from '../state/slices/document.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';
import { Result } from './Result.tsx';
import { useStudy } from './useStudy.ts';
import { WhoPlays } from './WhoPlays.tsx';

/** A crowd that is played: how far it has come, how long it will take still, and the way to stop it. */
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
  readonly studies: readonly StudyEntry[];
  readonly chosen: string | null;
  readonly beside: string | null;
  readonly version: string;
  readonly onVersion: (version: string) => void;
  readonly onChoose: (params: Record<string, string>) => void;
  /** Changes a crowd that is kept. Answers whether that could be done. */
  readonly onChange: (id: string, change: StudyChange) => Promise<boolean>;
}

/** Which level is played next, and which of the crowds that are kept are shown. */
function Choices({ level, studies, chosen, beside, version, onVersion, onChoose, onChange }: ChoicesProps) {
  const { data: versions = [] } = useVersionsQuery(level);
  const revision = useAppSelector((state) => state.saving.revision);
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
          <Select label="Crowd shown" value={chosen} options={names} onChoose={(id) => onChoose({ study: id })} />
          <span>beside</span>
          <Select
            label="Crowd beside it"
            value={beside ?? ''}
            options={[['', 'none'], ...names.filter(([id]) => id !== chosen)]}
            onChoose={(id) => onChoose({ beside: id })}
          />
          <input
            key={shown.id}
            aria-label="Name of the crowd"
            className="w-40 rounded-sm border border-line bg-card px-1 py-0.5"
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
          {shown.revision !== revision && (
            <span className="ml-auto text-soft">
              of revision {shown.revision}; the level is at {revision} by now
            </span>
          )}
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

/** What is to be said of a crowd that has not come to its end. */
function Unfinished({ study, onStop }: { readonly study: StudyEntry; readonly onStop: () => void }) {
  const heard = useAppSelector((state) => state.crowd.studies[study.id]?.state);
  const state = isOver(study.state) ? study.state : (heard ?? study.state);
  if (!isOver(state)) return <Running study={study} onStop={onStop} />;
  if (state === 'cancelled')
    return (
      <p className="text-xs text-harm">
        Stopped after {study.done} of {study.sessions} sessions: this is what had been played.
      </p>
    );
  return state === 'failed' ? <p className="text-xs text-harm">It failed: {study.why}. This is what had been played.</p> : null;
}

/** Crowds of a level: who plays, what those that are kept came to, and two of them beside each other. */
export function Crowd({ open, level }: { readonly open: OpenLevel; readonly level: Level }) {
  const dispatch = useAppDispatch();
  const [search, setSearch] = useSearchParams();
  const revision = useAppSelector((state) => state.saving.revision);
  const { data: studies } = useStudiesQuery(open.id);
  const { data: versions = [] } = useVersionsQuery(open.id);
  const [version, setVersion] = useState('');
  const [trouble, setTrouble] = useState<string | null>(null);
  const [wished, setWished] = useState<CrowdSettings | null>(null);
  const asked = search.get('study') ?? '';
  const chosen = asked === '' ? (studies?.[0]?.id ?? null) : asked;
  const beside = search.get('beside') ?? '';
  const shown = studies?.find(({ id }) => id === chosen);
  const settings = wished ?? shown?.settings ?? (Object.keys(level.personas).length === 0 ? NOBODY : usualCrowd(level));
  const now = useStudy(open.id, chosen);
  const was = useStudy(open.id, beside === '' ? null : beside);
  const problem =
    settings.personas.length === 0 ? 'a crowd needs at least one session' : (crowdProblems(level, settings)[0]?.message ?? null);
  const choose = (params: Record<string, string>): void => setSearch({ ...Object.fromEntries(search), ...params }, { replace: true });
  /** Does something to a crowd that is kept, and shows what the server has then. Answers whether it could be done. */
  const does = async (what: string, act: () => Promise<unknown>): Promise<boolean> => {
    setTrouble(null);
    try {
      await act();
      return true;
    } catch (error) {
      setTrouble(`The crowd could not be ${what}: ${reasonOf(error)}`);
      return false;
    } finally {
      dispatch(lists.util.invalidateTags(['studies']));
    }
  };
  const play = async (): Promise<void> => {
    const id = newId();
    const of = versions.find((one) => String(one.id) === version);
    const name = `${of === undefined ? `revision ${String(revision)}` : `“${of.name}”`}, ${String(sessionCount(settings))} sessions`;
    if (await does('begun', () => api.putStudy(open.id, id, { name, settings, version: of?.id ?? null }))) choose({ study: id });
  };
  const troubles = [trouble, now.trouble, was.trouble].filter((one) => one !== null);
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <WhoPlays level={level} settings={settings} problem={problem} onSettings={setWished} onPlay={() => void play()} />
      <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto p-3 [&>*]:shrink-0">
        {troubles.map((one) => (
          <Notice key={one}>
            <span className="flex-1">{one}</span>
          </Notice>
        ))}
        <Choices
          level={open.id}
          studies={studies ?? []}
          chosen={chosen}
          beside={beside}
          version={version}
          onVersion={setVersion}
          onChoose={choose}
          onChange={(id, change) => does('changed', () => api.changeStudy(open.id, id, change))}
        />
        {shown !== undefined && (
          <Unfinished key={shown.id} study={shown} onStop={() => void does('stopped', () => api.cancelStudy(open.id, shown.id))} />
        )}
        {studies?.length === 0 && (
          <p className="text-soft">
            No crowd has played this level yet. Choose who plays above, and press “Play {sessionCount(settings)} sessions”: you will see who
            finishes, where they die, and what nobody ever touches.
          </p>
        )}
        {now.result !== null && (
          <Result key={now.result.study.id} result={now.result} was={was.result} path={`/levels/${encodeURIComponent(open.id)}`} />
        )}
      </div>
    </main>
  );
}

const NOBODY: CrowdSettings = { personas: [], seconds: 120, seed: 1, start: null };
