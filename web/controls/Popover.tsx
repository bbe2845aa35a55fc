import { Popover as Radix } from 'radix-ui';
import type { ReactNode } from 'react';

interface PopoverProps {
  readonly shown: boolean;
  readonly onShown: (shown: boolean) => void;
  readonly label: string;
  readonly className: string;
  /** The button that opens and closes it. */
  readonly button: ReactNode;
  readonly children: ReactNode;
}

/** A panel beside its button, kept inside the window; a press elsewhere or Esc closes it, and the button has the focus again. */
export function Popover({ shown, onShown, label, className, button, children }: PopoverProps) {
  return (
    <Radix.Root open={shown} onOpenChange={onShown}>
      <Radix.Trigger asChild>{button}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          aria-label={label}
          align="start"
          sideOffset={8}
          collisionPadding={8}
          className={`z-40 max-h-[var(--radix-popover-content-available-height)] overflow-y-auto rounded-md border-[1.3px] border-ink bg-card text-ink ${className}`}
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
