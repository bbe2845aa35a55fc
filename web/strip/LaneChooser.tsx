import { movedBefore } from '@dial/core/level';
import { Check } from '../controls/Check.tsx';
import { Sortable, SortedEntry, sortHint } from '../controls/Sortable.tsx';
import type { Lane } from '../drawing/lanes/laneDrawing.ts';
import { AxisPopover } from './AxisPopover.tsx';
import { arranged, type Arrangement } from './lanes.ts';
import { Hint } from '../controls/Hint.tsx';

interface LaneChooserProps {
  readonly lanes: readonly Lane[];
  readonly arrangement: Arrangement;
  readonly onArrange: (arrangement: Arrangement) => void;
}

const toggled = (list: readonly string[], key: string): string[] =>
  list.includes(key) ? list.filter((one) => one !== key) : [...list, key];

/** Which lanes the Strip shows, in which order, and which of them are folded. */
export function LaneChooser({ lanes, arrangement, onArrange }: LaneChooserProps) {
  const all = arranged(lanes, { ...arrangement, hidden: [], folded: [] });
  const ids = all.map(({ key }) => key);
  return (
    <AxisPopover label="Lanes" text="lanes" width="w-[230px]">
      <Sortable
        ids={ids}
        runs="down"
        nameOf={(id) => all.find(({ key }) => key === id)?.name ?? id}
        onMove={(moved, before) => onArrange({ ...arrangement, order: movedBefore(ids, moved, before) })}
      >
        <ul className="max-h-56 overflow-y-auto">
          {all.map(({ key, name }) => (
            <SortedEntry key={key} id={key}>
              {({ entry, handle }) => (
                <li {...entry} className="flex items-center gap-2 py-px">
                  <label className="flex min-w-0 flex-1 cursor-pointer items-center gap-1.5">
                    <Check
                      checked={!arrangement.hidden.includes(key)}
                      onCheck={() => onArrange({ ...arrangement, hidden: toggled(arrangement.hidden, key) })}
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
                  <Hint says={sortHint('down')}>
                    <button type="button" className="cursor-grab rounded-sm border border-line px-1 hover:border-ink" {...handle}>
                      move<span className="sr-only"> {name}</span>
                    </button>
                  </Hint>
                </li>
              )}
            </SortedEntry>
          ))}
        </ul>
      </Sortable>
    </AxisPopover>
  );
}
