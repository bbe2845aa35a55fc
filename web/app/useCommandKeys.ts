import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { useAppStore } from '../state/store.ts';
import { watchKeys } from '../controls/keyboard.ts';
import { commandsOn, keyOf, type CommandPage } from './commands.ts';

/** While a field is typed into, only these go through: the browser has no undo of its own for the level. */
const ALSO_TYPING = new Set(['ctrl+z', 'ctrl+shift+z', 'ctrl+k']);

/** Lets every command of a page be given by its key. */
export function useCommandKeys(page: CommandPage): void {
  const store = useAppStore();
  const navigate = useNavigate();
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const command = commandsOn(page).find((one) => one.key === keyOf(event));
      if (command === undefined || !command.can(store.getState())) return;
      event.preventDefault();
      command.run(store, (path) => void navigate(path));
    };
    return watchKeys(onKey, (event) => ALSO_TYPING.has(keyOf(event)));
  }, [store, navigate, page]);
}
