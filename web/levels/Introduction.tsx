import { useState } from 'react';
import { lasting, remember } from '../browser/storage.ts';
import { Button } from '../controls/controls.tsx';

/** Whether it was said that one knows what Dial is for. */
const INTRODUCED = 'dial.introduced';

/** What Dial is for, in two lines, until it is said that one knows. `onTour` is null where the level of the tour is gone. */
export function Introduction({ onTour }: { readonly onTour: (() => void) | null }) {
  const [introduced, setIntroduced] = useState(() => lasting.get(INTRODUCED) !== null);
  if (introduced) return null;
  return (
    <section
      aria-label="What Dial is for"
      className="mb-4 flex flex-wrap items-center gap-3 rounded-md border-[1.3px] border-ink bg-card px-3.5 py-2.5"
    >
      <p className="min-w-[300px] flex-1">
        Dial is for tuning what acts on a player by touch: pickups, hazards, pads, boosts, and how long each rests.
        <br />
        Turn a value and see the whole session change, with the reason for each thing that happened in it.
      </p>
      {onTour !== null && (
        <Button kind="strong" onClick={onTour}>
          Take the tour
        </Button>
      )}
      <Button
        kind="quiet"
        onClick={() => {
          remember(INTRODUCED, 'true');
          setIntroduced(true);
        }}
      >
        Do not show this again
      </Button>
    </section>
  );
}
