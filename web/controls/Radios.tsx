import { RadioGroup } from 'radix-ui';
import { Hint } from './Hint.tsx';
import type { Option } from './Select.tsx';

interface RadiosProps<Value extends string> {
  readonly label: string;
  readonly value: Value;
  /** With what each is called aloud, where what is shown does not say it. */
  readonly options: readonly (Option<Value> | readonly [value: Value, name: string, spoken: string])[];
  readonly onChoose: (value: Value) => void;
  /** Said of them when they are pointed at. */
  readonly hint?: string;
  readonly className?: string;
}

/** A few choices side by side, one of them chosen; arrows lead from one to the next. */
export function Radios<Value extends string>({ label, value, options, onChoose, hint, className = '' }: RadiosProps<Value>) {
  return (
    <Hint says={hint}>
      <RadioGroup.Root
        aria-label={label}
        orientation="horizontal"
        className="flex items-center gap-1"
        value={value}
        onValueChange={(chosen) => onChoose(chosen as Value)}
      >
        <span aria-hidden="true" className="mr-1 text-soft">
          {label}
        </span>
        {options.map(([one, name, spoken]) => (
          <RadioGroup.Item
            key={one}
            value={one}
            aria-label={spoken}
            className={`cursor-pointer rounded-sm border border-line px-1.5 data-[state=checked]:border-ink data-[state=checked]:bg-card data-[state=checked]:font-semibold ${className}`}
          >
            {name}
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
    </Hint>
  );
}
