import { Slider as Radix } from 'radix-ui';

interface SliderProps {
  readonly label: string;
  /** A share, 0 to 1. */
  readonly value: number;
  readonly disabled: boolean;
  readonly onChange: (value: number) => void;
  readonly className: string;
}

/** A share without a unit, such as a volume; a value that is tuned has a `TapeDial`. */
export function Slider({ label, value, disabled, onChange, className }: SliderProps) {
  return (
    <Radix.Root
      className={`relative flex h-4 touch-none items-center data-disabled:opacity-40 ${className}`}
      max={1}
      step={0.05}
      value={[value]}
      disabled={disabled}
      onValueChange={([next = 0]) => onChange(next)}
    >
      <Radix.Track className="relative h-[3px] grow rounded-full bg-line">
        <Radix.Range className="absolute h-full rounded-full bg-ink" />
      </Radix.Track>
      <Radix.Thumb aria-label={label} className="block size-3 cursor-pointer rounded-full border border-ink bg-card" />
    </Radix.Root>
  );
}
