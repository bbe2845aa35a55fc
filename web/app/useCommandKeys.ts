import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { useAppStore } from '../state/store.ts';
import { hasTyped, watchKeys } from '../controls/keyboard.ts';
import { commandsOn, keyOf, type CommandPage } from './commands.ts';

/** Keys of the level's own undoing: the browser has none for it. */
const UNDOING = new Set(['ctrl+z', 'ctrl+shift+z']);

/** What goes through while a field has focus: the list of commands, and undoing once what was typed has been taken over. */
const isAlsoTyping = (event: KeyboardEvent): boolean => keyOf(event) === 'ctrl+k' || (UNDOING.has(keyOf(event)) && !hasTyped(event.target));

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
    return watchKeys(onKey, isAlsoTyping);
  }, [store, navigate, page]);
}
