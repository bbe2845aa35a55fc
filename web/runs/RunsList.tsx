import { clockTime, fileName, outcomesBeside, outcomesCsv, partingWords } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { useState } from 'react';
import { Link } from 'react-router';
import { Check } from '../controls/Check.tsx';
import type { OpenLevel } from '../state/slices/document.ts';
import type { RunEntry } from '../state/server/api.ts';
import { useRunsQuery } from '../state/server/lists.ts';
import { Button, buttonClass, Refused } from '../controls/controls.tsx';
import { download } from '../controls/download.ts';
import { NameField } from '../fields/fieldInputs.tsx';
import { FileButton } from '../controls/FileButton.tsx';
import { FitPersona } from './FitPersona.tsx';
import { ShownByRuns } from './ShownByRuns.tsx';
import { DashSample, RunsChart } from './RunsChart.tsx';
import { useCompared, useRuns, type ComparedRun, type Runs } from './useRuns.ts';

/** More lines than this over each other cannot be told apart. */
const MOST_COMPARED = 6;

const cellClass = 'border-b border-line/60 px-2 py-1';

function OutcomesTable({ level, runs }: { readonly level: Level; readonly runs: readonly ComparedRun[] }) {
  const beside = outcomesBeside(runs.map(({ shown }) => ({ level, outcome: shown.outcome })));
  return (
    <section aria-label="Outcomes" className="mt-3">
      <h2 className="flex items-center gap-2 text-xs font-bold">
        Outcomes
        <Button
          kind="quiet"
          className="px-1.5! py-0!"
          onClick={() =>
            download(
              fileName(`${level.name} runs`, 'csv'),
              outcomesCsv(runs.map(({ name, shown }) => ({ name, level, outcome: shown.outcome }))),
              'text/csv',
            )
          }
        >
          Export CSV
        </Button>
      </h2>
      <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Table of outcomes">
        <table className="mt-1 text-xs">
          <thead>
            <tr>
              <th className={`${cellClass} text-left text-soft`}>outcome</th>
              {runs.map(({ id, name }, index) => (
                <th key={id} className={`${cellClass} max-w-[190px] text-right`}>
                  <span className="flex items-center justify-end gap-1.5">
                    <DashSample index={index} /> <span className="truncate">{name}</span>
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {beside.map(({ name, cells }) => {
              const other = cells.some((cell) => cell?.text !== cells[0]?.text);
              return (
                <tr key={name} className={other ? 'font-semibold' : 'text-soft'}>
                  <td className={cellClass}>{name}</td>
                  {cells.map((cell, index) => (
                    <td key={index} className={`${cellClass} text-right font-mono`}>
                      {cell?.text ?? '—'}
                    </td>
                  ))}
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </section>
  );
}

interface RunRowProps {
  /** Where the level is. */
  readonly at: string;
  readonly run: RunEntry;
  /** The run with what came of it, where it is compared. */
  readonly shown: ComparedRun | undefined;
  readonly ticked: boolean;
  /** No more can be compared. */
  readonly full: boolean;
  readonly onTick: (ticked: boolean) => void;
  readonly does: Pick<Runs, 'change' | 'remove' | 'exportRun'>;
}

function RunRow({ at, run, shown, ticked, full, onTick, does: { change, remove, exportRun } }: RunRowProps) {
  const branched = shown?.run.branched;
  return (
    <tr aria-label={run.name}>
      <td className={cellClass}>
        <Check label={`Compare ${run.name}`} checked={ticked} disabled={!ticked && full} onCheck={onTick} />
      </td>
      <td className={cellClass}>
        <button
          type="button"
          aria-label={`Star ${run.name}`}
          aria-pressed={run.starred}
          className={`cursor-pointer rounded-sm border px-1.5 ${run.starred ? 'border-ink bg-ink text-card' : 'border-line bg-card text-soft hover:border-ink'}`}
          onClick={() => change(run, { starred: !run.starred })}
        >
          ★
        </button>
      </td>
      <td className={cellClass}>
        <NameField
          label={`Name of ${run.name}`}
          name={run.name}
          most={80}
          className="max-w-[300px] font-semibold"
          onName={(name) => {
            change(run, { name });
            return null;
          }}
        />
        {branched != null && (
          <span className="block pl-[5px] text-soft">
            taken over from “{branched.name}” at {clockTime(branched.step / (shown?.run.rate ?? 60))}
          </span>
        )}
        {shown?.shown.partsAtSeconds != null && (
          <span className="block pl-[5px] text-soft">{partingWords(shown.shown.partsAtSeconds)}</span>
        )}
      </td>
      <td className={`${cellClass} text-right font-mono`}>{clockTime(run.seconds)}</td>
      <td className={`${cellClass} whitespace-nowrap text-soft`}>{new Date(run.createdAt).toLocaleString()}</td>
      <td className={cellClass}>
        <span className="flex justify-end gap-1.5">
          <Link to={`${at}?run=${run.id}`} className={`${buttonClass('quiet')} px-1.5! py-0!`}>
            Open
          </Link>
          <Link to={`${at}/report?run=${run.id}`} className={`${buttonClass('quiet')} px-1.5! py-0!`}>
            Report
          </Link>
          <Button kind="quiet" className="px-1.5! py-0!" onClick={() => exportRun(run)}>
            Export
          </Button>
          <Button
            kind="quiet"
            className="px-1.5! py-0!"
            onClick={() => {
              onTick(false);
              remove(run);
            }}
          >
            Delete<span className="sr-only"> {run.name}</span>
          </Button>
        </span>
      </td>
    </tr>
  );
}

/** The runs that are kept of a level: named, starred, deleted, taken out and in as files, and compared. */
export function RunsList({ open, level }: { readonly open: OpenLevel; readonly level: Level }) {
  const { told, importRun, ...does } = useRuns(open.id);
  const { data: kept = [] } = useRunsQuery(open.id, { refetchOnMountOrArgChange: true });
  const [wishedIds, setIds] = useState<readonly string[] | null>(null);
  // The first two to begin with; they stay chosen when a star puts another first.
  if (wishedIds === null && kept.length > 0) setIds(kept.slice(0, 2).map(({ id }) => id));
  const ids = wishedIds ?? [];
  const chosen = ids.flatMap((id) => kept.find((run) => run.id === id) ?? []);
  const { runs, trouble } = useCompared(open.id, level, chosen);
  const at = `/levels/${encodeURIComponent(open.id)}`;
  return (
    <main className="min-h-0 flex-1 overflow-y-auto p-3" tabIndex={0} aria-label="Runs">
      <div className="flex items-center gap-2 text-xs">
        <span className="text-soft">Every play is kept here. Tick up to {MOST_COMPARED} runs to compare them.</span>
        <span className="ml-auto">
          <FileButton label="Run to import" accept=".json,application/json" onFile={(file) => importRun(file, level)}>
            Import a run
          </FileButton>
        </span>
      </div>
      {told !== null && (
        <p role="status" className="mt-1.5 flex items-center gap-2 rounded-sm border border-line bg-card px-2 py-1 text-xs">
          {told.text}
          {told.undo !== undefined && (
            <Button kind="quiet" className="px-1.5! py-0!" onClick={told.undo}>
              Undo
            </Button>
          )}
        </p>
      )}
      <Refused why={trouble} />
      {kept.length === 0 && (
        <p className="mt-3 text-soft">No runs yet. Play the level, draw a route for the walker (R on the Bench), or import a run.</p>
      )}
      {kept.length > 0 && (
        <table className="mt-2 w-full text-xs" aria-label="Runs kept">
          <thead>
            <tr className="text-left text-soft">
              <th className={cellClass}>compare</th>
              <th className={cellClass}>star</th>
              <th className={cellClass}>name</th>
              <th className={`${cellClass} text-right`}>length</th>
              <th className={cellClass}>kept</th>
              <td className={cellClass} />
            </tr>
          </thead>
          <tbody>
            {kept.map((run) => (
              <RunRow
                key={run.id}
                at={at}
                run={run}
                shown={runs.find(({ id }) => id === run.id)}
                ticked={ids.includes(run.id)}
                full={chosen.length >= MOST_COMPARED}
                onTick={(ticked) => setIds(ticked ? [...ids, run.id] : ids.filter((id) => id !== run.id))}
                does={does}
              />
            ))}
          </tbody>
        </table>
      )}
      {runs.length > 0 && (
        <div className="mt-3">
          <RunsChart level={runs[0]?.shown.level ?? level} runs={runs} />
          <OutcomesTable level={runs[0]?.shown.level ?? level} runs={runs} />
          <FitPersona at={at} level={level} runs={runs} />
          <ShownByRuns level={level} runs={runs} />
        </div>
      )}
    </main>
  );
}
