import { axisTime, partingWords } from '@dial/core/formats';
import type { PointerEvent } from 'react';
import { Button } from '../controls/controls.tsx';
import { Hint } from '../controls/Hint.tsx';
import { tickSeconds, type TimeView } from '../drawing/lanes/laneDrawing.ts';
import { playbackActions } from '../state/slices/playback.ts';
import { useAppDispatch } from '../state/store.ts';
import type { Viewing } from './timeView.ts';

/** Room for the names of lanes and rows, left of what is drawn. Pixels. */
export const LABEL_WIDTH = 112;
const NEARER = 0.6;
/** Room for the buttons at the right of the axis, under which no label lies; with the one that shows the whole run. Pixels. */
const TOOLS_WIDTH = 80;
const MORE_TOOLS_WIDTH = 150;

/** The times over the lanes, but for so many pixels at the right. */
export function Times({ view, width, free }: { readonly view: TimeView; readonly width: number; readonly free: number }) {
  const span = view.to - view.from;
  const every = tickSeconds(span, width);
  const first = Math.ceil(view.from / every - 1e-6);
  const ticks = Array.from({ length: Math.max(0, Math.floor(view.to / every + 1e-6) - first + 1) }, (_, index) => (first + index) * every);
  return ticks
    .filter((at) => ((at - view.from) / span) * width < width - free)
    .map((at) => (
      <span
        key={at}
        className="absolute top-[2px] pl-1 font-mono text-[10.5px] text-soft"
        style={{ left: LABEL_WIDTH + ((at - view.from) / span) * width }}
      >
        {axisTime(at, every)}
      </span>
    ));
}

/** The times over the lanes; pressing and pulling on them moves the needle. */
export function Axis({ view, whole, width, rate }: Pick<Viewing, 'view' | 'whole'> & { readonly width: number; readonly rate: number }) {
  const dispatch = useAppDispatch();
  const span = view.to - view.from;
  const moveNeedle = (event: PointerEvent<HTMLDivElement>): void => {
    if (event.buttons !== 1) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const x = event.clientX - event.currentTarget.getBoundingClientRect().x - LABEL_WIDTH;
    dispatch(playbackActions.playingChanged(false));
    dispatch(playbackActions.needleMoved((view.from + (x / width) * span) * rate));
  };
  return (
    <div
      className="absolute inset-0 cursor-col-resize touch-none select-none"
      aria-hidden="true"
      onPointerDown={moveNeedle}
      onPointerMove={moveNeedle}
    >
      <Times view={view} width={width} free={whole ? TOOLS_WIDTH : MORE_TOOLS_WIDTH} />
    </div>
  );
}

interface PartingProps {
  readonly seconds: number;
  readonly view: TimeView;
  readonly width: number;
  readonly rate: number;
}

/** Where the session is no longer the one that was recorded, since the level has changed. */
export function Parting({ seconds, view, width, rate }: PartingProps) {
  const dispatch = useAppDispatch();
  const share = (seconds - view.from) / (view.to - view.from);
  if (share < 0 || share > 1) return null;
  const right = share > 0.6;
  const at = LABEL_WIDTH + share * width;
  return (
    <Hint says="From here the session is not the one that was recorded: the level has changed since.">
      <button
        type="button"
        className={`absolute top-0 z-10 h-[17px] cursor-pointer bg-panel px-1 text-[10.5px] whitespace-nowrap hover:underline ${right ? '-translate-x-full border-r-2' : 'border-l-2'} border-ink`}
        style={{ left: at }}
        onClick={() => dispatch(playbackActions.needleMoved(seconds * rate))}
      >
        {partingWords(seconds)}
      </button>
    </Hint>
  );
}

/** What the view is zoomed with, shown while only a part is in view. */
export function ZoomTools({ viewing, about }: { readonly viewing: Viewing; readonly about: number }) {
  const quiet = 'px-1! py-0! text-[10.5px]! leading-[14px]';
  return (
    <span className="absolute top-px right-1 z-20 flex gap-1 bg-panel pl-1">
      <Button
        kind="quiet"
        className={quiet}
        aria-label="Nearer"
        hint="Ctrl + wheel, or + on the needle"
        onClick={() => viewing.zoom(NEARER, about)}
      >
        +
      </Button>
      <Button
        kind="quiet"
        className={quiet}
        aria-label="Further"
        hint="− on the needle"
        disabled={viewing.whole}
        onClick={() => viewing.zoom(1 / NEARER, about)}
      >
        −
      </Button>
      {!viewing.whole && (
        <Button kind="quiet" className={quiet} hint="0 on the needle" onClick={viewing.fit}>
          whole run
        </Button>
      )}
    </span>
  );
}
