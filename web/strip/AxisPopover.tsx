import { useState, type ReactNode } from 'react';
import { Popover } from '../controls/Popover.tsx';

interface AxisPopoverProps {
  readonly label: string;
  readonly title?: string;
  /** What its small button on the axis says. */
  readonly text: string;
  readonly width: string;
  readonly children: ReactNode;
}

/** A panel under a small button at the left of the Strip's axis. */
export function AxisPopover({ label, title, text, width, children }: AxisPopoverProps) {
  const [shown, setShown] = useState(false);
  return (
    <Popover
      shown={shown}
      onShown={setShown}
      label={label}
      className={`p-2 text-xs ${width}`}
      button={
        <button
          type="button"
          title={title}
          className="cursor-pointer rounded-sm border border-line bg-card px-1 text-[10.5px] leading-[14px] hover:border-ink"
        >
          {text}
        </button>
      }
    >
      {children}
    </Popover>
  );
}
