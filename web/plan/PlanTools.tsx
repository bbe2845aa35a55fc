import { memo, type KeyboardEvent } from 'react';
import type { Level } from '@dial/core/level';
import type { PlanTool } from '../state/slices/view.ts';
import { MOST_STAMPED } from '../state/document/stamping.ts';
import { Hint } from '../controls/Hint.tsx';
import { Toolbar, Tools } from '../controls/Toolbar.tsx';
import { TOOLS } from './tools/tools.ts';

const CHOICES = Object.entries(TOOLS).map(([value, { name, keys, says }]) => ({ value: value as PlanTool, name, keys, says }));

interface PlanToolsProps {
  readonly tool: PlanTool;
  /** The name of the chosen kind, if one is. */
  readonly kind: string | undefined;
  /** How many things are chosen, and how many way-points drawn so far. */
  readonly chosen: number;
  readonly drawn: number;
  readonly seenFrom: Level['view'];
  /** How far apart things are stamped. Units. */
  readonly gap: number;
  readonly onGap: (gap: number | null) => void;
  /** How many are stamped in a row or an area; null for as many as fit so far apart. */
  readonly count: number | null;
  readonly onCount: (count: number | null) => void;
  readonly onChoose: (tool: PlanTool) => void;
}

/** The next key is a command again. */
function leaveByEnter({ key, currentTarget }: KeyboardEvent<HTMLInputElement>): void {
  if (key === 'Enter' || key === 'Escape') currentTarget.blur();
}

/** What a press on the Plan does. */
export const PlanTools = memo(function PlanTools(props: PlanToolsProps) {
  const { tool, kind, chosen, drawn, seenFrom, gap, onGap, count, onCount, onChoose } = props;
  return (
    <Toolbar
      label="Plan tools"
      className="flex min-h-8 shrink-0 items-center gap-1 overflow-hidden border-b border-line bg-panel px-1 text-xs"
    >
      <Tools
        label="Tool"
        value={tool}
        tools={CHOICES.filter(({ value }) => value !== 'one-way' || seenFrom === 'side')}
        onChoose={onChoose}
      />
      <span role="status" className={`min-w-0 flex-1 truncate px-1.5 ${tool === 'select' ? 'text-soft' : ''}`}>
        {TOOLS[tool].hint?.({ name: kind, chosen, drawn }) ?? TOOLS[tool].says}
      </span>
      {tool === 'place' && kind !== undefined && (
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
});
