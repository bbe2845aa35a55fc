import type { ButtonHTMLAttributes, ReactNode } from 'react';
import { Hint, spokenKeys } from './Hint.tsx';

const look = {
  plain: 'border-ink bg-card text-ink hover:bg-paper',
  strong: 'border-ink bg-ink text-card hover:opacity-90',
  quiet: 'border-line bg-card text-ink hover:border-ink',
} as const;

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  readonly kind?: keyof typeof look;
  /** What it does, where its words do not say it all. */
  readonly hint?: string;
  /** The keys that do the same. */
  readonly keys?: string;
}

/** The look of a button, also for links that act like one. */
export const buttonClass = (kind: keyof typeof look = 'plain'): string =>
  `inline-flex items-center gap-1.5 rounded-md border-[1.3px] px-2.5 py-1 font-semibold whitespace-nowrap cursor-pointer disabled:opacity-40 disabled:cursor-default ${look[kind]}`;

export function Button({ kind = 'plain', className = '', hint, keys, ...rest }: ButtonProps) {
  const button = <button type="button" aria-keyshortcuts={spokenKeys(keys)} className={`${buttonClass(kind)} ${className}`} {...rest} />;
  if (hint === undefined && keys === undefined) return button;
  return (
    <Hint says={hint} keys={keys}>
      {button}
    </Hint>
  );
}

/** A word or two about a state. One that has a hint can be reached by keyboard, to read it. */
export function Pill({ children, hint }: { readonly children: ReactNode; readonly hint?: string }) {
  const look = 'rounded-full border border-line bg-card px-2 py-px text-xs whitespace-nowrap';
  if (hint === undefined) return <span className={look}>{children}</span>;
  return (
    <Hint says={hint}>
      <button type="button" className={look}>
        {children}
      </button>
    </Hint>
  );
}

/** A message that stays until what it speaks of is mended. */
export function Notice({ children }: { readonly children: ReactNode }) {
  return (
    <div role="alert" className="flex items-center gap-3 rounded-md border-[1.3px] border-harm bg-card px-3 py-2">
      {children}
    </div>
  );
}

/** Why something that was typed, chosen or done is refused, beneath it. */
export function Refused({ why, id }: { readonly why: string | null; readonly id?: string }) {
  return (
    why !== null && (
      <p id={id} role="alert" className="mt-0.5 text-[11.5px] font-normal text-harm">
        {why}
      </p>
    )
  );
}
