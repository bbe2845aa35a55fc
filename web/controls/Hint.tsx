import { Tooltip } from 'radix-ui';
import type { FocusEvent, ReactElement, ReactNode } from 'react';

interface HintProps {
  /** What is said; nothing is shown where this is empty and there are no keys. */
  readonly says?: ReactNode;
  /** The keys that do the same, as the page of keys writes them: `Ctrl+D`. */
  readonly keys?: string | undefined;
  readonly side?: 'top' | 'left';
  /** What it is said of: takes the focus itself, or holds what does. */
  readonly children: ReactElement;
}

/** A focus that came by pointer, or was given back by what has closed, asks for no hint. */
function onFocus(event: FocusEvent): void {
  if (!event.target.matches(':focus-visible')) event.preventDefault();
}

/** What something does, and by which key, when it is pointed at or reached by keyboard. What else it is given is its child's. */
export function Hint({ says = '', keys = '', side = 'top', children, ...rest }: HintProps) {
  return (
    <Tooltip.Root {...(says === '' && keys === '' ? { open: false } : {})}>
      <Tooltip.Trigger asChild {...rest} onFocus={onFocus}>
        {children}
      </Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          side={side}
          sideOffset={5}
          collisionPadding={8}
          className="pointer-events-none z-60 flex max-w-[280px] items-baseline gap-2 rounded-sm border border-ink bg-ink px-1.5 py-0.5 text-xs text-card"
        >
          {says !== '' && <span>{says}</span>}
          {keys !== '' && <kbd className="font-mono whitespace-nowrap">{keys}</kbd>}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}

/** Once a page: after the first hint the next ones come at once. */
export const Hints = ({ children }: { readonly children: ReactNode }) => (
  <Tooltip.Provider delayDuration={500} disableHoverableContent>
    {children}
  </Tooltip.Provider>
);

/** Keys as `aria-keyshortcuts` wants them. */
export const spokenKeys = (keys: string | undefined): string | undefined => keys?.replaceAll('Ctrl', 'Control');
