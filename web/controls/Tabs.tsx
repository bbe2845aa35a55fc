import { Tabs as Radix } from 'radix-ui';
import { createContext, memo, use, type ReactNode } from 'react';
import { Hint } from './Hint.tsx';

const Choosing = createContext<(value: string) => void>(() => undefined);

interface TabsProps {
  readonly value: string;
  readonly onChoose: (value: string) => void;
  readonly label: string;
  readonly className: string;
  /** Sizes that are set by hand, as custom properties. */
  readonly style?: Readonly<Record<`--${string}`, string>>;
  readonly children: ReactNode;
}

/** Pages of which one is seen: a `TabList` chooses, each `TabPage` is made only while it is chosen. */
export function Tabs({ value, onChoose, label, className, style, children }: TabsProps) {
  return (
    <Choosing value={onChoose}>
      <Radix.Root
        role="group"
        aria-label={label}
        className={className}
        {...(style === undefined ? {} : { style })}
        value={value}
        onValueChange={onChoose}
      >
        {children}
      </Radix.Root>
    </Choosing>
  );
}

/** A page to choose, with the key that does the same, and the command that leads to it. */
export interface Tab {
  readonly value: string;
  readonly name: string;
  readonly keys?: string;
  readonly command?: string | undefined;
}

/** The names of the pages side by side; arrows lead from one to the next. */
export const TabList = memo(function TabList({ label, tabs }: { readonly label: string; readonly tabs: readonly Tab[] }) {
  const onChoose = use(Choosing);
  return (
    <Radix.List aria-label={label} className="flex shrink-0">
      {tabs.map(({ value, name, keys, command }) => (
        <Hint key={value} keys={keys}>
          <Radix.Trigger
            value={value}
            data-command={command}
            // Pressed by a command, it leaves the focus where it is.
            onClick={() => onChoose(value)}
            className="-ml-px cursor-pointer border border-line px-1.5 py-0.5 font-semibold text-soft first:rounded-l-md last:rounded-r-md hover:border-ink aria-selected:z-[1] aria-selected:border-ink aria-selected:bg-card aria-selected:text-ink"
          >
            {name}
          </Radix.Trigger>
        </Hint>
      ))}
    </Radix.List>
  );
});

interface TabPageProps {
  readonly value: string;
  readonly className: string;

  readonly children: ReactNode;
}

export const TabPage = ({ value, className, children }: TabPageProps) => (
  <Radix.Content value={value} tabIndex={-1} className={className}>
    {children}
  </Radix.Content>
);
