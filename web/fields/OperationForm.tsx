import { useState, type ReactNode } from 'react';
import { Select } from '../controls/Select.tsx';
import { Button } from '../controls/controls.tsx';

interface OperationFormProps<Operation extends string> {
  readonly label: string;
  readonly operations: readonly Operation[];
  readonly first: Operation;
  readonly can: boolean;
  readonly onApply: (operation: Operation, by: number) => void;
  readonly children?: ReactNode;
}

/** Does something with a number to many numbers at once. */
export function OperationForm<Operation extends string>({
  label,
  operations,
  first,
  can,
  onApply,
  children,
}: OperationFormProps<Operation>) {
  const [operation, setOperation] = useState<Operation>(first);
  const [typed, setTyped] = useState('');
  const by = Number(typed.trim().replace(',', '.').replace('−', '-'));
  const sound = typed.trim() !== '' && Number.isFinite(by);
  return (
    <form
      aria-label={label}
      className="flex flex-wrap items-center gap-1.5 text-xs"
      onSubmit={(event) => {
        event.preventDefault();
        if (sound && can) onApply(operation, by);
      }}
    >
      <Select label="What to do with them" value={operation} options={operations.map((one) => [one, one])} onChoose={setOperation} />
      <input
        aria-label="By"
        inputMode="decimal"
        className="w-16 rounded-sm border border-line bg-card px-1.5 py-0.5 text-right font-mono"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
      />
      <Button kind="quiet" type="submit" className="py-0!" disabled={!sound || !can}>
        Apply
      </Button>
      {children}
    </form>
  );
}
