import { clockTime, decisionWords, lineWords, placementName } from '@dial/core/formats';
import { kindOf, type Level, type Persona } from '@dial/core/level';
import { playedBy } from '@dial/core/players';
import { isStopped, REASONS, type LedgerLine, type Reason } from '@dial/core/session';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Check } from '../controls/Check.tsx';
import { playbackActions } from '../state/slices/playback.ts';
import { viewActions, onlyPlacement } from '../state/slices/view.ts';
import { ledgerOf } from '../state/simulation/lines.ts';
import type { ShownRun } from '../state/simulation/protocol.ts';
import { walkerOn } from '../state/simulation/walker.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';
import { Select } from '../controls/Select.tsx';
import { SearchField } from '../controls/SearchField.tsx';
import { useWindowed } from '../controls/hooks/useWindowed.ts';
import { Chain } from './Chain.tsx';
import { WhyNot } from './WhyNot.tsx';

type Only = 'all' | 'decisions' | 'changes' | 'refusals' | 'movement' | 'phases';
const ONLY: Readonly<Record<Only, string>> = {
  all: 'everything',
  decisions: 'everything, with decisions',
  changes: 'changes of meters and items',
  refusals: 'refused, or to no effect',
  movement: 'changes of movement',
  phases: 'phases',
};
const ROW_HEIGHT = 20;

function shows(line: LedgerLine, only: Only): boolean {
  switch (only) {
    case 'all':
    case 'decisions':
      return true;
    case 'changes':
      return line.type === 'changed' || line.type === 'rate' || line.type === 'item';
    case 'refusals':
      return isStopped(line);
    case 'movement':
      return ['movement', 'launched', 'moved', 'returned', 'shield', 'held'].includes(line.type);
    case 'phases':
      return line.type === 'phase';
  }
}

/** A row of the list: a line of the ledger, or something a persona decided. */
type Row =
  | LedgerLine
  | { readonly index: number; readonly step: number; readonly seconds: number; readonly type: 'decided'; readonly words: string };

const isLine = (row: Row): row is LedgerLine => row.type !== 'decided';

/** The lines with what a persona decided between them, as far as it is wanted: by its words, the player, and the thing it is about. */
function withDecisions(
  lines: readonly LedgerLine[],
  run: ShownRun,
  personas: readonly Persona[],
  isWanted: (words: string, toucher: string, placement: string | null) => boolean,
): Row[] {
  const decided = (run.walk?.decisions ?? []).flatMap((decision, at): Row[] => {
    const persona = playedBy(personas, decision.player);
    const words = `${persona.name} ${decisionWords(run.level, persona, decision)}`;
    if (!isWanted(words, `player ${String(decision.player + 1)}`, decision.placement)) return [];
    return [{ index: -1 - at, step: decision.step, seconds: decision.step / run.rate, type: 'decided', words }];
  });
  return [...lines, ...decided].sort((a, b) => a.step - b.step);
}

interface LinesProps {
  readonly run: ShownRun;
  readonly lines: readonly Row[];
  readonly chosen: number | null;
  readonly onChoose: (line: Row) => void;
}

/** A long list of lines, of which only those in view are drawn. */
function Lines({ run, lines, chosen, onChoose }: LinesProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const { first, last, show } = useWindowed(scroller, lines.length, ROW_HEIGHT);
  const needleStep = useAppSelector((state) => state.playback.needleStep);
  // It opens at the needle's moment.
  const opened = useRef({ lines, needleStep });
  useEffect(() => {
    const at = opened.current.lines.findIndex(({ step }) => step >= opened.current.needleStep);
    if (scroller.current !== null) scroller.current.scrollTop = Math.max(0, at - 2) * ROW_HEIGHT;
  }, []);
  // The chosen line is kept in view when the list becomes another.
  useEffect(() => {
    const at = lines.findIndex(({ index }) => index === chosen);
    if (at >= 0) show(at);
  }, [lines, chosen, show]);
  return (
    <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto text-[12.5px]" tabIndex={0} role="group" aria-label="lines">
      {lines.length === 0 && <p className="px-3 py-1 text-soft">Nothing of this sort happened in this run.</p>}
      <ol style={{ height: lines.length * ROW_HEIGHT, paddingTop: first * ROW_HEIGHT }}>
        {lines.slice(first, last).map((line) => (
          <li key={line.index} aria-setsize={lines.length}>
            <button
              type="button"
              aria-pressed={line.index === chosen}
              style={{ height: ROW_HEIGHT }}
              className={`flex w-full cursor-pointer items-center gap-3 px-3 text-left hover:bg-panel ${line.index === chosen ? 'bg-panel font-semibold' : line.step === needleStep ? 'bg-panel/60' : ''}`}
              onClick={() => onChoose(line)}
            >
              <span className="w-14 shrink-0 text-right font-mono text-soft">{clockTime(line.seconds)}</span>
              {isLine(line) ? (
                <span className={`truncate ${isStopped(line) ? 'text-harm' : ''}`}>{lineWords(run.level, line)}</span>
              ) : (
                <span className="truncate italic">{line.words}</span>
              )}
            </button>
          </li>
        ))}
      </ol>
    </div>
  );
}

/** The list of what happened and why. A line leads to its moment, and to what brought it about. */
export function Ledger({ level }: { readonly level: Level }) {
  const dispatch = useAppDispatch();
  const run = useAppSelector((state) => state.simulated.shown.now);
  const selection = useAppSelector((state) => state.view.selection);
  const { kind, placements } = selection;
  const [wishedOnly, setOnly] = useState<Only>('all');
  const [reason, setReason] = useState<Reason | ''>('');
  const [player, setPlayer] = useState('');
  const [search, setSearch] = useState('');
  const [ofSelected, setOfSelected] = useState(false);
  const [chosen, setChosen] = useState<number | null>(null);

  const all = useMemo(() => (run === null ? [] : ledgerOf(run)), [run]);
  const drawn = useAppSelector((state) => state.simulated.run);
  const personas = useMemo(() => (run === null ? [] : (walkerOn(run.level, drawn)?.personas ?? [])), [run, drawn]);
  // Where nobody decides anything, there are no decisions to be shown.
  const only = wishedOnly === 'decisions' && personas.length === 0 ? 'all' : wishedOnly;
  const rows: readonly Row[] = useMemo(() => {
    const wanted = search.trim().toLowerCase();
    const concerns = (placement: string | null): boolean => {
      if (!ofSelected || kind === null) return true;
      if (placement === null) return false;
      return placements.length === 0 ? level.placements[placement]?.kind === kind : placements.includes(placement);
    };
    const isWanted = (words: string, toucher: string | null, placement: string | null): boolean =>
      (player === '' || toucher === player) && concerns(placement) && (wanted === '' || words.toLowerCase().includes(wanted));
    const lines = all.filter(
      (line) =>
        shows(line, only) &&
        (reason === '' || only !== 'refusals' || (isStopped(line) && line.reason === reason)) &&
        isWanted(
          wanted === '' ? '' : lineWords(level, line),
          'toucher' in line ? line.toucher : null,
          'placement' in line ? line.placement : null,
        ),
    );
    return only === 'decisions' && run !== null && personas.length > 0 ? withDecisions(lines, run, personas, isWanted) : lines;
  }, [all, only, reason, player, search, ofSelected, kind, placements, level, run, personas]);
  const reasons = useMemo(() => {
    const counts = new Map<Reason, number>();
    for (const line of all) if (isStopped(line)) counts.set(line.reason, (counts.get(line.reason) ?? 0) + 1);
    return REASONS.flatMap((one) => (counts.has(one) ? [[one, counts.get(one) ?? 0] as const] : []));
  }, [all]);

  const choose = (line: Row): void => {
    setChosen(line.index);
    dispatch(playbackActions.playingChanged(false));
    dispatch(playbackActions.needleMoved(line.step));
    const placement = 'placement' in line ? line.placement : null;
    const placed = placement === null ? undefined : level.placements[placement];
    if (placement !== null && placed !== undefined) dispatch(viewActions.selected({ kind: placed.kind, placements: [placement] }));
  };
  const placement = onlyPlacement(selection);
  const selectedName = placement !== null ? placementName(level, placement) : kind !== null ? kindOf(level, kind)?.name : undefined;
  const players = level.players.count;
  const line = all.find(({ index }) => index === chosen);
  return (
    <section aria-label="Ledger" className="flex h-full flex-col rounded-sm border-[1.3px] border-ink bg-card">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-panel px-3 py-1 text-xs">
        <label className="flex items-center gap-1.5">
          show
          <Select
            label="show"
            value={only}
            options={(Object.entries(ONLY) as [Only, string][]).filter(([one]) => one !== 'decisions' || personas.length > 0)}
            onChoose={setOnly}
          />
        </label>
        {only === 'refusals' && (
          <Select<Reason | ''>
            label="Reason"
            value={reason}
            options={[['', 'any reason'], ...reasons.map(([one, count]) => [one, `${one} (${String(count)})`] as const)]}
            onChoose={setReason}
          />
        )}
        <Select
          label="Who"
          value={player}
          options={[
            ['', 'anybody'],
            ...Array.from({ length: players }, (_, index) => `player ${String(index + 1)}`).map((one) => [one, one] as const),
          ]}
          onChoose={setPlayer}
        />
        <SearchField label="Find lines" hint="find lines" width="w-28" value={search} onChange={setSearch} />
        <label className="flex items-center gap-1.5">
          <Check checked={ofSelected} onCheck={setOfSelected} />
          only of {selectedName ?? 'what is selected'}
        </label>
        <span className="ml-auto text-soft">{rows.length === 1 ? '1 line' : `${String(rows.length)} lines`}</span>
      </div>
      <div className="flex min-h-0 flex-1">
        {run === null ? (
          <p className="flex-1 p-3 text-soft">No run yet.</p>
        ) : (
          <Lines run={run} lines={rows} chosen={chosen} onChoose={choose} />
        )}
        <div
          className="w-[320px] shrink-0 overflow-y-auto border-l border-line px-3 py-1.5 text-xs"
          tabIndex={0}
          role="group"
          aria-label="Causes"
        >
          {line !== undefined && run !== null && <Chain level={run.level} lines={all} line={line} onChoose={choose} />}
          {run !== null && placement !== null && <WhyNot run={run} placement={placement} />}
          {line === undefined && placement === null && (
            <p className="text-soft">Choose a line to see what brought it about; choose a thing to ask why it did nothing.</p>
          )}
        </div>
      </div>
    </section>
  );
}
