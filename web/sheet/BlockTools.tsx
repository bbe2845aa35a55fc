import { OPERATIONS, type Operation } from '../state/document/operations.ts';
import { Button } from '../controls/controls.tsx';
import { OperationForm } from '../fields/OperationForm.tsx';

interface BlockToolsProps {
  readonly count: number;
  readonly onApply: (operation: Operation, by: number) => void;
  readonly onFillDown: () => void;
  readonly onForget: () => void;
}

/** What can be done to all numbers of a block at once. */
export function BlockTools({ count, onApply, onFillDown, onForget }: BlockToolsProps) {
  return (
    <div className="pt-1.5 text-xs">
      <p className="mb-1 font-semibold">
        {count} {count === 1 ? 'number' : 'numbers'} chosen
      </p>
      <OperationForm label="Chosen numbers" operations={OPERATIONS} first="multiply by" can={count > 0} onApply={onApply}>
        <Button
          kind="quiet"
          className="py-0!"
          data-command="fill down"
          hint="The first row's numbers into the rows below it"
          keys="Ctrl+D"
          onClick={onFillDown}
        >
          Fill down
        </Button>
        <Button
          kind="quiet"
          className="py-0!"
          data-command="back to kind"
          hint="Numbers that differ follow their kind again"
          keys="Delete"
          onClick={onForget}
        >
          Back to kind
        </Button>
      </OperationForm>
    </div>
  );
}
