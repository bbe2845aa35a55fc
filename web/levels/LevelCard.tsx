import { clockTime, fileName, levelText, plainNumber } from '@dial/core/formats';
import { allKinds } from '@dial/core/level';
import type { Outcome } from '@dial/core/session';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { api, type ListedLevel } from '../state/api.ts';
import { outcomeOnce } from '../state/simulation.ts';
import { Button } from '../ui/controls.tsx';
import { download } from '../ui/download.ts';
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
      .then(({ run }) => outcomeOnce(document, run))
      .then(
        (outcome) => {
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

interface LevelCardProps {
  readonly listed: ListedLevel;
  readonly onRename: (name: string) => void;
  readonly onDuplicate: () => void;
  readonly onDelete: () => void;
}

/** A level on the first page: its plan, what is in it, its last outcome, and what can be done with it. */
export function LevelCard({ listed, onRename, onDuplicate, onDelete }: LevelCardProps) {
  const { document } = listed;
  const lastOutcome = useLastOutcome(listed);
  const [renaming, setRenaming] = useState(false);
  const placements = Object.keys(document.placements).length;
  const finish = (name: string): void => {
    setRenaming(false);
    if (name.trim() !== '' && name.trim() !== document.name) onRename(name.trim());
  };
  return (
    <li className="w-[380px] overflow-hidden rounded-lg border-[1.3px] border-ink bg-card" aria-label={document.name}>
      <Link
        to={`/levels/${encodeURIComponent(listed.id)}`}
        className="block hover:outline hover:outline-ink"
        aria-label={`Open ${document.name}`}
      >
        <PlanPicture level={document} />
      </Link>
      <div className="border-t-[1.3px] border-ink px-3.5 pt-2.5 pb-2">
        {renaming ? (
          <input
            className="w-full rounded-sm border border-ink bg-paper px-1 text-[15px] font-bold"
            aria-label="Name of the level"
            maxLength={120}
            defaultValue={document.name}
            ref={(field) => field?.select()}
            onBlur={(event) => finish(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Enter') finish(event.currentTarget.value);
              else if (event.key === 'Escape') setRenaming(false);
            }}
          />
        ) : (
          <h2 className="text-[15px] font-bold">
            <Link to={`/levels/${encodeURIComponent(listed.id)}`} className="hover:underline">
              {document.name}
            </Link>
          </h2>
        )}
        <p className="text-xs text-soft">
          {document.size.width} × {document.size.height} u, {document.view === 'top' ? 'from above' : 'from the side'} ·{' '}
          {allKinds(document).length} kinds · {placements} placements
        </p>
        <p className="mt-1 text-xs">{lastOutcome}</p>
        <div className="mt-2 flex gap-1.5 text-xs">
          <Button kind="quiet" onClick={() => setRenaming(true)}>
            Rename
          </Button>
          <Button kind="quiet" onClick={onDuplicate}>
            Duplicate
          </Button>
          <Button kind="quiet" onClick={() => download(fileName(document.name, 'json'), levelText(document), 'application/json')}>
            Export
          </Button>
          <Button kind="quiet" className="ml-auto" onClick={onDelete}>
            Delete
          </Button>
        </div>
      </div>
    </li>
  );
}
