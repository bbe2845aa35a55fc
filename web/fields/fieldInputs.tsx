import { Refused } from '../controls/controls.tsx';
import { isBringable, named, nextId, type Level, type Refers } from '@dial/core/level';
import { useId, type ReactNode } from 'react';
import { Check } from '../controls/Check.tsx';
import { Select, type Option } from '../controls/Select.tsx';
import { useTyped } from '../controls/hooks/useTyped.ts';
import { Hint } from '../controls/Hint.tsx';

const inputClass = 'min-w-0 rounded-sm border border-line bg-card px-1.5 py-0.5 text-xs focus:border-ink aria-invalid:border-harm';

const LABEL_WIDTH = 'w-[92px]';

/** `startOffset` → `start offset`. */
export const spaced = (name: string): string => name.replaceAll(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);

export function Row({
  label,
  labelWidth = LABEL_WIDTH,
  hint,
  children,
}: {
  readonly label: string;
  readonly labelWidth?: string;
  readonly hint: string;
  readonly children: (id: string) => ReactNode;
}) {
  const id = useId();
  return (
    <Hint says={hint}>
      <div className="mt-1 flex items-center gap-2 text-xs">
        <label htmlFor={id} className={`shrink-0 ${labelWidth}`}>
          {label}
        </label>
        {children(id)}
      </div>
    </Hint>
  );
}

/** Something typed, taken over with Enter or on leaving; Escape leaves without. Why it is refused stands beneath. */
export function Typed({
  label,
  labelWidth = LABEL_WIDTH,
  hint,
  text,
  suggestions = [],
  unit,
  read,
}: {
  readonly label: string;
  readonly labelWidth?: string;
  readonly hint: string;
  readonly text: string;
  readonly suggestions?: readonly string[];
  readonly unit?: string;
  readonly read: (typed: string) => string | null;
}) {
  const { refusal, field } = useTyped(text, read);
  const list = useId();
  return (
    <>
      <Row label={label} labelWidth={labelWidth} hint={hint}>
        {(id) => (
          <>
            <input
              id={id}
              list={suggestions.length > 0 ? list : undefined}
              autoComplete="off"
              spellCheck={false}
              className={`${inputClass} ${unit === undefined ? 'flex-1' : 'w-[84px] text-right font-mono'}`}
              {...field}
            />
            {unit !== undefined && <span className="text-[11px] text-soft">{unit}</span>}
          </>
        )}
      </Row>
      {suggestions.length > 0 && (
        <datalist id={list}>
          {suggestions.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      )}
      <Refused why={refusal} />
    </>
  );
}

interface NameFieldProps {
  readonly label: string;
  readonly name: string;
  readonly most: number;
  readonly className?: string;
  /** Takes another name. Answers why it is refused, or null. */
  readonly onName: (name: string) => string | null;
}

/** A name, to be typed over. */
export function NameField({ label, name, most, className = '', onName }: NameFieldProps) {
  const { refusal, field } = useTyped(name, (typed) => {
    const given = typed.trim();
    if (given === '') return `A name is wanted here. It stays “${name}”.`;
    return given === name ? null : onName(given);
  });
  return (
    <span className="min-w-0 flex-1">
      <Hint says="Type another name">
        <input
          aria-label={label}
          maxLength={most}
          className={`w-full rounded-sm border border-transparent bg-transparent px-1 hover:border-line focus:border-ink aria-invalid:border-harm ${className}`}
          {...field}
        />
      </Hint>
      <Refused why={refusal} />
    </span>
  );
}

/** The entries of a map to choose from; where one more can come with choosing it, that last. */
export function entriesOf(level: Level, map: Refers): Option[] {
  return [...named(level, map), ...(isBringable(map) ? [[nextId(level, map), 'a new one'] as const] : [])];
}

interface ChoiceProps {
  readonly label: string;
  readonly hint: string;
  readonly value: string;
  readonly options: readonly (readonly [value: string, name: string])[];
  readonly onChoose: (value: string) => void;
}

export function Choice({ label, hint, value, options, onChoose }: ChoiceProps) {
  return (
    <Row label={label} hint={hint}>
      {(id) => <Select id={id} className="flex-1" value={value} options={options} onChoose={onChoose} />}
    </Row>
  );
}

/** Boxes to be ticked for each of some words or ids. */
export function Ticks({
  label,
  hint,
  options,
  chosen,
  onSet,
}: {
  readonly label: string;
  readonly hint: string;
  readonly options: readonly (readonly [string, string])[];
  readonly chosen: readonly string[];
  readonly onSet: (chosen: readonly string[]) => void;
}) {
  return (
    <Hint says={hint}>
      <fieldset className="mt-1 text-xs">
        <legend className="float-left w-[100px]">{label}</legend>
        {options.length === 0 && <span className="text-soft">none in this level yet</span>}
        {options.map(([value, name]) => (
          <label key={value} className="mr-2.5 inline-flex cursor-pointer items-center gap-1">
            <Check
              checked={chosen.includes(value)}
              onCheck={(checked) => onSet(checked ? [...chosen, value] : chosen.filter((one) => one !== value))}
            />
            {name}
          </label>
        ))}
      </fieldset>
    </Hint>
  );
}
