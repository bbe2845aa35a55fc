import { useState, type ReactNode } from 'react';

interface FoldedProps {
  readonly className: string;
  /** The `summary` that opens it. */
  readonly summary: ReactNode;
  readonly children: ReactNode;
}

/** What is folded away, and made only when it is opened: it would be made anew with each turn of a dial. */
export function Folded({ className, summary, children }: FoldedProps) {
  const [open, setOpen] = useState(false);
  return (
    <details className={className} onToggle={(event) => setOpen(event.currentTarget.open)}>
      {summary}
      {open && children}
    </details>
  );
}
