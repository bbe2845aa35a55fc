import { Checkbox } from 'radix-ui';

interface CheckProps {
  readonly checked: boolean;
  readonly onCheck: (checked: boolean) => void;
  readonly id?: string;
  /** What it is called where no label stands beside it. */
  readonly label?: string;
  readonly disabled?: boolean;
}

/** A box that is ticked or not. */
export function Check({ checked, onCheck, id, label, disabled }: CheckProps) {
  return (
    <Checkbox.Root
      id={id}
      aria-label={label}
      checked={checked}
      disabled={disabled ?? false}
      onCheckedChange={(now) => onCheck(now === true)}
      className="inline-flex size-[13px] shrink-0 cursor-pointer items-center justify-center rounded-[2px] border border-ink bg-card disabled:cursor-default disabled:opacity-40 data-[state=checked]:bg-ink"
    >
      <Checkbox.Indicator className="text-[10px] leading-none font-bold text-card">✓</Checkbox.Indicator>
    </Checkbox.Root>
  );
}
