import { useEffect, type RefObject } from 'react';

/** Closes something that lies over the page when the pointer is pressed outside of it. */
export function useAwayPress(root: RefObject<HTMLElement | null>, shown: boolean, close: () => void): void {
  useEffect(() => {
    if (!shown) return;
    const away = (event: PointerEvent): void => {
      if (!(event.target instanceof Node) || root.current?.contains(event.target) !== true) close();
    };
    addEventListener('pointerdown', away);
    return () => removeEventListener('pointerdown', away);
  }, [root, shown, close]);
}
