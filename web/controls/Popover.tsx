import { useCallback, useEffect, useRef, type ReactNode } from 'react';
import { useAwayPress } from './useAwayPress.ts';

interface PopoverProps {
  readonly shown: boolean;
  readonly onShown: (shown: boolean) => void;
  readonly label: string;
  readonly role: 'dialog' | 'group';
  readonly className: string;
  /** The button that opens and closes it. */
  readonly button: ReactNode;
  readonly children: ReactNode;
}

/** A panel under its button; a press elsewhere or Esc closes it, and Esc leads back to the button. */
export function Popover({ shown, onShown, label, role, className, button, children }: PopoverProps) {
  const root = useRef<HTMLDivElement>(null);
  const close = useCallback(() => onShown(false), [onShown]);
  useAwayPress(root, shown, close);
  const leave = useCallback(() => {
    close();
    root.current?.querySelector('button')?.focus();
  }, [close]);
  useEffect(() => {
    if (!shown) return;
    // What had focus here may be gone: the button of a line that it deleted. The page has it then, and the key is still meant for the panel.
    const onKey = (event: KeyboardEvent): void => {
      if (event.key !== 'Escape' || document.activeElement !== document.body) return;
      event.stopPropagation();
      leave();
    };
    document.addEventListener('keydown', onKey, true);
    return () => document.removeEventListener('keydown', onKey, true);
  }, [shown, leave]);
  return (
    <div
      ref={root}
      className="relative"
      onKeyDown={(event) => {
        if (event.key !== 'Escape' || !shown) return;
        event.stopPropagation();
        leave();
      }}
    >
      {button}
      {shown && (
        <div role={role} aria-label={label} className={`absolute top-full mt-2 rounded-md border-[1.3px] border-ink bg-card ${className}`}>
          {children}
        </div>
      )}
    </div>
  );
}
