import { useEffect, useState } from 'react';
import { Button } from '../controls/controls.tsx';
import { useAppStore } from '../state/store.ts';
import { TOUR } from './steps.ts';

/** The tour over the Bench: one act at a time, until it is left. */
export function Tour() {
  const store = useAppStore();
  const [at, setAt] = useState(0);
  const [left, setLeft] = useState(false);
  useEffect(() => {
    let current = 0;
    let begun = store.getState();
    return store.subscribe(() => {
      const now = store.getState();
      if (TOUR[current]?.done(now, begun) !== true) return;
      current += 1;
      begun = now;
      setAt(current);
    });
  }, [store]);
  const step = TOUR[at];
  if (left || step === undefined) return null;
  return (
    <section
      aria-label="Tour"
      className="fixed bottom-4 left-1/2 z-30 flex w-[min(620px,calc(100vw-24px))] -translate-x-1/2 items-start gap-3 rounded-md border-[1.3px] border-ink bg-card px-3.5 py-2.5"
    >
      <div className="flex-1" role="status">
        <p className="font-semibold">
          <span className="mr-2 font-mono text-soft">
            {at + 1} of {TOUR.length}
          </span>
          {step.act}
        </p>
        <p className="mt-0.5 text-xs">{step.why}</p>
      </div>
      <Button kind="quiet" className="py-0.5! text-xs" onClick={() => setLeft(true)}>
        Leave the tour
      </Button>
    </section>
  );
}
