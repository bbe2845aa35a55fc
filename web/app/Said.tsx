import { useEffect, useState } from 'react';
import { Button } from '../controls/controls.tsx';
import { redo, undo } from '../state/document/edits.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';

/** How long it is said what was done. Milliseconds. */
const SHOWN_FOR = 6000;

/**
 * What was undone, redone or deleted just now, with the way back: it may lie elsewhere than what is seen. It is no layer of
 * its own: Esc is for what is worked on.
 */
export function Said() {
  const store = useAppStore();
  const said = useAppSelector((state) => state.document.said);
  const times = useAppSelector((state) => state.document.saidTimes);
  const [over, setOver] = useState(times);
  useEffect(() => {
    if (said === null) return;
    const timer = setTimeout(() => setOver(times), SHOWN_FOR);
    return () => clearTimeout(timer);
  }, [said, times]);
  return (
    <span role="status" aria-label="Done just now" className="absolute top-full right-3 z-30">
      {said !== null && times !== over && (
        <span className="mt-1 flex max-w-96 items-center gap-2 rounded-sm border border-ink bg-card px-2 py-1 text-xs">
          <span className="min-w-0 truncate">{said.words}</span>
          <Button kind="quiet" className="px-1.5! py-0!" onClick={() => (said.offers === 'redo' ? redo : undo)(store)}>
            {said.offers === 'redo' ? 'Do it again' : 'Bring it back'}
          </Button>
        </span>
      )}
    </span>
  );
}
