import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { useAppStore } from '../state/store.ts';
import { hasTyped, watchKeys } from '../controls/keyboard.ts';
import { commandsOn, keyOf, type CommandPage } from './commands.ts';

/** While a field has focus, only these go through: the browser has no undo of its own for the level. */
const ALSO_TYPING = new Set(['ctrl+z', 'ctrl+shift+z', 'ctrl+k']);
/** Of those, the one that goes through also while what was typed has not been taken over. */
const ALWAYS = 'ctrl+k';

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
    return watchKeys(onKey, (event) => ALSO_TYPING.has(keyOf(event)) && (keyOf(event) === ALWAYS || !hasTyped(event.target)));
  }, [store, navigate, page]);
}
