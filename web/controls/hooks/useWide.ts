import { useSyncExternalStore } from 'react';

/** Whether the window is at least so many pixels wide. */
export function useWide(pixels: number): boolean {
  const query = `(min-width: ${String(pixels)}px)`;
  return useSyncExternalStore(
    (changed) => {
      const list = matchMedia(query);
      list.addEventListener('change', changed);
      return () => list.removeEventListener('change', changed);
    },
    () => matchMedia(query).matches,
  );
}
