import { askedBy } from '../state/slices/simulated.ts';
import { duplicateSelection, lineUp, removeSelection } from '../state/document/authoring.ts';
import { showAll, toggleHidden, toggleLocked } from '../state/view/aside.ts';
import { crowdActions } from '../state/slices/crowd.ts';
import { playbackActions } from '../state/slices/playback.ts';
import { viewActions, type Evidence, type PlanTool } from '../state/slices/view.ts';
import { redo, undo } from '../state/document/edits.ts';
import { ledgerOf } from '../state/simulation/lines.ts';
import { makeRoute } from '../state/document/spots.ts';
import type { AppStore, RootState } from '../state/store.ts';
import { checkInFull } from '../state/sync/checking.ts';
import { keepShownWalk } from '../state/sync/outside.ts';
import { eventStep, isEvent } from '../strip/events.ts';

/** Something that can be done on the Bench, by its key or from the list of commands. */
export interface Command {
  readonly name: string;
  /** Other words it is looked for by. */
  readonly also?: string;
  /** As `KeyboardEvent.key` has it, in lower case, after the keys to be held: "ctrl+shift+z". */
  readonly key: string;
  /** Where it works, when not on the Bench alone. */
  readonly on?: 'sheet' | 'every';
  readonly can: (state: RootState) => boolean;
  readonly run: (store: AppStore, go: (path: string) => void) => void;
}

const always = (): boolean => true;
const hasSelection = ({ view: { selection } }: RootState): boolean =>
  selection.placements.length > 0 || selection.solid !== null || selection.spot !== null;
const canBeSetAside = ({ view: { selection } }: RootState): boolean => selection.placements.length > 0 || selection.solid !== null;
const severalChosen = ({ view: { selection } }: RootState): boolean => selection.placements.length > 1;
const hasRun = ({ simulated }: RootState): boolean => simulated.shown.now !== null;

function changePace(store: AppStore, factor: number): void {
  store.dispatch(playbackActions.paceChanged(Math.max(0.25, Math.min(16, store.getState().playback.pace * factor))));
}

function stepToEvent(store: AppStore, way: 1 | -1): void {
  const { now } = store.getState().simulated.shown;
  const { needleStep } = store.getState().playback;
  const { selection } = store.getState().view;
  if (now === null) return;
  const { level } = now;
  const step = eventStep(ledgerOf(now), needleStep, way, (line) => isEvent(line, level, selection));
  store.dispatch(playbackActions.playingChanged(false));
  if (step !== null) store.dispatch(playbackActions.needleMoved(step));
}

const pathOf = ({ document: { open } }: RootState): string => `/levels/${encodeURIComponent(open?.id ?? '')}`;

/** Where one plays from the start, or from the starting state that was chosen. */
export const playPath = (state: RootState): string => {
  const { startFrom } = state.simulated;
  return `${pathOf(state)}/play${startFrom === null ? '' : `?from=${encodeURIComponent(startFrom)}`}`;
};

const tool = (name: string, key: string, chosen: PlanTool, can: Command['can'] = always): Command => ({
  name,
  key,
  can,
  run: (store) => store.dispatch(viewActions.toolChosen(chosen)),
});

const liningUp = (name: string, key: string, along: 'row' | 'column', spread: boolean): Command => ({
  name,
  also: spread ? 'distribute evenly space' : 'align line up',
  key,
  can: severalChosen,
  run: (store) => lineUp(store, along, spread),
});

/** A button of the page that a command presses. */
const buttonOf = (id: string): HTMLButtonElement | null => document.querySelector<HTMLButtonElement>(`button[data-command="${id}"]`);

const pressing = (name: string, key: string, id: string): Command => ({
  name,
  key,
  on: 'sheet',
  can: () => buttonOf(id)?.disabled === false,
  run: () => buttonOf(id)?.click(),
});

/** Where the dial that has the focus is kept; null: none has. */
const dialInHand = (): string | null => document.activeElement?.closest<HTMLElement>('[data-paths]')?.dataset['paths'] ?? null;

/** Where a dial is asked about. */
export const sweepPath = (state: RootState, ask: 'one' | 'seek', paths = dialInHand()): string =>
  `${pathOf(state)}/sweep?ask=${ask}&dial=${encodeURIComponent(paths ?? '')}`;

/** Focus goes to the first thing to be used in a part of the page, once it is there. */
function focusIn(selector: string, frames = 30): void {
  requestAnimationFrame(() => {
    const found = document.querySelector<HTMLElement>(selector);
    if (found !== null) found.focus();
    else if (frames > 0) focusIn(selector, frames - 1);
  });
}

function showEvidence(store: AppStore, evidence: Evidence): void {
  store.dispatch(viewActions.evidenceToggled(evidence));
  const shown = { strip: 'Strip', ledger: 'Ledger', ghost: 'Ghost', findings: 'Findings' }[store.getState().view.evidence];
  // Not into a field: the next key is a command again.
  focusIn(`section[aria-label="${shown}"] :is([role=slider], button:not([role=combobox]), [tabindex="0"])`);
}

/** All commands, in the order they are listed. */
const COMMANDS: readonly Command[] = [
  {
    name: 'Find a command',
    key: 'ctrl+k',
    on: 'every',
    can: always,
    run: (store) => store.dispatch(viewActions.panelShown('commands')),
  },
  {
    name: 'Undo',
    key: 'ctrl+z',
    on: 'every',
    can: ({ document }) => document.undo.length > 0,
    run: undo,
  },
  {
    name: 'Redo',
    key: 'ctrl+shift+z',
    on: 'every',
    can: ({ document }) => document.redo.length > 0,
    run: redo,
  },
  {
    name: 'Run or halt the needle',
    key: 'p',
    can: hasRun,
    run: (store) => store.dispatch(playbackActions.playingChanged(!store.getState().playback.playing)),
  },
  { name: 'Run the needle slower', key: '[', can: hasRun, run: (store) => changePace(store, 0.5) },
  { name: 'Run the needle faster', key: ']', can: hasRun, run: (store) => changePace(store, 2) },
  { name: 'To the next event of what is chosen, or of a player', key: '.', can: hasRun, run: (store) => stepToEvent(store, 1) },
  { name: 'To the event before', key: ',', can: hasRun, run: (store) => stepToEvent(store, -1) },
  {
    name: 'Show the Ledger or the Strip',
    also: 'events log lines',
    key: 'l',
    can: always,
    run: (store) => showEvidence(store, 'ledger'),
  },
  {
    name: 'Show what differs from the ghost, or the Strip',
    key: 'c',
    can: ({ document }) => document.compared !== null,
    run: (store) => showEvidence(store, 'ghost'),
  },
  {
    name: 'Findings, in place of the Strip',
    also: 'mistakes problems wrong check mend',
    key: 'j',
    can: always,
    run: (store) => showEvidence(store, 'findings'),
  },
  {
    name: 'Play from the start',
    key: 'shift+p',
    on: 'every',
    can: always,
    run: (store, go) => go(playPath(store.getState())),
  },
  {
    name: 'Take over at the needle',
    key: 't',
    can: ({ simulated }) => simulated.run !== null,
    run: (store, go) => {
      const state = store.getState();
      go(`${pathOf(state)}/play?run=${encodeURIComponent(askedBy(state.simulated.run))}&at=${String(state.playback.needleStep)}`);
    },
  },
  tool('Choose on the Plan', 'v', 'select'),
  tool('Place things of the chosen kind', 'b', 'place'),
  tool('Draw solids', 's', 'solid'),
  tool('Draw one-way platforms', 'w', 'one-way', ({ document }) => document.open?.level.view === 'side'),
  tool('Place points', 'o', 'point'),
  tool('Draw paths for the chosen things', 'a', 'path'),
  tool('Draw routes for the walker', 'r', 'route'),
  {
    name: 'Keep the walk on the Strip as a run',
    also: 'persona record save',
    key: 'shift+k',
    can: ({ simulated }) => simulated.run?.walked !== undefined,
    run: (store, go) => {
      void keepShownWalk(store).then((kept) => {
        if (kept !== null) go(`?run=${kept}`);
      });
    },
  },
  { name: 'Make a route from the run', key: 'shift+w', can: hasRun, run: makeRoute },
  tool('Measure on the Plan', 'm', 'measure'),
  { name: 'List of what is on the Plan', key: 'i', can: always, run: (store) => store.dispatch(viewActions.listToggled()) },
  {
    name: 'Choose all of the chosen kind',
    key: 'f',
    can: ({ view }) => view.selection.kind !== null,
    run: (store) => {
      const { open } = store.getState().document;
      const { selection } = store.getState().view;
      const all = Object.entries(open?.level.placements ?? {}).filter(([, { kind }]) => kind === selection.kind);
      store.dispatch(viewActions.selected({ kind: selection.kind, placements: all.map(([id]) => id) }));
    },
  },
  {
    name: 'Show on the Plan what differs from the compared version',
    key: 'd',
    can: ({ document }) => document.compared !== null,
    run: (store) => store.dispatch(viewActions.differencesToggled()),
  },
  liningUp('Put the chosen things in a row', 'shift+r', 'row', false),
  liningUp('Put the chosen things in a column', 'shift+c', 'column', false),
  liningUp('Spread the chosen things along their row', 'shift+x', 'row', true),
  liningUp('Spread the chosen things along their column', 'shift+y', 'column', true),
  { name: 'Lock or unlock what is chosen', key: 'k', can: canBeSetAside, run: toggleLocked },
  { name: 'Hide or show what is chosen', key: 'h', can: canBeSetAside, run: toggleHidden },
  { name: 'Show all that is hidden', key: 'shift+h', can: ({ view }) => view.aside.hidden.length > 0, run: showAll },
  {
    name: 'To the dials of what is chosen',
    also: 'values tapes focus',
    key: 'g',
    can: always,
    run: () => focusIn('aside[aria-label="Dials"] [role=slider]'),
  },
  { name: 'To the Tray', also: 'kinds focus', key: 'y', can: always, run: () => focusIn('[aria-label="Tray"]') },
  {
    name: 'Make a new kind',
    also: 'create add',
    key: 'n',
    can: always,
    run: (store) => store.dispatch(viewActions.panelShown('new kind')),
  },
  {
    name: 'Choose everything placed',
    key: 'ctrl+a',
    can: always,
    run: (store) =>
      store.dispatch(viewActions.selected({ placements: Object.keys(store.getState().document.open?.level.placements ?? {}) })),
  },
  { name: 'Duplicate what is chosen', also: 'copy', key: 'ctrl+d', can: hasSelection, run: duplicateSelection },
  { name: 'Delete what is chosen', also: 'remove', key: 'delete', can: hasSelection, run: removeSelection },
  {
    name: 'Choose nothing',
    key: 'escape',
    can: always,
    run: (store) => {
      if (store.getState().view.tool === 'select') store.dispatch(viewActions.selected({}));
      else store.dispatch(viewActions.toolChosen('select'));
    },
  },
  {
    name: 'Settings of the level',
    also: 'player meters items options',
    key: 'shift+s',
    can: always,
    run: (store) => store.dispatch(viewActions.selected({})),
  },
  {
    name: 'Files: export the level or its Plan, take in shapes',
    key: 'e',
    on: 'every',
    can: always,
    run: (store) => store.dispatch(viewActions.panelShown('files')),
  },
  {
    name: 'Versions',
    also: 'history restore branch name this state',
    key: 'shift+v',
    on: 'every',
    can: always,
    run: (store) => store.dispatch(viewActions.panelShown('versions')),
  },
  pressing('Kinds or placements in the table', 'shift+o', 'other table'),
  pressing('Fill the first row’s numbers down', 'ctrl+d', 'fill down'),
  pressing('Let the chosen numbers follow their kind again', 'shift+f', 'back to kind'),
  pressing('Import a CSV', 'shift+i', 'import csv'),
  pressing('Export a CSV', 'shift+e', 'export csv'),
  { name: 'Bench', key: 'shift+b', on: 'every', can: always, run: (store, go) => go(pathOf(store.getState())) },
  { name: 'Sheet', key: 'shift+t', on: 'every', can: always, run: (store, go) => go(`${pathOf(store.getState())}/sheet`) },
  { name: 'Runs', key: 'shift+n', on: 'every', can: always, run: (store, go) => go(`${pathOf(store.getState())}/runs`) },
  {
    name: 'Crowd',
    also: 'study persona',
    key: 'shift+u',
    on: 'every',
    can: always,
    run: (store, go) => go(`${pathOf(store.getState())}/crowd`),
  },
  {
    name: 'Sweep: studies of values',
    also: 'study what matters seek target',
    key: 'shift+z',
    on: 'every',
    can: always,
    run: (store, go) => go(`${pathOf(store.getState())}/sweep`),
  },
  {
    name: 'Check the targets in full',
    also: 'judge verdict',
    key: 'q',
    can: ({ document }) => Object.keys(document.open?.level.targets ?? {}).length > 0,
    run: (store) => void checkInFull(store),
  },
  {
    name: 'Sweep the dial in hand',
    also: 'study curve',
    key: 'z',
    can: () => dialInHand() !== null,
    run: (store, go) => go(sweepPath(store.getState(), 'one')),
  },
  {
    name: 'Seek a value of the dial in hand',
    also: 'study wish outcome',
    key: 'x',
    can: () => dialInHand() !== null,
    run: (store, go) => go(sweepPath(store.getState(), 'seek')),
  },
  {
    name: 'Show where the crowd was, or died, over the Plan',
    also: 'heat deaths hurt healed waited walked',
    key: 'u',
    can: ({ crowd }) => crowd.size > 0,
    run: (store) => store.dispatch(crowdActions.heatChosen(store.getState().crowd.heat === null ? 'walked' : null)),
  },
  { name: 'All keys', also: 'shortcuts help keyboard', key: 'shift+?', on: 'every', can: always, run: (_, go) => go('/keys') },
  { name: 'All levels', key: 'shift+l', on: 'every', can: always, run: (_, go) => go('/') },
];

/** Keys that are meant by where they are: beside P, and beside M. What other layouts have there works as well, unless it is a letter. */
const PLACES: Readonly<Record<string, string>> = { BracketLeft: '[', BracketRight: ']', Comma: ',', Period: '.' };

/** The key of an event, written as commands write theirs. */
export function keyOf({ key, code, ctrlKey, metaKey, shiftKey }: KeyboardEvent): string {
  const place = /^[a-z0-9]$/i.test(key) ? undefined : PLACES[code];
  const name = place ?? (key === 'Backspace' ? 'delete' : key.toLowerCase());
  return `${ctrlKey || metaKey ? 'ctrl+' : ''}${shiftKey ? 'shift+' : ''}${name}`;
}

/** Whether a command is one that is looked for: every word typed is in its name or in what else it is called. */
export const isFoundBy = (name: string, also: readonly string[], search: string): boolean =>
  search
    .toLowerCase()
    .split(/\s+/)
    .every((word) => [name, ...also].join(' ').toLowerCase().includes(word));

const WORDS: Readonly<Record<string, string>> = { ctrl: 'Ctrl', shift: 'Shift', escape: 'Esc', delete: 'Delete' };

/** A key as it is shown. */
export const keyWords = (key: string): string =>
  key
    .split('+')
    .map((part) => WORDS[part] ?? part.toUpperCase())
    .join(' + ');

/** The pages that commands are given on. */
export type CommandPage = 'bench' | 'sheet' | 'runs' | 'crowd' | 'sweep';

/** The commands that work on a page. */
export const commandsOn = (page: CommandPage): readonly Command[] => COMMANDS.filter(({ on = 'bench' }) => on === 'every' || on === page);
