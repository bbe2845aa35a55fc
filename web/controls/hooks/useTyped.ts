import { useRef, useState, type ChangeEvent, type KeyboardEvent } from 'react';

/**
 * A field that is typed into: taken over with Enter or on leaving, left as it was with Escape. What is refused is not left
 * in it as if kept; `read` answers why.
 */
export function useTyped(text: string, read: (typed: string) => string | null) {
  const [typed, setTyped] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  /** Set while the field is left without taking over what was typed. */
  const leaving = useRef(false);
  const finish = (): void => {
    if (typed === null || leaving.current) return;
    setTyped(null);
    setRefusal(typed === text ? null : read(typed));
  };
  const leave = (field: HTMLElement): void => {
    setTyped(null);
    leaving.current = true;
    field.blur();
    leaving.current = false;
  };
  return {
    refusal,
    field: {
      value: typed ?? text,
      'aria-invalid': refusal !== null,
      onChange: ({ target }: ChangeEvent<HTMLInputElement>) => setTyped(target.value),
      onBlur: finish,
      onKeyDown: (event: KeyboardEvent<HTMLInputElement>) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key !== 'Escape' || typed === null) return;
        event.stopPropagation();
        leave(event.currentTarget);
      },
    },
  };
}
