import { useCallback, useRef, useState } from 'react';

/**
 * Lets one act be under way at a time: a second press while the first is not done does nothing. Answers whether one is, and
 * the function that begins one; an act is a function, so that what is pressed twice is not begun twice.
 */
export function useOnce(): readonly [busy: boolean, once: (act: () => Promise<unknown>) => void] {
  const [busy, setBusy] = useState(false);
  const under = useRef(false);
  const once = useCallback((act: () => Promise<unknown>): void => {
    if (under.current) return;
    under.current = true;
    setBusy(true);
    void act().finally(() => {
      under.current = false;
      setBusy(false);
    });
  }, []);
  return [busy, once];
}

/**
 * The same for acts on one of many: while one of a name is under way another press of it does nothing, and others go on.
 */
export function useOnceEach(): (name: string, act: () => Promise<unknown>) => void {
  const under = useRef(new Set<string>());
  return useCallback((name, act) => {
    if (under.current.has(name)) return;
    under.current.add(name);
    void act().finally(() => under.current.delete(name));
  }, []);
}
