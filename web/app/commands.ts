import { duplicateSelection, removeSelection } from '../state/authoring.ts';
import { showAll, toggleHidden, toggleLocked } from '../state/aside.ts';
import { benchActions, type BenchState, type PlanTool } from '../state/bench.ts';
import type { AppStore } from '../state/store.ts';

/** Something that can be done on the Bench, by its key or from the list of commands. */
export interface Command {
  readonly name: string;
  /** As `KeyboardEvent.key` has it, in lower case, after the keys to be held: "ctrl+shift+z". */
  readonly key: string;
  /** Works on the Sheet too. */
  readonly onSheet?: true;
  readonly can: (bench: BenchState) => boolean;
  readonly run: (store: AppStore, go: (path: string) => void) => void;
}

const always = (): boolean => true;
const hasSelection = ({ selection }: BenchState): boolean =>
  selection.placements.length > 0 || selection.solid !== null || selection.spot !== null;
const canBeSetAside = ({ selection }: BenchState): boolean => selection.placements.length > 0 || selection.solid !== null;
const pathOf = ({ open }: BenchState): string => `/levels/${encodeURIComponent(open?.id ?? '')}`;

const tool = (name: string, key: string, chosen: PlanTool, can: Command['can'] = always): Command => ({
  name,
  key,
  can,
  run: (store) => store.dispatch(benchActions.toolChosen(chosen)),
});

/** All commands of the Bench, in the order they are listed. */
const COMMANDS: readonly Command[] = [
  {
    name: 'Find a command',
    key: 'ctrl+k',
    onSheet: true,
    can: always,
    run: (store) => store.dispatch(benchActions.panelShown('commands')),
  },
  {
    name: 'Undo',
    key: 'ctrl+z',
    onSheet: true,
    can: ({ undo }) => undo.length > 0,
    run: (store) => store.dispatch(benchActions.undone(crypto.randomUUID())),
  },
  {
    name: 'Redo',
    key: 'ctrl+shift+z',
    onSheet: true,
    can: ({ redo }) => redo.length > 0,
    run: (store) => store.dispatch(benchActions.redone(crypto.randomUUID())),
  },
  {
    name: 'Run or halt the needle',
    key: 'p',
    can: ({ simulated }) => simulated.now !== null,
    run: (store) => store.dispatch(benchActions.playingChanged(!store.getState().bench.playing)),
  },
  { name: 'Show the Ledger or the Strip', key: 'l', can: always, run: (store) => store.dispatch(benchActions.ledgerToggled()) },
  {
    name: 'Play from the start',
    key: 'shift+p',
    onSheet: true,
    can: always,
    run: (store, go) => go(`${pathOf(store.getState().bench)}/play`),
  },
  {
    name: 'Take over at the needle',
    key: 't',
    can: ({ open }) => open?.run != null,
    run: (store, go) => {
      const { bench } = store.getState();
      go(`${pathOf(bench)}/play?run=${bench.open?.run?.id ?? ''}&at=${String(bench.needleStep)}`);
    },
  },
  tool('Choose on the Plan', 'v', 'select'),
  tool('Place things of the chosen kind', 'b', 'place'),
  tool('Draw solids', 's', 'solid'),
  tool('Draw one-way platforms', 'w', 'one-way', ({ open }) => open?.level.view === 'side'),
  tool('Place points', 'o', 'point'),
  tool('Draw paths for the chosen things', 'a', 'path'),
  tool('Draw routes for the walker', 'r', 'route'),
  tool('Measure on the Plan', 'm', 'measure'),
  { name: 'List of what is on the Plan', key: 'i', can: always, run: (store) => store.dispatch(benchActions.listToggled()) },
  {
    name: 'Choose all of the chosen kind',
    key: 'f',
    can: ({ selection }) => selection.kind !== null,
    run: (store) => {
      const { open, selection } = store.getState().bench;
      const all = Object.entries(open?.level.placements ?? {}).filter(([, { kind }]) => kind === selection.kind);
      store.dispatch(benchActions.selected({ kind: selection.kind, placements: all.map(([id]) => id) }));
    },
  },
  { name: 'Lock or unlock what is chosen', key: 'k', can: canBeSetAside, run: toggleLocked },
  { name: 'Hide or show what is chosen', key: 'h', can: canBeSetAside, run: toggleHidden },
  { name: 'Show all that is hidden', key: 'shift+h', can: ({ aside }) => aside.hidden.length > 0, run: showAll },
  { name: 'Make a new kind', key: 'n', can: always, run: (store) => store.dispatch(benchActions.panelShown('new kind')) },
  {
    name: 'Choose everything placed',
    key: 'ctrl+a',
    can: always,
    run: (store) => store.dispatch(benchActions.selected({ placements: Object.keys(store.getState().bench.open?.level.placements ?? {}) })),
  },
  { name: 'Duplicate what is chosen', key: 'ctrl+d', can: hasSelection, run: duplicateSelection },
  { name: 'Delete what is chosen', key: 'delete', can: hasSelection, run: removeSelection },
  {
    name: 'Choose nothing',
    key: 'escape',
    can: always,
    run: (store) => {
      if (store.getState().bench.tool === 'select') store.dispatch(benchActions.selected({}));
      else store.dispatch(benchActions.toolChosen('select'));
    },
  },
  { name: 'Settings of the level', key: 'shift+s', can: always, run: (store) => store.dispatch(benchActions.selected({})) },
  {
    name: 'Files: export the level or its Plan, take in shapes',
    key: 'e',
    onSheet: true,
    can: always,
    run: (store) => store.dispatch(benchActions.panelShown('files')),
  },
  { name: 'Versions', key: 'shift+v', onSheet: true, can: always, run: (store) => store.dispatch(benchActions.panelShown('versions')) },
  { name: 'Bench', key: 'shift+b', onSheet: true, can: always, run: (store, go) => go(pathOf(store.getState().bench)) },
  { name: 'Sheet', key: 'shift+t', onSheet: true, can: always, run: (store, go) => go(`${pathOf(store.getState().bench)}/sheet`) },
  { name: 'All keys', key: 'shift+?', onSheet: true, can: always, run: (_, go) => go('/keys') },
  { name: 'All levels', key: 'shift+l', onSheet: true, can: always, run: (_, go) => go('/') },
];

/** The key of an event, written as commands write theirs. */
export function keyOf({ key, ctrlKey, metaKey, shiftKey }: KeyboardEvent): string {
  const name = key === 'Backspace' ? 'delete' : key.toLowerCase();
  return `${ctrlKey || metaKey ? 'ctrl+' : ''}${shiftKey ? 'shift+' : ''}${name}`;
}

const WORDS: Readonly<Record<string, string>> = { ctrl: 'Ctrl', shift: 'Shift', escape: 'Esc', delete: 'Delete' };

/** A key as it is shown. */
export const keyWords = (key: string): string =>
  key
    .split('+')
    .map((part) => WORDS[part] ?? part.toUpperCase())
    .join(' + ');

/** The pages that commands are given on. */
export type CommandPage = 'bench' | 'sheet';

/** The commands that work on a page. */
export const commandsOn = (page: CommandPage): readonly Command[] => COMMANDS.filter(({ onSheet }) => page === 'bench' || onSheet === true);
