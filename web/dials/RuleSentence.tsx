import type { Part } from '@dial/core/formats';
import {
  blankCase,
  type Field,
  fieldAt,
  freeId,
  inOrder,
  type ItemRule,
  lastOrder,
  type Level,
  levelFields,
  movedBefore,
  newOrders,
  type Rule,
  valueAt,
} from '@dial/core/level';
import { useState, type ReactNode } from 'react';
import { writeTo } from '../state/document/changes.ts';
import { sayRefused, setValue, tryEdit } from '../state/document/edits.ts';
import { useAppStore } from '../state/store.ts';
import { Button } from '../controls/controls.tsx';
import { Menu, MenuItem } from '../controls/Menu.tsx';
import { FieldEditor, GroupFields } from '../fields/FieldEditor.tsx';
import { Choice, spaced } from '../fields/fieldInputs.tsx';
import { Sortable, SortedEntry, sortHint, type Sorted } from '../controls/Sortable.tsx';
import { focusDial } from './DialGroup.tsx';
import { Hint } from '../controls/Hint.tsx';

/** What the phrases of the sentence do not show. */
const SAID = ['setOffBy', 'who', 'side', 'touching', 'provided', 'effects', 'becomes'];

interface RuleProps {
  readonly level: Level;
  /** What the rule is of, for the names of edits. */
  readonly name: string;
  readonly rule: Rule | ItemRule;
  readonly parts: readonly Part[];
  /** JSON Pointer by which the rule is known. */
  readonly at: string;
  /** A pointer to a rule of this sort, for its fields. */
  readonly like: '/kinds/any/rules/any' | '/items/any/rules/any';
  /** Where what is known by a pointer is kept. */
  readonly kept: (path: string) => readonly string[];
  /** The shapes it may be tied to. */
  readonly shapes?: readonly string[];
  /** What the rule needs to be put elsewhere among others; null where it is the only one. */
  readonly sorted: Sorted | null;
  /** Something to be asked before the rule is opened; null where there is nothing to ask. */
  readonly ask?: ((go: () => void, leave: () => void) => ReactNode) | null;
  /** Takes the rule away, where that is not simply deleting it. */
  readonly onDelete?: () => void;
  /** What else can be done with the rule as a whole. */
  readonly more?: ReactNode;
}

interface AdderProps {
  readonly label: string;
  readonly options: readonly string[];
  readonly onAdd: (option: string) => void;
}

/** A menu of what can be added. */
function Adder({ label, options, onAdd }: AdderProps) {
  const button = (
    <button type="button" className="cursor-pointer rounded-sm border border-line bg-card px-1 py-px text-[11px] hover:border-ink">
      {label}
    </button>
  );
  return (
    <Menu label={label} button={button}>
      {options.map((one) => (
        <MenuItem key={one} onChoose={() => onAdd(one)}>
          <span className="text-xs">{one}</span>
        </MenuItem>
      ))}
    </Menu>
  );
}

interface PhrasesProps {
  readonly parts: readonly Part[];
  readonly open: string | null;
  readonly onOpen: (phrase: string) => void;
  /** What a phrase that can be put elsewhere in the sentence is known by there; null for one that stays where it is. */
  readonly sortedBy: (phrase: string) => string | null;
}

/** A phrase that opens to be chosen anew. A button would be a block of its own, and the sentence would not flow. */
function Phrase({
  text,
  expanded,
  sorted,
  onOpen,
}: {
  readonly text: string;
  readonly expanded: boolean;
  readonly sorted: Sorted | null;
  readonly onOpen: () => void;
}) {
  return (
    <Hint says={sorted === null ? 'Choose another' : `Choose another. ${sortHint('flowing')}`}>
      <span
        role="button"
        tabIndex={0}
        aria-expanded={expanded}
        {...sorted?.entry}
        {...sorted?.handle}
        className={`cursor-pointer rounded-sm underline decoration-line decoration-dotted underline-offset-[3px] hover:decoration-ink ${expanded ? 'bg-paper decoration-ink' : ''}`}
        onClick={onOpen}
        onKeyDown={(event) => {
          sorted?.handle.onKeyDown?.(event);
          if (event.key !== 'Enter' && event.key !== ' ') return;
          event.preventDefault();
          onOpen();
        }}
      >
        {text}
      </span>
    </Hint>
  );
}

function Phrases({ parts, open, onOpen, sortedBy }: PhrasesProps) {
  return parts.map(({ text, path, phrase }, index) => {
    if (path !== undefined) {
      return (
        <Hint key={index} says="To its dial, or to where it is set">
          <button
            type="button"
            className="inline cursor-pointer font-semibold underline decoration-dotted underline-offset-[3px] hover:decoration-solid"
            onClick={() => {
              if (!focusDial(path) && phrase !== undefined) onOpen(phrase);
            }}
          >
            {text}
          </button>
        </Hint>
      );
    }
    if (phrase === undefined) return <span key={index}>{text}</span>;
    const one = (sorted: Sorted | null): ReactNode => (
      <Phrase key={index} text={text} expanded={phrase === open} sorted={sorted} onOpen={() => onOpen(phrase)} />
    );
    const id = sortedBy(phrase);
    return id === null ? (
      one(null)
    ) : (
      <SortedEntry key={index} id={id}>
        {one}
      </SortedEntry>
    );
  });
}

/** One rule: its sentence, whose phrases open to be chosen anew, and what can be added to it. */
export function RuleSentence({ level, name, rule, parts, at, like, kept, shapes = [], sorted, ask = null, onDelete, more }: RuleProps) {
  const store = useAppStore();
  const [open, setOpen] = useState<string | null>(null);
  const [nothing, setNothing] = useState<string | null>(null);
  const [asking, setAsking] = useState<(() => void) | null>(null);
  const ruleField = fieldAt(levelFields(), level, like) as Field & { type: 'group' };
  /** Does something to the rule, once what there is to be asked has been answered. */
  const asked = (go: () => void): void => (ask === null ? go() : setAsking(() => go));
  const set = (path: string, value: unknown): string | null =>
    setValue(store, kept(path), `${name}: ${spaced(path.slice(at.length + 1).split('/')[0] ?? 'rule')}`, value);
  const remove = (path: string): void => {
    sayRefused(store, set(path, undefined));
    setOpen(null);
  };
  const add = (map: 'effects' | 'provided', type: string): void => {
    const field = fieldAt(ruleField, rule, `/${map}/any`);
    const made = field?.type === 'cases' ? blankCase(field, type, level, null) : undefined;
    const id = freeId(rule[map], type);
    const added =
      made !== undefined &&
      tryEdit(store, `${name}: ${type}`, (draft) => {
        for (const path of kept(`${at}/${map}/${id}`)) writeTo(draft, path, { ...made, order: lastOrder(rule[map]) });
      });
    setNothing(made === undefined ? type : null);
    if (added) setOpen(`${at}/${map}/${id}`);
  };
  const cases = (map: 'effects' | 'provided'): readonly string[] => {
    const field = fieldAt(ruleField, rule, `/${map}/any`);
    return field?.type === 'cases' ? Object.keys(field.cases) : [];
  };
  const within = open?.slice(at.length) ?? '';
  const value = open === null ? undefined : valueAt(rule, within);
  const field = open === null || open === at ? null : fieldAt(ruleField, rule, within);
  const [map, entryId] = within.split('/').slice(1) as ['effects' | 'provided', string | undefined];
  // Conditions go before conditions, effects before effects, where there are several.
  const sortable =
    ask !== null
      ? []
      : (['provided', 'effects'] as const).flatMap((part) => {
          const ids = inOrder<{ readonly order: number }>(rule[part]).map(([id]) => `${part}/${id}`);
          return ids.length < 2 ? [] : ids;
        });
  const sortedBy = (phrase: string): string | null => {
    const id = phrase.slice(at.length + 1);
    return sortable.includes(id) ? id : null;
  };
  const move = (moved: string, before: string | null): void => {
    const [part, id] = moved.split('/') as ['effects' | 'provided', string];
    const entries: Readonly<Record<string, { readonly order: number }>> = rule[part];
    const ids = inOrder(entries).map(([one]) => one);
    const [beforePart, beforeId = null] = before?.split('/') ?? [part];
    // Before an effect a condition is the last of its own; before a condition an effect is the first.
    const to = beforePart === part ? beforeId : part === 'provided' ? null : (ids[0] ?? null);
    const orders = to === id ? [] : newOrders(movedBefore(ids, id, to), id, (one) => entries[one]?.order ?? 0);
    tryEdit(store, `${name}: another order`, (draft) => {
      for (const [one, order] of orders) for (const path of kept(`${at}/${part}/${one}/order`)) writeTo(draft, path, order);
    });
  };
  const sentence = (
    <p>
      <Phrases parts={parts} open={open} onOpen={(next) => asked(() => setOpen(next === open ? null : next))} sortedBy={sortedBy} />
    </p>
  );
  return (
    <div {...sorted?.entry} className="mt-2 border-t border-line pt-1.5 first:mt-0 first:border-0 first:pt-0">
      {sortable.length === 0 ? (
        sentence
      ) : (
        <Sortable
          ids={sortable}
          runs="flowing"
          nameOf={(id) => parts.find(({ phrase }) => phrase === `${at}/${id}`)?.text ?? id}
          onMove={move}
        >
          {sentence}
        </Sortable>
      )}
      <div className="mt-1 flex flex-wrap gap-1">
        <Adder label="+ provided" options={cases('provided')} onAdd={(type) => asked(() => add('provided', type))} />
        <Adder label="+ effect" options={cases('effects')} onAdd={(type) => asked(() => add('effects', type))} />
        <button
          type="button"
          aria-expanded={open === at}
          className="cursor-pointer rounded-sm border border-line bg-card px-1 py-px text-[11px] hover:border-ink"
          onClick={() => asked(() => setOpen(open === at ? null : at))}
        >
          more
        </button>
        {sorted !== null && (
          <Hint says={sortHint('down')}>
            <button
              type="button"
              className="cursor-grab rounded-sm border border-line bg-card px-1 py-px text-[11px] hover:border-ink"
              {...sorted.handle}
            >
              move
            </button>
          </Hint>
        )}
      </div>
      {nothing !== null && (
        <p role="alert" className="mt-0.5 text-[11.5px] text-harm">
          The level has nothing for “{nothing}” yet: make a kind first.
        </p>
      )}
      {asking !== null &&
        ask?.(
          () => {
            setAsking(null);
            asking();
          },
          () => setAsking(null),
        )}
      {open !== null && (
        <div className="my-1.5 rounded-sm border border-ink bg-paper px-2 py-1.5" role="group" aria-label="Part of the rule">
          {open === at && (
            <>
              <GroupFields
                field={ruleField}
                besides={SAID}
                value={rule}
                level={level}
                onSet={(next) => {
                  const changed = Object.entries(next as object).find(([name, one]) => one !== (rule as Record<string, unknown>)[name]);
                  return changed === undefined ? null : set(`${at}/${changed[0]}`, changed[1]);
                }}
              />
              {'side' in rule && (
                <FieldEditor
                  field={fieldAt(ruleField, rule, '/side') ?? ruleField}
                  value={rule.side}
                  label="only from"
                  level={level}
                  onSet={(next) => set(`${at}/side`, next)}
                />
              )}
            </>
          )}
          {'touching' in rule && (within === '/touching' || (open === at && (shapes.length > 1 || rule.touching !== null))) && (
            <Choice
              label="touching"
              hint="Which of its shapes has to be touched."
              value={rule.touching ?? ''}
              options={[['', 'any of its shapes'], ...shapes.map((id) => [id, id] as const)]}
              onChoose={(id) => sayRefused(store, set(`${at}/touching`, id === '' ? null : id))}
            />
          )}
          {field !== null && value !== undefined && within !== '/touching' && (
            <FieldEditor
              key={open}
              field={field}
              value={value}
              label={entryId === undefined ? spaced(map) : map === 'effects' ? 'effect' : 'provided'}
              level={level}
              onSet={(next) => set(open, next)}
            />
          )}
          <div className="mt-2 flex flex-wrap gap-1.5">
            {entryId !== undefined && (
              <Button kind="quiet" className="text-xs" onClick={() => remove(open)}>
                Delete
              </Button>
            )}
            {open === at && (
              <Button kind="quiet" className="text-xs" onClick={onDelete ?? (() => remove(at))}>
                Delete this rule
              </Button>
            )}
            {open === at && more}
            <Button kind="quiet" className="ml-auto text-xs" onClick={() => setOpen(null)}>
              Done
            </Button>
          </div>
        </div>
      )}
    </div>
  );
}
