import { blank, blankCase, fits, freeId, inOrder, movedBefore, named, newOrders, type Field } from '@dial/core/level';
import { useState } from 'react';
import { Button, Refused } from '../controls/controls.tsx';
import { Hint } from '../controls/Hint.tsx';
import { Sortable, SortedEntry, sortHint } from '../controls/Sortable.tsx';
import { Choice, Row, spaced, Ticks } from './fieldInputs.tsx';
import { ChoiceField, FlagField, ListField, NumberField, TextField, useRefusal, type FieldProps } from './leafFields.tsx';

/** Another of the same kind of value, for something that can be one of several. */
const optionName = (option: Field): string =>
  option.type === 'number' ? 'a number' : option.type === 'group' && 'points' in option.fields ? 'a curve' : 'a share of the limit';

/** A map: for ids of another map, which of them and how much each; else entries that can be added and removed. */
function MapInput({ field, value, label, level, onSet }: FieldProps<Field & { type: 'map' }>) {
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

function MapField(props: FieldProps<Field & { type: 'map' }>) {
  const { set, refused } = useRefusal(props.onSet);
  return (
    <>
      <MapInput {...props} onSet={set} />
      {refused}
    </>
  );
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
      <Refused why={nothing ? 'The level has nothing for this yet: make one first.' : null} />
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

/** A value that may be none. */
function MaybeField(props: FieldProps<Field & { type: 'maybe' }>) {
  const { field, value, label, level } = props;
  const { set, setRefusal, refused } = useRefusal(props.onSet);
  const make = (): void => {
    const made = blank(field.of, level);
    if (made === undefined) setRefusal('The level has nothing for this yet: make one first.');
    else set(made);
  };
  if (value === null) {
    return (
      <>
        <Row label={label} hint={field.description}>
          {(id) => (
            <button
              id={id}
              type="button"
              className="cursor-pointer rounded-sm border border-line bg-card px-1.5 py-0.5 hover:border-ink"
              onClick={make}
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
}

/** A value of one of several sorts, such as a number or a curve. */
function EitherField(props: FieldProps<Field & { type: 'either' }>) {
  const { field, value, label, level } = props;
  const { set, refused } = useRefusal(props.onSet);
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

/** One of several groups of fields, known by its type: a condition, an effect. */
function CasesField({ field, value, label, level, onSet }: FieldProps<Field & { type: 'cases' }>) {
  const { set, setRefusal, refused } = useRefusal(onSet);
  const type = (value as { readonly type?: string } | null)?.type ?? '';
  const group = field.cases[type];
  const choose = (next: string): void => {
    const made = blankCase(field, next, level, value);
    if (made === undefined) setRefusal(`The level has nothing for “${next}” yet: make it first.`);
    else set(made);
  };
  return (
    <>
      <Choice
        label={label}
        hint={group?.description ?? field.description}
        value={type}
        options={Object.keys(field.cases).map((one) => [one, one] as const)}
        onChoose={choose}
      />
      {refused}
      {group !== undefined && (
        <GroupFields key={type} field={group} value={value} level={level} onSet={(next) => set({ type, ...(next as object) })} />
      )}
    </>
  );
}

function GroupField({ field, value, label, level, onSet }: FieldProps<Field & { type: 'group' }>) {
  const { set, refused } = useRefusal(onSet);
  return (
    <fieldset className="mt-1.5 border-l-2 border-line pl-2">
      <legend className="text-[11px] font-bold text-soft">{label}</legend>
      <GroupFields field={field} value={value} level={level} onSet={set} />
      {refused}
    </fieldset>
  );
}

/** An editor for any field of the level, made from what its schema says of it. */
export function FieldEditor({ field, ...rest }: FieldProps) {
  switch (field.type) {
    case 'number':
      return <NumberField field={field} {...rest} />;
    case 'text':
      return <TextField field={field} {...rest} />;
    case 'choice':
    case 'reference':
      return <ChoiceField field={field} {...rest} />;
    case 'flag':
      return <FlagField field={field} {...rest} />;
    case 'maybe':
      return <MaybeField field={field} {...rest} />;
    case 'either':
      return <EitherField field={field} {...rest} />;
    case 'cases':
      return <CasesField field={field} {...rest} />;
    case 'group':
      return <GroupField field={field} {...rest} />;
    case 'list':
      return <ListField field={field} {...rest} />;
    case 'map':
      return <MapField field={field} {...rest} />;
    // A pair of numbers is a point of a curve, which has an editor of its own.
    case 'tuple':
      return null;
  }
}
