import { dialName, studyDials } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { Select, type Option } from '../../controls/Select.tsx';
import { dialKey, lookedAt, stretchAt, type QuestionKind, type Stretch } from './question.ts';

interface NumberInputProps {
  readonly label: string;
  readonly name: string;
  readonly value: number | null;
  readonly onValue: (value: number | null) => void;
}

/** A number that is typed; an empty field is none. */
export function NumberInput({ label, name, value, onValue }: NumberInputProps) {
  return (
    <label className="flex items-center gap-1">
      {name}
      <input
        type="number"
        step="any"
        aria-label={label}
        className="w-16 rounded-sm border border-line bg-card px-1 py-0.5 font-mono"
        defaultValue={value ?? ''}
        onChange={({ target: { valueAsNumber } }) => onValue(Number.isNaN(valueAsNumber) ? null : valueAsNumber)}
      />
    </label>
  );
}

interface DialChoiceProps {
  readonly level: Level;
  readonly label: string;
  readonly value: string;
  readonly onChoose: (paths: string) => void;
}

/** One dial of the level; one that it has no more is named by what is left of its name. */
export function DialChoice({ level, label, value, onChoose }: DialChoiceProps) {
  const options = studyDials(level).map(({ spec, name }) => [dialKey(spec), name] as const);
  return (
    <Select
      label={label}
      className="max-w-60 font-semibold"
      value={value}
      options={
        options.some(([one]) => one === value) ? options : [[value, `${dialName(level, { paths: value.split(' ') })}, gone`], ...options]
      }
      onChoose={onChoose}
    />
  );
}

export function Without({ what, onRemove }: { readonly what: string; readonly onRemove: () => void }) {
  return (
    <button type="button" className="cursor-pointer px-0.5 hover:text-harm" aria-label={`Without ${what}`} onClick={onRemove}>
      ×
    </button>
  );
}

/** How gladly a dial is moved beside others: the weight of its change. */
const WEIGHTS: readonly Option[] = [
  ['0.2', 'rather this one'],
  ['1', 'like the others'],
  ['5', 'rather not'],
];

const weighed = (weight: number): readonly Option[] =>
  WEIGHTS.some(([value]) => value === String(weight)) ? WEIGHTS : [...WEIGHTS, [String(weight), `weight ${String(weight)}`]];

interface DialRowProps {
  readonly level: Level;
  readonly nth: number;
  readonly dial: Stretch;
  /** What it is turned for: whether its values go in steps, and whether it may be wished to stay. */
  readonly kind: QuestionKind;
  readonly onDial: (dial: Stretch) => void;
  readonly onRemove: (() => void) | null;
}

export function DialRow({ level, nth, dial, kind, onDial, onRemove }: DialRowProps) {
  const key = dialKey(dial);
  const number = (name: 'from' | 'to' | 'step') => (
    <NumberInput
      label={`${name} of dial ${String(nth + 1)}`}
      name={name === 'step' ? 'by' : name}
      value={dial[name]}
      onValue={(value) => onDial({ ...dial, [name]: value ?? NaN })}
    />
  );
  return (
    <span className="flex items-center gap-1.5 rounded-sm border border-line bg-card px-1.5 py-0.5" key={key}>
      <DialChoice
        level={level}
        label={`Dial ${String(nth + 1)}`}
        value={key}
        onChoose={(paths) => {
          const chosen = stretchAt(level, paths.split(' '), lookedAt(kind));
          if (chosen !== null) onDial(chosen);
        }}
      />
      {number('from')}
      {number('to')}
      {kind !== 'seek' && number('step')}
      {kind === 'tune' && onRemove !== null && (
        <Select
          label={`How dial ${String(nth + 1)} moves`}
          hint="what it changes is held against it, beside the others"
          value={String(dial.weight)}
          options={weighed(dial.weight)}
          onChoose={(weight) => onDial({ ...dial, weight: Number(weight) })}
        />
      )}
      {onRemove !== null && <Without what={`dial ${String(nth + 1)}`} onRemove={onRemove} />}
    </span>
  );
}
