import { useState, type ReactNode } from 'react';
import { Popover } from '../controls/Popover.tsx';
import { Hint } from '../controls/Hint.tsx';

interface AxisPopoverProps {
  readonly label: string;
  readonly hint?: string;
  /** What its small button on the axis says. */
  readonly text: string;
  readonly width: string;
  readonly children: ReactNode;
}

/** A panel under a small button at the left of the Strip's axis. */
export function AxisPopover({ label, hint, text, width, children }: AxisPopoverProps) {
  const [shown, setShown] = useState(false);
  return (
    <Popover
      shown={shown}
      onShown={setShown}
      label={label}
      className={`p-2 text-xs ${width}`}
      button={
        <Hint says={hint}>
          <button
            type="button"
            className="cursor-pointer rounded-sm border border-line bg-card px-1 text-[10.5px] leading-[14px] hover:border-ink"
          >
            {text}
          </button>
        </Hint>
      }
    >
      {children}
    </Popover>
  );
}
