import { ToggleGroup, Toolbar as Radix } from 'radix-ui';
import type { ComponentProps, ReactNode, Ref } from 'react';
import { Hint } from './Hint.tsx';

interface ToolbarProps {
  readonly label: string;
  readonly className: string;
  readonly children: ReactNode;
}

/** A row of tools: one stop for Tab, the arrow keys lead through it. */
export const Toolbar = ({ label, className, children }: ToolbarProps) => (
  <Radix.Root aria-label={label} className={className}>
    {children}
  </Radix.Root>
);

interface ToolsProps<Value extends string> {
  readonly label: string;
  readonly value: Value;
  readonly tools: readonly { readonly value: Value; readonly name: string; readonly says: string; readonly keys: string }[];
  readonly onChoose: (value: Value) => void;
}

/** Tools of which one is in the hand. Chosen again it stays so. */
export function Tools<Value extends string>({ label, value, tools, onChoose }: ToolsProps<Value>) {
  return (
    <Radix.ToggleGroup
      type="single"
      aria-label={label}
      className="flex gap-1"
      value={value}
      onValueChange={(chosen) => chosen !== '' && onChoose(chosen as Value)}
    >
      {tools.map((one) => (
        <Hint key={one.value} says={one.says} keys={one.keys}>
          <Radix.ToggleItem
            value={one.value}
            className="cursor-pointer rounded-sm border border-line bg-card px-2 py-0.5 font-semibold hover:border-ink aria-checked:border-ink aria-checked:bg-ink aria-checked:text-card"
          >
            {one.name}
          </Radix.ToggleItem>
        </Hint>
      ))}
    </Radix.ToggleGroup>
  );
}

interface PickBarProps extends ToolbarProps {
  readonly value: string;
  /** Told an empty word where what is picked is pressed again. */
  readonly onPick: (value: string) => void;
  readonly ref?: Ref<HTMLDivElement>;
}

/** A row of things of which one or none is picked; one stop for Tab, at the picked one. */
export const PickBar = ({ label, className, value, onPick, ref, children }: PickBarProps) => (
  <ToggleGroup.Root
    {...(ref === undefined ? {} : { ref })}
    type="single"
    role="toolbar"
    aria-label={label}
    loop={false}
    className={className}
    value={value}
    onValueChange={onPick}
  >
    {children}
  </ToggleGroup.Root>
);

export const Pick = (props: ComponentProps<typeof ToggleGroup.Item>) => <ToggleGroup.Item {...props} />;
