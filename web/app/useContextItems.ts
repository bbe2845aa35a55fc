import { useNavigate } from 'react-router';
import type { ContextItem } from '../controls/ContextMenu.tsx';
import { useAppStore } from '../state/store.ts';
import { commandsOn, keyWords } from './commands.ts';

/** The keys of what can be done with what lies on each part of the Bench. */
const OF = {
  plan: ['ctrl+d', 'delete', 'f', 'k', 'h', 'shift+h', 'g', 'i', 'ctrl+a'],
  tray: ['b', 'f', 'g', 'n'],
  strip: ['p', '.', ',', 't', 'l', 'c', 'shift+w'],
} as const;

/** What can be done on a part of the Bench now: the commands that work, by name and key. */
export function useContextItems(part: keyof typeof OF): () => readonly ContextItem[] {
  const store = useAppStore();
  const navigate = useNavigate();
  return () => {
    const commands = commandsOn('bench').filter(({ can }) => can(store.getState()));
    return OF[part].flatMap((key) => {
      const command = commands.find((one) => one.key === key);
      if (command === undefined) return [];
      return [{ name: command.name, keys: keyWords(key), act: () => command.run(store, (path) => void navigate(path)) }];
    });
  };
}

/** What can be done with the dial that was pressed. */
export function dialItems(pressed: Element): readonly ContextItem[] {
  const dial = pressed.closest('[data-dial]');
  const field = dial?.querySelector('input') ?? null;
  const back = dial?.querySelector<HTMLElement>('[data-back]') ?? null;
  if (field === null) return [];
  const copy = (): void => void navigator.clipboard.writeText(field.value).catch(() => undefined);
  return [
    { name: 'Type a number', keys: 'Tab', act: () => requestAnimationFrame(() => field.focus()) },
    ...(back === null ? [] : [{ name: 'Back to the compared version’s value', keys: keyWords('delete'), act: () => back.click() }]),
    { name: 'Copy the number', keys: 'Ctrl + C', act: copy },
  ];
}
