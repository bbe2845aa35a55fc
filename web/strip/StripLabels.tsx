import { plainNumber } from '@dial/core/formats';
import { ROW_HEIGHT } from './drawing.ts';
import type { PlayerLane } from './lanes.ts';
import type { StripRow } from './rows.ts';

export function RowLabel({
  row,
  selected,
  unfolded,
  onSelect,
  onFold,
}: {
  readonly row: StripRow;
  readonly selected: boolean;
  readonly unfolded: boolean;
  readonly onSelect: () => void;
  readonly onFold: () => void;
}) {
  const many = row.placements.length;
  return (
    <div data-beyond="" className="flex items-center border-b border-line/60" style={{ height: ROW_HEIGHT }}>
      <button
        type="button"
        aria-pressed={selected}
        className={`min-w-0 flex-1 cursor-pointer truncate pr-1 text-right text-[11px] ${selected ? 'font-bold text-needle-text' : 'hover:underline'}`}
        onClick={onSelect}
        onContextMenu={onSelect}
      >
        {row.name}
      </button>
      {(many > 1 || unfolded) && (
        <button
          type="button"
          className="mr-1 cursor-pointer rounded-sm border border-line bg-card px-1 text-[10px] leading-[12px] hover:border-ink"
          aria-label={unfolded ? `fold ${row.name}` : `unfold ${row.name}, ${String(many)} things`}
          onClick={onFold}
        >
          {unfolded ? '–' : `×${String(many)}`}
        </button>
      )}
    </div>
  );
}

export function LaneLabel({ lane, step }: { readonly lane: PlayerLane; readonly step: number }) {
  const value = lane.lines[0]?.values[step];
  if (lane.steady) {
    return (
      <div className="truncate border-b border-line pr-2 pl-2.5 text-[10.5px] leading-[15px]" style={{ height: lane.height }}>
        <b>{lane.name}</b> <span className="font-mono">{plainNumber(value ?? 0, 1)}</span> throughout
      </div>
    );
  }
  return (
    <div className="flex items-center justify-between gap-1 border-b border-line pr-2 pl-2.5" style={{ height: lane.height }}>
      <b className="truncate text-xs">{lane.name}</b>
      {lane.bars.length === 0 && <span className="font-mono text-[12.5px]">{plainNumber(value ?? 0, 1)}</span>}
    </div>
  );
}
