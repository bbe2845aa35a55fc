import { dialText, readTyped, refusedWords } from '@dial/core/formats';
import { blank, blankCase, fits, freeId, inOrder, movedBefore, named, newOrders, type Field, type Level } from '@dial/core/level';
import { useState } from 'react';
import { Check } from '../controls/Check.tsx';
import { questionAbout } from '../browser/asking.ts';
import { Button } from '../controls/controls.tsx';
import { CurveEditor } from './CurveEditor.tsx';
import { Choice, entriesOf, Refused, Row, spaced, Ticks, Typed } from './fieldInputs.tsx';
import { Sortable, SortedEntry, sortHint } from '../controls/Sortable.tsx';
import { Hint } from '../controls/Hint.tsx';

/** A field of the level with its value. */
export interface FieldProps<Of extends Field = Field> {
  readonly field: Of;
  readonly value: unknown;
  readonly label: string;
  readonly level: Level;
  /** Takes another value. Answers why it is refused, or null. */
  readonly onSet: (value: unknown) => string | null;
}

function NumberField({ field, value, label, level, onSet }: FieldProps<Field & { type: 'number' }>) {
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

/** A map: for ids of another map, which of them and how much each; else entries that can be added and removed. */
function MapField({ field, value, label, level, onSet }: FieldProps<Field & { type: 'map' }>) {
  const map = (value ?? {}) as Readonly<Record<string, unknown>>;
  if (field.keys !== null) {
    const names = named(level, field.keys);
    const chosen = Object.keys(map);
    return (
      <>
        <Ticks
          label={label}
          hint={field.description}
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
  return <EntriesField field={field} value={map} label={label} level={level} onSet={onSet} />;
}

interface Entry {
  readonly order?: number;
  readonly type?: string;
}

/** Entries that can be added, removed, and put in another order where they have one. */
function EntriesField({ field, value, label, level, onSet }: FieldProps<Field & { type: 'map' }>) {
  const map = value as Readonly<Record<string, Entry>>;
  const orderOf = (id: string): number => map[id]?.order ?? 0;
  const entries = inOrder(Object.fromEntries(Object.entries(map).map(([id, one]) => [id, { one, order: orderOf(id) }])));
  const ids = entries.map(([id]) => id);
  const [nothing, setNothing] = useState(false);
  const add = (): void => {
    // One more of what has no order, such as shapes, begins as the last.
    const last = entries.at(-1)?.[1].one;
    const made = last !== undefined && last.order === undefined ? last : blank(field.of, level);
    const ordered = typeof made === 'object' && made !== null && 'order' in made;
    const order = Math.max(0, ...ids.map(orderOf)) + 1;
    setNothing(made === undefined);
    if (made !== undefined) onSet({ ...map, [freeId(map, 'one')]: ordered ? { ...made, order } : made });
  };
  const move = (id: string, before: string | null): void => {
    const orders = newOrders(movedBefore(ids, id, before), id, orderOf);
    onSet({ ...map, ...Object.fromEntries(orders.map(([one, order]) => [one, { ...map[one], order }])) });
  };
  // What has no order is known by its name.
  const nameOf = (id: string): string => {
    const one = map[id];
    return `${one?.order === undefined ? id : String(ids.indexOf(id) + 1)}${one?.type === undefined ? '' : ` ${one.type}`}`;
  };
  return (
    <fieldset className="mt-2">
      <legend className="text-[11px] font-bold text-soft">{label}</legend>
      <Sortable ids={ids} runs="down" nameOf={nameOf} onMove={move}>
        {entries.map(([id, { one }]) => {
          const name = nameOf(id);
          return (
            <SortedEntry key={id} id={id}>
              {({ entry, handle }) => (
                <div {...entry} className="mb-1.5 border-l-2 border-line pl-2">
                  <FieldEditor field={field.of} value={one} label={name} level={level} onSet={(next) => onSet({ ...map, [id]: next })} />
                  <span className="mt-1 flex gap-1.5">
                    <Button
                      kind="quiet"
                      className="text-xs"
                      onClick={() => onSet(Object.fromEntries(Object.entries(map).filter(([other]) => other !== id)))}
                    >
                      Delete {name}
                    </Button>
                    {one.order !== undefined && ids.length > 1 && (
                      <Button kind="quiet" className="text-xs" hint={sortHint('down')} {...handle}>
                        Move {name}
                      </Button>
                    )}
                  </span>
                </div>
              )}
            </SortedEntry>
          );
        })}
      </Sortable>
      <Button kind="quiet" className="mt-1 text-xs" onClick={add}>
        Add to {label}
      </Button>
      {nothing && <p role="alert">The level has nothing for this yet: make one first.</p>}
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
  const refused = <Refused why={refusal} />;
  switch (field.type) {
    case 'number':
      return <NumberField {...props} field={field} />;
    case 'text':
      return (
        <Typed
          label={label}
          hint={field.description}
          text={typeof value === 'string' ? value : ''}
          suggestions={field.suggests === null ? [] : named(level, field.suggests).map(([word]) => word)}
          read={(typed) => onSet(typed.trim())}
        />
      );
    case 'choice':
    case 'reference': {
      const options = field.type === 'choice' ? field.options.map((one) => [one, one] as const) : entriesOf(level, field.to);
      return (
        <>
          <Choice label={label} hint={field.description} value={String(value)} options={options} onChoose={(next) => set(next)} />
          {refused}
        </>
      );
    }
    case 'flag':
      return (
        <>
          <Row label={label} hint={field.description}>
            {(id) => <Check id={id} checked={value === true} onCheck={set} />}
          </Row>
          {refused}
        </>
      );
    case 'maybe':
      if (value === null) {
        return (
          <>
            <Row label={label} hint={field.description}>
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
          <Hint says={`No ${label}`}>
            <button
              type="button"
              aria-label={`No ${label}`}
              className="absolute top-0.5 right-0 cursor-pointer rounded-sm border border-line bg-card px-1.5 text-xs hover:border-ink"
              onClick={() => set(null)}
            >
              ×
            </button>
          </Hint>
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
            hint={field.description}
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
            hint={group?.description ?? field.description}
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
