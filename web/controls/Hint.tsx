import { cloneElement, type ReactElement } from 'react';

interface HintProps {
  /** What is said; nothing is shown where this is empty and there are no keys. */
  readonly says?: string | undefined;
  /** The keys that do the same, as the page of keys writes them: `Ctrl+D`. */
  readonly keys?: string | undefined;
  /** What it is said of: takes the focus itself, or holds what does. */
  readonly children: ReactElement<object>;
}

/** Said of what is cut short: all of its words. */
export const ITS_WORDS = 'its words';

/**
 * What something does, and by which key, when it is pointed at or reached by keyboard; `Hints` shows it, once a page: a tooltip of
 * its own for each of some hundred dials and buttons would be made anew with each turn. What else it is given is its child's.
 */
export function Hint({ says = '', keys = '', children, ...rest }: HintProps) {
  return cloneElement(children, { ...rest, ...hinted(says, keys) });
}

const hinted = (says: string, keys: string): object =>
  says === '' && keys === '' ? {} : { 'data-hint': says, ...(keys === '' ? {} : { 'data-keys': keys }) };

/** Keys as `aria-keyshortcuts` wants them. */
export const spokenKeys = (keys: string | undefined): string | undefined => keys?.replaceAll('Ctrl', 'Control');
