import { Select as Radix } from 'radix-ui';
import { memo, useCallback, useLayoutEffect, useRef, useState } from 'react';
import { nonce } from '../browser/nonce.ts';
import { Hint } from './Hint.tsx';

/** One of the choices: its value, and what it is called. */
export type Option<Value extends string = string> = readonly [value: Value, name: string];

interface SelectProps<Value extends string> {
  readonly value: Value;
  readonly options: readonly Option<Value>[];
  readonly onChoose: (value: Value) => void;
  readonly id?: string;
  /** What it is called where no label stands beside it. */
  readonly label?: string;
  /** Said of it when it is pointed at. */
  readonly hint?: string;
  readonly className?: string;
}

/** What Radix takes for a value: it may not be empty. */
const keyOf = (value: string): string => `=${value}`;

const sameOptions = (a: readonly Option[], b: readonly Option[]): boolean =>
  a.length === b.length && a.every(([value, name], at) => value === b[at]?.[0] && name === b[at][1]);

/** A choice of one of several. What is chosen is shown also where it is none of them. */
export function Select<Value extends string>({ options, onChoose, ...rest }: SelectProps<Value>) {
  const latest = useRef(onChoose);
  useLayoutEffect(() => {
    latest.current = onChoose;
  });
  const [kept, setKept] = useState(options);
  if (kept !== options && !sameOptions(kept, options)) setKept(options);
  return <Chooser {...rest} options={kept} onChoose={useCallback((value: string) => latest.current(value as Value), [])} />;
}

/** The same, made anew only where it would look otherwise: what stands around it is made anew with each turn of a dial. */
const Chooser = memo(function Chooser({ value, options, onChoose, id, label, hint, className = '' }: SelectProps<string>) {
  const [open, setOpen] = useState(false);
  const shown = options.find(([one]) => one === value)?.[1] ?? value;
  return (
    <Radix.Root value={keyOf(value)} onValueChange={(key) => onChoose(key.slice(1))} open={open} onOpenChange={setOpen}>
      <Hint says={hint}>
        <Radix.Trigger
          id={id}
          aria-label={label}
          className={`inline-flex min-w-0 cursor-pointer items-center gap-1 rounded-sm border border-line bg-card px-1 py-0.5 text-left hover:border-ink ${className}`}
        >
          <span className="min-w-0 flex-1 truncate">
            <Radix.Value>{shown}</Radix.Value>
          </span>
          <Radix.Icon className="shrink-0 text-[9px]" aria-hidden="true">
            ▾
          </Radix.Icon>
        </Radix.Trigger>
      </Hint>
      {/* Made only when it is opened: a column of dials has many. */}
      {open && (
        <Radix.Portal>
          <Radix.Content
            position="popper"
            sideOffset={2}
            collisionPadding={8}
            className="z-50 max-h-[var(--radix-select-content-available-height)] min-w-[var(--radix-select-trigger-width)] overflow-hidden rounded-sm border-[1.3px] border-ink bg-card text-xs text-ink"
          >
            <Radix.Viewport nonce={nonce()}>
              {options.map(([one, name]) => (
                <Radix.Item
                  key={one}
                  value={keyOf(one)}
                  className="flex cursor-pointer items-center gap-2 px-2 py-[3px] outline-none select-none data-highlighted:bg-panel data-[state=checked]:font-semibold"
                >
                  <Radix.ItemText>{name}</Radix.ItemText>
                </Radix.Item>
              ))}
            </Radix.Viewport>
          </Radix.Content>
        </Radix.Portal>
      )}
    </Radix.Root>
  );
});
