import type { KeyboardEvent } from 'react';
import { kindOf, type Level } from '@dial/core/level';
import type { PlanTool } from '../state/slices/view.ts';
import { MOST_STAMPED } from '../state/document/stamping.ts';
import { Hint } from '../controls/Hint.tsx';
import { Toolbar, Tools } from '../controls/Toolbar.tsx';

const TOOLS = [
  { value: 'select', name: 'Select', keys: 'V', says: 'Choose things, drag them, or draw a box around some' },
  {
    value: 'place',
    name: 'Place',
    keys: 'B',
    says: 'Press on the Plan to place things of the chosen kind; drag for a row of them, with Shift for an area',
  },
  { value: 'solid', name: 'Solid', keys: 'S', says: 'Draw a box nobody walks through' },
  { value: 'one-way', name: 'One-way', keys: 'W', says: 'Draw a platform that only its top stops players at' },
  { value: 'point', name: 'Point', keys: 'O', says: 'Press on the Plan to place a point: for returns, checkpoints and goals' },
  { value: 'path', name: 'Path', keys: 'A', says: 'Press for each way-point; the chosen things follow the path' },
  { value: 'route', name: 'Route', keys: 'R', says: 'Press for each way-point; the plain walker follows the route, and its run is shown' },
  { value: 'measure', name: 'Measure', keys: 'M', says: 'Drag a line: how long it is, and how long it takes to walk' },
] as const;

interface PlanToolsProps {
  readonly tool: PlanTool;
  readonly kind: string | null;
  /** How many things are chosen, and how many way-points drawn so far. */
  readonly chosen: number;
  readonly drawn: number;
  readonly level: Level;
  /** How far apart things are stamped. Units. */
  readonly gap: number;
  readonly onGap: (gap: number | null) => void;
  /** How many are stamped in a row or an area; null for as many as fit so far apart. */
  readonly count: number | null;
  readonly onCount: (count: number | null) => void;
  readonly onChoose: (tool: PlanTool) => void;
}

interface Hinted extends Pick<PlanToolsProps, 'tool' | 'chosen' | 'drawn'> {
  readonly name: string | undefined;
}

/** What to do next with the tool in hand. */
function hint({ tool, chosen, drawn, name }: Hinted): string {
  if (tool === 'place') {
    return name === undefined ? 'Choose a kind in the Tray first' : `Press to place: ${name}; drag for a row, with Shift for an area`;
  }
  if (tool !== 'path' && tool !== 'route') return TOOLS.find(({ value }) => value === tool)?.says ?? '';
  if (drawn > 0) return `${String(drawn)} way-points; Enter or a double-click ends it, Esc drops it`;
  if (tool === 'route') return 'Press for each way-point of the walker';
  if (chosen === 0) return 'Press for each way-point; choose things first to have them follow it';
  return `Press for each way-point that ${chosen === 1 ? 'the chosen thing follows' : 'the chosen things follow'}`;
}

/** The next key is a command again. */
function leaveByEnter({ key, currentTarget }: KeyboardEvent<HTMLInputElement>): void {
  if (key === 'Enter' || key === 'Escape') currentTarget.blur();
}

/** What a press on the Plan does. */
export function PlanTools({ tool, kind, chosen, drawn, level, gap, onGap, count, onCount, onChoose }: PlanToolsProps) {
  const name = kind === null ? undefined : kindOf(level, kind)?.name;
  return (
    <Toolbar
      label="Plan tools"
      className="flex min-h-8 shrink-0 items-center gap-1 overflow-hidden border-b border-line bg-panel px-1 text-xs"
    >
      <Tools
        label="Tool"
        value={tool}
        tools={TOOLS.filter(({ value }) => value !== 'one-way' || level.view === 'side')}
        onChoose={onChoose}
      />
      <span role="status" className={`min-w-0 flex-1 truncate px-1.5 ${tool === 'select' ? 'text-soft' : ''}`}>
        {hint({ tool, chosen, drawn, name })}
      </span>
      {tool === 'place' && name !== undefined && (
        <>
          <Hint says="How many in a row or an area, spread evenly; empty for as many as fit">
            <label className="flex items-center gap-1">
              <input
                type="number"
                aria-label="How many"
                min="1"
                max={MOST_STAMPED}
                placeholder="any"
                className="w-12 rounded-sm border border-line bg-paper px-1 text-right font-mono"
                value={count ?? ''}
                onKeyDown={leaveByEnter}
                onChange={({ target: { valueAsNumber: typed } }) => onCount(typed >= 1 ? Math.min(MOST_STAMPED, Math.round(typed)) : null)}
              />
              of these,
            </label>
          </Hint>
          <label className={`flex items-center gap-1 ${count === null ? '' : 'text-soft'}`}>
            every
            <input
              type="number"
              aria-label="Units apart"
              min="0.1"
              step="0.25"
              disabled={count !== null}
              className="w-14 rounded-sm border border-line bg-paper px-1 text-right font-mono disabled:opacity-50"
              value={gap}
              onKeyDown={leaveByEnter}
              onChange={(event) => onGap(event.target.valueAsNumber >= 0.1 ? event.target.valueAsNumber : null)}
            />
            u
          </label>
        </>
      )}
    </Toolbar>
  );
}
