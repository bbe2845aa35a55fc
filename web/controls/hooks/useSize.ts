import { useLayoutEffect, useState, type RefObject } from 'react';

/** The size of an element in CSS pixels, kept true as it changes. */
export function useSize(element: RefObject<HTMLElement | null>): { readonly width: number; readonly height: number } {
  const [size, setSize] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const target = element.current;
    if (target === null) return;
    const read = (): void => setSize({ width: target.clientWidth, height: target.clientHeight });
    const observer = new ResizeObserver(read);
    observer.observe(target);
    read();
    return () => observer.disconnect();
  }, [element]);
  return size;
}
