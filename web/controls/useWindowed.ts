import { useCallback, useState, type RefObject, type UIEvent } from 'react';
import { useSize } from './useSize.ts';

/** Rows drawn beyond what is seen, so that scrolling shows no gap. */
const SPARE_ROWS = 8;

interface Windowed {
  /** The first row to draw and the one after the last. */
  readonly first: number;
  readonly last: number;
  readonly onScroll: (event: UIEvent<HTMLElement>) => void;
}

/** Which of many rows of one height are in view of a scrolled element. */
export function useWindowed(scroller: RefObject<HTMLElement | null>, rows: number, rowHeight: number): Windowed {
  const { height } = useSize(scroller);
  const [top, setTop] = useState(0);
  return {
    first: Math.max(0, Math.min(rows, Math.floor(top / rowHeight)) - SPARE_ROWS),
    last: Math.min(rows, Math.ceil((top + height) / rowHeight) + SPARE_ROWS),
    onScroll: useCallback((event) => setTop(event.currentTarget.scrollTop), []),
  };
}
