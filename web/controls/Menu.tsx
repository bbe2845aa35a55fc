import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';

interface MenuProps {
  readonly label: string;
  /** The button that opens it. */
  readonly button: ReactNode;
  readonly className?: string;
  /** Where it is opened from elsewhere too, by a key. */
  readonly open?: boolean;
  readonly onOpen?: (open: boolean) => void;
  readonly children: ReactNode;
}

/** A menu under its button: arrows, letters and Home lead through it, Esc leads back to the button. */
export function Menu({ label, button, className = '', open, onOpen, children }: MenuProps) {
  return (
    <DropdownMenu.Root modal={false} {...(open === undefined ? {} : { open })} {...(onOpen === undefined ? {} : { onOpenChange: onOpen })}>
      <DropdownMenu.Trigger asChild>{button}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          aria-label={label}
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className={`z-50 max-h-[var(--radix-dropdown-menu-content-available-height)] overflow-y-auto rounded-md border-[1.3px] border-ink bg-card py-1 text-ink ${className}`}
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

interface MenuItemProps {
  readonly onChoose: () => void;
  readonly children: ReactNode;
}

export function MenuItem({ onChoose, children }: MenuItemProps) {
  return (
    <DropdownMenu.Item
      className="flex w-full cursor-pointer items-baseline gap-2 px-3 py-[3px] text-left outline-none data-highlighted:bg-panel"
      onSelect={onChoose}
    >
      {children}
    </DropdownMenu.Item>
  );
}

export const MenuLine = () => <DropdownMenu.Separator className="my-1 h-px bg-line" />;
