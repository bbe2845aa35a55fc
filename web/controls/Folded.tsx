import { Collapsible } from 'radix-ui';
import { useState, type HTMLAttributes, type ReactNode } from 'react';
import { z } from 'zod';
import { readText } from '../browser/reading.ts';
import { lasting, remember } from '../browser/storage.ts';
import { Hint } from './Hint.tsx';

const KEY = 'dial.folds';
/** The folds that were left open in this browser. */
const opened = new Set(readText(lasting.get(KEY), z.array(z.string().max(120)).max(500)) ?? []);

interface FoldedProps {
  /** What it is remembered by. */
  readonly name: string;
  readonly heading: ReactNode;
  readonly className: string;
  readonly headingClass: string;
  /** What the heading needs besides, such as to be put elsewhere in a list. */
  readonly headingProps?: HTMLAttributes<HTMLButtonElement>;
  readonly headingHint?: string;
  readonly children: ReactNode;
}

/** What is folded away, and made only when it is opened: it would be made anew with each turn of a dial. It stays as it was left. */
export function Folded({ name, heading, className, headingClass, headingProps, headingHint, children }: FoldedProps) {
  const [open, setOpen] = useState(opened.has(name));
  const change = (now: boolean): void => {
    if (now) opened.add(name);
    else opened.delete(name);
    remember(KEY, JSON.stringify([...opened].slice(-500)));
    setOpen(now);
  };
  return (
    <Collapsible.Root className={className} open={open} onOpenChange={change}>
      <Hint says={headingHint}>
        <Collapsible.Trigger className={`flex w-full cursor-pointer items-baseline gap-1.5 text-left ${headingClass}`} {...headingProps}>
          <span aria-hidden="true" className="text-[9px]">
            {open ? '▼' : '▶'}
          </span>
          {heading}
        </Collapsible.Trigger>
      </Hint>
      <Collapsible.Content>{open && children}</Collapsible.Content>
    </Collapsible.Root>
  );
}

/** The look of the heading over a section of a column. */
export const SECTION_HEADING = 'border-b border-line pb-0.5 text-[11px] font-bold text-soft';
