import type { ButtonHTMLAttributes, ReactNode } from 'react';

const look = {
  plain: 'border-ink bg-card text-ink hover:bg-paper',
  strong: 'border-ink bg-ink text-card hover:opacity-90',
  quiet: 'border-line bg-card text-ink hover:border-ink',
} as const;

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  readonly kind?: keyof typeof look;
}

/** The look of a button, also for links that act like one. */
export const buttonClass = (kind: keyof typeof look = 'plain'): string =>
  `inline-flex items-center gap-1.5 rounded-md border-[1.3px] px-2.5 py-1 font-semibold whitespace-nowrap cursor-pointer disabled:opacity-40 disabled:cursor-default ${look[kind]}`;

export function Button({ kind = 'plain', className = '', ...rest }: ButtonProps) {
  return <button type="button" className={`${buttonClass(kind)} ${className}`} {...rest} />;
}

export function Pill({ children, title }: { readonly children: ReactNode; readonly title?: string }) {
  return (
    <span title={title} className="rounded-full border border-line bg-card px-2 py-px text-xs whitespace-nowrap">
      {children}
    </span>
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
