import { clockTime, plainNumber } from '@dial/core/formats';
import { allKinds, type Level, reasonOf } from '@dial/core/level';
import type { Outcome } from '@dial/core/session';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { api, type LevelEntry } from '../state/server/api.ts';
import { findingsWords } from './findingsWords.ts';
import { useAppSelector } from '../state/store.ts';
import { findingsIn, outcomeOnce } from '../state/simulation/simulation.ts';
import { Button } from '../controls/controls.tsx';
import { isChosenAtFirst } from '../controls/firstFocus.ts';
import { PlanPicture } from '../drawing/plan/PlanPicture.tsx';

function outcomeWords(outcome: Outcome): string {
  const { health = 0, score = 0 } = outcome.players[0]?.meters ?? {};
  const ending = outcome.ended.how === 'lost' ? 'lost' : `health ${plainNumber(health, 0)}`;
  return `${ending}, score ${plainNumber(score, 0)} after ${clockTime(outcome.ended.seconds, 0)}`;
}

/** The level as it is here, while edits of it are on their way to the server; null: it is on the server. */
const useUnsent = (id: string): Level | null =>
  useAppSelector(({ document: { open }, saving }) => (open?.id === id && saving.unsent.length > 0 ? open.level : null));

/** The level itself, to look at, fetched for its card, anew at each revision: until it has come, as it was before; a text says why it could not be. */
function useDocument({ id, revision }: LevelEntry, mine: Level | null): Level | string | null {
  const [document, setDocument] = useState<Level | string | null>(null);
  const isSent = mine === null;
  useEffect(() => {
    if (!isSent) return;
    let wanted = true;
    const show = (value: Level | string): void => {
      if (wanted) setDocument(value);
    };
    api.getLevel(id).then(
      (reply) => show(reply.document),
      (error: unknown) => show(reasonOf(error)),
    );
    return () => {
      wanted = false;
    };
  }, [id, revision, isSent]);
  return mine ?? document;
}

/** The last run of a level, simulated on the level as it is now. */
function useLastOutcome({ id, latestRun }: LevelEntry, document: Level | null): string {
  const [words, setWords] = useState(latestRun === null ? 'not played yet' : 'last run …');
  useEffect(() => {
    if (latestRun === null || document === null) return;
    let wanted = true;
    api
      .getRun(id, latestRun)
      .then(({ run }) => outcomeOnce(document, run))
      .then(
        (outcome) => {
          if (wanted) setWords(`last run: ${outcomeWords(outcome)}`);
        },
        (error: unknown) => {
          if (wanted) setWords(`last run: ${reasonOf(error)}`);
        },
      );
    return () => {
      wanted = false;
    };
  }, [id, document, latestRun]);
  return words;
}

const counted = (count: number, word: string): string => `${String(count)} ${word}${count === 1 ? '' : 's'}`;

/** How large a level is, how it is seen, and what is in it. */
function inNumbers(level: Level): string {
  const { width, height } = level.size;
  const seen = level.view === 'top' ? 'from above' : 'from the side';
  const placements = Object.keys(level.placements).length;
  return `${String(width)} × ${String(height)} u, ${seen} · ${counted(allKinds(level).length, 'kind')} · ${counted(placements, 'placement')}`;
}

/** How the targets stood at the last full check. */
function checkWords(targets: number, { check, revision }: LevelEntry): string {
  if (check === null) return `${counted(targets, 'target')}, not checked yet`;
  const { met, missed, undecided, notJudged } = check.outcome;
  const open = [
    ...(missed === 0 ? [] : [`${String(missed)} missed`]),
    ...(undecided === 0 ? [] : [`${String(undecided)} undecided`]),
    ...(notJudged === 0 ? [] : [`${String(notJudged)} not judged`]),
  ];
  const rest = open.length === 0 ? '' : `, ${open.join(', ')}`;
  const older = check.revision === revision ? '' : ` (of revision ${String(check.revision)})`;
  return `targets: ${String(met)} of ${String(met + missed + undecided + notJudged)} met${rest}${older}`;
}

/** How much is found in a level, and how grave it is; null: it is not known yet. */
function useFindingsOf(document: Level | null): string | null {
  const [words, setWords] = useState<string | null>(null);
  useEffect(() => {
    if (document === null) return;
    let wanted = true;
    findingsIn(document).then(
      (findings) => wanted && setWords(findingsWords(findings)),
      (error: unknown) => wanted && setWords(`findings: ${reasonOf(error)}`),
    );
    return () => {
      wanted = false;
    };
  }, [document]);
  return words;
}

interface LevelCardProps {
  readonly listed: LevelEntry;
  readonly onRename: (name: string) => void;
  /** With what reads the level as it is by then. */
  readonly onDuplicate: (read: () => Promise<Level>) => void;
  readonly onExport: (read: () => Promise<Level>) => void;
  readonly onDelete: () => void;
}

/** A level on the first page: its plan, what is in it, its last outcome, and what can be done with it. */
export function LevelCard({ listed, onRename, onDuplicate, onExport, onDelete }: LevelCardProps) {
  const { name: known } = listed;
  const unsent = useUnsent(listed.id);
  const fetched = useDocument(listed, unsent);
  const read = async (): Promise<Level> => unsent ?? (await api.getLevel(listed.id)).document;
  const document = typeof fetched === 'string' ? null : fetched;
  const lastOutcome = useLastOutcome(listed, document);
  const found = useFindingsOf(document);
  const [renaming, setRenaming] = useState(false);
  const finish = (name: string): void => {
    setRenaming(false);
    if (name.trim() !== '' && name.trim() !== known) onRename(name.trim());
  };
  return (
    <li className="w-[380px] overflow-hidden rounded-lg border-[1.3px] border-ink bg-card" aria-label={known}>
      <Link to={`/levels/${encodeURIComponent(listed.id)}`} className="block hover:outline hover:outline-ink" aria-label={`Open ${known}`}>
        {document === null ? <div className="h-48 bg-paper" /> : <PlanPicture level={document} />}
      </Link>
      <div className="border-t-[1.3px] border-ink px-3.5 pt-2.5 pb-2">
        {renaming ? (
          <input
            className="w-full rounded-sm border border-ink bg-paper px-1 text-[15px] font-bold"
            aria-label="Name of the level"
            maxLength={80}
            defaultValue={known}
            ref={isChosenAtFirst}
            onBlur={(event) => finish(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Enter') finish(event.currentTarget.value);
              else if (event.key === 'Escape') setRenaming(false);
            }}
          />
        ) : (
          <h2 className="text-[15px] font-bold">
            <Link to={`/levels/${encodeURIComponent(listed.id)}`} className="hover:underline">
              {known}
            </Link>
          </h2>
        )}
        <p className="text-xs text-soft">
          {typeof fetched === 'string' ? fetched : document === null ? 'Fetching the level …' : inNumbers(document)}
        </p>
        <p className="mt-1 text-xs">{lastOutcome}</p>
        {document !== null && Object.keys(document.targets).length > 0 && (
          <p className="text-xs">{checkWords(Object.keys(document.targets).length, listed)}</p>
        )}
        {found !== null && <p className="text-xs">{found}</p>}
        <div className="mt-2 flex gap-1.5 text-xs">
          <Button kind="quiet" onClick={() => setRenaming(true)}>
            Rename
          </Button>
          <Button kind="quiet" onClick={() => onDuplicate(read)}>
            Duplicate
          </Button>
          <Button kind="quiet" onClick={() => onExport(read)}>
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
