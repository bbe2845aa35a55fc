import { Toast as Radix } from 'radix-ui';
import type { ReactNode } from 'react';
import { buttonClass } from './controls.tsx';

/** How long it is shown, unless it is pointed at. Milliseconds. */
const SHOWN_FOR = 6000;

interface ToastProps {
  readonly label: string;
  readonly open: boolean;
  readonly onClose: () => void;
  /** What can be done about it at once, with what it is called aloud. */
  readonly action: readonly [name: string, aloud: string, act: () => void];
  readonly children: ReactNode;
}

/** What was done just now, said for a moment where it covers nothing that is worked on, with the way back. */
export function Toast({ label, open, onClose, action: [name, aloud, act], children }: ToastProps) {
  return (
    <Radix.Provider duration={SHOWN_FOR} label={label}>
      <Radix.Root
        open={open}
        onOpenChange={(now) => !now && onClose()}
        aria-label={label}
        className="mt-1 flex max-w-96 items-center gap-2 rounded-sm border border-ink bg-card px-2 py-1 text-xs"
      >
        <Radix.Title className="min-w-0 truncate">{children}</Radix.Title>
        <Radix.Action altText={aloud} className={`${buttonClass('quiet')} px-1.5! py-0!`} onClick={act}>
          {name}
        </Radix.Action>
      </Radix.Root>
      <Radix.Viewport className="absolute top-full right-3 z-30" />
    </Radix.Provider>
  );
}
