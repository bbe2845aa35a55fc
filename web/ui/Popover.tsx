import { useCallback, useRef, type ReactNode } from 'react';
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
  return (
    <div
      ref={root}
      className="relative"
      onKeyDown={(event) => {
        if (event.key !== 'Escape' || !shown) return;
        event.stopPropagation();
        close();
        root.current?.querySelector('button')?.focus();
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
