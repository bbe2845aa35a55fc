import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { useAppStore } from '../state/store.ts';
import { isTyping } from '../ui/isTyping.ts';
import { COMMANDS, keyOf } from './commands.ts';

/** While a field is typed into, only these go through: the browser has no undo of its own for the level. */
const ALSO_TYPING = new Set(['ctrl+z', 'ctrl+shift+z', 'ctrl+k']);

/** Lets every command of the Bench be given by its key. */
export function useCommandKeys(): void {
  const store = useAppStore();
  const navigate = useNavigate();
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.altKey) return;
      const key = keyOf(event);
      const command = COMMANDS.find((one) => one.key === key);
      if (command === undefined || (isTyping(event.target) && !ALSO_TYPING.has(key))) return;
      if (!command.can(store.getState().bench)) return;
      event.preventDefault();
      command.run(store, (path) => void navigate(path));
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [store, navigate]);
}
