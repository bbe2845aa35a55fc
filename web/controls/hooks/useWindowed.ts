import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, type RefObject } from 'react';

/** Rows drawn beyond what is seen, so that scrolling shows no gap. */
const SPARE_ROWS = 8;

interface Windowed {
  /** The first row to draw and the one after the last. */
  readonly first: number;
  readonly last: number;
  /** Scrolls a row into view, no further than it takes. */
  readonly show: (row: number) => void;
}

/** Which of many rows of one height are in view of a scrolled element. */
export function useWindowed(scroller: RefObject<HTMLElement | null>, rows: number, rowHeight: number): Windowed {
  // eslint-disable-next-line react-hooks/incompatible-library -- what it answers is read here, and passed on as numbers
  const list = useVirtualizer({
    count: rows,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: SPARE_ROWS,
  });
  const shown = list.getVirtualItems();
  return {
    first: shown[0]?.index ?? 0,
    last: (shown.at(-1)?.index ?? -1) + 1,
    show: useCallback((row) => list.scrollToIndex(row, { align: 'auto' }), [list]),
  };
}
