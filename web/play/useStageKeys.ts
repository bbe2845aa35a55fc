import { useEffect, useRef, type RefObject } from 'react';
import { isTyping, watchKeys } from '../controls/keyboard.ts';

/**
 * Keys on Play, for as long as it is shown: each is told by its code. Once a control has been used with the pointer, the
 * keys are the player's again.
 */
export function useStageKeys(stage: RefObject<HTMLElement | null>, press: (code: string) => void): void {
  const latest = useRef(press);
  useEffect(() => {
    latest.current = press;
  });
  useEffect(() => {
    stage.current?.focus();
    const onKey = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey) return;
      // One step repeats while its key is held; the others are given once.
      if (event.repeat && event.code !== 'KeyN') return;
      latest.current(event.code);
    };
    let byPointer = false;
    const note = (event: Event): void => {
      byPointer = event.type === 'pointerdown';
    };
    const giveBack = (): void => {
      const { activeElement } = document;
      if (byPointer && activeElement instanceof HTMLElement && !isTyping(activeElement)) activeElement.blur();
    };
    // A list that was closed gives the focus back to its button.
    const giveBackChosen = ({ target }: Event): void => {
      const button = target instanceof HTMLElement ? target.closest<HTMLElement>('[aria-haspopup=menu], [role=combobox]') : null;
      if (byPointer && button?.getAttribute('aria-expanded') === 'false') button.blur();
    };
    const listeners = [
      ['keydown', note],
      ['pointerdown', note],
      ['click', giveBack],
      ['focusin', giveBackChosen],
      ['change', giveBack],
    ] as const;
    for (const [type, listener] of listeners) addEventListener(type, listener);
    const unwatch = watchKeys(onKey);
    return () => {
      unwatch();
      for (const [type, listener] of listeners) removeEventListener(type, listener);
    };
  }, [stage]);
}
