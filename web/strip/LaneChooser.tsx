import { movedBefore } from '@dial/core/level';
import { useState } from 'react';
import { Popover } from '../ui/Popover.tsx';
import { reordering, reorderTitle } from '../ui/reordering.ts';
import type { Lane } from '../ui/laneDrawing.ts';
import { arranged, type Arrangement } from './lanes.ts';

interface LaneChooserProps {
  readonly lanes: readonly Lane[];
  readonly arrangement: Arrangement;
  readonly onArrange: (arrangement: Arrangement) => void;
}

const toggled = (list: readonly string[], key: string): string[] =>
  list.includes(key) ? list.filter((one) => one !== key) : [...list, key];

/** Which lanes the Strip shows, in which order, and which of them are folded. */
export function LaneChooser({ lanes, arrangement, onArrange }: LaneChooserProps) {
  const [shown, setShown] = useState(false);
  const all = arranged(lanes, { ...arrangement, hidden: [], folded: [] });
  const ids = all.map(({ key }) => key);
  return (
    <Popover
      shown={shown}
      onShown={setShown}
      label="Lanes"
      role="dialog"
      className="left-1 z-30 w-[230px] p-2 text-xs"
      button={
        <button
          type="button"
          aria-expanded={shown}
          className="cursor-pointer rounded-sm border border-line bg-card px-1 text-[10.5px] leading-[14px] hover:border-ink"
          onClick={() => setShown(!shown)}
        >
          lanes
        </button>
      }
    >
      <ul className="max-h-56 overflow-y-auto">
        {all.map(({ key, name }) => (
          <li key={key} className="flex items-center gap-2 py-px">
            <label className="flex min-w-0 flex-1 cursor-pointer items-center gap-1.5">
              <input
                type="checkbox"
                checked={!arrangement.hidden.includes(key)}
                onChange={() => onArrange({ ...arrangement, hidden: toggled(arrangement.hidden, key) })}
              />
              <span className="truncate">{name}</span>
            </label>
            <button
              type="button"
              aria-pressed={arrangement.folded.includes(key)}
              className="cursor-pointer rounded-sm border border-line px-1 hover:border-ink aria-pressed:border-ink"
              onClick={() => onArrange({ ...arrangement, folded: toggled(arrangement.folded, key) })}
            >
              fold<span className="sr-only"> {name}</span>
            </button>
            <button
              type="button"
              title={reorderTitle('down')}
              className="cursor-grab rounded-sm border border-line px-1 hover:border-ink"
              {...reordering({
                type: 'application/x-dial-lane',
                ids,
                id: key,
                runs: 'down',
                onMove: (moved, before) => onArrange({ ...arrangement, order: movedBefore(ids, moved, before) }),
              })}
            >
              move<span className="sr-only"> {name}</span>
            </button>
          </li>
        ))}
      </ul>
    </Popover>
  );
}
