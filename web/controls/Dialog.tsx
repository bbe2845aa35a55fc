import { Dialog as Radix } from 'radix-ui';
import { useState, type ReactNode } from 'react';

interface DialogProps {
  readonly label: string;
  readonly onClose: () => void;
  readonly className: string;
  readonly children: ReactNode;
}

/** What stands over the page until it is answered or left by Esc; what had the focus has it again. Keys in here go no further. */
export function Dialog({ label, onClose, className, children }: DialogProps) {
  const [before] = useState(() => document.activeElement);
  /** It has no button of its own to lead back to; what was done in it may have put the focus elsewhere. */
  const giveBack = (event: Event): void => {
    event.preventDefault();
    if (document.activeElement === document.body && before instanceof HTMLElement) before.focus();
  };
  return (
    <Radix.Root open onOpenChange={(open) => !open && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Radix.Content
          aria-describedby={undefined}
          className={`fixed left-1/2 z-50 -translate-x-1/2 rounded-md border-[1.3px] border-ink bg-card text-ink ${className}`}
          onKeyDown={(event) => event.stopPropagation()}
          onCloseAutoFocus={giveBack}
        >
          <Radix.Title className="sr-only">{label}</Radix.Title>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
