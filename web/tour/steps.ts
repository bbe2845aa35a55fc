import type { RootState } from '../state/store.ts';

/** One act of the tour: what is to be done, what is to be seen by it, and when it is done. */
export interface TourStep {
  readonly act: string;
  readonly why: string;
  /** Whether it is done, by how the page is now and how it was when the step began. */
  readonly done: (now: RootState, begun: RootState) => boolean;
}

/** The tour through Night Firing: what Dial is for, in six acts. */
export const TOUR: readonly TourStep[] = [
  {
    act: 'Choose the ember vent: press it in the Tray, or on the Plan.',
    why: 'Everything that acts on the player is a kind with a mark of its own. What it does stands at the right, as a sentence and as dials.',
    done: ({ view }) => view.selection.kind === 'ember-vent',
  },
  {
    act: 'Turn its dial “health”: drag the ruler, or press ↑ or ↓ on it.',
    why: 'The run below is simulated again with each turn. Solid lines are the session as it is now, dashed ones as it was.',
    done: ({ document }, begun) => document.open?.level !== begun.document.open?.level,
  },
  {
    act: 'Move the needle along the Strip: press on the times above the lanes.',
    why: 'The Plan shows that moment: where the player is, what rests and for how long, what just happened.',
    done: ({ playback }, begun) => Math.abs(playback.needleStep - begun.playback.needleStep) > 10,
  },
  {
    act: 'Open the Ledger: press L, or its name above the Strip.',
    why: 'It lists all that happened, and why. A line leads to its moment and to what brought it about.',
    done: ({ view }) => view.evidence === 'ledger',
  },
  {
    act: 'Take your change back: press Undo, or Ctrl+Z.',
    why: 'Everything can be undone. The level is saved as you go; Versions keeps states of it by name.',
    done: ({ document }, begun) => document.undo.length < begun.document.undo.length,
  },
  {
    act: 'Take over: press “Take over” at the top, or T, and walk on by hand with the arrow keys.',
    why: 'From the very moment of the needle. What you play is kept as a run, and comes back here.',
    done: () => false,
  },
];
