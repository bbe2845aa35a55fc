import { ContextMenu as Radix } from 'radix-ui';
import { useRef, useState, type ReactNode } from 'react';

/** Something that can be done with what was pressed, with the keys that do the same. */
export interface ContextItem {
  readonly name: string;
  readonly keys: string;
  readonly act: () => void;
}

interface ContextMenuProps {
  readonly label: string;
  /** What can be done with what was pressed; where that is nothing, no menu opens. */
  readonly items: (pressed: Element) => readonly ContextItem[];
  readonly className: string;
  /** Sizes that are set by hand, as custom properties. */
  readonly style?: Readonly<Record<`--${string}`, string>>;
  readonly children: ReactNode;
}

/** A menu of what can be done here: by the right button, the menu key, or a long touch. */
export function ContextMenu({ label, items, className, style, children }: ContextMenuProps) {
  const [shown, setShown] = useState<readonly ContextItem[]>([]);
  const chosen = useRef<(() => void) | null>(null);
  return (
    <Radix.Root modal={false}>
      <Radix.Trigger
        className={className}
        {...(style === undefined ? {} : { style })}
        // A field has the browser's own, for the clipboard.
        onContextMenuCapture={(event) => {
          if ((event.target as Element).closest('input, textarea') !== null) event.stopPropagation();
        }}
        onContextMenu={(event) => {
          const found = items(event.target as Element);
          setShown(found);
          // What keeps Radix from opening an empty one; the browser's own is of no use here.
          if (found.length === 0) event.preventDefault();
        }}
      >
        {children}
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          aria-label={label}
          collisionPadding={8}
          // What was chosen may lead the focus elsewhere: it is done once the focus has been given back.
          onCloseAutoFocus={() => {
            if (chosen.current !== null) queueMicrotask(chosen.current);
            chosen.current = null;
          }}
          className="z-50 min-w-44 rounded-md border-[1.3px] border-ink bg-card py-1 text-xs text-ink"
        >
          {shown.map(({ name, keys, act }) => (
            <Radix.Item
              key={name}
              className="flex cursor-pointer items-baseline justify-between gap-6 px-3 py-[3px] outline-none data-highlighted:bg-panel"
              onSelect={() => (chosen.current = act)}
            >
              {name}
              <kbd className="font-mono text-soft">{keys}</kbd>
            </Radix.Item>
          ))}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
