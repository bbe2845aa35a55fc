import { useEffect, useRef, useState } from 'react';
import { shallowEqual } from 'react-redux';
import { useNavigate } from 'react-router';
import { viewActions } from '../state/slices/view.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { commandsOn, isFoundBy, keyWords, type Command, type CommandPage } from './commands.ts';

function List({ where }: { readonly where: CommandPage }) {
  const store = useAppStore();
  const navigate = useNavigate();
  const dialog = useRef<HTMLDialogElement>(null);
  const [search, setSearch] = useState('');
  const [at, setAt] = useState(0);
  const close = (): void => void store.dispatch(viewActions.panelShown(null));
  useEffect(() => dialog.current?.showModal(), []);
  const found = commandsOn(where).filter((command) => isFoundBy(command, search.trim()));
  const can = useAppSelector((state) => found.map((command) => command.can(state)), shallowEqual);
  const run = (command: Command | undefined): void => {
    if (command?.can(store.getState()) !== true) return;
    close();
    command.run(store, (path) => void navigate(path));
  };
  return (
    <dialog
      ref={dialog}
      aria-label="Commands"
      className="mx-auto mt-24 w-[440px] rounded-md border-[1.3px] border-ink bg-card p-3 text-ink backdrop:bg-ink/20"
      onClose={close}
      onClick={(event) => {
        if (event.target === dialog.current) close();
      }}
      onKeyDown={(event) => {
        // Keys in here are for the list alone.
        event.stopPropagation();
        if (event.key === 'ArrowDown') setAt((at + 1) % Math.max(1, found.length));
        else if (event.key === 'ArrowUp') setAt((at + found.length - 1) % Math.max(1, found.length));
        else if (event.key === 'Enter') run(found[at]);
        else return;
        event.preventDefault();
      }}
    >
      <input
        aria-label="Search the commands"
        placeholder="What do you want to do?"
        role="combobox"
        aria-expanded
        aria-controls="commands"
        aria-activedescendant={`command-${String(at)}`}
        className="w-full rounded-sm border border-ink bg-paper px-2 py-1"
        value={search}
        onChange={(event) => {
          setSearch(event.target.value);
          setAt(0);
        }}
      />
      <ul id="commands" role="listbox" aria-label="Commands" className="mt-2 max-h-[420px] overflow-y-auto">
        {found.map((command, index) => (
          <li
            key={command.key}
            id={`command-${String(index)}`}
            role="option"
            aria-selected={index === at}
            aria-disabled={can[index] !== true}
            className={`flex cursor-pointer items-center rounded-sm px-2 py-1 aria-disabled:cursor-default aria-disabled:text-soft ${index === at ? 'bg-panel' : ''}`}
            onPointerEnter={() => setAt(index)}
            onClick={() => run(command)}
          >
            <span className="flex-1">{command.name}</span>
            <kbd className="font-mono text-xs">{keyWords(command.key)}</kbd>
          </li>
        ))}
      </ul>
      {found.length === 0 && <p className="mt-2 px-2 text-soft">No command has that in its name.</p>}
    </dialog>
  );
}

/** Everything that can be done on a page, to be searched, with the key of each. */
export function CommandList({ where }: { readonly where: CommandPage }) {
  const shown = useAppSelector((state) => state.view.panel === 'commands');
  return shown ? <List where={where} /> : null;
}
