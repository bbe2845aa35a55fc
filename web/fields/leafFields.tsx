import { Refused } from '../controls/controls.tsx';
import { dialText, readTyped, refusedWords } from '@dial/core/formats';
import { named, type Field, type Level } from '@dial/core/level';
import { useState } from 'react';
import { questionAbout } from '../browser/asking.ts';
import { Check } from '../controls/Check.tsx';
import { CurveEditor } from './CurveEditor.tsx';
import { Choice, entriesOf, Row, Ticks, Typed } from './fieldInputs.tsx';

/** A field of the level with its value. */
export interface FieldProps<Of extends Field = Field> {
  readonly field: Of;
  readonly value: unknown;
  readonly label: string;
  readonly level: Level;
  /** Takes another value. Answers why it is refused, or null. */
  readonly onSet: (value: unknown) => string | null;
}

/** A refusal of the last value, and what notes it. */
export function useRefusal(onSet: FieldProps['onSet']) {
  const [refusal, setRefusal] = useState<string | null>(null);
  const set = (next: unknown): string | null => {
    const why = onSet(next);
    setRefusal(why);
    return why;
  };
  return { set, setRefusal, refused: <Refused why={refusal} /> };
}

export function NumberField({ field, value, label, level, onSet }: FieldProps<Field & { type: 'number' }>) {
  const number = typeof value === 'number' ? value : 0;
  return (
    <Typed
      label={label}
      hint={field.description}
      text={dialText(number)}
      unit={field.quantity.unit}
      read={(typed) => {
        const read = readTyped(typed, field.quantity, level.scale);
        if (!read.ok) return refusedWords(typed, read.why, number);
        return questionAbout(label, read.doubt) ?? onSet(read.value);
      }}
    />
  );
}

export function TextField({ field, value, label, level, onSet }: FieldProps<Field & { type: 'text' }>) {
  return (
    <Typed
      label={label}
      hint={field.description}
      text={typeof value === 'string' ? value : ''}
      suggestions={field.suggests === null ? [] : named(level, field.suggests).map(([word]) => word)}
      read={(typed) => onSet(typed.trim())}
    />
  );
}

/** One of a few words, or one of the entries of a map. */
export function ChoiceField({ field, value, label, level, onSet }: FieldProps<Field & { type: 'choice' | 'reference' }>) {
  const { set, refused } = useRefusal(onSet);
  const options = field.type === 'choice' ? field.options.map((one) => [one, one] as const) : entriesOf(level, field.to);
  return (
    <>
      <Choice label={label} hint={field.description} value={String(value)} options={options} onChoose={(next) => set(next)} />
      {refused}
    </>
  );
}

export function FlagField({ field, value, label, onSet }: FieldProps<Field & { type: 'flag' }>) {
  const { set, refused } = useRefusal(onSet);
  return (
    <>
      <Row label={label} hint={field.description}>
        {(id) => <Check id={id} checked={value === true} onCheck={set} />}
      </Row>
      {refused}
    </>
  );
}

/** A list: of words from a few, of ids, of tags, or a curve. */
function ListInput({ field, value, label, level, onSet }: FieldProps<Field & { type: 'list' }>) {
  const of = field.of;
  const list = Array.isArray(value) ? (value as unknown[]) : [];
  const words = list.filter((one): one is string => typeof one === 'string');
  if (of.type === 'choice') {
    const options = of.options.map((one) => [one, one] as const);
    return <Ticks label={label} hint={field.description} options={options} chosen={words} onSet={onSet} />;
  }
  if (of.type === 'reference') {
    return <Ticks label={label} hint={field.description} options={named(level, of.to)} chosen={words} onSet={onSet} />;
  }
  if (of.type === 'tuple')
    return <CurveEditor label={field.description === '' ? label : field.description} points={list as [number, number][]} onSet={onSet} />;
  if (of.type !== 'text') return null;
  return (
    <Typed
      label={label}
      hint={`${field.description} Separated by commas.`}
      text={words.join(', ')}
      suggestions={named(level, 'tags').map(([tag]) => tag)}
      read={(typed) =>
        onSet(
          typed
            .split(',')
            .map((word) => word.trim())
            .filter((word) => word !== ''),
        )
      }
    />
  );
}

export function ListField(props: FieldProps<Field & { type: 'list' }>) {
  const { set, refused } = useRefusal(props.onSet);
  return (
    <>
      <ListInput {...props} onSet={set} />
      {refused}
    </>
  );
}
