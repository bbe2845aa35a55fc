import { allKinds } from '@dial/core/level';
import { clockTime, plainNumber } from '@dial/core/formats';
import type { Outcome } from '@dial/core/session';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, ApiError, type ListedLevel } from '../state/api.ts';
import { simulateOnce } from '../state/simulation.ts';
import { AppHeader } from '../ui/AppHeader.tsx';
import { Button, Notice } from '../ui/controls.tsx';
import { PlanPicture } from '../ui/PlanPicture.tsx';

function outcomeWords(outcome: Outcome): string {
  const { health = 0, score = 0 } = outcome.players[0]?.meters ?? {};
  const ending = outcome.ended.how === 'lost' ? 'lost' : `health ${plainNumber(health, 0)}`;
  return `${ending}, score ${plainNumber(score, 0)} after ${clockTime(outcome.ended.seconds, 0)}`;
}

/** The last run of a level, simulated on the level as it is now. */
function useLastOutcome({ id, document, latestRun }: ListedLevel): string {
  const [words, setWords] = useState(latestRun === null ? 'not played yet' : 'last run …');
  useEffect(() => {
    if (latestRun === null) return;
    let wanted = true;
    api
      .getRun(id, latestRun)
      .then(({ run }) => simulateOnce(document, run))
      .then(
        ({ outcome }) => {
          if (wanted) setWords(`last run: ${outcomeWords(outcome)}`);
        },
        (error: unknown) => {
          if (wanted) setWords(`last run: ${error instanceof Error ? error.message : 'cannot be simulated'}`);
        },
      );
    return () => {
      wanted = false;
    };
  }, [id, document, latestRun]);
  return words;
}

function LevelCard({ listed }: { readonly listed: ListedLevel }) {
  const { document } = listed;
  const lastOutcome = useLastOutcome(listed);
  const placements = Object.keys(document.placements).length;
  return (
    <li className="w-[380px] overflow-hidden rounded-lg border-[1.3px] border-ink bg-card hover:outline hover:outline-ink">
      <Link to={`/levels/${encodeURIComponent(listed.id)}`} className="block">
        <PlanPicture level={document} />
        <div className="border-t-[1.3px] border-ink px-3.5 py-2.5">
          <h2 className="text-[15px] font-bold">{document.name}</h2>
          <p className="text-xs text-soft">
            {document.size.width} × {document.size.height} u, {document.view === 'top' ? 'from above' : 'from the side'} ·{' '}
            {allKinds(document).length} kinds · {placements} placements
          </p>
          <p className="mt-1 text-xs">{lastOutcome}</p>
        </div>
      </Link>
    </li>
  );
}

/** The first page: all levels, and a way to bring one in. */
export function LevelsPage() {
  const [levels, setLevels] = useState<readonly ListedLevel[] | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [attempt, setAttempt] = useState(0);
  const file = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();

  useEffect(() => {
    document.title = 'Levels · Dial';
    api.listLevels().then(setLevels, (error: unknown) => setTrouble(error instanceof Error ? error.message : String(error)));
  }, [attempt]);

  const importFile = async (chosen: File): Promise<void> => {
    try {
      const { id } = await api.importLevel(await chosen.text());
      await navigate(`/levels/${id}`);
    } catch (error) {
      const problems =
        error instanceof ApiError ? error.problems.slice(0, 5).map(({ path, message }) => `${path || 'file'}: ${message}`) : [];
      const reason = error instanceof Error ? error.message : String(error);
      setTrouble(`${chosen.name} was not imported. ${problems.length > 0 ? `${problems.join('; ')}. Nothing was changed.` : reason}`);
    }
  };

  return (
    <div className="flex min-h-full flex-col">
      <AppHeader />
      <main className="mx-auto w-full max-w-[1230px] px-6 py-6">
        <div className="mb-4 flex items-center gap-3">
          <h1 className="text-xl font-bold">Levels</h1>
          <Button className="ml-auto" onClick={() => file.current?.click()}>
            Import a level
          </Button>
          <input
            ref={file}
            type="file"
            accept=".json,application/json"
            aria-label="Level file"
            className="hidden"
            onChange={(event) => {
              const chosen = event.target.files?.[0];
              event.target.value = '';
              if (chosen !== undefined) void importFile(chosen);
            }}
          />
        </div>
        {trouble !== null && (
          <div className="mb-4">
            <Notice>
              <span className="flex-1">{trouble}</span>
              <Button
                onClick={() => {
                  setTrouble(null);
                  setAttempt(attempt + 1);
                }}
              >
                {levels === null ? 'Try again' : 'Dismiss'}
              </Button>
            </Notice>
          </div>
        )}
        {levels === null && trouble === null && <p className="text-soft">Fetching the levels …</p>}
        {levels?.length === 0 && <p className="text-soft">There are no levels yet. Import a level file to begin.</p>}
        <ul className="flex flex-wrap gap-5">
          {levels?.map((listed) => (
            <LevelCard key={listed.id} listed={listed} />
          ))}
        </ul>
      </main>
    </div>
  );
}
