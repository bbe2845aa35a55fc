import { useNavigate } from 'react-router';
import type { ContextItem } from '../controls/ContextMenu.tsx';
import { viewActions } from '../state/slices/view.ts';
import { useAppStore, type AppStore } from '../state/store.ts';
import { commandsOn, keyWords, sweepPath } from './commands.ts';

/** The keys of what can be done with what lies on each part of the Bench. */
const PLAN = ['ctrl+d', 'delete', 'f', 'k', 'h', 'shift+h', 'g', 'i', 'ctrl+a'];
const TRAY = ['b', 'f', 'g', 'n'];
const STRIP = ['p', '.', ',', 't', 'l', 'c', 'shift+k', 'shift+w'];

/** What can be done with the dial that was pressed. */
function dialItems(store: AppStore, go: (path: string) => void, pressed: Element): readonly ContextItem[] {
  const dial = pressed.closest('[data-dial]');
  const field = dial?.querySelector('input') ?? null;
  const back = dial?.querySelector<HTMLElement>('[data-back]') ?? null;
  if (field === null) return [];
  const paths = pressed.closest<HTMLElement>('[data-paths]')?.dataset['paths'];
  const copy = (): void => {
    navigator.clipboard
      .writeText(field.value)
      .catch(() => store.dispatch(viewActions.troubled('The number was not copied: the browser does not allow it here.')));
  };
  return [
    { name: 'Type a number', keys: 'Shift + Tab', act: () => field.focus() },
    ...(back === null ? [] : [{ name: 'Back to the compared version’s value', keys: keyWords('delete'), act: () => back.click() }]),
    { name: 'Copy the number', keys: 'Ctrl + C', act: copy },
    ...(paths === undefined
      ? []
      : [
          { name: 'Sweep this', keys: keyWords('z'), act: () => go(sweepPath(store.getState(), 'one', paths)) },
          { name: 'Seek a value', keys: keyWords('x'), act: () => go(sweepPath(store.getState(), 'seek', paths)) },
        ]),
  ];
}

type Items = (pressed: Element) => readonly ContextItem[];

/** What can be done on each part of the Bench now: the commands that work, by name and key; and what can be done with a dial. */
export function useContextItems(): Readonly<Record<'plan' | 'tray' | 'strip' | 'dials', Items>> {
  const store = useAppStore();
  const navigate = useNavigate();
  const commands = (keys: readonly string[]) => (): readonly ContextItem[] => {
    const able = commandsOn('bench').filter(({ can }) => can(store.getState()));
    return keys.flatMap((key) => {
      const command = able.find((one) => one.key === key);
      if (command === undefined) return [];
      return [{ name: command.name, keys: keyWords(key), act: () => command.run(store, (path) => void navigate(path)) }];
    });
  };
  return {
    plan: commands(PLAN),
    tray: commands(TRAY),
    strip: commands(STRIP),
    dials: (pressed) => dialItems(store, (path) => void navigate(path), pressed),
  };
}
