import { Button } from '../controls/controls.tsx';
import { duplicateSelection, lineUp, removeSelection } from '../state/document/authoring.ts';
import type { Selection } from '../state/slices/view.ts';
import { useAppStore } from '../state/store.ts';

/** What can be done with the chosen things. */
export function SelectionActions({ selection }: { readonly selection: Selection }) {
  const store = useAppStore();
  const count = selection.placements.length;
  return (
    <div className="mt-4 flex flex-wrap items-center gap-2">
      <Button kind="quiet" keys="Ctrl+D" onClick={() => duplicateSelection(store)}>
        Duplicate
      </Button>
      <Button kind="quiet" keys="Delete" onClick={() => removeSelection(store)}>
        Delete
      </Button>
      {count > 1 && <span className="text-xs text-soft">{count} things</span>}
      {count > 1 && (
        <div className="flex w-full flex-wrap gap-2">
          <Button kind="quiet" hint="All as far up as the leftmost" keys="Shift+R" onClick={() => lineUp(store, 'row', false)}>
            In a row
          </Button>
          <Button kind="quiet" hint="All as far right as the lowest" keys="Shift+C" onClick={() => lineUp(store, 'column', false)}>
            In a column
          </Button>
          <Button kind="quiet" hint="Evenly from left to right" keys="Shift+X" onClick={() => lineUp(store, 'row', true)}>
            Spread
          </Button>
          <Button kind="quiet" hint="Evenly from bottom to top" keys="Shift+Y" onClick={() => lineUp(store, 'column', true)}>
            Spread up
          </Button>
        </div>
      )}
    </div>
  );
}
