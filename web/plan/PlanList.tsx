import type { Level } from '@dial/core/level';
import { useId, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { chosenThings } from '../state/document/authoring.ts';
import { showAll, toggleHidden, toggleLocked } from '../state/view/aside.ts';
import { viewActions } from '../state/slices/view.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { Button } from '../controls/controls.tsx';
import { Mark } from '../drawing/Mark.tsx';
import { SearchField } from '../controls/SearchField.tsx';
import { useWindowed } from '../controls/hooks/useWindowed.ts';
import { isChosen, placedOn, type Placed } from './placed.ts';
import { Hint } from '../controls/Hint.tsx';

const ROW_HEIGHT = 24;

const SET_ASIDE = [
  { name: 'Lock', says: 'It stays where it is (K)', toggle: toggleLocked },
  { name: 'Hide', says: 'It is not drawn while you tune (H)', toggle: toggleHidden },
];

/** Everything on the Plan as a list with the same selection: for keyboard and screen reader, and for what is covered or hidden. */
export function PlanList({ level }: { readonly level: Level }) {
  const store = useAppStore();
  const selection = useAppSelector((state) => state.view.selection);
  const aside = useAppSelector((state) => state.view.aside);
  const [search, setSearch] = useState('');
  const [at, setAt] = useState(0);
  const id = useId();
  const scroller = useRef<HTMLUListElement>(null);
  const all = useMemo(() => placedOn(level), [level]);
  const found = all.filter(({ name, kind }) => `${name} ${kind?.role ?? ''}`.toLowerCase().includes(search.trim().toLowerCase()));
  const { first, last, show } = useWindowed(scroller, found.length, ROW_HEIGHT);
  const something = selection.placements.length > 0 || selection.solid !== null;

  /** Chooses a line; `more` adds it to what is chosen or takes it away, `through` all things from the last line on. */
  const choose = (index: number, more: boolean, through: boolean): void => {
    const line = found[index];
    if (line === undefined) return;
    setAt(index);
    if (line.sort === 'solid' && !through) store.dispatch(viewActions.selected({ solid: line.id }));
    else if (line.sort === 'spot' && !through) store.dispatch(viewActions.selected({ spot: line.path }));
    else store.dispatch(viewActions.selected(chosenThings(level, chosenIds(line, index, more, through))));
  };
  const chosenIds = (line: Placed, index: number, more: boolean, through: boolean): readonly string[] => {
    const had = selection.placements;
    if (through) {
      const between = found.slice(Math.min(at, index), Math.max(at, index) + 1).filter(({ sort }) => sort === 'placement');
      return [...new Set([...had, ...between.map((one) => one.id)])];
    }
    if (!more) return [line.id];
    return had.includes(line.id) ? had.filter((one) => one !== line.id) : [...had, line.id];
  };
  const onKey = (event: KeyboardEvent): void => {
    const ways: Readonly<Record<string, number>> = { ArrowDown: at + 1, ArrowUp: at - 1, PageDown: at + 10, PageUp: at - 10, Home: 0, End: found.length - 1 }; // prettier-ignore
    const to = ways[event.key];
    if (to === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const next = Math.max(0, Math.min(found.length - 1, to));
    choose(next, false, event.shiftKey);
    show(next);
  };
  return (
    <section
      aria-label="List of what is on the Plan"
      className="mr-2 flex w-[150px] shrink-0 flex-col desk:w-[210px] rounded-sm border-[1.3px] border-ink bg-panel text-xs"
    >
      <div className="flex flex-wrap gap-1 border-b border-line p-1.5">
        <SearchField label="Find on the Plan" hint="find by name or role" width="w-full" value={search} onChange={setSearch} />
        {SET_ASIDE.map(({ name, says, toggle }) => (
          <Button key={name} kind="quiet" className="px-1.5! py-0!" disabled={!something} hint={says} onClick={() => toggle(store)}>
            {name}
          </Button>
        ))}
        {aside.hidden.length > 0 && (
          <Button kind="quiet" className="px-1.5! py-0!" onClick={() => showAll(store)}>
            Show {aside.hidden.length}
          </Button>
        )}
      </div>
      {found.length === 0 && (
        <p className="p-2 text-soft">{all.length === 0 ? 'Nothing is placed yet.' : 'Nothing on the Plan has that in its name.'}</p>
      )}
      <ul
        ref={scroller}
        role="listbox"
        aria-label="On the Plan"
        aria-multiselectable
        aria-activedescendant={`${id}-${String(at)}`}
        tabIndex={0}
        className="min-h-0 flex-1 overflow-y-auto select-none"
        onKeyDown={onKey}
      >
        <li role="presentation" style={{ height: first * ROW_HEIGHT }} />
        {found.slice(first, last).map((line, offset) => {
          const index = first + offset;
          const chosen = isChosen(line, selection);
          const [locked, hidden] = [aside.locked.includes(line.path), aside.hidden.includes(line.path)];
          return (
            <li
              key={line.path}
              id={`${id}-${String(index)}`}
              role="option"
              aria-selected={chosen}
              aria-setsize={found.length}
              aria-posinset={index + 1}
              className={`flex h-6 cursor-pointer items-center gap-1.5 border-l-[3px] px-1.5 ${chosen ? 'border-needle bg-card font-semibold' : 'border-transparent hover:bg-card'} ${hidden ? 'text-soft' : ''}`}
              onPointerDown={(event) => choose(index, event.ctrlKey || event.metaKey, event.shiftKey)}
            >
              {line.kind !== null && <Mark kind={line.kind} size={16} />}
              <Hint says={line.name}>
                <span className="min-w-0 flex-1 truncate">{line.name}</span>
              </Hint>
              <span className="text-[10.5px] text-soft">
                {[locked ? 'locked' : '', hidden ? 'hidden' : ''].filter((word) => word !== '').join(', ') || line.where}
              </span>
            </li>
          );
        })}
        <li role="presentation" style={{ height: (found.length - last) * ROW_HEIGHT }} />
      </ul>
    </section>
  );
}
