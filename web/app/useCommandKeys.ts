import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { useAppStore } from '../state/store.ts';
import { watchHeld } from '../ui/holding.ts';
import { isTyping } from '../ui/isTyping.ts';
import { commandsOn, keyOf, type CommandPage } from './commands.ts';

/** While a field is typed into, only these go through: the browser has no undo of its own for the level. */
const ALSO_TYPING = new Set(['ctrl+z', 'ctrl+shift+z', 'ctrl+k']);

/** Lets every command of a page be given by its key. */
export function useCommandKeys(page: CommandPage): void {
  const store = useAppStore();
  const navigate = useNavigate();
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      // A key handled by what has focus goes no further: Delete on a dial deletes nothing.
      if (event.altKey || event.defaultPrevented) return;
      const key = keyOf(event);
      const command = commandsOn(page).find((one) => one.key === key);
      if (command === undefined || (isTyping(event.target) && !ALSO_TYPING.has(key))) return;
      if (!command.can(store.getState().bench)) return;
      event.preventDefault();
      command.run(store, (path) => void navigate(path));
    };
    const unwatch = watchHeld();
    addEventListener('keydown', onKey);
    return () => {
      unwatch();
      removeEventListener('keydown', onKey);
    };
  }, [store, navigate, page]);
}
