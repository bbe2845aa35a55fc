import { clockTime, lineWords, placementName } from '@dial/core/formats';
import { kindOf, type Level } from '@dial/core/level';
import type { LedgerLine } from '@dial/core/session';
import { useState } from 'react';
import { benchActions, onlyPlacement } from '../state/bench.ts';
import { ledgerOf } from '../state/lines.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';

type Only = 'all' | 'refusals' | 'changes';

const MOST_SHOWN = 500;

function shows(line: LedgerLine, only: Only): boolean {
  if (only === 'refusals') return line.type === 'refused';
  return only === 'all' || line.type === 'changed' || line.type === 'rate';
}

/** The list of what happened and why. A line leads to its moment. */
export function Ledger({ level }: { readonly level: Level }) {
  const dispatch = useAppDispatch();
  const run = useAppSelector((state) => state.bench.simulated.now);
  const needleStep = useAppSelector((state) => state.bench.needleStep);
  const selection = useAppSelector((state) => state.bench.selection);
  const { kind, placements } = selection;
  const placement = onlyPlacement(selection);
  const [only, setOnly] = useState<Only>('all');
  const [ofSelected, setOfSelected] = useState(false);

  const concerns = (line: LedgerLine): boolean => {
    if (!ofSelected || kind === null) return true;
    if (!('placement' in line) || line.placement === null) return false;
    return placements.length === 0 ? level.placements[line.placement]?.kind === kind : placements.includes(line.placement);
  };
  const lines = run === null ? [] : ledgerOf(run).filter((line) => shows(line, only) && concerns(line));
  const selectedName = placement !== null ? placementName(level, placement) : kind !== null ? kindOf(level, kind)?.name : undefined;

  return (
    <section aria-label="Ledger" className="flex h-full flex-col rounded-sm border-[1.3px] border-ink bg-card">
      <div className="flex items-center gap-3 border-b border-line bg-panel px-3 py-1 text-xs">
        <label className="flex items-center gap-1.5">
          show
          <select
            className="rounded-sm border border-line bg-card px-1 py-px"
            value={only}
            onChange={(event) => setOnly(event.target.value as Only)}
          >
            <option value="all">everything</option>
            <option value="changes">changes of meters</option>
            <option value="refusals">refusals</option>
          </select>
        </label>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={ofSelected} onChange={(event) => setOfSelected(event.target.checked)} />
          only of {selectedName ?? 'what is selected'}
        </label>
        <span className="ml-auto text-soft">{lines.length === 1 ? '1 line' : `${String(lines.length)} lines`}</span>
      </div>
      <ol className="min-h-0 flex-1 overflow-y-auto py-1 text-[12.5px]" tabIndex={0} aria-label="lines">
        {lines.length === 0 && <li className="px-3 py-1 text-soft">Nothing of this sort happened in this run.</li>}
        {lines.slice(0, MOST_SHOWN).map((line) => (
          <li key={line.index}>
            <button
              type="button"
              className={`flex w-full cursor-pointer gap-3 px-3 py-px text-left hover:bg-panel ${line.step === needleStep ? 'bg-panel font-semibold' : ''}`}
              onClick={() => {
                dispatch(benchActions.needleMoved(line.step));
                const placement = 'placement' in line ? line.placement : null;
                const placed = placement === null ? undefined : level.placements[placement];
                if (placement !== null && placed !== undefined)
                  dispatch(benchActions.selected({ kind: placed.kind, placements: [placement] }));
              }}
            >
              <span className="w-14 shrink-0 text-right font-mono text-soft">{clockTime(line.seconds)}</span>
              <span className={line.type === 'refused' ? 'text-harm' : ''}>{lineWords(level, line)}</span>
            </button>
          </li>
        ))}
        {lines.length > MOST_SHOWN && (
          <li className="px-3 py-1 text-soft">The first {MOST_SHOWN} are shown; narrow the list to see the others.</li>
        )}
      </ol>
    </section>
  );
}
