import { later } from '../controls/later.tsx';
import { useAppSelector } from '../state/store.ts';
import type { CommandPage } from './commands.ts';

const CommandChoices = later(() => import('./CommandChoices.tsx').then((module) => module.CommandChoices), { soon: true });

/** Everything that can be done on a page, to be searched, with the key of each. */
export function CommandList({ where }: { readonly where: CommandPage }) {
  const shown = useAppSelector((state) => state.view.panel === 'commands');
  return shown ? <CommandChoices where={where} /> : null;
}
