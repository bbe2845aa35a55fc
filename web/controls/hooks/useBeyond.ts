import { useEffect, useState, type RefObject } from 'react';

/** How many children of a scrolled element begin beyond what is seen of it, to the right or below. */
export function useBeyond(scroller: RefObject<HTMLElement | null>, way: 'right' | 'below', changed: unknown): number {
  const [beyond, setBeyond] = useState(0);
  useEffect(() => {
    const view = scroller.current;
    if (view === null) return;
    const count = (): void => {
      const box = view.getBoundingClientRect();
      const hidden = [...view.querySelectorAll('[data-beyond]')].filter((child) => {
        const at = child.getBoundingClientRect();
        return way === 'right' ? at.right > box.right + 2 : at.bottom > box.bottom + 2;
      });
      setBeyond(hidden.length);
    };
    const observer = new ResizeObserver(count);
    observer.observe(view);
    view.addEventListener('scroll', count, { passive: true });
    count();
    return () => {
      observer.disconnect();
      view.removeEventListener('scroll', count);
    };
  }, [scroller, way, changed]);
  return beyond;
}
