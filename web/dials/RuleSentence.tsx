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
import { Button, Refused } from '../controls/controls.tsx';
import { Menu, MenuItem } from '../controls/Menu.tsx';
import { FieldEditor, GroupFields } from '../fields/FieldEditor.tsx';
import { Choice, spaced } from '../fields/fieldInputs.tsx';
import { Sortable, sortHint, type Sorted } from '../controls/Sortable.tsx';
import { Phrases } from './Phrases.tsx';
import { Hint } from '../controls/Hint.tsx';

/** What the phrases of the sentence do not show. */
const SAID = ['setOffBy', 'who', 'side', 'touching', 'provided', 'effects', 'becomes'];

type Entries = 'effects' | 'provided';

const SMALL = 'rounded-sm border border-line bg-card px-1 py-px text-[11px] hover:border-ink';

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
  readonly placesOf: (path: string) => readonly string[];
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
    <button type="button" className={`${SMALL} cursor-pointer`}>
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

/** Edits of one rule. `open`: opens the phrase at a pointer, or none. */
function useRuleEdits({ level, name, rule, at, like, placesOf }: RuleProps, open: (phrase: string | null) => void) {
  const store = useAppStore();
  const [nothing, setNothing] = useState<string | null>(null);
  const field = fieldAt(levelFields(), level, like) as Field & { type: 'group' };
  const set = (path: string, value: unknown): string | null =>
    setValue(store, placesOf(path), `${name}: ${spaced(path.slice(at.length + 1).split('/')[0] ?? 'rule')}`, value);
  return {
    field,
    set,
    say: (path: string, value: unknown): boolean => sayRefused(store, set(path, value)),
    remove: (path: string): void => {
      sayRefused(store, set(path, undefined));
      open(null);
    },
    /** What the level lacked for the last addition. */
    nothing,
    add: (map: Entries, type: string): void => {
      const entryField = fieldAt(field, rule, `/${map}/any`);
      const made = entryField?.type === 'cases' ? blankCase(entryField, type, level, null) : undefined;
      const id = freeId(rule[map], type);
      const added =
        made !== undefined &&
        tryEdit(store, `${name}: ${type}`, (draft) => {
          for (const path of placesOf(`${at}/${map}/${id}`)) writeTo(draft, path, { ...made, order: lastOrder(rule[map]) });
        });
      setNothing(made === undefined ? type : null);
      if (added) open(`${at}/${map}/${id}`);
    },
    cases: (map: Entries): readonly string[] => {
      const entryField = fieldAt(field, rule, `/${map}/any`);
      return entryField?.type === 'cases' ? Object.keys(entryField.cases) : [];
    },
    move: (moved: string, before: string | null): void => {
      const [part, id] = moved.split('/') as [Entries, string];
      const entries: Readonly<Record<string, { readonly order: number }>> = rule[part];
      const ids = inOrder(entries).map(([one]) => one);
      const [beforePart, beforeId = null] = before?.split('/') ?? [part];
      // Before an effect a condition is the last of its own; before a condition an effect is the first.
      const to = beforePart === part ? beforeId : part === 'provided' ? null : (ids[0] ?? null);
      const orders = to === id ? [] : newOrders(movedBefore(ids, id, to), id, (one) => entries[one]?.order ?? 0);
      tryEdit(store, `${name}: another order`, (draft) => {
        for (const [one, order] of orders) for (const path of placesOf(`${at}/${part}/${one}/order`)) writeTo(draft, path, order);
      });
    },
  };
}

/** Conditions go before conditions, effects before effects, where there are several. */
const sortableParts = (rule: Rule | ItemRule): string[] =>
  (['provided', 'effects'] as const).flatMap((part) => {
    const ids = inOrder<{ readonly order: number }>(rule[part]).map(([id]) => `${part}/${id}`);
    return ids.length < 2 ? [] : ids;
  });

interface OpenPartProps {
  readonly props: RuleProps;
  readonly edits: ReturnType<typeof useRuleEdits>;
  /** What is open: the rule itself, or a part of it. */
  readonly open: string;
  readonly onClose: () => void;
}

/** What no phrase of the sentence shows. */
function WholeRule({ props: { level, rule, at }, edits: { field, set } }: Pick<OpenPartProps, 'props' | 'edits'>) {
  return (
    <>
      <GroupFields
        field={field}
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
          field={fieldAt(field, rule, '/side') ?? field}
          value={rule.side}
          label="only from"
          level={level}
          onSet={(next) => set(`${at}/side`, next)}
        />
      )}
    </>
  );
}

/** The opened part of a rule. */
function OpenPart({ props, edits, open, onClose }: OpenPartProps) {
  const { level, rule, at, shapes = [], onDelete, more } = props;
  const whole = open === at;
  const within = open.slice(at.length);
  const [map, entryId] = within.split('/').slice(1) as [Entries, string | undefined];
  const value = valueAt(rule, within);
  const field = whole ? null : fieldAt(edits.field, rule, within);
  return (
    <div className="my-1.5 rounded-sm border border-ink bg-paper px-2 py-1.5" role="group" aria-label="Part of the rule">
      {whole && <WholeRule props={props} edits={edits} />}
      {'touching' in rule && (within === '/touching' || (whole && (shapes.length > 1 || rule.touching !== null))) && (
        <Choice
          label="touching"
          hint="Which of its shapes has to be touched."
          value={rule.touching ?? ''}
          options={[['', 'any of its shapes'], ...shapes.map((id) => [id, id] as const)]}
          onChoose={(id) => edits.say(`${at}/touching`, id === '' ? null : id)}
        />
      )}
      {field !== null && value !== undefined && within !== '/touching' && (
        <FieldEditor
          key={open}
          field={field}
          value={value}
          label={entryId === undefined ? spaced(map) : map === 'effects' ? 'effect' : 'provided'}
          level={level}
          onSet={(next) => edits.set(open, next)}
        />
      )}
      <div className="mt-2 flex flex-wrap gap-1.5">
        {entryId !== undefined && (
          <Button kind="quiet" className="text-xs" onClick={() => edits.remove(open)}>
            Delete
          </Button>
        )}
        {whole && (
          <Button kind="quiet" className="text-xs" onClick={onDelete ?? (() => edits.remove(at))}>
            Delete this rule
          </Button>
        )}
        {whole && more}
        <Button kind="quiet" className="ml-auto text-xs" onClick={onClose}>
          Done
        </Button>
      </div>
    </div>
  );
}

/** One rule: its sentence, whose phrases open to be chosen anew, and what can be added to it. */
export function RuleSentence(props: RuleProps) {
  const { rule, parts, at, sorted, ask = null } = props;
  const [open, setOpen] = useState<string | null>(null);
  const [asking, setAsking] = useState<(() => void) | null>(null);
  const edits = useRuleEdits(props, setOpen);
  /** Does something to the rule, once what there is to be asked has been answered. */
  const asked = (go: () => void): void => (ask === null ? go() : setAsking(() => go));
  const toggle = (phrase: string): void => asked(() => setOpen(phrase === open ? null : phrase));
  const sortable = ask === null ? sortableParts(rule) : [];
  const sortedBy = (phrase: string): string | null => {
    const id = phrase.slice(at.length + 1);
    return sortable.includes(id) ? id : null;
  };
  const sentence = (
    <p>
      <Phrases parts={parts} open={open} onOpen={toggle} sortedBy={sortedBy} />
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
          onMove={edits.move}
        >
          {sentence}
        </Sortable>
      )}
      <div className="mt-1 flex flex-wrap gap-1">
        <Adder label="+ provided" options={edits.cases('provided')} onAdd={(type) => asked(() => edits.add('provided', type))} />
        <Adder label="+ effect" options={edits.cases('effects')} onAdd={(type) => asked(() => edits.add('effects', type))} />
        <button type="button" aria-expanded={open === at} className={`${SMALL} cursor-pointer`} onClick={() => toggle(at)}>
          more
        </button>
        {sorted !== null && (
          <Hint says={sortHint('down')}>
            <button type="button" className={`${SMALL} cursor-grab`} {...sorted.handle}>
              move
            </button>
          </Hint>
        )}
      </div>
      <Refused why={edits.nothing === null ? null : `The level has nothing for “${edits.nothing}” yet: make a kind first.`} />
      {asking !== null &&
        ask?.(
          () => {
            setAsking(null);
            asking();
          },
          () => setAsking(null),
        )}
      {open !== null && <OpenPart props={props} edits={edits} open={open} onClose={() => setOpen(null)} />}
    </div>
  );
}
