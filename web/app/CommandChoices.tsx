import { Command } from 'cmdk';
import { shallowEqual } from 'react-redux';
import { useNavigate } from 'react-router';
import { Dialog } from '../controls/Dialog.tsx';
import { viewActions } from '../state/slices/view.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { commandsOn, isFoundBy, keyWords, type CommandPage } from './commands.ts';

/** The list itself, to be searched. */
export function CommandChoices({ where }: { readonly where: CommandPage }) {
  const store = useAppStore();
  const navigate = useNavigate();
  const commands = commandsOn(where);
  const can = useAppSelector((state) => commands.map((command) => command.can(state)), shallowEqual);
  const close = (): void => void store.dispatch(viewActions.panelShown(null));
  return (
    <Dialog label="Commands" onClose={close} className="top-24 w-[440px] p-3">
      <Command label="Search the commands" loop filter={(name, search, also = []) => (isFoundBy(name, also, search) ? 1 : 0)}>
        <Command.Input placeholder="What do you want to do?" className="w-full rounded-sm border border-ink bg-paper px-2 py-1" />
        <Command.List label="Commands" className="mt-2 max-h-[420px] overflow-y-auto">
          <Command.Empty className="px-2 text-soft">No command has that in its name.</Command.Empty>
          {commands.map((command, index) => (
            <Command.Item
              key={command.key}
              value={command.name}
              keywords={[command.also ?? '']}
              disabled={can[index] !== true}
              className="flex cursor-pointer items-center rounded-sm px-2 py-1 data-[disabled=true]:cursor-default data-[disabled=true]:text-soft data-[selected=true]:bg-panel"
              onSelect={() => {
                close();
                command.run(store, (path) => void navigate(path));
              }}
            >
              <span className="flex-1">{command.name}</span>
              <kbd className="font-mono text-xs">{keyWords(command.key)}</kbd>
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Dialog>
  );
}
