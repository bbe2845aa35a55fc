import { dialText, readTyped } from '@dial/core/formats';
import { blank, blankCase, fits, freeId, lastOrder, named, type Field, type Level } from '@dial/core/level';
import { useId, useState, type ReactNode } from 'react';
import { Button } from './controls.tsx';
import { CurveEditor } from './CurveEditor.tsx';

/** A field of the level with its value. */
export interface FieldProps<Of extends Field = Field> {
  readonly field: Of;
  readonly value: unknown;
  readonly label: string;
  readonly level: Level;
  /** Takes another value. Answers why it is refused, or null. */
  readonly onSet: (value: unknown) => string | null;
}

const inputClass = 'min-w-0 rounded-sm border border-line bg-card px-1.5 py-0.5 text-xs focus:border-ink aria-invalid:border-harm';

/** `startOffset` → `start offset`. */
export const spaced = (name: string): string => name.replaceAll(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);

function Row({ label, title, children }: { readonly label: string; readonly title: string; readonly children: (id: string) => ReactNode }) {
  const id = useId();
  return (
    <div className="mt-1 flex items-center gap-2 text-xs" title={title}>
      <label htmlFor={id} className="w-[92px] shrink-0">
        {label}
      </label>
      {children(id)}
    </div>
  );
}

/** Something typed, taken over with Enter or on leaving; why it is refused stands beneath. */
function Typed({
  label,
  title,
  text,
  suggestions = [],
  unit,
  read,
}: {
  readonly label: string;
  readonly title: string;
  readonly text: string;
  readonly suggestions?: readonly string[];
  readonly unit?: string;
  readonly read: (typed: string) => string | null;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const list = useId();
  const finish = (): void => {
    if (typed === null) return;
    setTyped(null);
    setRefusal(typed === text ? null : read(typed));
  };
  return (
    <>
      <Row label={label} title={title}>
        {(id) => (
          <>
            <input
              id={id}
              list={suggestions.length > 0 ? list : undefined}
              autoComplete="off"
              spellCheck={false}
              className={`${inputClass} ${unit === undefined ? 'flex-1' : 'w-[84px] text-right font-mono'}`}
              value={typed ?? text}
              aria-invalid={refusal !== null}
              onChange={(event) => setTyped(event.target.value)}
              onBlur={finish}
              onKeyDown={(event) => {
                if (event.key === 'Enter') finish();
                if (event.key === 'Escape' && typed !== null) {
                  event.stopPropagation();
                  setTyped(null);
                }
              }}
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
      {refusal !== null && (
        <p role="alert" className="mt-0.5 text-[11.5px] text-harm">
          {refusal}
        </p>
      )}
    </>
  );
}

function NumberField({ field, value, label, level, onSet }: FieldProps<Field & { type: 'number' }>) {
  const number = typeof value === 'number' ? value : 0;
  return (
    <Typed
      label={label}
      title={field.description}
      text={dialText(number)}
      unit={field.quantity.unit}
      read={(typed) => {
        const read = readTyped(typed, field.quantity, level.scale);
        return read.ok ? onSet(read.value) : `“${typed.trim()}” was refused: ${read.why}. It stays at ${dialText(number)}.`;
      }}
    />
  );
}

interface ChoiceProps {
  readonly label: string;
  readonly title: string;
  readonly value: string;
  readonly options: readonly (readonly [value: string, name: string])[];
  readonly onChoose: (value: string) => void;
}

function Choice({ label, title, value, options, onChoose }: ChoiceProps) {
  return (
    <Row label={label} title={title}>
      {(id) => (
        <select id={id} className={`${inputClass} flex-1 cursor-pointer`} value={value} onChange={(event) => onChoose(event.target.value)}>
          {!options.some(([one]) => one === value) && <option value={value}>{value}</option>}
          {options.map(([one, name]) => (
            <option key={one} value={one}>
              {name}
            </option>
          ))}
        </select>
      )}
    </Row>
  );
}

/** Boxes to be ticked for each of some words or ids. */
function Ticks({
  label,
  title,
  options,
  chosen,
  onSet,
}: {
  readonly label: string;
  readonly title: string;
  readonly options: readonly (readonly [string, string])[];
  readonly chosen: readonly string[];
  readonly onSet: (chosen: readonly string[]) => void;
}) {
  return (
    <fieldset className="mt-1 text-xs" title={title}>
      <legend className="float-left w-[100px]">{label}</legend>
      {options.length === 0 && <span className="text-soft">none in this level yet</span>}
      {options.map(([value, name]) => (
        <label key={value} className="mr-2.5 inline-flex cursor-pointer items-center gap-1">
          <input
            type="checkbox"
            checked={chosen.includes(value)}
            onChange={({ target }) => onSet(target.checked ? [...chosen, value] : chosen.filter((one) => one !== value))}
          />
          {name}
        </label>
      ))}
    </fieldset>
  );
}

/** Another of the same kind of value, for something that can be one of several. */
const optionName = (option: Field): string =>
  option.type === 'number' ? 'a number' : option.type === 'group' && 'points' in option.fields ? 'a curve' : 'a share of the limit';

/** A list: of words from a few, of ids, of tags, or a curve. */
function ListField({ field, value, label, level, onSet }: FieldProps<Field & { type: 'list' }>) {
  const of = field.of;
  const list = Array.isArray(value) ? (value as unknown[]) : [];
  const words = list.filter((one): one is string => typeof one === 'string');
  if (of.type === 'choice') {
    const options = of.options.map((one) => [one, one] as const);
    return <Ticks label={label} title={field.description} options={options} chosen={words} onSet={onSet} />;
  }
  if (of.type === 'reference') {
    return <Ticks label={label} title={field.description} options={named(level, of.to)} chosen={words} onSet={onSet} />;
  }
  if (of.type === 'tuple')
    return <CurveEditor label={field.description === '' ? label : field.description} points={list as [number, number][]} onSet={onSet} />;
  if (of.type !== 'text') return null;
  return (
    <Typed
      label={label}
      title={`${field.description} Separated by commas.`}
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

/** A map: for ids of another map, which of them and how much each; else entries that can be added and removed. */
function MapField({ field, value, label, level, onSet }: FieldProps<Field & { type: 'map' }>) {
  const map = (value ?? {}) as Readonly<Record<string, unknown>>;
  const without = (id: string): object => Object.fromEntries(Object.entries(map).filter(([one]) => one !== id));
  if (field.keys !== null) {
    const names = named(level, field.keys);
    const chosen = Object.keys(map);
    return (
      <>
        <Ticks
          label={label}
          title={field.description}
          options={names}
          chosen={chosen}
          onSet={(next) => onSet(Object.fromEntries(next.map((id) => [id, map[id] ?? 1])))}
        />
        {chosen.map((id) => (
          <FieldEditor
            key={id}
            field={field.of}
            value={map[id]}
            label={names.find(([one]) => one === id)?.[1] ?? id}
            level={level}
            onSet={(next) => onSet({ ...map, [id]: next })}
          />
        ))}
      </>
    );
  }
  const entries = Object.entries(map);
  const add = (): void => {
    const id = freeId(map, 'one');
    const order = lastOrder(map as Readonly<Record<string, { readonly order: number }>>);
    const made = blank(field.of, level);
    onSet({ ...map, [id]: typeof made === 'object' && 'order' in (made ?? {}) ? { ...made, order } : made });
  };
  return (
    <fieldset className="mt-2">
      <legend className="text-[11px] font-bold text-soft">{label}</legend>
      {entries.map(([id, one]) => (
        <div key={id} className="mb-1 border-l-2 border-line pl-2">
          <FieldEditor field={field.of} value={one} label={spaced(id)} level={level} onSet={(next) => onSet({ ...map, [id]: next })} />
          <Button kind="quiet" className="mt-1 text-xs" onClick={() => onSet(without(id))}>
            Delete {spaced(id)}
          </Button>
        </div>
      ))}
      <Button kind="quiet" className="mt-1 text-xs" onClick={add}>
        Add to {label}
      </Button>
    </fieldset>
  );
}

/** Fields of a group, but for the order number, which is arranged otherwise. */
export function GroupFields({
  field,
  value,
  level,
  onSet,
  besides = [],
}: Omit<FieldProps<Field & { type: 'group' }>, 'label'> & { readonly besides?: readonly string[] }) {
  const group = (value ?? {}) as Readonly<Record<string, unknown>>;
  return Object.entries(field.fields)
    .filter(([name]) => name !== 'order' && !besides.includes(name))
    .map(([name, one]) => (
      <FieldEditor
        key={name}
        field={one}
        value={group[name]}
        label={spaced(name)}
        level={level}
        onSet={(next) => onSet({ ...group, [name]: next })}
      />
    ));
}

/** An editor for any field of the level, made from what its schema says of it. */
export function FieldEditor(props: FieldProps) {
  const { field, value, label, level, onSet } = props;
  const [refusal, setRefusal] = useState<string | null>(null);
  const set = (next: unknown): string | null => {
    const why = onSet(next);
    setRefusal(why);
    return why;
  };
  const refused = refusal !== null && (
    <p role="alert" className="mt-0.5 text-[11.5px] text-harm">
      {refusal}
    </p>
  );
  switch (field.type) {
    case 'number':
      return <NumberField {...props} field={field} />;
    case 'text':
      return (
        <Typed
          label={label}
          title={field.description}
          text={typeof value === 'string' ? value : ''}
          suggestions={field.suggests === null ? [] : named(level, field.suggests).map(([word]) => word)}
          read={(typed) => onSet(typed.trim())}
        />
      );
    case 'choice':
    case 'reference': {
      const options = field.type === 'choice' ? field.options.map((one) => [one, one] as const) : named(level, field.to);
      return (
        <>
          <Choice label={label} title={field.description} value={String(value)} options={options} onChoose={(next) => set(next)} />
          {refused}
        </>
      );
    }
    case 'flag':
      return (
        <>
          <Row label={label} title={field.description}>
            {(id) => <input id={id} type="checkbox" checked={value === true} onChange={({ target }) => set(target.checked)} />}
          </Row>
          {refused}
        </>
      );
    case 'maybe':
      if (value === null) {
        return (
          <>
            <Row label={label} title={field.description}>
              {(id) => (
                <button
                  id={id}
                  type="button"
                  className="cursor-pointer rounded-sm border border-line bg-card px-1.5 py-0.5 hover:border-ink"
                  onClick={() => {
                    const made = blank(field.of, level);
                    if (made === undefined) setRefusal('The level has nothing for this yet: make one first.');
                    else set(made);
                  }}
                >
                  none · set
                </button>
              )}
            </Row>
            {refused}
          </>
        );
      }
      return (
        <div className="relative pr-7">
          <FieldEditor {...props} field={field.of} />
          <button
            type="button"
            aria-label={`No ${label}`}
            title={`No ${label}`}
            className="absolute top-0.5 right-0 cursor-pointer rounded-sm border border-line bg-card px-1.5 text-xs hover:border-ink"
            onClick={() => set(null)}
          >
            ×
          </button>
          {refused}
        </div>
      );
    case 'either': {
      const at = field.options.findIndex((option) => fits(option, value));
      const option = field.options[at];
      return (
        <>
          <Choice
            label={label}
            title={field.description}
            value={String(at)}
            options={field.options.map((one, index) => [String(index), optionName(one)] as const)}
            onChoose={(next) => set(blank(field.options[Number(next)] ?? field, level))}
          />
          {refused}
          {option !== undefined && <FieldEditor {...props} field={option} />}
        </>
      );
    }
    case 'cases': {
      const type = (value as { readonly type?: string } | null)?.type ?? '';
      const group = field.cases[type];
      return (
        <>
          <Choice
            label={label}
            title={group?.description ?? field.description}
            value={type}
            options={Object.keys(field.cases).map((one) => [one, one] as const)}
            onChoose={(next) => {
              const made = blankCase(field, next, level, value);
              if (made === undefined) setRefusal(`The level has nothing for “${next}” yet: make it first.`);
              else set(made);
            }}
          />
          {refused}
          {group !== undefined && (
            <GroupFields key={type} field={group} value={value} level={level} onSet={(next) => set({ type, ...(next as object) })} />
          )}
        </>
      );
    }
    case 'group':
      return (
        <fieldset className="mt-1.5 border-l-2 border-line pl-2">
          <legend className="text-[11px] font-bold text-soft">{label}</legend>
          <GroupFields field={field} value={value} level={level} onSet={set} />
          {refused}
        </fieldset>
      );
    case 'list':
      return (
        <>
          <ListField {...props} field={field} onSet={set} />
          {refused}
        </>
      );
    case 'map':
      return (
        <>
          <MapField {...props} field={field} onSet={set} />
          {refused}
        </>
      );
    case 'tuple':
      return null;
  }
}
