import { useState } from 'react';
import { Button } from '../ui/controls.tsx';
import { OPERATIONS, type Operation } from './block.ts';

interface BlockToolsProps {
  readonly count: number;
  readonly onApply: (operation: Operation, by: number) => void;
  readonly onFillDown: () => void;
  readonly onForget: () => void;
}

/** What can be done to all numbers of a block at once. */
export function BlockTools({ count, onApply, onFillDown, onForget }: BlockToolsProps) {
  const [operation, setOperation] = useState<Operation>('multiply by');
  const [typed, setTyped] = useState('');
  const by = Number(typed.trim().replace(',', '.').replace('−', '-'));
  const sound = typed.trim() !== '' && Number.isFinite(by);
  return (
    <form
      aria-label="Chosen numbers"
      className="flex flex-wrap items-center gap-1.5 pt-1.5 text-xs"
      onSubmit={(event) => {
        event.preventDefault();
        if (sound) onApply(operation, by);
      }}
    >
      <span className="w-full font-semibold">
        {count} {count === 1 ? 'number' : 'numbers'} chosen
      </span>
      <select
        aria-label="What to do with them"
        className="rounded-sm border border-line bg-card px-1 py-0.5"
        value={operation}
        onChange={(event) => setOperation(event.target.value as Operation)}
      >
        {OPERATIONS.map((one) => (
          <option key={one}>{one}</option>
        ))}
      </select>
      <input
        aria-label="By"
        inputMode="decimal"
        className="w-16 rounded-sm border border-line bg-card px-1.5 py-0.5 text-right font-mono"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
      />
      <Button kind="quiet" type="submit" className="py-0!" disabled={!sound || count === 0}>
        Apply
      </Button>
      <Button kind="quiet" className="py-0!" title="The first row's numbers into the rows below it (Ctrl+D)" onClick={onFillDown}>
        Fill down
      </Button>
      <Button kind="quiet" className="py-0!" title="Numbers that differ follow their kind again (Delete)" onClick={onForget}>
        Back to kind
      </Button>
    </form>
  );
}
