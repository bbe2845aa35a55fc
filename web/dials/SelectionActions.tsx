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
      <Button kind="quiet" title="Ctrl+D" onClick={() => duplicateSelection(store)}>
        Duplicate
      </Button>
      <Button kind="quiet" title="Delete" onClick={() => removeSelection(store)}>
        Delete
      </Button>
      {count > 1 && <span className="text-xs text-soft">{count} things</span>}
      {count > 1 && (
        <div className="flex w-full flex-wrap gap-2">
          <Button kind="quiet" title="All as far up as the leftmost (Shift+R)" onClick={() => lineUp(store, 'row', false)}>
            In a row
          </Button>
          <Button kind="quiet" title="All as far right as the lowest (Shift+C)" onClick={() => lineUp(store, 'column', false)}>
            In a column
          </Button>
          <Button kind="quiet" title="Evenly from left to right (Shift+X)" onClick={() => lineUp(store, 'row', true)}>
            Spread
          </Button>
          <Button kind="quiet" title="Evenly from bottom to top (Shift+Y)" onClick={() => lineUp(store, 'column', true)}>
            Spread up
          </Button>
        </div>
      )}
    </div>
  );
}
